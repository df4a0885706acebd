import type { Verdict } from '#model/common';

/** Verdicts in order, the best first. */
export const RANK: Readonly<Record<Verdict, number>> = { holds: 0, tight: 1, unknown: 2, fails: 3 };

/** What each is called, on screen and paper. */
export const VERDICT_WORD: Readonly<Record<Verdict, string>> = { holds: 'Holds', tight: 'Tight', fails: 'Fails', unknown: 'Not known' };

/** The worst of several verdicts: a failure outweighs a missing number, which outweighs a tight margin. */
export const worst = (verdicts: Iterable<Verdict>): Verdict =>
  [...verdicts].reduce<Verdict>((a, b) => (RANK[b] > RANK[a] ? b : a), 'holds');

/** Judges what is used of a limit: up to `tightShare` of it holds, up to all of it is tight, beyond fails. */
export function judgeUse(used: number | null, limit: number | null, tightShare = 0.8): Verdict {
  if (used === null || limit === null) return 'unknown';
  if (used > limit + 1e-9) return 'fails';
  return used > limit * tightShare + 1e-9 ? 'tight' : 'holds';
}
