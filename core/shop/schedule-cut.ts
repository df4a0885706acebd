import { WAITING, type Compiled } from './schedule-problem';
import { slotsOf } from './slots';

/** How time is cut up. */
export interface Cut {
  /** minutes of a slot */
  step: number;
  /** minutes with one price */
  stretch: number;
  /** times that are no whole number of steps are rounded to the nearest, to find prices by; otherwise so that the bound stays one */
  rough?: boolean;
  /** from this minute on time costs nothing, and is not looked at again */
  until?: number;
}

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);

/** The longest step that all times of a shop are whole numbers of; 1 where some are no whole minutes. */
export function commonStep(c: Compiled): number {
  let g = 0;
  const take = (x: number) => {
    g = Number.isInteger(x) && !Number.isNaN(g) ? gcd(g, Math.abs(x)) : NaN;
  };
  for (const p of c.people)
    for (let k = 0; k < p.from.length; k++) {
      take(p.from[k]!);
      take(p.to[k]!);
    }
  for (const j of c.jobs) {
    take(j.ready);
    for (const t of j.tasks) {
      take(t.minutes);
      take(t.wait);
    }
  }
  return Number.isFinite(g) && g > 0 ? g : 1;
}

/** When each job ends at the latest in a schedule that betters a cost that is known. */
export function latestEnds(c: Compiled, upper: number, least: Float64Array): number[] {
  const room = upper - least.reduce((a, b) => a + b, 0);
  return c.jobs.map((j, n) => latestEnd(j, room + least[n]!));
}

/** Slots of a shop’s time that schedules use which better a cost that is known. */
export const slotCount = (c: Compiled, step: number, upper: number, least: Float64Array): number =>
  slotsOf(c, step, Math.max(0, ...latestEnds(c, upper, least))).count;

/** The latest end of a job that costs no more. */
function latestEnd(j: { due: number; weight: number }, most: number): number {
  if (WAITING * j.due >= most || j.weight === 0) return Math.max(0, most / WAITING);
  return (most + j.weight * Math.max(0, j.due)) / (j.weight + WAITING);
}
