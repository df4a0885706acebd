import { ImpossibleInput } from '../errors';

/**
 * Time of the n-th job of a kind by the power law of practice: T_n = T_1 · n^(log2 b), each doubling of jobs taking b of the
 * time before (T. P. Wright, Factors affecting the cost of airplanes, Journal of the Aeronautical Sciences 3, 1936).
 * @param first time of the first job
 * @param slope b, above 0 and at most 1
 * @param n which job, from 1
 * @throws ImpossibleInput
 */
export function nthTime(first: number, slope: number, n: number): number {
  if (!(first >= 0) || !Number.isFinite(first)) throw new ImpossibleInput('a first time is at least zero', 'first');
  if (!(slope > 0 && slope <= 1)) throw new ImpossibleInput('a slope is above 0 and at most 1', 'slope');
  if (!(n >= 1)) throw new ImpossibleInput('jobs are counted from 1', 'n');
  return first * n ** Math.log2(slope);
}

/** The slope b that takes a first time to that of the n-th job. @throws ImpossibleInput */
export function slopeOf(first: number, nth: number, n: number): number {
  if (!(first > 0 && nth > 0)) throw new ImpossibleInput('times are above zero', 'first');
  if (!(n > 1)) throw new ImpossibleInput('a slope needs a later job than the first', 'n');
  return (nth / first) ** (1 / Math.log2(n));
}
