import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { Memo } from '#core/memo';
import { assess, stepState } from '#core/order/assess';
import { checkVin } from '#core/identity/vin';
import { nthTime } from '#core/learn/curve';
import { daysFor } from '#core/energy/templates';
import { readSheet } from '#core/sheets/read';
import type { OrderCommand } from '#core/events/registry';
import { boxItem } from '#core/supply/demand';
import { FittedItem } from '#model/fitted';
import { MESSAGE_KINDS, type MessageKind } from '#model/message';
import type { OrderOpening } from '#model/opening';
import { CLIENT, CLIENT_ID, Person } from '#model/person';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import { DEFAULT_SETTINGS, Settings } from '#model/settings';
import { Rostered } from '#model/shop-week';
import { Charges, PriceBook, type OptionChange } from '#model/money';
import type { SheetKind, SheetRef, Sheets } from '#model/sheet';
import type { RulePack } from '#model/rule-pack';
import type { UnitModel } from '#model/unit-model';
import type { PlannedReading } from '#core/plan/planned';
import type { PurchaseLine } from '#model/supply';
import { Wish } from '#model/wish';
import { row, run, transact, type Shop, type Store, type Tx } from './store/db';
import { LeaseLost, withLease } from './store/lease';
import { carryOutWithin, openWithin, readOrder } from './store/orders';
import { plant } from './stand-ins/unit';
import { addPerson, joinPerson } from './store/people';
import { beginSettings } from './store/settings';
import { writePurchase } from './store/supply';
import { newestRef, newestRefs, readSheetJson, writeSheet } from './store/sheets';
import type { Workers } from './work/workers';

const Unit = z.object({ model: z.string(), build: z.string(), kits: z.array(z.string()) });
const DemoFile = z.object({
  shop: z.string(),
  stock: Settings.shape.stock,
  shelf: Settings.shape.shelf,
  password: z.string(),
  people: z.array(Person),
  /** the shop’s week; who is away is away so many days from when the demo is begun */
  week: z.object({
    hours: Settings.shape.hours,
    bays: Settings.shape.bays,
    roster: z.array(Rostered.omit({ off: true }).extend({ off: z.array(z.object({ days: z.number().int(), why: z.string() })) })),
  }),
  /** what the shop sells for */
  prices: z.object({ priceBook: PriceBook, charges: Charges }),
  /** what is kept at hand, and what owners are told */
  supply: z.object({ levels: Settings.shape.levels, messages: z.array(z.enum(MESSAGE_KINDS)) }),
  /** what was quoted, agreed and asked, by model on the floor */
  money: z.array(
    z.object({
      model: z.string(),
      quote: z
        .object({
          basis: z.enum(['fixed', 'time']),
          note: z.string(),
          options: z.array(
            z.object({
              name: z.string(),
              changes: z.array(
                z.discriminatedUnion('kind', [
                  z.object({ kind: z.literal('source'), upgrade: z.string() }),
                  z.object({ kind: z.literal('without'), kit: z.string() }),
                ]),
              ),
            }),
          ),
        })
        .optional(),
      agree: z.boolean().default(false),
      question: z.string().optional(),
    }),
  ),
  floor: z.array(
    Unit.extend({
      year: z.number(),
      identity: z.string(),
      meter: z.number(),
      owner: z.string(),
      due: z.tuple([z.number(), z.number()]),
      rest: z.number().nullable(),
      wishes: z.array(Wish),
      condition: z.string(),
      fitted: z.array(FittedItem),
      counted: z.boolean(),
      phone: z.string().optional(),
      /** what a box lacked when it was counted, and in how many days the supplier has it here, as was told */
      short: z.object({ kit: z.string(), item: z.string(), count: z.number(), told: z.number() }).optional(),
      assignee: z.string().nullable(),
      stepsDone: z.number(),
      /** what is wrong with the unit that stands in for a real one on the bench */
      fault: z.string().optional(),
      facts: z.record(z.string(), z.union([z.number(), z.boolean()])),
      /** the owner's day, by the name of one that is usual for the kind of unit */
      day: z.string().optional(),
    }),
  ),
  finished: z.array(
    Unit.extend({
      year: z.number(),
      identity: z.string(),
      owner: z.string(),
      daysAgo: z.number(),
      by: z.string(),
      finding: z.string(),
      /** where it was found */
      step: z.string(),
      /** minutes spent for one planned on the kits, where it was not as usual */
      pace: z.number().optional(),
    }),
  ),
  finishedPattern: z.object({ count: z.number(), owners: z.array(z.string()), mixes: z.array(Unit) }),
});
type DemoFile = z.infer<typeof DemoFile>;

const SIGNATURE = 'M60 130C90 40 130 40 120 110S170 160 190 90S240 60 250 120S320 150 360 90S430 80 470 110';

async function loadSheets(tx: Tx, folders: string[], by: string, wanted: (id: string) => boolean = () => true): Promise<void> {
  for (const folder of folders)
    for (const f of readdirSync(folder)
      .filter((x) => x.endsWith('.json'))
      .sort()) {
      const read = readSheet(readFileSync(join(folder, f), 'utf8'));
      if (!read.sheet) throw new Error(`${f}, line ${read.problems[0]!.line}, ${read.problems[0]!.field}: ${read.problems[0]!.message}`);
      if (wanted(read.sheet.sheet.id)) await writeSheet(tx, read.sheet, by);
    }
}

/** Who stands beside a sheet that came with Kadro. */
const SHIPPED = 'kadro';

/**
 * The rule packs that ship: those a shop does not have yet, and new revisions of those nobody there has edited. What a shop
 * changed itself stays as it is.
 */
export const loadRules = (shop: Shop, root: string): Promise<void> =>
  withLease(shop, 'rules', () =>
    transact(shop, async (tx) => {
      const mine = new Set((await newestRefs(tx, 'rules')).filter((p) => p.by_person !== SHIPPED).map((p) => p.id));
      await loadSheets(tx, [join(root, 'rules')], SHIPPED, (id) => !mine.has(id));
    }),
  );

interface SheetOf {
  model: UnitModel;
  kit: Kit;
  rules: RulePack;
}
async function readNewest<K extends SheetKind>(
  s: Store,
  workers: Workers,
  kind: K,
  id: string,
): Promise<{ ref: SheetRef; sheet: SheetOf[K] }> {
  const ref = (await newestRef(s, kind, id))!;
  return { ref, sheet: JSON.parse((await readSheetJson(s, workers, kind, ref))!) as SheetOf[K] };
}

/** Works an order the way people would, with a clock of its own. */
class Hand {
  order!: Order;
  private sheets!: Sheets;
  private readonly memo = new Memo();
  constructor(
    private readonly tx: Tx,
    private readonly workers: Workers,
    private readonly people: Person[],
    private readonly settings: Settings,
    public at: Date,
  ) {}
  private readonly who = (id: string) => this.people.find((p) => p.id === id)!;
  async open(o: OrderOpening, by: string): Promise<void> {
    const id = await openWithin(this.tx, this.workers, { ...o, trial: 'demo' }, by, this.at);
    this.order = (await readOrder(this.tx, id))!;
    const packs = await Promise.all(
      (await newestRefs(this.tx, 'rules')).map(async (r) => (await readNewest(this.tx, this.workers, 'rules', r.id)).sheet),
    );
    this.sheets = { model: (await readNewest(this.tx, this.workers, 'model', o.model.id)).sheet, kits: [], packs };
  }
  async do(command: OrderCommand, by: string, minutes = 0.2): Promise<void> {
    this.at = new Date(this.at.getTime() + minutes * 60_000);
    this.order = await carryOutWithin(this.tx, this.workers, this.order, command, this.who(by), this.at);
  }
  /** What the unit’s owner asks, on their page. */
  async ask(text: string): Promise<void> {
    this.at = new Date(this.at.getTime() + 60_000);
    const owner = { id: CLIENT_ID, role: CLIENT } as const;
    this.order = await carryOutWithin(this.tx, this.workers, this.order, { type: 'question.asked', text }, owner, this.at);
  }
  async kits(ids: string[], counted: boolean, by: string): Promise<void> {
    for (const kit of ids) {
      await this.do({ type: 'kit.added', kit }, by);
      const { sheet } = await readNewest(this.tx, this.workers, 'kit', kit);
      this.sheets = { ...this.sheets, kits: [...this.sheets.kits, sheet] };
      if (counted)
        for (const [item, b] of sheet.contents.entries()) await this.do({ type: 'box.counted', kit, item, count: b.count }, by, 0.1);
    }
  }
  /** A kit that is on the order. */
  kit = (id: string): Kit => this.sheets.kits.find((k) => k.id === id)!;
  /** What a person is shown before they seal. */
  openPoints(): number {
    return assess(this.order, this.sheets, this.settings, this.memo).open.length;
  }
  /** Waits until so many steps, at a pace, end a moment before a time. */
  waitToEnd(most: number, usual: number, before: Date): void {
    const { steps } = assess(this.order, this.sheets, this.settings, this.memo);
    const minutes = steps.slice(0, most).reduce((n, s) => n + s.minutes * usual, 1);
    this.at = new Date(Math.max(this.at.getTime(), before.getTime() - minutes * 60_000));
  }
  /** Does up to `most` steps; the pace makes each a little faster or slower than planned. */
  async steps(most: number, by: string, usual: number, ofKits = usual): Promise<void> {
    for (let i = 0; i < most; i++) {
      const assessment = assess(this.order, this.sheets, this.settings, this.memo);
      const step = assessment.steps.find((s) => stepState(this.order, s.id).status === 'todo');
      if (!step) return;
      const pace = step.kit ? ofKits : usual;
      if (!this.order.clocks.length) await this.do({ type: 'step.started', step: step.id }, by);
      for (const [k, r] of step.readings.entries())
        await this.do(
          { type: 'reading.taken', step: step.id, reading: r.id, value: plausible(r, i + k), origin: { how: 'typed' } },
          by,
          (step.minutes * pace) / (step.readings.length + 1),
        );
      if (step.panel?.fasteners.length && step.stage === 'close')
        await this.do({ type: 'fasteners.counted', step: step.id, counts: step.panel.fasteners.map((f) => f.count) }, by, 0.1);
      await this.do({ type: 'step.done', step: step.id }, by, (step.minutes * pace) / (step.readings.length + 1));
    }
  }
}

/** A reading that a healthy unit would show: inside the band, never quite the middle. */
function plausible(r: PlannedReading, i: number): number {
  const { low, high, unit } = r.expected;
  if (unit === 'yes') return 1;
  if (low === null || high === null) return Math.round((low ?? 0) * (1.25 + (i % 4) * 0.1));
  const value = low === 0 ? high * (0.1 + 0.1 * (i % 3)) : low + (high - low) * (0.45 + 0.08 * (i % 4));
  return Number(value.toFixed(unit === 'A' ? 4 : unit === 'perMin' ? 0 : 2));
}

/** A VIN of invented characters with its check character put right. */
function withCheck(vin: string): string {
  const { expected } = checkVin(vin);
  return expected ? vin.slice(0, 8) + expected + vin.slice(9) : vin;
}

const day = (today: Date, days: number, hour: number, minute = 0) =>
  new Date(Date.UTC(today.getUTCFullYear(), today.getUTCMonth(), today.getUTCDate() + days, hour, minute));

/** The longest that what the demo has done today takes. */
const AGO_MS = 4 * 3_600_000;

/** Fills a new shop once, whichever server comes first: all of it or nothing. */
export async function once(shop: Shop, fill: (tx: Tx) => Promise<void>): Promise<void> {
  for (let tries = 1; ; tries++)
    try {
      return await fillOnce(shop, fill);
    } catch (e) {
      // a server that was too busy to say that it lives, and one that took over: whoever came second looks again
      const came = e instanceof LeaseLost || (e as { code?: string }).code === 'ER_DUP_ENTRY';
      if (!came || tries >= FILL_TRIES) throw e;
    }
}
const FILL_TRIES = 3;
const fillOnce = (shop: Shop, fill: (tx: Tx) => Promise<void>): Promise<void> =>
  withLease(shop, 'fill', async (held) => {
    if (await row(shop, `SELECT account FROM ${shop.directory.at}.members WHERE shop = ? LIMIT 1`, [shop.id])) return;
    await transact(shop, async (tx) => {
      await fill(tx);
      held();
    });
  });

/** Whether the demo is what this shop was filled with. */
export const isDemo = async (s: Store): Promise<boolean> => (await row(s, "SELECT name FROM progress WHERE name = 'demo'")) !== null;

/** Loads the demo shop, under a name of its own where it is given one: people, sheets, thirty finished orders and eight units on the floor, all through the ordinary doors; all of it or nothing. */
export async function loadDemo(shop: Shop, workers: Workers, root: string, today: Date, called?: string): Promise<void> {
  const demo = DemoFile.parse(JSON.parse(readFileSync(join(root, 'demo/orders.json'), 'utf8')));
  const pattern = Array.from({ length: demo.finishedPattern.count }, (_, i) => {
    const mix = demo.finishedPattern.mixes[i % demo.finishedPattern.mixes.length]!;
    return {
      ...mix,
      year: 2023,
      identity: '',
      owner: demo.finishedPattern.owners[i % demo.finishedPattern.owners.length]!,
      daysAgo: 60 - i * 2,
      by: i % 2 ? 'tor' : 'maud',
      finding: '',
      step: '',
    };
  });
  const finished = [...pattern, ...demo.finished].sort((a, b) => b.daysAgo - a.daysAgo);
  await once(shop, async (tx) => {
    for (const p of demo.people) if (!(await addPerson(tx, { ...p, password: demo.password }))) await joinPerson(tx, p, 'kadro');
    const {
      stock: _stock,
      shelf: _shelf,
      messages: _none,
      ...settings
    } = {
      ...DEFAULT_SETTINGS,
      shop: called ?? demo.shop,
      ...demo.prices,
      levels: demo.supply.levels,
    };
    const away = (days: number) => day(today, days, 0).toISOString().slice(0, 10);
    const roster = demo.week.roster.map((r) => ({ ...r, off: r.off.map(({ days, why }) => ({ from: away(days), to: away(days), why })) }));
    await beginSettings(tx, { ...settings, hours: demo.week.hours, bays: demo.week.bays, roster, ...demo.prices }, 'oda');
    const { stock, shelf } = demo;
    const begin = (on: Pick<Settings, 'stock' | 'shelf'>) => (at: Date) =>
      new Hand(tx, workers, demo.people, { ...DEFAULT_SETTINGS, ...settings, ...on }, at);
    await loadSheets(tx, [join(root, 'demo/models'), join(root, 'demo/kits')], 'oda');
    // whoever does a kit again does it faster, as people do
    const done = new Map<string, number>();
    for (const [i, f] of finished.entries()) {
      const key = `${f.by} ${f.kits.join()}`;
      done.set(key, (done.get(key) ?? 0) + 1);
      await finishOne(tx, workers, begin({ stock: [], shelf: [] }), f, i, done.get(key)!, today);
    }
    await run(tx, "INSERT INTO progress (name, upto, done) VALUES ('demo', 0, 1)");
    // counted this morning: what earlier work took is gone from it
    await beginSettings(tx, { stock, shelf, messages: toldIn(demo.supply.messages) }, 'oda');
    for (const f of demo.floor)
      await putOnFloor(
        tx,
        workers,
        begin({ stock, shelf }),
        f,
        demo.money.find((m) => m.model === f.model),
        today,
      );
  });
}

async function finishOne(
  tx: Tx,
  workers: Workers,
  begin: (at: Date) => Hand,
  f: DemoFile['finished'][number],
  i: number,
  nth: number,
  today: Date,
): Promise<void> {
  const { ref, sheet: model } = await readNewest(tx, workers, 'model', f.model);
  const hand = begin(day(today, -f.daysAgo, 8, (i * 7) % 50));
  const serial = String(100 + i * 37).padStart(6, '0');
  const identity = f.identity
    ? withCheck(f.identity)
    : model.identity === 'vin'
      ? withCheck(
          `9ZZ${model.id
            .replace(/[^a-z0-9]/g, '')
            .toUpperCase()
            .replace(/[IOQ]/g, 'X')
            .slice(0, 5)
            .padEnd(5, 'X')}0PA${serial}`,
        )
      : model.identity === 'hin'
        ? `TBK2${String(1000 + i)}E323`
        : `SN-${serial}`;
  const { battery } = model.electrical;
  await hand.open(
    {
      model: ref,
      build: f.build,
      year: f.year,
      identity,
      meterValue: 50 + i * 13,
      owner: f.owner,
      promisedAt: day(today, -f.daysAgo, 16).toISOString(),
      wishes: [],
      restVolts: Number((((battery.chemistry === 'agm' ? 12.75 : 12.56) * battery.count * battery.voltsEach) / 12).toFixed(2)),
      condition: '',
      fitted: [],
    },
    'wyn',
  );
  await hand.kits(f.kits, true, f.by);
  await hand.do({ type: 'bench.assigned', to: f.by }, f.by);
  await hand.steps(999, f.by, nthTime(1.15 + ((i * 7) % 9) * 0.03, 0.85, nth), f.pace);
  if (f.finding) await hand.do({ type: 'finding.added', text: f.finding, ...(f.step && { step: f.step }) }, f.by);
  await hand.do({ type: 'handover.signed', name: f.owner, strokes: SIGNATURE }, 'wyn', 5);
  await hand.do({ type: 'order.sealed', seen: hand.openPoints() }, 'wyn');
}

/** What was quoted, agreed and asked of an order. */
async function talkMoney(hand: Hand, m: DemoFile['money'][number], model: UnitModel, owner: string): Promise<void> {
  if (m.quote) {
    const options = m.quote.options.map((o) => ({
      name: o.name,
      changes: o.changes.map((c): OptionChange => {
        if (c.kind === 'without') return { ...c, label: o.name };
        const u = model.electrical.sourceUpgrades.find((x) => x.id === c.upgrade)!;
        return { kind: 'power', change: { kind: 'source', upgrade: u.id, name: u.name, curve: u.curve }, label: o.name };
      }),
    }));
    await hand.do({ type: 'quote.made', basis: m.quote.basis, options, discount: null, note: m.quote.note, prices: {} }, 'wyn', 8);
    if (m.agree)
      await hand.do({ type: 'quote.agreed', revision: 1, option: 'a', how: 'signed', name: owner, strokes: SIGNATURE }, 'wyn', 4);
  }
  if (m.question) await hand.ask(m.question);
}

/** A box was counted short, and what it lacks is on order. */
async function lack(tx: Tx, hand: Hand, s: NonNullable<DemoFile['floor'][number]['short']>, today: Date): Promise<void> {
  const kit = hand.kit(s.kit);
  for (const [item, c] of kit.contents.entries())
    await hand.do({ type: 'box.counted', kit: s.kit, item, count: c.item === s.item ? s.count : c.count }, 'wyn', 0.1);
  const missing = kit.contents.find((c) => c.item === s.item)!.count - s.count;
  const line: PurchaseLine = {
    item: boxItem(s.kit, s.item),
    kind: 'buy',
    name: `${s.item}, ${kit.name}`,
    unit: 'pieces',
    amount: missing,
    order: hand.order.id,
  };
  const toldDay = day(today, s.told, 0).toISOString().slice(0, 10);
  await writePurchase(tx, { id: randomUUID(), lines: [line], toldDay, by: 'wyn', sent: true, at: hand.at });
}

/** What the demo’s owners are told, in the words that a shop begins with. */
const toldIn = (kinds: readonly MessageKind[]): Settings['messages'] => ({
  ...DEFAULT_SETTINGS.messages,
  ...Object.fromEntries(kinds.map((k) => [k, { ...DEFAULT_SETTINGS.messages[k], on: true }])),
});

async function putOnFloor(
  tx: Tx,
  workers: Workers,
  begin: (at: Date) => Hand,
  f: DemoFile['floor'][number],
  money: DemoFile['money'][number] | undefined,
  today: Date,
): Promise<void> {
  const { ref, sheet: model } = await readNewest(tx, workers, 'model', f.model);
  // what was begun today is behind whoever looks, however early they look
  const hand = begin(f.stepsDone ? new Date(Math.min(day(today, 0, 6, 10).getTime(), today.getTime() - AGO_MS)) : day(today, -1, 6, 10));
  await hand.open(
    {
      model: ref,
      build: f.build,
      year: f.year,
      identity: withCheck(f.identity),
      meterValue: f.meter,
      owner: f.owner,
      ...(f.phone && { phone: f.phone }),
      promisedAt: day(today, f.due[0], f.due[1]).toISOString(),
      wishes: f.wishes,
      restVolts: f.rest,
      condition: f.condition,
      fitted: f.fitted,
    },
    'wyn',
  );
  const by = f.assignee ?? 'ines';
  await hand.kits(f.kits, f.counted, by);
  if (f.short) await lack(tx, hand, f.short, today);
  for (const [key, value] of Object.entries(f.facts))
    await hand.do({ type: 'fact.told', key, value, label: key.split('/').at(-1)!.replaceAll('-', ' ') }, 'ines');
  const described = daysFor(model, false).find((d) => d.id === f.day);
  if (described) await hand.do({ type: 'day.described', day: described }, 'wyn');
  if (money) await talkMoney(hand, money, model, f.owner);
  if (f.assignee) await hand.do({ type: 'bench.assigned', to: f.assignee }, f.assignee);
  if (f.stepsDone) hand.waitToEnd(f.stepsDone, 0.7, today);
  await hand.steps(f.stepsDone, by, 0.7);
  if (f.fault) await plant(tx, hand.order, f.fault);
  // the first has its clock running, the others rest
  if (hand.order.clocks.length && f.stepsDone < 99 && f.model !== 'drover-4') await hand.do({ type: 'timer.stopped' }, by);
}
