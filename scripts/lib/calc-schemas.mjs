// The input schemas of all calculations, from the built door.
import { join } from 'node:path';
import { root } from './ensure.mjs';

export async function calcSchemas() {
  const { CALCULATIONS, jsonSchema } = await import(join(root, 'dist/calc.mjs'));
  return Object.fromEntries(CALCULATIONS.map((c) => [c.name, jsonSchema(c).input]));
}
