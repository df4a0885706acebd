/**
 * One unit as it may be: what each open value is on it, and how each question comes out: true where it may stay as it is.
 */
export interface Draw {
  values: readonly number[];
  passes: readonly boolean[];
}

/** So sure is sure enough. */
export const SURE = 0.9;
/** A share of the differences that a value explains under this may be chance. */
const LEAST_EXPLAINED = 0.1;
const BINS = 4;

const share = (list: readonly boolean[]): number => list.filter(Boolean).length / Math.max(1, list.length);

/** Whether a share of passes leaves a question open. */
export const isOpen = (p: number): boolean => p > 1 - SURE && p < SURE;

/** How often each question passes over all that the unit may be. */
export const passShares = (draws: readonly Draw[]): number[] =>
  (draws[0]?.passes ?? []).map((_, q) => share(draws.map((d) => d.passes[q]!)));

/** Draws by what one value is on them, in as many equal parts, or by each figure where there are few. */
function parts(draws: readonly Draw[], value: number): Draw[][] {
  const sorted = [...draws].sort((a, b) => a.values[value]! - b.values[value]!);
  const figures = [...new Set(sorted.map((d) => d.values[value]!))];
  if (figures.length <= BINS) return figures.map((f) => sorted.filter((d) => d.values[value] === f));
  return Array.from({ length: BINS }, (_, b) =>
    sorted.slice(Math.floor((b * sorted.length) / BINS), Math.floor(((b + 1) * sorted.length) / BINS)),
  );
}

/**
 * How much knowing one value would settle: over the open questions, the chance that after it the question is no longer open,
 * weighed by how much hangs on each. A value that explains no more of a question's differences than chance would (the adjusted
 * correlation ratio, Kelley 1935) settles nothing of it.
 * @param weights of each question
 */
export function settles(draws: readonly Draw[], value: number, weights: readonly number[]): number {
  const groups = parts(draws, value).filter((g) => g.length);
  if (groups.length < 2) return 0;
  const n = draws.length;
  const shares = passShares(draws);
  let gain = 0;
  for (const [q, p] of shares.entries()) {
    if (!isOpen(p)) continue;
    const within = groups.reduce((s, g) => {
      const x = share(g.map((d) => d.passes[q]!));
      return s + (g.length / n) * x * (1 - x);
    }, 0);
    const explained = 1 - ((within / (p * (1 - p))) * (n - 1)) / (n - groups.length);
    if (explained < LEAST_EXPLAINED) continue;
    const settled = groups.reduce((s, g) => s + (isOpen(share(g.map((d) => d.passes[q]!))) ? 0 : g.length / n), 0);
    // what settles nothing by itself still narrows it
    gain += weights[q]! * (settled + (1 - settled) * explained * 0.5);
  }
  return gain;
}

/** Values by what they settle for a minute, the best first; those that settle nothing are left out. */
export function ranked(
  draws: readonly Draw[],
  values: readonly { minutes: number }[],
  weights: readonly number[],
): { value: number; gain: number; perMinute: number }[] {
  return values
    .map((v, value) => {
      const gain = settles(draws, value, weights);
      return { value, gain, perMinute: gain / v.minutes };
    })
    .filter((x) => x.gain > 0)
    .sort((a, b) => b.perMinute - a.perMinute || a.value - b.value);
}
