import type { RandomGenerator } from 'pure-rand/types/RandomGenerator';
import quickselect from 'quickselect';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import type { OwnerDay } from '#model/day';
import type { Settings } from '#model/settings';
import { cellAt } from './cell';
import { crankVolts } from './day';
import { compiler, NO_GUESS, type Guess } from './phases';
import { roomFor, run, type Room } from './simulate';
import type { PowerSystem } from './system';

/** A figure that is not known exactly: from low to high, most likely in the middle as the sheets say. */
export interface Doubt {
  key: keyof Guess;
  name: string;
  low: number;
  high: number;
}

/** What is guessed about a system, and how far it may be off. The widths are common practice, no source. */
export function doubtsOf(s: PowerSystem, ageKnown: boolean): Doubt[] {
  const out: Doubt[] = [
    { key: 'capacity', name: 'capacity left in the battery', low: ageKnown ? 0.9 : 0.75, high: ageKnown ? 1.05 : 1.02 },
    { key: 'ohms', name: 'inner resistance of the battery', low: 0.8, high: 1.4 },
    { key: 'own', name: 'the unit’s own needs', low: 0.88, high: 1.12 },
    { key: 'added', name: 'draws of what is added', low: 0.93, high: 1.07 },
    { key: 'minutes', name: 'how long the day’s phases last', low: 0.75, high: 1.3 },
    { key: 'tempC', name: 'temperature', low: -7, high: 7 },
    {
      key: 'startSoc',
      name: s.socMeasured ? 'charge at the start, as read' : 'charge at the start, not measured',
      low: s.socMeasured ? -0.04 : -0.25,
      high: s.socMeasured ? 0.04 : 0.1,
    },
  ];
  if (s.source)
    out.push({ key: 'source', name: 'what the source gives', low: s.sourceMeasured ? 0.97 : 0.87, high: s.sourceMeasured ? 1.03 : 1.08 });
  if (s.starter) {
    const w = s.starter.guessed ? 0.35 : 0.12;
    out.push({ key: 'crank', name: 'what the starter takes', low: 1 - w, high: 1 + w });
  }
  if (s.loads.some((l) => l.use === 'audio')) out.push({ key: 'audio', name: 'how loud the music is', low: 0.5, high: 2.2 });
  if (s.loads.some((l) => l.band)) out.push({ key: 'band', name: 'the draws that were given as a band', low: 0, high: 1 });
  return out;
}

/** A triangle from low over the likely figure to high, at a share of its area. */
export function triangle(low: number, likely: number, high: number, u: number): number {
  const split = (likely - low) / (high - low);
  return u < split ? low + Math.sqrt(u * (high - low) * (likely - low)) : high - Math.sqrt((1 - u) * (high - low) * (high - likely));
}

/** A share counted in `n` trials with its 95 % interval. Source: Wilson 1927. */
export function wilson(hits: number, n: number): { share: number; low: number; high: number } {
  const z = 1.959964;
  const p = hits / n;
  const mid = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n));
  return { share: p, low: Math.max(0, mid - half), high: Math.min(1, mid + half) };
}

export interface Chance {
  days: number;
  /** of days on which a start fails or a battery is flat; for a pack, on which it falls under what it should keep */
  fails: { share: number; low: number; high: number };
  /** which guess matters most: share of the outcome's variance that each explains by itself, largest first */
  matters: { key: string; name: string; share: number }[];
  /** per battery and moment: hours, and the charge and volts that 10, 50 and 90 % of days stay under */
  bands: { hour: number; phase: number; soc: [number, number, number][]; volts: [number, number, number][] }[];
}

/** Parts that a phase is cut into for the bands. */
const PARTS = 3;
const BINS = 12;

/** Many simulated days of a system with what is guessed drawn anew for each. Run it in steps; the result may be asked for at any time. */
export class ChanceRun {
  private readonly doubts: Doubt[];
  private readonly points: { hour: number; phase: number }[];
  private readonly soc: Float32Array[][];
  private readonly volts: Float32Array[][];
  private readonly draws: Float64Array[];
  private readonly spare: Float64Array;
  private readonly compile: ReturnType<typeof compiler>;
  private readonly room: Room;
  private failed = 0;
  done = 0;

  /**
   * @param total days to run
   * @param random a seeded generator; it is moved on
   */
  constructor(
    private readonly system: PowerSystem,
    private readonly day: OwnerDay,
    private readonly limits: Pick<Settings, 'packReserveSoc'>,
    readonly total: number,
    private readonly random: RandomGenerator,
    ageKnown = false,
  ) {
    this.doubts = doubtsOf(system, ageKnown);
    let hour = 0;
    this.room = roomFor(system.cells.length);
    this.compile = compiler(system, day);
    const { segments } = this.compile(NO_GUESS, PARTS);
    this.points = segments.map((x) => ({ hour: (hour += x.hours), phase: x.phase }));
    const table = () => system.cells.map(() => this.points.map(() => new Float32Array(total)));
    this.soc = table();
    this.volts = table();
    this.draws = this.doubts.map(() => new Float64Array(total));
    this.spare = new Float64Array(total);
  }

  /** Simulates up to `count` more days. */
  step(count: number): void {
    const { system: s, day } = this;
    const last = day.phases[0]!;
    for (const end = Math.min(this.total, this.done + count); this.done < end; this.done++) {
      const i = this.done;
      const guess: Guess = { ...NO_GUESS };
      this.doubts.forEach((d, k) => {
        const likely = NO_GUESS[d.key];
        guess[d.key] = this.draws[k]![i] = triangle(d.low, likely, d.high, uniformFloat64(this.random));
      });
      const { segments, charge } = this.compile(guess, PARTS);
      const capacity = s.cells.map((c) => c.capacityAh * guess.capacity);
      const r = run(segments, charge, s.join, {
        tolerance: 1e-4,
        room: this.room,
        onSegment: (at, q, v) => {
          for (let b = 0; b < capacity.length; b++) {
            this.soc[b]![at]![i] = q[b]! / capacity[b]!;
            this.volts[b]![at]![i] = v[b]!;
          }
        },
      });
      const flat = r.flatAt.some((x) => x !== null);
      let spare: number;
      if (s.starter) {
        const tempC = last.tempC + guess.tempC;
        const cell = { ...s.cells[0]!, capacityAh: capacity[0]!, ohms: s.cells[0]!.ohms * guess.ohms };
        const starter = { ...s.starter, amps: s.starter.amps * guess.crank };
        const tomorrow = crankVolts({ ...s, starter }, cellAt(cell, tempC), r.charge[0]!, tempC);
        spare = Math.min(tomorrow, ...r.starts.map((x) => x.volts)) - s.starter.leastVolts;
      } else spare = r.leastCharge[0]! / capacity[0]! - this.limits.packReserveSoc;
      this.spare[i] = spare;
      if (flat || spare < 0) this.failed++;
    }
  }

  result(): Chance {
    const n = this.done;
    const at = (list: Float32Array): [number, number, number] => {
      const figures = list.slice(0, n);
      const rank = (share: number) => Math.min(n - 1, Math.floor(share * n));
      const [low, mid, high] = [rank(0.1), rank(0.5), rank(0.9)];
      // each divides the figures into smaller and larger ones, so the outer two are sought on one side only
      quickselect(figures as unknown as number[], mid);
      quickselect(figures as unknown as number[], low, 0, mid);
      quickselect(figures as unknown as number[], high, mid, n - 1);
      return [figures[low]!, figures[mid]!, figures[high]!];
    };
    return {
      days: n,
      fails: wilson(this.failed, n),
      matters: this.doubts
        .map((d, k) => ({ key: d.key, name: d.name, share: explained(this.draws[k]!.subarray(0, n), this.spare.subarray(0, n)) }))
        .sort((a, b) => b.share - a.share),
      bands: this.points.map((p, i) => ({ ...p, soc: this.soc.map((b) => at(b[i]!)), volts: this.volts.map((b) => at(b[i]!)) })),
    };
  }
}

/** Share of the variance of `y` that `x` explains by itself: variance of the means of `y` over bins of equal count in `x`, the noise of the means taken off. */
export function explained(x: Float64Array, y: Float64Array): number {
  const n = x.length;
  if (n < BINS * 4) return 0;
  const mean = y.reduce((a, b) => a + b, 0) / n;
  const variance = y.reduce((a, b) => a + (b - mean) ** 2, 0) / n;
  if (variance < 1e-18) return 0;
  const order = Array.from(x.keys()).sort((a, b) => x[a]! - x[b]!);
  let between = 0;
  for (let k = 0; k < BINS; k++) {
    const from = Math.floor((k * n) / BINS);
    const to = Math.floor(((k + 1) * n) / BINS);
    let sum = 0;
    for (let i = from; i < to; i++) sum += y[order[i]!]!;
    between += ((to - from) / n) * (sum / (to - from) - mean) ** 2;
  }
  return Math.max(0, (between / variance - (BINS - 1) / n) / (1 - (BINS - 1) / n));
}
