import { z } from 'zod';
import type { UnitKind } from './common';

/** What an owner may want the unit to be able to do, as the sentence that is ticked at Arrive. */
export const WISHES = {
  road: 'Be legal on the road',
  pull: 'Pull itself out when stuck',
  night: 'See further at night',
  music: 'Hear music, also with the engine off',
  dock: 'Find its way to the dock after dark',
  warm: 'Keep hands warm',
  navigate: 'Show the way',
  charge: 'Charge a telephone',
  heard: 'Be heard',
} as const;
export type WishId = keyof typeof WISHES;
export const Wish = z.enum(Object.keys(WISHES) as [WishId, ...WishId[]]);

/** Wishes that only some kinds of unit can have; the others any may. */
const ONLY: Partial<Record<WishId, (kind: UnitKind) => boolean>> = {
  dock: (kind) => kind === 'boat',
  road: (kind) => kind !== 'boat',
  warm: (kind) => kind !== 'boat' && kind !== 'golf-cart',
};
/** What an owner of such a unit may wish for. */
export const wishesFor = (kind: UnitKind): WishId[] => (Object.keys(WISHES) as WishId[]).filter((w) => ONLY[w]?.(kind) ?? true);
