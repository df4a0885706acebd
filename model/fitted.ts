import { z } from 'zod';
import { EquipmentFunction, LightColour, nonNegative, Slug, words } from './common';

/** Something already on the unit when it arrived; it draws current too. */
export const FittedItem = z.strictObject({
  id: Slug,
  name: words(80),
  watts: nonNegative.max(5000).nullable(),
  standbyMa: nonNegative.max(5000).default(0),
  function: EquipmentFunction.optional(),
  colour: LightColour.optional(),
});
export type FittedItem = z.infer<typeof FittedItem>;
