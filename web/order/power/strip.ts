import type { OwnerDay } from '#model/day';

/** What even the shortest phase has of the strip, beside its minutes' cube roots. */
const LEAST = 2.5;

/**
 * Where minutes of a day lie on its strip, 0 to 1: each phase as wide as its name needs and the cube root of its minutes, so that a
 * night does not push the day aside. Within a phase time runs evenly.
 */
export function stripOf(phases: readonly { minutes: number }[]) {
  const widths = phases.map((p) => LEAST + Math.cbrt(p.minutes));
  const total = widths.reduce((a, b) => a + b, 0);
  const lefts: number[] = [];
  const froms: number[] = [];
  let left = 0;
  let from = 0;
  phases.forEach((p, i) => {
    lefts.push(left / total);
    froms.push(from);
    left += widths[i]!;
    from += p.minutes;
  });
  const minutes = from;
  return {
    minutes,
    lefts,
    widths: widths.map((w) => w / total),
    at(minute: number): number {
      const i = Math.max(
        0,
        froms.findLastIndex((f) => f <= minute + 1e-9),
      );
      return lefts[i]! + (widths[i]! / total) * Math.min(1, (minute - froms[i]!) / phases[i]!.minutes);
    },
    minuteAt(x: number): number {
      const i = Math.max(
        0,
        lefts.findLastIndex((l) => l <= x + 1e-12),
      );
      return froms[i]! + (phases[i]!.minutes * (x - lefts[i]!) * total) / widths[i]!;
    },
    /** minutes of a phase whose right edge was dragged by a share of the strip; in steps that suit its length */
    dragged(i: number, by: number): number {
      const width = Math.max(0.3, widths[i]! - LEAST + by * total);
      const m = width ** 3;
      const step = m < 20 ? 1 : m < 180 ? 5 : m < 24 * 60 ? 15 : 60;
      return Math.max(1, Math.round(m / step) * step);
    },
  };
}

/** Minutes as people say them: `45 min`, `2 h 30`, `3 days`. */
export function clock(minutes: number): string {
  const m = Math.round(minutes);
  if (m >= 48 * 60) return `${Number((m / 1440).toFixed(1))} days`;
  if (m < 60) return `${m} min`;
  return m % 60 ? `${Math.floor(m / 60)} h ${String(m % 60).padStart(2, '0')}` : `${m / 60} h`;
}

/** A day with one phase changed. */
export const withPhase = (day: OwnerDay, i: number, patch: Partial<OwnerDay['phases'][number]>): OwnerDay => ({
  ...day,
  phases: day.phases.map((p, k) => (k === i ? { ...p, ...patch } : p)),
});
