import type { Week } from './week';

/** One day on the week’s picture: the share of the width at which it begins, and its hours. */
export interface AxisDay {
  day: string;
  from: number;
  to: number;
  at: number;
  width: number;
  /** nobody works: told in words, and narrow */
  closed: string | null;
}

/** How wide a day is on which nobody works, beside one on which somebody does. */
const CLOSED = 0.12;

/** Of the first day its hours that are over are not drawn, but two of it always are, ms. */
const LEAST = 2 * 3_600_000;

/** The days that are drawn, from the hour that it is: their hours side by side, without the nights. */
export function weekAxis(week: Pick<Week, 'now' | 'days' | 'people'>, count: number): AxisDay[] {
  const days = week.days.map(({ day, open, closed }, i) => {
    // who works outside the shop’s hours is drawn too
    const next = week.days[i + 1]?.open[0]?.[0] ?? Infinity;
    const first = open[0]?.[0];
    const own =
      first === undefined
        ? []
        : week.people.flatMap((p) => p.shifts.filter(([a]) => a >= first - 8 * 3_600_000 && a < Math.min(next, first + 16 * 3_600_000)));
    const all = [...open, ...own];
    return { day, closed, from: Math.min(...all.map(([a]) => a)), to: Math.max(...all.map(([, b]) => b)), works: all.length > 0 };
  });
  const shown = days.filter((d) => !d.works || d.to > week.now);
  while (shown.length && !shown[0]!.works) shown.shift();
  const hour = Math.floor(week.now / 3_600_000) * 3_600_000;
  const taken = shown.slice(0, count).map((d) => ({ ...d, from: Math.max(d.from, Math.min(hour, d.to - LEAST)) }));
  const size = (d: (typeof taken)[number]) => (d.works ? d.to - d.from : CLOSED * 9 * 3_600_000);
  const whole = taken.reduce((s, d) => s + size(d), 0);
  let at = 0;
  return taken.map((d) => {
    const width = size(d) / whole;
    const out: AxisDay = { day: d.day, from: d.from, to: d.to, at, width, closed: d.works ? null : d.closed || 'closed' };
    at += width;
    return out;
  });
}

/** Where a moment lies, from 0 to 1; at night at the end of the day before. */
export function onAxis(axis: readonly AxisDay[], ms: number): number {
  let x = 0;
  for (const d of axis) {
    if (d.closed) continue;
    if (ms < d.from) return x === 0 ? d.at : x;
    x = d.at + d.width * Math.min(1, (ms - d.from) / (d.to - d.from));
    if (ms <= d.to) return x;
  }
  return x;
}
