import { z } from 'zod';
import { EquipmentFunction, LightColour, positive, UnitKind, Verdict } from '#model/common';
import { lampFields, Obstacle } from '#model/lamp';
import type { RulePack } from '#model/rule-pack';
import { ImpossibleInput } from '../errors';
import { tally } from '../lighting/check';
import { FLASH_FACT, judgePack } from '../lighting/judge';
import { factKey } from '../lighting/judge-equipment';
import type { Lamp, LampUnit } from '../lighting/lamp';
import { readPack } from '../lighting/pack';
import { shippedPacks } from '../lighting/shipped';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const Unit = z.strictObject({
  kind: UnitKind,
  name: z.string().max(120).default('this unit'),
  electric: z.boolean().optional(),
  lengthM: positive.max(200).optional(),
  widthMm: positive.max(20000).optional(),
  heightMm: positive.max(30000).optional(),
  massKg: positive.max(100000).optional(),
  gvwrKg: positive.max(100000).optional(),
  topSpeedKmh: positive.max(500).optional(),
  seats: z.number().int().min(1).max(40).default(1),
  wheelbaseMm: z.number().min(0).max(20000).default(0),
  rearOverhangMm: z.number().min(0).max(20000).default(0),
  gunwaleMm: z.number().min(0).max(20000).optional(),
  obstacles: z.array(Obstacle).max(80).default([]),
});
const LampInput = z.strictObject({
  name: z.string().max(80).optional(),
  function: EquipmentFunction,
  colour: LightColour.optional(),
  xMm: z.number().optional(),
  yMm: z.number().optional(),
  zMm: z.number().optional(),
  ...lampFields,
});
const Told = z.union([z.number(), z.boolean()]);
const Readings = z.union([z.record(z.string(), Told), z.array(z.strictObject({ id: z.string(), value: Told }))]);

/** A pack by the id of one that ships, or whole. */
function findPack(pack: unknown): RulePack {
  if (typeof pack !== 'string') return readPack(pack);
  const found = shippedPacks().find((p) => p.id === pack);
  if (!found)
    throw new ImpossibleInput(
      `there is no rule pack “${pack}”: ${shippedPacks()
        .map((p) => p.id)
        .join(', ')} ship with Kadro, or give a whole pack`,
      'pack',
    );
  return found;
}

export const lightingCheck = calculation({
  name: 'lighting.check',
  title: 'Lamps against a rule pack',
  description: 'Judges every item of a rule pack for a unit and its lamps. What was not judged is never counted as met.',
  input: {
    pack: field(z.union([z.string(), z.looseObject({ items: z.array(z.unknown()) })]), 'Rule pack, by id or whole'),
    unit: field(Unit, 'Unit'),
    lamps: field(z.array(LampInput).max(200), 'Lamps, with centres in millimetres of the unit’s frame'),
    readings: field(Readings.default({}), 'Readings and answers, by item'),
  },
  result: {
    items: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        /** null: the item does not apply */
        verdict: Verdict.nullable(),
        says: z.string(),
        measured: z.number().optional(),
        limit: z.number().optional(),
        unit: z.string().optional(),
        source: z.string(),
        /** told by a person, or measured; null: from sheets alone */
        basis: z.enum(['told', 'measured']).nullable(),
      }),
    ),
    met: z.number(),
    required: z.number(),
    verdict: Verdict,
  },
  example: {
    pack: 'motorcycle-lamps',
    unit: { kind: 'motorcycle', name: 'a motorcycle', widthMm: 860, heightMm: 1290 },
    lamps: [
      { function: 'headlamp', colour: 'white', xMm: 1310, yMm: 0, zMm: 870, litMm: { w: 170, h: 170 } },
      { function: 'turn-front', colour: 'amber', xMm: 1240, yMm: 190, zMm: 800, litMm: { w: 60, h: 50 } },
      { function: 'turn-front', colour: 'amber', xMm: 1240, yMm: -190, zMm: 800, litMm: { w: 60, h: 50 } },
    ],
    readings: { 'flash-rate': 85 },
  },
  run: (q) => {
    const pack = findPack(q.pack);
    const told = Array.isArray(q.readings) ? Object.fromEntries(q.readings.map((r) => [r.id, r.value])) : q.readings;
    const { gunwaleMm, ...rest } = q.unit;
    const unit: LampUnit = {
      ...rest,
      electric: q.unit.electric ?? q.unit.kind === 'golf-cart',
      lengthMm: q.unit.lengthM === undefined ? undefined : q.unit.lengthM * 1000,
    };
    const lamps = q.lamps.map((l, i): Lamp => {
      const placed = l.xMm !== undefined && l.yMm !== undefined && l.zMm !== undefined;
      return {
        id: `given/${i + 1}`,
        name: l.name ?? `lamp ${i + 1} (${l.function})`,
        function: l.function,
        colour: l.colour,
        at: placed ? { x: l.xMm!, y: l.yMm!, z: l.zMm! } : null,
        where: placed ? 'as given' : 'place not known',
        litMm: l.litMm,
        candela: l.candela,
        arcDeg: l.arcDeg,
        watts: l.lampW,
        pieces: l.pieces,
        from: 'factory',
        known: true,
        moved: false,
      };
    });
    const flashItem = pack.items.find((i) => i.kind === 'flash');
    const flash = flashItem && told[flashItem.id];
    const share = told['on-share'];
    const facts = {
      ...Object.fromEntries(
        Object.entries(told).flatMap(([id, v]) => [
          [factKey(pack.id, id), v],
          [id, v],
        ]),
      ),
      ...(gunwaleMm !== undefined && { 'unit:gunwale': gunwaleMm }),
      ...(typeof flash === 'number' && { [FLASH_FACT.perMinute]: flash }),
    };
    const items = judgePack(pack, {
      unit,
      lamps,
      facts,
      uses: ['road'],
      table: null,
      flash: {
        measured:
          typeof flash === 'number'
            ? { perMinute: flash, onSharePct: typeof share === 'number' ? share : null, from: 'as given', basis: 'told' }
            : null,
        forecast: null,
      },
      weight: null,
    });
    const t = tally([{ pack, items }]);
    return {
      items: items.map((i) => ({
        id: i.id,
        title: i.title,
        verdict: i.verdict,
        says: i.says,
        ...(i.margin?.used !== null && i.margin?.used !== undefined && { measured: i.margin.used }),
        ...(i.margin?.limit !== null && i.margin?.limit !== undefined && { limit: i.margin.limit }),
        ...(i.margin && { unit: i.margin.unit }),
        source: i.source,
        basis: i.basis,
      })),
      met: t.met,
      required: t.required,
      verdict: t.verdict,
      sum: sum(...items.map((i) => ({ label: i.title, value: `${i.verdict ?? 'does not apply'}: ${i.says}`, source: i.source })), {
        label: 'Met of required',
        value: `${t.met} of ${t.required}`,
        source: pack.edition,
        kind: 'result' as const,
      }),
    };
  },
});
