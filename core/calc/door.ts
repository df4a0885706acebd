// What the command line imports, as one bundle.
import { z } from 'zod';
import type { Calculation } from './calculation';

export { CALCULATIONS, findCalculation, runCalculation } from './registry';

/** Input and result of a calculation as JSON Schemas. */
export const jsonSchema = (c: Calculation) => ({
  name: c.name,
  input: z.toJSONSchema(c.input, { io: 'input' }),
  result: z.toJSONSchema(c.result),
});
