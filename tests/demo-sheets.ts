import { readdirSync, readFileSync } from 'node:fs';
import { readSheet } from '#core/sheets/read';
import type { FittedItem } from '#model/fitted';
import type { EventBody } from '#core/events/registry';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { RulePack } from '#model/rule-pack';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { applyEvent, type Happened } from '#core/events/apply';

const read = (folder: string, id: string) => {
  const r = readSheet(readFileSync(new URL(`../${folder}/${id}.json`, import.meta.url), 'utf8'));
  if (!r.sheet) throw new Error(JSON.stringify(r.problems));
  return r.sheet.sheet;
};
export const demoModel = (id: string): UnitModel => read('demo/models', id) as UnitModel;
export const demoKit = (id: string): Kit => read('demo/kits', id) as Kit;
/** A kit as a sheet of the first format has it: no harness, all of its wire off the shelf. */
export const looseKit = (id: string): Kit => read('tests/loose-kits', id) as Kit;
export const demoPack = (id: string): RulePack => read('rules', id) as RulePack;
export const demoIds = (folder: 'models' | 'kits'): string[] =>
  readdirSync(new URL(`../demo/${folder}`, import.meta.url)).map((f) => f.replace('.json', ''));

/** The units on the demo’s floor, with their kits. */
export const demoFloor = (): { model: string; kits: string[] }[] =>
  (JSON.parse(readFileSync(new URL('../demo/orders.json', import.meta.url), 'utf8')) as { floor: { model: string; kits: string[] }[] })
    .floor;

/** Kits that are there as sheets of the first format too. */
export const looseIds = (): string[] => readdirSync(new URL('./loose-kits', import.meta.url)).map((f) => f.replace('.json', ''));

export const packIds = (): string[] => readdirSync(new URL('../rules', import.meta.url)).map((f) => f.replace('.json', ''));

/** An order on a demo unit with some kits, made by its events, and the sheets it needs. */
export function demoOrder(
  model: string,
  kits: string[],
  more: { restVolts?: number | null; fitted?: FittedItem[]; year?: number; build?: string; identity?: string; loose?: boolean } = {},
): { order: Order; sheets: Sheets } {
  const m = demoModel(model);
  const event = (seq: number, body: EventBody): Happened => ({
    seq,
    doneAt: `2026-03-02T08:${String(seq).padStart(2, '0')}:00.000Z`,
    by: 'tor',
    body,
  });
  let order = applyEvent(
    null,
    'o1',
    event(1, {
      type: 'order.opened',
      number: 7,
      opening: {
        model: { id: model, revision: 1 },
        build: more.build ?? m.builds[0]!.id,
        year: more.year ?? m.years.to - 1,
        identity: more.identity ?? 'X',
        meterValue: 5,
        owner: 'Lio',
        promisedAt: '2026-03-03T16:00:00.000Z',
        wishes: [],
        restVolts:
          more.restVolts === undefined ? (12.74 * m.electrical.battery.count * m.electrical.battery.voltsEach) / 12 : more.restVolts,
        condition: '',
        fitted: more.fitted ?? [],
      },
    }),
  );
  const kitOf = more.loose ? looseKit : demoKit;
  kits.forEach((id, i) => (order = applyEvent(order, 'o1', event(2 + i, { type: 'kit.added', kit: { id, revision: 1 }, name: id }))));
  return { order, sheets: { model: m, kits: kits.map(kitOf), packs: packIds().map(demoPack) } };
}

/** An order whose kits bring no harness: all wire off the shelf, as sheets of the first format have it. */
export const looseOrder: typeof demoOrder = (model, kits, more = {}) => demoOrder(model, kits, { ...more, loose: true });

/** Applies further events to an order. */
export function after(order: Order, ...bodies: EventBody[]): Order {
  return bodies.reduce(
    (o, body) =>
      applyEvent(o, o.id, {
        seq: o.version + 1,
        doneAt: new Date(Date.parse('2026-03-02T09:00:00Z') + o.version * 60_000).toISOString(),
        by: 'tor',
        body,
      }),
    order,
  );
}
