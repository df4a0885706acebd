import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Purchase } from '#model/supply';
import { allocate, type Claim, type SupplyInput } from './allocate';
import { comingOf, isWhole, type Coming } from './coming';
import { wireItem, type Demand } from './demand';
import { labelText, readLabel } from './label';

const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const pieces = (item: string, amount: number, more: Partial<Demand> = {}): Demand => ({
  item,
  kind: 'fuse',
  name: item,
  unit: 'pieces',
  amount,
  cuts: [],
  holds: false,
  missing: false,
  ...more,
});
const wire = (awg: number, colour: string, ...lengths: number[]): Demand => ({
  ...pieces(wireItem(awg, colour), Number(lengths.reduce((a, b) => a + b, 0).toFixed(2)), { kind: 'wire', unit: 'm' }),
  cuts: lengths.map((lengthM, i) => ({ id: `${colour}${i}`, awg, colour, lengthM })),
});
const claim = (n: number, demands: Demand[], more: Partial<Claim> = {}): Claim => ({
  order: id(n),
  number: 1000 + n,
  unitName: `Unit ${n}`,
  promisedAt: `2026-03-0${n}T12:00:00.000Z`,
  begun: false,
  demands,
  ...more,
});
const coming = (item: string, amount: number, day: string | null, order: string | null = null): Coming => ({
  item,
  amount,
  day,
  overdue: false,
  order,
});
const input = (claims: Claim[], more: Partial<SupplyInput['settings']> = {}, due: Coming[] = []): SupplyInput => ({
  claims,
  coming: due,
  settings: { stock: [], shelf: [], levels: [], reserved: [], cuts: [], ...more },
});
const shelf = (have: number) => [{ id: 'plug', have }];

describe('who gets what', () => {
  const three = [claim(3, [pieces('plug', 2)]), claim(1, [pieces('plug', 2)]), claim(2, [pieces('plug', 2)])];
  const gets = (q: SupplyInput) =>
    Object.fromEntries(allocate(q).rows[0]!.shares.map((s) => [s.order.slice(-1), [s.kept, s.coming, s.lacks]]));
  it('first what is promised first, what is begun before it, and what is kept for an order before all', () => {
    expect(gets(input(three, { shelf: shelf(3) }))).toEqual({ 1: [2, 0, 0], 2: [1, 0, 1], 3: [0, 0, 2] });
    const begun = three.map((c) => (c.order === id(3) ? { ...c, begun: true } : c));
    expect(gets(input(begun, { shelf: shelf(3) }))).toEqual({ 3: [2, 0, 0], 1: [1, 0, 1], 2: [0, 0, 2] });
    expect(gets(input(begun, { shelf: shelf(3), reserved: [{ item: 'plug', order: id(2) }] }))).toEqual({
      2: [2, 0, 0],
      3: [1, 0, 1],
      1: [0, 0, 2],
    });
  });
  it('what is on order goes to who is first and lacks it, and what was bought for an order to that order only', () => {
    const q = input(three, { shelf: shelf(1) }, [coming('plug', 1, '2026-03-04'), coming('plug', 2, '2026-03-09', id(3))]);
    expect(gets(q)).toEqual({ 1: [1, 1, 0], 2: [0, 0, 2], 3: [0, 2, 0] });
    expect(allocate(q).waiting).toEqual([
      { order: id(1), name: 'plug', day: '2026-03-04' },
      { order: id(3), name: 'plug', day: '2026-03-09' },
    ]);
  });
  it('the earliest delivery goes to who is first, in whatever order they were made', () => {
    const q = input(three.slice(0, 2), { shelf: shelf(0) }, [
      coming('plug', 2, null),
      coming('plug', 2, '2026-03-09'),
      coming('plug', 1, '2026-03-04'),
    ]);
    expect(allocate(q).rows[0]!.shares.map((s) => [s.order, s.day])).toEqual([
      [id(1), '2026-03-09'],
      [id(3), null],
    ]);
    expect(allocate({ ...q, coming: [coming('plug', 4, '2026-03-09'), coming('plug', 2, '2026-03-04')] }).rows[0]!.shares[0]!.day).toBe(
      '2026-03-04',
    );
  });
  it('the work stands still for what nobody ordered only where it cannot go on without it', () => {
    const lacks = (more: Partial<Demand>) => allocate(input([claim(1, [pieces('plug', 1, more)])], { shelf: shelf(0) })).waiting;
    expect(lacks({})).toEqual([]);
    expect(lacks({ holds: true })).toEqual([{ order: id(1), name: 'plug', day: null }]);
  });
  it('what nobody counted lacks nothing, unless it was seen to be missing', () => {
    const row = (more: Partial<Demand>) => allocate(input([claim(1, [pieces('plug', 3, more)])])).rows[0]!;
    expect(row({})).toMatchObject({ have: null, lacks: 0, suggest: 0 });
    expect(row({ missing: true, holds: true })).toMatchObject({ have: 0, lacks: 3, suggest: 3 });
  });
});

describe('what is to be ordered', () => {
  const levels = [{ item: 'plug', least: 4, upTo: 10 }];
  const suggests = (have: number, need: number, due = 0) =>
    allocate(input([claim(1, [pieces('plug', need)])], { shelf: shelf(have), levels }, due ? [coming('plug', due, '2026-03-05')] : []))
      .rows[0]!.suggest;
  it('is what fills up to the level once fewer than the least would be left', () => {
    expect(suggests(9, 5)).toBe(0);
    expect(suggests(8, 5)).toBe(7);
    expect(suggests(2, 5)).toBe(13);
    expect(suggests(8, 5, 6)).toBe(0);
  });
  it('counts items that no order takes', () => {
    const { rows } = allocate(
      input([], { shelf: [{ id: 'fuse-blade-15', have: 1 }], levels: [{ item: 'fuse-blade-15', least: 2, upTo: 5 }] }),
    );
    expect(rows).toMatchObject([{ item: 'fuse-blade-15', kind: 'fuse', need: 0, suggest: 4 }]);
  });
});

describe('wire', () => {
  const stock = [
    { id: 'long', awg: 16, colour: 'RD', lengthM: 5 },
    { id: 'short', awg: 16, colour: 'RD', lengthM: 3 },
  ];
  it('of several orders wastes less cut together', () => {
    // by itself the first takes 3 m of the short spool and 2 of the long; together both spools come out even
    const { cuts } = allocate(input([claim(1, [wire(16, 'RD', 2, 2.5)]), claim(2, [wire(16, 'RD', 2.5, 1)])], { stock }));
    expect(cuts.plan.unmet).toEqual([]);
    expect(cuts.plan.wasteM).toBeCloseTo(0, 6);
    expect(cuts.aloneWasteM).toBeGreaterThanOrEqual(cuts.plan.wasteM);
    const from = (name: string) => cuts.rows.filter((r) => r.stock === name).reduce((s, r) => s + r.lengthM, 0);
    expect([from('long'), from('short')]).toEqual([5, 3]);
  });
  it('that was laid out keeps its pieces while they are long enough', () => {
    const claims = [claim(1, [wire(16, 'RD', 2)]), claim(2, [wire(16, 'RD', 1)])];
    const from = (kept: string, lengths = stock) =>
      allocate(input(claims, { stock: lengths, cuts: [{ order: id(1), wire: 'RD0', stock: kept }] })).cuts.rows.map((r) => r.stock);
    expect(from('long')).toEqual(['long', 'long']);
    // by itself all of it comes from the short one
    expect(from('gone')).toEqual(['short', 'short']);
    expect(from('long', [{ ...stock[0]!, lengthM: 1.5 }, stock[1]!])[0]).toBe('short');
  });
  it('that is short goes to who it is kept for before who is first', () => {
    const q = input([claim(1, [wire(16, 'RD', 4.5)]), claim(2, [wire(16, 'RD', 4)])], {
      stock,
      reserved: [{ item: '16 RD', order: id(2) }],
    });
    const { rows, cuts } = allocate(q);
    expect(rows[0]!.shares.map((s) => [s.order, s.lacks])).toEqual([
      [id(2), 0],
      [id(1), 4.5],
    ]);
    expect(cuts.rows.find((r) => r.order === id(2))!.stock).toBe('long');
  });
  it('that was laid out stays where it is when a new order finds nothing long enough', () => {
    const claims = [claim(2, [wire(16, 'RD', 1)]), claim(1, [wire(16, 'RD', 4.5)])];
    const { cuts } = allocate(input(claims, { stock, cuts: [{ order: id(2), wire: 'RD0', stock: 'long' }] }));
    expect(cuts.rows.map((r) => [r.order, r.stock])).toEqual([
      [id(1), null],
      [id(2), 'long'],
    ]);
  });
  it('that is short goes to who is first', () => {
    const { rows, cuts } = allocate(input([claim(2, [wire(16, 'RD', 4)]), claim(1, [wire(16, 'RD', 4.5)])], { stock }));
    expect(rows[0]!.shares.map((s) => [s.order, s.lacks])).toEqual([
      [id(1), 0],
      [id(2), 4],
    ]);
    expect(cuts.rows.find((r) => r.order === id(2))!.stock).toBeNull();
  });
});

describe('laws over random shops', () => {
  const item = fc.constantFrom('plug', 'ring', '16 RD', '18 BK');
  const demand = fc
    .tuple(item, fc.integer({ min: 1, max: 6 }), fc.boolean())
    .map(([i, n, holds]) =>
      i.includes(' ')
        ? { ...wire(Number(i.slice(0, 2)), i.slice(3), ...Array.from({ length: n }, (_, k) => 0.5 + 0.3 * k)), holds }
        : pieces(i, n, { holds }),
    );
  const shop = fc.record({
    claims: fc.array(fc.tuple(fc.uniqueArray(demand, { selector: (d) => d.item, maxLength: 4 }), fc.boolean()), { maxLength: 5 }),
    have: fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 2, maxLength: 2 }),
    spools: fc.array(fc.tuple(fc.constantFrom(16, 18), fc.double({ min: 0.3, max: 6, noNaN: true })), { maxLength: 5 }),
    due: fc.array(fc.tuple(item, fc.integer({ min: 1, max: 8 }), fc.option(fc.constantFrom('2026-03-03', '2026-03-08')), fc.nat(5)), {
      maxLength: 5,
    }),
    kept: fc.array(fc.tuple(item, fc.nat(4)), { maxLength: 3 }),
  });
  it('nothing is given out that is not there, everybody’s need is covered or lacking, and who waits has a day or stands still', () => {
    fc.assert(
      fc.property(shop, ({ claims, have, spools, due, kept }) => {
        const q = input(
          claims.map(([demands, begun], i) => claim(i + 1, demands, { begun })),
          {
            shelf: [
              { id: 'plug', have: have[0]! },
              { id: 'ring', have: have[1]! },
            ],
            stock: spools.map(([awg, lengthM], i) => ({ id: `s${i}`, awg, colour: awg === 16 ? 'RD' : 'BK', lengthM })),
            reserved: kept.map(([i, n]) => ({ item: i, order: id(n + 1) })),
          },
          due.map(([i, n, day, order]) => coming(i, n, day, order > 2 ? null : id(order + 1))),
        );
        const { rows, waiting } = allocate(q);
        for (const r of rows) {
          const sum = (of: 'kept' | 'coming' | 'lacks' | 'need') => r.shares.reduce((s, x) => s + x[of], 0);
          if (r.have !== null) {
            expect(sum('kept')).toBeLessThanOrEqual(r.have + 0.02);
            for (const s of r.shares) expect(Math.abs(s.kept + s.coming + s.lacks - s.need)).toBeLessThan(0.03);
          }
          expect(sum('coming')).toBeLessThanOrEqual(r.onOrder + 0.02);
          expect(r.suggest).toBeGreaterThanOrEqual(r.lacks - 0.01);
          for (const s of r.shares) if (s.day !== null) expect(s.lacks).toBe(0);
        }
        for (const w of waiting) {
          const own = rows.flatMap((r) => r.shares.filter((s) => s.order === w.order));
          if (w.day === null) expect(own.some((s) => s.holds && s.day === null && s.lacks + s.coming > 0)).toBe(true);
          else expect(own.every((s) => s.day === null || s.day <= w.day!)).toBe(true);
        }
      }),
      { numRuns: 400 },
    );
  });
});

describe('what is still to come', () => {
  const purchase = (more: Partial<Purchase>): Purchase => ({
    id: id(80),
    number: 7,
    version: 1,
    state: 'sent',
    lines: [{ item: 'plug', kind: 'fuse', name: 'plug', unit: 'pieces', amount: 5, order: null }],
    answer: [
      {
        item: 'plug',
        comes: [
          { day: '2026-03-04', amount: 2 },
          { day: '2026-03-06', amount: 3 },
        ],
        price: '10.00',
      },
    ],
    toldDay: null,
    says: '',
    by: 'wyn',
    at: '2026-03-01T08:00:00.000Z',
    receipts: [],
    ...more,
  });
  const came = (amount: number) => ({
    receipts: [{ id: id(70), lines: [{ item: 'plug', amount, lot: '' }], by: 'wyn', at: '2026-03-04T09:00:00.000Z' }],
  });
  const due = (p: Purchase, today = '2026-03-02') => comingOf(p, today).map((c) => [c.amount, c.day, c.overdue]);
  it('is told delivery by delivery; what came is the earliest of it', () => {
    expect(due(purchase({}))).toEqual([
      [2, '2026-03-04', false],
      [3, '2026-03-06', false],
    ]);
    expect(due(purchase(came(3)))).toEqual([[2, '2026-03-06', false]]);
    expect(due(purchase(came(5)))).toEqual([]);
    expect(isWhole(purchase(came(5)))).toBe(true);
    expect(isWhole(purchase(came(4)))).toBe(false);
  });
  it('a day that was told stands above; what is overdue may come today; what is closed comes no more', () => {
    expect(due(purchase({ toldDay: '2026-03-09' }))).toEqual([[5, '2026-03-09', false]]);
    expect(due(purchase({}), '2026-03-05')).toEqual([
      [2, '2026-03-05', true],
      [3, '2026-03-06', false],
    ]);
    expect(due(purchase({ answer: null }))).toEqual([[5, null, false]]);
    expect(due(purchase({ state: 'closed' }))).toEqual([]);
  });
  it('of two lines of one item the first is filled first', () => {
    const [line] = purchase({}).lines;
    const two = purchase({
      lines: [
        { ...line!, amount: 2, order: id(1) },
        { ...line!, amount: 3 },
      ],
      answer: null,
      ...came(3),
    });
    expect(comingOf(two, '2026-03-02')).toMatchObject([{ amount: 2, order: null }]);
  });
});

describe('a label', () => {
  it('reads as it was written', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('fuse-blade-15', '16 RD/BK', '2/0 BK'),
        fc.option(fc.integer({ min: 1, max: 9999 })),
        fc.constantFrom('', 'L-77', 'a|b'),
        (item, amount, lot) => {
          expect(readLabel(labelText({ item, amount, lot }))).toEqual({ item, amount, lot });
        },
      ),
    );
  });
  it.each([
    [' fuse-blade-15 \n', { item: 'fuse-blade-15', amount: null, lot: '' }],
    ['16 RD|2,5', { item: '16 RD', amount: 2.5, lot: '' }],
    ['', null],
    ['Fuse 15', null],
    ['fuse-blade-15|-2', null],
    ['fuse-blade-15|many', null],
    ['https://somewhere.example/x', null],
  ])('“%s”', (text, label) => {
    expect(readLabel(text)).toEqual(label);
  });
});
