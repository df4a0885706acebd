import { z } from 'zod';
import { Chemistry, positive, Slug, words } from './common';
import { LoadId } from './day';

/** A point of a source's output curve: engine speed in rpm, output in amperes at the regulated volts. */
const CurvePoint = z.tuple([z.number().min(0), z.number().min(0)]);

/** A change to the unit or to how it is used that is agreed with the owner so that the unit carries its loads. */
export const PowerChange = z.discriminatedUnion('kind', [
  /** a lower setting, as a share of the watts */
  z.strictObject({ kind: z.literal('setting'), load: LoadId, share: z.number().gt(0).max(1) }),
  z.strictObject({ kind: z.literal('led'), load: LoadId, watts: positive.max(1000) }),
  /** off by itself while the engine turns slower */
  z.strictObject({ kind: z.literal('shed'), load: LoadId, belowRpm: positive.max(20_000) }),
  /** what runs with the engine off moves to a battery of its own */
  z.strictObject({
    kind: z.literal('second-battery'),
    capacityAh: positive.max(1000),
    chemistry: Chemistry,
    join: z.enum(['isolator', 'relay']),
  }),
  z.strictObject({ kind: z.literal('source'), upgrade: Slug, name: words(80), curve: z.array(CurvePoint).min(2).max(20) }),
  z.strictObject({ kind: z.literal('idle'), rpm: positive.max(6000) }),
  z.strictObject({ kind: z.literal('reducer'), makes: Slug, ratedA: positive.max(200) }),
]);
export type PowerChange = z.infer<typeof PowerChange>;

/** Two changes with the same key take each other's place. */
export const changeKey = (c: PowerChange): string =>
  c.kind === 'setting' || c.kind === 'led' || c.kind === 'shed'
    ? `${c.kind}:${c.load}`
    : c.kind === 'reducer'
      ? `${c.kind}:${c.makes}`
      : c.kind;
