import { z } from 'zod';
import { Slug, words } from '#model/common';
import { FittedItem } from '#model/fitted';
import { arriveFields, OrderOpening } from '#model/opening';
import { WISHES } from '#model/wish';
import type { UnitModel } from '#model/unit-model';
import { ALL, event, Refused } from './definition';

const FIELD: Record<string, string> = {
  build: 'build',
  year: 'year',
  identity: 'identity number',
  meterValue: 'meter',
  owner: 'owner',
  phone: 'telephone',
  promisedAt: 'promise',
  wishes: 'wishes',
  restVolts: 'volts at rest',
  condition: 'condition',
};

function fieldValue(key: string, v: unknown): string {
  if (v === null || v === '') return 'taken off';
  if (key === 'wishes') return (v as (keyof typeof WISHES)[]).map((w) => WISHES[w]).join(', ') || 'none';
  if (key === 'promisedAt') return `${String(v).slice(0, 16)}Z`;
  return key === 'restVolts' ? `${v} V` : String(v);
}

/**
 * A unit's build and year must be ones that its model has.
 * @throws Refused
 */
export function checkBuild(model: UnitModel, { build, year }: { build?: string | undefined; year?: number | undefined }): void {
  if (build !== undefined && !model.builds.some((b) => b.id === build))
    throw new Refused(`${model.name} has no build “${build}”.`, 'input', 'build');
  if (year !== undefined && (year < model.years.from || year > model.years.to))
    throw new Refused(`${model.name} was made from ${model.years.from} to ${model.years.to}.`, 'input', 'year');
}

/**
 * Wires of what was fitted before must be found where the model has a place.
 * @throws Refused
 */
export function checkFitted(model: UnitModel, fitted: readonly FittedItem[]): void {
  for (const f of fitted)
    for (const w of f.wires ?? [])
      if (!model.places.some((p) => p.id === w.place))
        throw new Refused(`${model.name} has no place “${w.place}”, where a wire of the ${f.name} is said to be.`, 'input', 'fitted');
}

export const arriveEvents = [
  event({
    type: 'order.opened',
    may: ALL,
    records: { number: z.number().int().positive(), opening: OrderOpening },
    asks: null,
    // state.ts makes the order that it begins
    apply: (order) => order,
    undo: 'final',
    touches: () => ['*'],
    says: (e) =>
      `Taken in for ${e.opening.owner}, ${e.opening.identity ? `number ${e.opening.identity}` : 'no number yet'}${e.opening.trial === 'practice' ? ', to practise on' : ''}`,
  }),
  event({
    type: 'arrive.changed',
    may: ALL,
    records: { patch: z.strictObject(arriveFields).partial() },
    decide: (command, _order, c) => {
      checkBuild(c.sheets.model, command.patch);
      return command;
    },
    apply: (order, { patch }) => {
      const { build, year, identity, meterValue, ...rest } = patch;
      const unit = {
        ...order.unit,
        ...(build !== undefined && { build }),
        ...(year !== undefined && { year }),
        ...(identity !== undefined && { identity }),
        ...(meterValue !== undefined && { meterValue }),
      };
      return { ...order, ...(rest as Partial<typeof order>), unit };
    },
    touches: (c) => Object.keys(c.patch).map((k) => `arrive.${k}`),
    says: (e) =>
      Object.entries(e.patch)
        .map(([k, v]) => `${FIELD[k]} ${fieldValue(k, v)}`)
        .join('; '),
  }),
  event({
    type: 'fitted.added',
    may: ALL,
    records: { item: FittedItem },
    decide: (command, _order, c) => {
      checkFitted(c.sheets.model, [command.item]);
      return command;
    },
    apply: (order, { item }) => ({ ...order, fitted: [...order.fitted.filter((f) => f.id !== item.id), item] }),
    touches: (c) => [`fitted.${c.item.id}`],
    says: (e) => `Already fitted: ${e.item.name}, ${e.item.watts === null ? 'watts not known' : `${e.item.watts} W`}`,
  }),
  event({
    type: 'fitted.removed',
    may: ALL,
    version: 2,
    records: { id: Slug, name: words(80) },
    asks: { id: Slug },
    earlier: { 1: (body) => ({ ...body, name: body.id }) },
    decide: (command, order) => {
      const item = order.fitted.find((f) => f.id === command.id);
      if (!item) throw new Refused('That is not on the list of what is already fitted.', 'input', 'id');
      return { ...command, name: item.name };
    },
    apply: (order, { id }) => ({ ...order, fitted: order.fitted.filter((f) => f.id !== id) }),
    touches: (c) => [`fitted.${c.id}`],
    says: (e) => `Not fitted after all: ${e.name}`,
  }),
] as const;
