import type { Verdict } from '#model/common';

/** Eight of ten lie within so many standard deviations (normal distribution). */
export const EIGHTY = 1.2816;

/** How much longer or shorter than planned a job is likely to take: a factor with the band that holds eight of ten. */
export interface Pace {
  factor: number;
  low: number;
  high: number;
  /** jobs of that kit in all, and by that person */
  jobs: number;
  own: number;
}

/** Whether work that takes so long is done in time: even at the far edge of its band, as is likely, or not. */
export const judgePromise = (left: { minutes: number; high: number }, minutesUntil: number): Verdict =>
  left.high <= minutesUntil ? 'holds' : left.minutes <= minutesUntil ? 'tight' : 'fails';

/** Minutes of several kits together, each with its pace: what is likely, and the band that holds eight of ten. */
export function together(parts: readonly { minutes: number; pace: Pace }[]): { minutes: number; low: number; high: number } {
  let mean = 0;
  let variance = 0;
  let plain = 0;
  for (const { minutes, pace } of parts) {
    const sd = Math.log(pace.high / pace.low) / (2 * EIGHTY);
    const likely = minutes * pace.factor;
    plain += likely;
    // a log-normal’s own mean and variance; what is common to all parts is small beside single jobs
    const m = likely * Math.exp(sd ** 2 / 2);
    mean += m;
    variance += m ** 2 * (Math.exp(sd ** 2) - 1);
  }
  if (!plain) return { minutes: 0, low: 0, high: 0 };
  const sd = Math.sqrt(Math.log(1 + variance / mean ** 2));
  const mid = Math.log(mean) - sd ** 2 / 2;
  return { minutes: Math.exp(mid), low: Math.exp(mid - EIGHTY * sd), high: Math.exp(mid + EIGHTY * sd) };
}
