import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assessed, demoFloor, demoOrder } from '../../tests/demo-sheets';
import { applyEvent } from '../events/apply';
import { decide, Refused, type Context } from '../events/decide';
import type { EventBody, OrderCommand } from '../events/registry';
import { stepState } from '../order/assess';
import { openPoints } from '../order/open-points';
import { ownersPhotos, ownersView } from '../order/owners-view';
import type { OptionChange, OrderMoney } from '#model/money';
import type { Order } from '#model/order';
import type { Asker } from '#model/person';
import { DEFAULT_SETTINGS, Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { billOf, NoBill } from './bill';
import { choicesOf } from './choices';
import { alteredSinceAgreed, beyondAgreed, quoteOptions } from './order-quote';
import { linesOf, priceKey } from './price-lines';

const priced = (kits: readonly string[], more: Partial<Settings> = {}): Settings =>
  Settings.parse({
    ...DEFAULT_SETTINGS,
    currency: 'USD',
    priceBook: {
      kits: kits.map((kit, i) => ({ kit, price: `${100 + 7 * i}.5` })),
      parts: [
        { id: 'wire', cost: '1.00' },
        { id: 'fuse', cost: '4.00' },
        { id: 'relay', cost: '12.00' },
        { id: 'end', cost: '0.40' },
      ],
      markUp: { wire: '50 %' },
    },
    charges: { taxes: [{ name: 'Tax', rate: '7 %', classes: ['kits', 'parts'], included: false }] },
    ...more,
  });

/** An order under somebody’s hands, by the same door as the server’s. */
class Desk {
  private minute = 0;
  constructor(
    public order: Order,
    readonly sheets: Sheets,
    public settings: Settings,
    public today = '2026-03-02',
  ) {}
  look = () => assessed(this.order, this.sheets, this.settings);
  do(command: OrderCommand, role: Asker = 'desk'): EventBody {
    const context: Context = {
      by: role === 'client' ? '~owner' : 'wyn',
      role,
      sheets: this.sheets,
      settings: this.settings,
      assessment: this.look(),
      known: {
        today: this.today,
        people: ['wyn'],
        hasPhoto: () => true,
        quote: ({ options, prices, discount }) =>
          quoteOptions(this.order, this.sheets, this.settings, options, { byHand: prices, discount }),
      },
    };
    const body = decide(command, this.order, context);
    const doneAt = new Date(Date.parse('2026-03-02T10:00:00Z') + this.minute++ * 60_000).toISOString();
    this.order = applyEvent(this.order, this.order.id, { seq: this.order.version + 1, doneAt, by: context.by, body });
    return body;
  }
  quote(options: { name: string; changes: OptionChange[] }[] = [{ name: 'As planned', changes: [] }], basis: 'fixed' | 'time' = 'fixed') {
    this.do({ type: 'quote.made', basis, options, discount: null, note: '', prices: {} });
    return this.order.money!.quotes.at(-1)!;
  }
  agree(option = 'a', role: Asker = 'desk') {
    const revision = this.order.money!.quotes.at(-1)!.revision;
    this.do({ type: 'quote.agreed', revision, option, how: role === 'client' ? 'page' : 'told', name: 'Lio', strokes: null }, role);
  }
  refusal(command: OrderCommand, role: Asker = 'desk'): string {
    try {
      this.do(command, role);
    } catch (e) {
      if (e instanceof Refused) return e.message;
      throw e;
    }
    throw new Error('was not refused');
  }
}
const desk = (model = 'lapwing-500', kits = ['heated-grips', 'aux-lamps', 'navigator'], more: Partial<Settings> = {}) => {
  const { order, sheets } = demoOrder(model, kits);
  return new Desk(order, sheets, priced(kits, more));
};
const extra = (more: Partial<Extract<OrderCommand, { type: 'extra.asked' }>> = {}): OrderCommand => ({
  type: 'extra.asked',
  title: 'Clean the posts',
  why: 'they are green',
  place: 'battery',
  minutes: 30,
  labour: 'wire',
  powerOff: true,
  question: 'Clean',
  parts: [{ name: 'Post spray', quantity: 1, price: '8.00' }],
  photo: null,
  step: null,
  ...more,
});
const cents = (t: string) => Math.round(Number(t) * 100);

describe('what an order comes to', () => {
  it.each(demoFloor())('$model: every minute of the plan, every kit and every need is on a line once', ({ model, kits }) => {
    const { order, sheets } = demoOrder(model, kits);
    const settings = priced(kits);
    const a = assessed(order, sheets, settings);
    const { lines, unpriced } = linesOf(order, a, settings);
    // minutes by hands, and the ways between, counted from the steps and not from the lines
    const hands = a.steps.reduce((s, x) => s + x.minutes * (x.hands - 1), 0);
    const hours = lines.filter((l) => l.class === 'labour').reduce((s, l) => s + Number(l.quantity), 0);
    expect(Math.abs(hours * 60 - a.minutes.planned - hands)).toBeLessThan(2);
    expect(
      lines
        .filter((l) => l.id.startsWith('kit ') && !l.name.includes(': '))
        .map((l) => l.name)
        .sort(),
    ).toEqual(sheets.kits.map((k) => k.name).sort());
    const wire = a.needs.filter((n) => n.kind === 'wire').reduce((s, n) => s + n.need, 0);
    const sold = lines.filter((l) => l.unit === 'm').reduce((s, l) => s + Number(l.quantity), 0);
    expect(sold).toBeGreaterThanOrEqual(wire - 1e-9);
    expect(sold - wire).toBeLessThan(0.1 * lines.length);
    for (const n of a.needs.filter((x) => x.kind === 'fuse' || x.kind === 'relay'))
      expect(lines.filter((l) => l.id === `part ${n.id}`).map((l) => l.quantity)).toEqual([String(n.need)]);
    // what nobody priced is named, not forgotten
    expect(unpriced.map((u) => u.key)).toEqual(
      a.needs.filter((n) => (n.kind === 'buy' || n.kind === 'part') && n.price === undefined).map(priceKey),
    );
  });
  it('is the same however far the work is', () => {
    const d = desk('tern-300', ['aux-lamps']);
    const before = d.quote().options[0]!;
    for (const s of d.look().steps.slice(0, 6)) {
      if (s.readings.length) d.do({ type: 'step.skipped', step: s.id, reason: 'tried' }, 'lead');
      else d.do({ type: 'step.done', step: s.id }, 'lead');
    }
    expect(d.quote().options[0]!.totals).toEqual(before.totals);
  });
  it('says what has no price, and takes one for this once', () => {
    const { order, sheets } = demoOrder('tern-300', ['aux-lamps']);
    const d = new Desk(order, sheets, priced([]));
    const made = {
      type: 'quote.made' as const,
      basis: 'fixed' as const,
      options: [{ name: 'a', changes: [] as OptionChange[] }],
      discount: null,
      note: '',
    };
    expect(d.refusal({ ...made, prices: {} })).toContain('no price for Auxiliary driving lamps');
    d.do({ ...made, prices: { 'aux-lamps': '189' } });
    expect(d.order.money!.quotes[0]!.options[0]!.lines.find((l) => l.class === 'kits')).toMatchObject({ net: '189.00', tax: '13.23' });
  });
  it('refuses a currency that is none', () => {
    const d = desk('tern-300', ['aux-lamps'], { currency: 'cr' });
    expect(
      d.refusal({ type: 'quote.made', basis: 'fixed', options: [{ name: 'a', changes: [] }], discount: null, note: '', prices: {} }),
    ).toContain('no currency of ISO 4217');
  });
  it('lines come to their totals, whatever prices, taxes and rounding', () => {
    const { order, sheets } = demoOrder('drover-2', ['overhead-audio']);
    const amount = fc.integer({ min: 0, max: 999_999 }).map((x) => (x / 100).toFixed(2));
    const share = fc.integer({ min: 0, max: 3000 }).map((x) => `${x / 100} %`);
    fc.assert(
      fc.property(
        amount,
        amount,
        share,
        share,
        fc.boolean(),
        fc.constantFrom('line' as const, 'total' as const),
        share,
        (kit, cost, r1, up, included, rounding, off) => {
          const settings = priced(['overhead-audio'], {
            priceBook: {
              labour: { wire: cost },
              kits: [{ kit: 'overhead-audio', price: kit }],
              parts: ['wire', 'fuse', 'relay', 'end'].map((id) => ({ id, cost })),
              markUp: { wire: up },
            },
            charges: {
              ...DEFAULT_SETTINGS.charges,
              rounding,
              supplies: { rate: '4 %', most: '25' },
              taxes: [{ name: 'T', rate: r1, classes: ['labour', 'kits'], included }],
            },
          });
          const [o] = quoteOptions(order, sheets, settings, [{ name: 'a', changes: [] }], { byHand: {}, discount: { rate: off } }).options;
          const add = (of: 'net' | 'tax' | 'gross') => o!.lines.reduce((s, l) => s + cents(l[of]), 0);
          for (const of of ['net', 'tax', 'gross'] as const) expect(add(of)).toBe(cents(o!.totals[of]));
          expect(cents(o!.totals.net) + cents(o!.totals.tax)).toBe(cents(o!.totals.gross));
          expect(o!.taxes.reduce((s, t) => s + cents(t.tax), 0)).toBe(cents(o!.totals.tax));
        },
      ),
      { numRuns: 25 },
    );
  });
});

describe('options side by side', () => {
  const stator = (d: Desk): OptionChange => {
    const u = d.sheets.model.electrical.sourceUpgrades[0]!;
    return { kind: 'power', change: { kind: 'source', upgrade: u.id, name: u.name, curve: u.curve }, label: 'stronger' };
  };
  it('each is judged and priced as the order would be; the one agreed to is what is done', () => {
    const d = desk();
    const q = d.quote([
      { name: 'As asked', changes: [] },
      { name: 'Stronger', changes: [stator(d)] },
      { name: 'Less', changes: [{ kind: 'without', kit: 'aux-lamps', label: 'no lamps' }] },
    ]);
    const [as, strong, less] = q.options;
    expect(as!.power.verdict).toBe('fails');
    expect(strong!.power.verdict).not.toBe('fails');
    expect(cents(strong!.totals.gross)).toBeGreaterThan(cents(as!.totals.gross) + 42_000);
    expect(less!.kits.map((k) => k.id)).not.toContain('aux-lamps');
    d.agree('b');
    // the order itself is now judged as the option was
    expect(d.look().power.verdict).toBe(strong!.power.verdict);
    expect(d.quote().options[0]!.totals).toEqual(strong!.totals);
  });
  it('only what could be done on this order may be otherwise in it', () => {
    const d = desk();
    const made = (change: OptionChange): OrderCommand => ({
      type: 'quote.made',
      basis: 'fixed',
      options: [{ name: 'a', changes: [change] }],
      discount: null,
      note: '',
      prices: {},
    });
    const label = 'x';
    const stronger = stator(d);
    if (stronger.kind !== 'power' || stronger.change.kind !== 'source') throw new Error('no source');
    expect(d.refusal(made({ ...stronger, change: { ...stronger.change, upgrade: 'moon' } }))).toContain('No such source');
    expect(d.refusal(made({ kind: 'without', kit: 'winch-32', label }))).toContain('not on this order');
    expect(d.refusal(made({ kind: 'unpower', key: 'idle', label }))).toContain('not agreed');
    expect(d.refusal(made({ kind: 'variant', kit: 'aux-lamps', variant: 'feed', option: 'moon', label }))).toContain('not in the box');
    // a curve of somebody’s own is not taken: it is the sheet’s
    d.do(
      made({
        ...stronger,
        change: {
          ...stronger.change,
          curve: [
            [0, 900],
            [9000, 900],
          ],
        },
      }),
    );
    const [c] = d.order.money!.quotes[0]!.options[0]!.changes;
    expect(c).toEqual(stronger);
  });
  it('a kit that was begun is not agreed away; one that was taken off needs a new quote', () => {
    const d = desk();
    d.quote([{ name: 'Less', changes: [{ kind: 'without', kit: 'aux-lamps', label: 'no lamps' }] }]);
    const step = d.look().steps.find((s) => s.kit === 'aux-lamps' && s.stage !== 'unpack' && !s.readings.length)!;
    d.do({ type: 'step.done', step: step.id }, 'lead');
    expect(() => d.agree()).toThrow(/already done/);
    const e = desk();
    e.quote();
    e.do({ type: 'kit.removed', kit: 'navigator' });
    expect(() => e.agree()).toThrow(/taken off the order since/);
  });
});

describe('agreeing', () => {
  it('is to one revision, once, in time, and by the page only by the owner', () => {
    const d = desk('tern-300', ['aux-lamps']);
    d.quote();
    expect(d.refusal({ type: 'quote.agreed', revision: 1, option: 'a', how: 'page', name: 'Lio', strokes: null })).toContain(
      'only the unit’s owner',
    );
    expect(d.refusal({ type: 'quote.agreed', revision: 1, option: 'a', how: 'told', name: 'Lio', strokes: null }, 'client')).toContain(
      'nobody else',
    );
    expect(d.refusal({ type: 'quote.agreed', revision: 1, option: 'a', how: 'signed', name: 'Lio', strokes: null })).toContain(
      'Have it signed',
    );
    expect(d.refusal({ type: 'quote.agreed', revision: 1, option: 'c', how: 'told', name: 'Lio', strokes: null })).toContain('no option');
    expect(d.refusal({ type: 'quote.agreed', revision: 9, option: 'a', how: 'told', name: 'Lio', strokes: null })).toContain(
      'no such quote',
    );
    d.quote();
    expect(d.refusal({ type: 'quote.agreed', revision: 1, option: 'a', how: 'told', name: 'Lio', strokes: null })).toContain(
      'taken the place',
    );
    d.today = '2026-03-17';
    expect(() => d.agree()).toThrow(/stood until 2026-03-16/);
    d.today = '2026-03-16';
    d.agree('a', 'client');
    expect(() => d.agree()).toThrow(/agreed already, by Lio/);
    expect(d.refusal({ type: 'quote.withdrawn', revision: 2, reason: 'x' })).toContain('cannot be withdrawn');
    expect(d.order.money!.agreed).toMatchObject({ revision: 2, option: 'a', how: 'page', by: '~owner' });
  });
  it('nobody but the owner of the unit may what only they may, and they nothing else', () => {
    const d = desk('tern-300', ['aux-lamps']);
    for (const c of [
      { type: 'kit.removed', kit: 'aux-lamps' },
      { type: 'order.cancelled', reason: 'x' },
      { type: 'quote.made', basis: 'fixed', options: [{ name: 'a', changes: [] }], discount: null, note: '', prices: {} },
      { type: 'bill.marked', paid: true },
      { type: 'question.answered', id: 'q1', text: 'x', photo: null },
      { type: 'action.undone', says: 'x' },
    ] as OrderCommand[])
      expect(d.refusal(c, 'client')).toMatch(/^This is for /);
  });
  it('a quote that is declined or withdrawn says so', () => {
    const d = desk('tern-300', ['aux-lamps']);
    d.quote();
    d.do({ type: 'quote.declined', revision: 1, name: 'Lio', reason: 'too dear' }, 'client');
    expect(d.order.money!.declined).toMatchObject([{ revision: 1, reason: 'too dear' }]);
    d.do({ type: 'quote.withdrawn', revision: 1, reason: 'a slip' });
    expect(() => d.agree()).toThrow(/withdrawn: a slip/);
  });
});

describe('what is altered once it is agreed', () => {
  it('another way of a box, or another change of the power, is said; what was quoted so is not', () => {
    const d = desk('tern-300', ['aux-lamps']);
    const [v] = d.sheets.kits[0]!.variants;
    const [, other] = v!.options;
    d.quote();
    d.agree();
    const says = () => alteredSinceAgreed(d.order, d.sheets);
    expect(says()).toEqual([]);
    d.do({ type: 'variant.chosen', kit: 'aux-lamps', variant: v!.id, option: other!.id }, 'lead');
    expect(says()).toEqual([expect.stringMatching(new RegExp(`${v!.options[0]!.name}: agreed; now .*${other!.name}`))]);
    d.do({ type: 'variant.chosen', kit: 'aux-lamps', variant: v!.id, option: v!.options[0]!.id }, 'lead');
    expect(says()).toEqual([]);
    d.do({ type: 'power.changed', change: { kind: 'idle', rpm: 1450 }, label: 'Idle raised to 1450 rpm' }, 'lead');
    expect(says()).toEqual([expect.stringMatching(/1450.*: since then, and never agreed$/)]);
    d.quote();
    d.agree();
    expect(says()).toEqual([]);
    d.do({ type: 'power.restored', key: 'idle', label: 'Idle raised' }, 'lead');
    expect(says()).toEqual([expect.stringMatching(/1450.*: agreed, and taken back since$/)]);
    expect(billOf(d.order, d.look()).left.some((l) => l.includes('taken back since'))).toBe(true);
  });
  it('an option with another way is agreed with that way', () => {
    const d = desk('tern-300', ['aux-lamps']);
    const change = choicesOf(d.order, d.sheets).find((c) => c.kind === 'variant')!;
    d.do({ type: 'quote.made', basis: 'fixed', options: [{ name: 'other', changes: [change] }], discount: null, note: '', prices: {} });
    d.agree();
    expect(alteredSinceAgreed(d.order, d.sheets)).toEqual([]);
  });
});

describe('what turns up', () => {
  it('is priced, and is work only once it is agreed', () => {
    const d = desk('tern-300', ['aux-lamps']);
    d.quote();
    d.agree();
    const steps = () => d.look().steps.filter((s) => s.kit === 'job-clean-the-posts').length;
    d.do(extra(), 'installer');
    expect(d.order.money!.extras[0]!.totals).toEqual({ net: '58.00', tax: '0.56', gross: '58.56', discount: '0.00' });
    expect(steps()).toBe(0);
    expect(openPoints(d.order, d.look()).map((p) => p.says)).toContain('Turned up, and not answered: Clean the posts');
    d.do({ type: 'extra.answered', id: 'clean-the-posts', yes: true, how: 'page', name: 'Lio', reason: '', strokes: null }, 'client');
    expect(steps()).toBe(2);
    expect(
      d.refusal(
        { type: 'extra.answered', id: 'clean-the-posts', yes: false, how: 'page', name: 'Lio', reason: '', strokes: null },
        'client',
      ),
    ).toContain('agreed already');
    // it is no part of the quote, whenever one is made
    expect(d.quote().options[0]!.jobs).toEqual([]);
    expect(beyondAgreed(d.order, d.sheets)).toEqual([]);
  });
  it('declined, it stands in what is open, and is on no bill', () => {
    const d = desk('tern-300', ['aux-lamps']);
    d.quote();
    d.agree();
    d.do(extra());
    d.do({ type: 'extra.answered', id: 'clean-the-posts', yes: false, how: 'told', name: 'Lio', reason: 'later', strokes: null });
    expect(openPoints(d.order, d.look()).map((p) => p.says)).toContain('Turned up, and declined by Lio: Clean the posts, they are green');
    const bill = billOf(d.order, d.look());
    expect(bill.totals.gross).toBe(d.order.money!.quotes[0]!.options[0]!.totals.gross);
    expect(bill.left).toContain('Clean the posts: declined by Lio');
  });
  it('refuses what takes nothing, is nowhere, or costs “1.000,5”', () => {
    const d = desk('tern-300', ['aux-lamps']);
    expect(d.refusal(extra({ minutes: 0, parts: [] }))).toContain('Say what it takes');
    expect(d.refusal(extra({ place: 'moon' }))).toContain('not on this unit');
    const priceOf = (price: string) => Settings.shape.priceBook.safeParse({ kits: [{ kit: 'a', price }] }).success;
    expect(['1.000,5', '-1', '', '1e3', '1000.50'].map(priceOf)).toEqual([false, false, false, false, true]);
  });
});

describe('the bill', () => {
  const agreedDesk = (basis: 'fixed' | 'time' = 'fixed') => {
    const d = desk('tern-300', ['aux-lamps']);
    d.quote(undefined, basis);
    d.agree();
    return d;
  };
  const finish = (d: Desk, seconds: number) => {
    for (const s of d.look().steps)
      if (stepState(d.order, s.id).status === 'todo')
        d.order = { ...d.order, steps: { ...d.order.steps, [s.id]: { status: 'done', seconds, readings: {} } } };
  };
  it('is not without an agreement', () => {
    const d = desk('tern-300', ['aux-lamps']);
    expect(() => billOf(d.order, d.look())).toThrow(NoBill);
    d.quote();
    expect(d.refusal({ type: 'bill.made' })).toContain('Nothing was agreed yet');
  });
  it('is what was agreed and agreed extras that were done, to the cent; nothing else', () => {
    const d = agreedDesk();
    d.do(extra());
    d.do(extra({ title: 'New horn' }));
    for (const id of ['clean-the-posts', 'new-horn'])
      d.do({ type: 'extra.answered', id, yes: true, how: 'told', name: 'Lio', reason: '', strokes: null });
    d.do({
      type: 'job.added',
      job: { id: 'own', title: 'Own idea', place: 'battery', minutes: 10, text: '', powerOff: false, question: 'Ok' },
    });
    finish(d, 60);
    d.order = {
      ...d.order,
      steps: {
        ...d.order.steps,
        'job-new-horn/do': { status: 'skipped', reason: 'none here', seconds: 0, readings: {} },
        'job-new-horn/prove': { status: 'skipped', reason: 'none', seconds: 0, readings: {} },
      },
    };
    d.do({ type: 'bill.made' });
    const bill = d.order.money!.bill!;
    const agreed = d.order.money!.quotes[0]!.options[0]!.totals;
    expect(cents(bill.totals.gross)).toBe(cents(agreed.gross) + 5856);
    expect(bill.lines.reduce((s, l) => s + cents(l.gross), 0)).toBe(cents(bill.totals.gross));
    expect(bill.taxes.reduce((s, t) => s + cents(t.tax), 0)).toBe(cents(bill.totals.tax));
    expect(bill.left).toEqual(['New horn: agreed, and not done', 'Own idea: on the order, and never agreed']);
    d.do({ type: 'bill.marked', paid: true });
    expect(d.refusal({ type: 'bill.made' })).toContain('paid');
    expect(d.refusal({ type: 'bill.marked', paid: true })).toContain('already');
  });
  it('by its time takes the clock, up to what may be billed without asking', () => {
    const d = agreedDesk('time');
    const quoted = d.order.money!.quotes[0]!.options[0]!;
    const work = (lines: OrderMoney['quotes'][number]['options'][number]['lines']) =>
      lines.filter((l) => l.class === 'labour').reduce((s, l) => s + cents(l.net), 0);
    finish(d, 36);
    // a hundredth of an hour for each step, at the usual price, rounded by kind of work
    const few = billOf(d.order, d.look());
    expect(work(few.lines)).toBe(d.look().steps.length * 100);
    d.order = { ...d.order, steps: Object.fromEntries(Object.entries(d.order.steps).map(([k, s]) => [k, { ...s, seconds: 36_000 }])) };
    const many = billOf(d.order, d.look());
    expect(Math.abs(work(many.lines) - 1.1 * work(quoted.lines))).toBeLessThanOrEqual(1);
    expect(many.lines.some((l) => l.name.includes('not billed') && l.net.startsWith('-'))).toBe(true);
    expect(many.lines.filter((l) => l.class !== 'labour')).toEqual(quoted.lines.filter((l) => l.class !== 'labour'));
  });
});

describe('the owner’s page', () => {
  it('shows this order and nothing of the shop: no names of who works, no costs, no other pictures', () => {
    const d = desk('tern-300', ['aux-lamps']);
    d.quote();
    d.do({ type: 'question.asked', text: 'When?' }, 'client');
    d.do(extra({ photo: 'a'.repeat(64) }));
    d.do({ type: 'photo.taken', photo: 'b'.repeat(64), note: 'inside' });
    d.do({ type: 'question.answered', id: 'q1', text: 'Soon', photo: 'c'.repeat(64) });
    const view = ownersView(d.order, d.sheets, d.look(), d.settings, d.today, null);
    const text = JSON.stringify(view);
    for (const secret of ['wyn', 'tor', 'mark-up', 'priceBook', 'unitPrice', 'b'.repeat(64)]) expect(text).not.toContain(secret);
    expect([...ownersPhotos(d.order)].sort()).toEqual(['a'.repeat(64), 'c'.repeat(64)]);
    expect(view.questions).toMatchObject([{ text: 'When?', answer: { text: 'Soon' } }]);
    expect(view.quote!.options[0]!.totals.gross).toBe(d.order.money!.quotes[0]!.options[0]!.totals.gross);
    d.do({ type: 'question.asked', text: 'And where?' }, 'client');
    expect(d.refusal({ type: 'question.asked', text: 'And where?' }, 'client')).toContain('asked already');
  });
});
