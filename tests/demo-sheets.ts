import { readdirSync, readFileSync } from 'node:fs';
import { Memo } from '#core/memo';
import { assess, type Assessment } from '#core/order/assess';
import { readSheet } from '#core/sheets/read';
import type { FittedItem } from '#model/fitted';
import type { EventBody } from '#core/events/registry';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { RulePack } from '#model/rule-pack';
import { DEFAULT_SETTINGS, type Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { applyEvent, type Happened } from '#core/events/apply';

const known = new Map<string, UnitModel | Kit | RulePack>();
/** A sheet as it ships, read once: nobody may change it. */
function read(folder: string, id: string) {
  const file = `${folder}/${id}.json`;
  let sheet = known.get(file);
  if (!sheet) {
    const r = readSheet(readFileSync(new URL(`../${file}`, import.meta.url), 'utf8'));
    if (!r.sheet) throw new Error(JSON.stringify(r.problems));
    known.set(file, (sheet = frozen(r.sheet.sheet)));
  }
  return sheet;
}
function frozen<T>(x: T): T {
  if (typeof x === 'object' && x !== null && !Object.isFrozen(x)) Object.values(Object.freeze(x)).forEach(frozen);
  return x;
}
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

const memo = new Memo(4);
/** An order computed by who has computed it before, as screens and server do: what did not change since is remembered. */
export const assessed = (order: Order, sheets: Sheets, settings: Settings = DEFAULT_SETTINGS): Assessment =>
  assess(order, sheets, settings, memo);
