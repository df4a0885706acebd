import type { PowerPointKind } from '#model/unit-model';
import type { z } from 'zod';

const MM_PER_IN = 25.4;
/** How far along the wire from its source a fuse may stand, millimetres: 7, 72 and 40 in. Source: ABYC E-11, from memory. */
export const FUSE_WITHIN_MM = { plain: 7 * MM_PER_IN, sheathedFromPost: 72 * MM_PER_IN, sheathedFromOther: 40 * MM_PER_IN } as const;

/** Conductors are supported at most this far apart, millimetres: 18 in. Source: ABYC E-11, from memory. */
export const SUPPORT_MM = 18 * MM_PER_IN;

/** Where the fuse of a circuit may stand, millimetres, from what feeds it and whether the wire before it is sheathed. Source: ABYC E-11, from memory. */
export const fuseWithinMm = (feed: z.infer<typeof PowerPointKind>, sheathed = false): number =>
  !sheathed ? FUSE_WITHIN_MM.plain : feed === 'battery-post' ? FUSE_WITHIN_MM.sheathedFromPost : FUSE_WITHIN_MM.sheathedFromOther;

/** What a fuse's place is called in a step and on paper, in SI as all sentences are kept. */
export const sayFusePlace = (feedName: string, withinMm: number): string => `within ${Number(withinMm.toFixed(1))} mm of ${feedName}`;
