import { z } from 'zod';

/** What happened on an order that one may look for by itself. */
export const MARKS = {
  'out-of-band': 'a reading out of its band',
  finding: 'a finding',
  skipped: 'a step skipped',
  mended: 'a fault put right',
  picture: 'a picture',
} as const;
export const Mark = z.enum(Object.keys(MARKS) as [keyof typeof MARKS, ...(keyof typeof MARKS)[]]);
export type Mark = z.infer<typeof Mark>;
