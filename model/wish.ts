import { z } from 'zod';

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
