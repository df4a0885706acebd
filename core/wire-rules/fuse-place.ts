import type { PowerPointKind } from '#model/unit-model';
import type { z } from 'zod';

const MM_PER_IN = 25.4;
/** How far along the wire from its source a fuse may stand, inches. Source: ABYC E-11, from memory. */
export const FUSE_WITHIN_IN = { plain: 7, sheathedFromPost: 72, sheathedFromOther: 40 } as const;

/** Conductors are supported at most this far apart, inches. Source: ABYC E-11, from memory. */
export const SUPPORT_IN = 18;
export const SUPPORT_MM = SUPPORT_IN * MM_PER_IN;

/** Where the fuse of a circuit may stand, from what feeds it and whether the wire before it is sheathed. Source: ABYC E-11, from memory. */
export function fuseWithin(feed: z.infer<typeof PowerPointKind>, sheathed = false): { inches: number; mm: number } {
  const inches = !sheathed
    ? FUSE_WITHIN_IN.plain
    : feed === 'battery-post'
      ? FUSE_WITHIN_IN.sheathedFromPost
      : FUSE_WITHIN_IN.sheathedFromOther;
  return { inches, mm: Number((inches * MM_PER_IN).toFixed(1)) };
}

/** What a fuse's place is called in a step and on paper, in SI as all sentences are kept. */
export const sayFusePlace = (feedName: string, at: { mm: number }): string => `within ${at.mm} mm of ${feedName}`;
