import type { Verdict } from '#model/common';
import { round } from '../sum';
import { FUSE_FACTOR } from '../wire/fuse';

/** A circuit by what its fuse must do: stand its load, and go before its wire and what its maker allows. */
export interface Guarded {
  continuousA: number | null;
  /** amperes that its wire must carry, where they are more */
  heatsA?: number | null;
  /** the most that the maker of what it feeds allows */
  makerMaxA?: number | undefined;
  /** the fuse; null: none of its own, an earlier one guards it */
  fuseA: number | null;
}
/** What a shop decides: whether a fuse may stand up to half above the wire (ABYC E-11 allows it). */
export interface GuardSettings {
  fuse150: boolean;
}
/** Share above the wire's allowable amperes that a shop may allow. Source: ABYC E-11. */
const ABOVE_WIRE = 1.5;

/** The largest fuse that may stand before a wire that may carry so much. */
export const largestFuse = (allowableA: number, settings: GuardSettings): number => allowableA * (settings.fuse150 ? ABOVE_WIRE : 1);

export interface GuardProblem {
  verdict: Extract<Verdict, 'tight' | 'fails'>;
  says: string;
  /** it could hurt somebody: only a lead may pass it, with a reason */
  unsafe: boolean;
}

/**
 * What is wrong with a fuse where it stands: the one place where that is answered, for plan, override and calculation alike.
 * Sources: ABYC E-11 (not above the wire); 1.25 times the load is common practice, no source.
 */
export function guards(c: Guarded, allowableA: number | null, settings: GuardSettings): GuardProblem[] {
  const out: GuardProblem[] = [];
  const { continuousA, fuseA, makerMaxA } = c;
  const heatsA = c.heatsA ?? continuousA;
  if (allowableA !== null && heatsA !== null && heatsA > allowableA)
    out.push({ verdict: 'fails', unsafe: true, says: `carries ${round(heatsA)} A, the wire may carry ${round(allowableA)} A` });
  if (fuseA === null) return out;
  if (allowableA !== null && fuseA > largestFuse(allowableA, settings))
    out.push({
      verdict: 'fails',
      unsafe: true,
      says: `the ${fuseA} A fuse is above what the wire may carry (${round(largestFuse(allowableA, settings))} A): the wire would burn first`,
    });
  if (makerMaxA !== undefined && fuseA > makerMaxA)
    out.push({ verdict: 'fails', unsafe: true, says: `the ${fuseA} A fuse is above the ${makerMaxA} A that the kit’s maker allows` });
  if (continuousA !== null && fuseA < continuousA * FUSE_FACTOR - 1e-9)
    out.push(
      fuseA < continuousA
        ? { verdict: 'fails', unsafe: false, says: `a ${fuseA} A fuse blows: ${round(continuousA)} A flow` }
        : { verdict: 'tight', unsafe: false, says: `a ${fuseA} A fuse is under 1.25 × ${round(continuousA)} A: it may blow when warm` },
    );
  return out;
}
