import { z } from 'zod';
import { EquipmentFunction, LightColour, nonNegative, positive, Slug, WireColour, words } from './common';
import { WireFunction } from './parts';

/** A wire of something fitted before that a kit may be joined to: what it does, and where it is found. */
export const FittedWire = z.strictObject({
  function: WireFunction,
  colour: WireColour,
  place: Slug,
  /** it leads to something that draws so many watts; left out, what such a wire usually does */
  takesW: positive.max(5000).optional(),
});
export type FittedWire = z.infer<typeof FittedWire>;

/** Something already on the unit when it arrived; it draws current too. */
export const FittedItem = z.strictObject({
  id: Slug,
  name: words(80),
  watts: nonNegative.max(5000).nullable(),
  standbyMa: nonNegative.max(5000).default(0),
  function: EquipmentFunction.optional(),
  colour: LightColour.optional(),
  /** its own wires that a kit may be joined to, such as those of a winch’s switch */
  wires: z.array(FittedWire).max(12).optional(),
});
export type FittedItem = z.infer<typeof FittedItem>;
