import { z } from 'zod';
import { positive, sizeMm, Slug, words } from './common';

/** What is asked of a unit that nobody has a sheet for: the body nearest to it, its name and year, and up to six figures. */
export const SheetBegun = z.strictObject({
  body: Slug,
  maker: words(60),
  name: words(60),
  year: z.number().int().min(1900).max(2101),
  figures: z
    .strictObject({
      lengthMm: sizeMm.optional(),
      widthMm: sizeMm.optional(),
      heightMm: sizeMm.optional(),
      wheelbaseMm: sizeMm.optional(),
      /** of the whole bank, as its label says */
      capacityAh: positive.max(2000).optional(),
      /** what the source gives at working speed, as its plate or manual says */
      sourceA: positive.max(500).optional(),
    })
    .default({}),
});
export type SheetBegun = z.infer<typeof SheetBegun>;
