import type { Verdict } from '#model/common';
import type { WinchSpec } from '#model/kit';
import { judgeUse, worst } from '../verdict';
import type { Pull } from './pull';
import type { Recovery } from './recovery';

/** Share of the rated pull up to which a pull holds. Common practice, no source. */
const EASY_SHARE = 0.8;

/** What is to be said of a winch that is put to a pull. */
export interface PullJudged {
  verdict: Verdict;
  /** rated pull to choose for it: for what the unit weighs, and for its line on the layer in use */
  wantedN: number;
  /** rated under that: it may do this pull and still be too small */
  under: boolean;
  /** the rest between pulls is shorter than the motor takes to cool */
  hurried: boolean;
}

/** Judges what a winch can pull on its layer, and whether it is rated for what it is put to at all. */
export function judgePull(spec: Pick<WinchSpec, 'ratedN'>, pull: Pull, r: Recovery, restMinutes: number): PullJudged {
  const wantedN = Math.max(pull.recommendedRatedN, r.neededRatedN);
  const under = spec.ratedN < wantedN;
  return {
    verdict: worst([judgeUse(r.share, 1, EASY_SHARE), under ? 'tight' : 'holds']),
    wantedN,
    under,
    hurried: restMinutes < r.coolMinutes,
  };
}
