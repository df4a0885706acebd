import type { WeekPromise } from '#core/shop/week';
import { MarginBar } from '../marks/MarginBar';

/** A promise’s chance beside the one that the shop wants. */
export const ChanceBar = ({ p, limit }: { p: Pick<WeekPromise, 'chance' | 'verdict'>; limit: number }) => (
  <MarginBar
    label="Chance to keep the promise"
    margin={{ used: Math.round(100 * p.chance), limit: Math.round(100 * limit), unit: '%' }}
    verdict={p.verdict}
    atLeast
  />
);
