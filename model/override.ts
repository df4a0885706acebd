import { z } from 'zod';

/** What of a circuit a person may choose by hand. */
export const OverrideField = z.enum(['feed', 'awg', 'fuseA', 'lengthM', 'mode', 'route', 'joint']);
export type OverrideField = z.infer<typeof OverrideField>;
