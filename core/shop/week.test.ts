import { describe, expect, it } from 'vitest';
import type { PersonInShop } from '#model/person';
import { DEFAULT_SETTINGS } from '#model/settings';
import { DayHours, USUAL_HOURS, weekSettings, type WeekHours } from '#model/shop-week';
import { daysFrom, stretchesOf, workersOf } from './calendar';
import { withPin } from './pins';
import { soonest } from './soonest';
import { planWeek } from './week';
import { bandOf, type WeekInput, type WeekOrder } from './week-shop';
import { onAxis, weekAxis } from './week-axis';

const HOUR = 3_600_000;
/** A Monday, eight in the morning. */
const MON = Date.UTC(2026, 2, 2, 8);
const EVERY = { ...USUAL_HOURS, sat: USUAL_HOURS.mon, sun: USUAL_HOURS.mon };
const person = (id: string, role: PersonInShop['role'] = 'installer'): PersonInShop => ({ id, name: id, role, version: 1, ended: false });
const order = (id: string, dueH: number, minutes: number, more: Partial<WeekOrder> = {}): WeekOrder => ({
  id,
  number: 1000,
  unitName: 'Aldermoor Drover 4',
  owner: 'Ruben',
  kind: 'side-by-side',
  packs: false,
  promisedAt: new Date(MON + dueH * HOUR).toISOString(),
  assignee: null,
  begun: false,
  waitsFor: '',
  work: [{ kits: [{ kit: 'road-kit', minutes }], hands: 1, waitMinutes: 0 }],
  ...more,
});
const shop = (orders: WeekOrder[], more: Partial<WeekInput['settings']> = {}, people = [person('tor'), person('maud')]): WeekInput => ({
  now: MON,
  orders,
  people,
  settings: {
    ...DEFAULT_SETTINGS,
    hours: EVERY,
    bays: [
      { id: 'lift', name: 'Lift', kinds: ['side-by-side'] },
      { id: 'slip', name: 'Slip', kinds: ['boat', 'side-by-side'] },
    ],
    ...more,
  },
  pace: () => ({ factor: 1, low: 0.8, high: 1.3, jobs: 3, own: 1 }),
});

describe('the shop’s calendar', () => {
  it('keeps shifts by the clock on the wall through a night in which clocks are turned', () => {
    // in Chicago clocks go forward on 8 March 2026 (US law, from memory): eight in the morning is an hour earlier in the world
    const from = Date.UTC(2026, 2, 7, 12);
    const s = stretchesOf(EVERY, [], from, 2, 'America/Chicago').map(([a, b]) => [new Date(a).toISOString(), (b - a) / HOUR]);
    expect(s).toEqual([
      ['2026-03-07T14:00:00.000Z', 4],
      ['2026-03-07T18:45:00.000Z', 4.25],
      ['2026-03-08T13:00:00.000Z', 4],
      ['2026-03-08T17:45:00.000Z', 4.25],
    ]);
    // a shift through the hour that is not there is an hour shorter
    const night: WeekHours = { ...EVERY, sun: [{ from: '01:00', to: '05:00' }] };
    expect(stretchesOf(night, [], Date.UTC(2026, 2, 8, 6), 1, 'America/Chicago').map(([a, b]) => (b - a) / HOUR)).toEqual([3]);
  });
  it('leaves out days off, and tells days by the place', () => {
    const off = [{ from: '2026-03-03', to: '2026-03-04', why: 'away' }];
    expect(stretchesOf(EVERY, off, MON, 4, 'UTC').map(([a]) => new Date(a).getUTCDate())).toEqual([2, 2, 5, 5]);
    expect(daysFrom(Date.UTC(2026, 2, 2, 2), 2, 'America/Chicago').map((d) => d.day)).toEqual(['2026-03-01', '2026-03-02']);
  });
  it('counts on installers and leads until somebody is rostered, and never on who left or does nothing', () => {
    const people = [person('tor'), person('ines', 'lead'), person('wyn', 'desk'), { ...person('old'), ended: true }];
    const ids = (roster: WeekInput['settings']['roster']) => workersOf(people, { ...DEFAULT_SETTINGS, roster }).map((w) => w.id);
    expect(ids([])).toEqual(['tor', 'ines']);
    expect(
      ids([
        { person: 'wyn', skills: ['boat'], hours: null, off: [] },
        { person: 'tor', skills: [], hours: null, off: [] },
      ]),
    ).toEqual(['ines', 'wyn']);
  });
  it('refuses a shift that ends before it begins, and one within another', () => {
    const says = (list: unknown) => DayHours.safeParse(list).error?.issues.map((i) => i.message);
    expect(says([{ from: '17:00', to: '08:00' }])).toEqual(['a shift from 17:00 to 08:00 ends before it begins']);
    expect(
      says([
        { from: '08:00', to: '12:00' },
        { from: '11:00', to: '13:00' },
      ])![0],
    ).toMatch(/within the shift before/);
    expect(says([{ from: '8', to: '12:00' }])![0]).toBe('a time as 08:30');
    expect(weekSettings.bays.safeParse([...DEFAULT_SETTINGS.bays, ...DEFAULT_SETTINGS.bays]).error!.issues[0]!.message).toMatch(/twice/);
  });
});

describe('the week', () => {
  it('has everybody’s work, each unit in a bay that takes it, and each promise’s chance', () => {
    const w = planWeek(shop([order('a', 4, 120), order('b', 6, 200), order('c', 9, 90)]));
    expect(w.unplanned).toEqual([]);
    expect(w.holds.map((h) => h.order).sort()).toEqual(['a', 'b', 'c']);
    for (const h of w.holds) expect(h.to).toBeGreaterThan(h.from);
    expect(w.lateMin).toBe(0);
    expect(w.less >= 0 && w.less < 1).toBe(true);
    expect(w.promises.find((p) => p.order === 'a')).toMatchObject({ verdict: 'holds' });
    expect(w.promises.every((p) => p.sure! >= p.likely!)).toBe(true);
  });
  it('says what has no place, and plans the rest', () => {
    const w = planWeek(
      shop([
        order('a', 4, 60),
        order('boatless', 4, 60, { kind: 'motorcycle' }),
        order('pack', 4, 60, { packs: true }),
        order('waits', 4, 60, { waitsFor: 'windshield plug' }),
        order('done', 4, 60, { work: [] }),
      ]),
    );
    expect(w.unplanned).toEqual([
      { order: 'boatless', why: 'no bay takes that kind of unit' },
      { order: 'pack', why: 'nobody here works on traction packs of that kind' },
      { order: 'waits', why: 'waits for windshield plug; no day is known' },
    ]);
    expect(w.promises.map((p) => p.order)).toEqual(['a']);
  });
  it('keeps what is decided by hand, and tells its price', () => {
    const orders = [order('a', 2, 110), order('b', 2, 110)];
    expect(planWeek(shop(orders)).lateMin).toBe(0);
    const pins = [
      { order: 'a', bay: 'lift', person: 'tor', notBefore: null, weight: 1 },
      { order: 'b', bay: null, person: 'tor', notBefore: null, weight: 1 },
    ];
    const w = planWeek(shop(orders, { pins }));
    expect(new Set(w.work.flatMap((x) => x.people))).toEqual(new Set(['tor']));
    expect(w.holds.find((h) => h.order === 'a')!.bay).toBe('lift');
    expect(w.lateMin).toBe(100);
    expect(w.pinsCostMin).toBe(100);
    const later = planWeek(
      shop([order('a', 2, 60, { waitsFor: 'plug' })], {
        pins: [{ order: 'a', bay: null, person: null, notBefore: '2026-03-04', weight: 1 }],
      }),
    );
    expect(new Date(later.work[0]!.from).toISOString()).toBe('2026-03-04T08:00:00.000Z');
  });
  it('what waits for a part begins at noon of the day it comes, whatever the clocks do; beyond six weeks it has no place', () => {
    const waits = (partsDay: string | null, timeZone = 'UTC') =>
      planWeek(shop([order('a', 900, 60, { waitsFor: 'plug', partsDay })], { timeZone }));
    expect(new Date(waits('2026-03-04').work[0]!.from).toISOString()).toBe('2026-03-04T12:45:00.000Z');
    // the Sunday on which clocks go forward in Chicago (US law, from memory)
    expect(new Date(waits('2026-03-08', 'America/Chicago').work[0]!.from).toISOString()).toBe('2026-03-08T17:45:00.000Z');
    expect(waits('2026-03-04').parts).toEqual([{ order: 'a', name: 'plug', day: '2026-03-04' }]);
    expect(waits('2026-06-01').unplanned).toEqual([{ order: 'a', why: 'waits for plug until 2026-06-01, which is beyond six weeks' }]);
    expect(waits(null).unplanned[0]!.why).toMatch(/no day is known/);
  });
  it('of two that cannot both be in time, the one that counts more is', () => {
    const orders = [order('a', 2, 110), order('b', 2, 110)];
    const late = (heavy: string) => {
      const pins = [{ order: heavy, bay: null, person: null, notBefore: null, weight: 10 }];
      const w = planWeek(shop(orders, { pins }, [person('tor')]));
      return w.promises.filter((p) => p.likely! > MON + 2 * HOUR).map((p) => p.order);
    };
    expect(late('a')).toEqual(['b']);
    expect(late('b')).toEqual(['a']);
  });
  it('a second person, or a kit less, may save a promise too', () => {
    const work = ['road-kit', 'winch'].map((kit, i) => ({ kits: [{ kit, minutes: i ? 40 : 80 }], hands: 1 as const, waitMinutes: 0 }));
    const w = planWeek(shop([order('a', 1.9, 0, { work })]));
    const { chance, saves } = w.promises[0]!;
    expect(saves.map((s) => [s.how, s.kit])).toEqual([
      ['second', undefined],
      ['less', 'road-kit'],
      ['less', 'winch'],
    ]);
    for (const s of saves) expect(s.chance).toBeGreaterThan(chance);
    // nobody takes a kit off work that is begun, or helps where one works alone
    const alone = planWeek(shop([order('a', 1.9, 0, { work, begun: true, assignee: 'tor' })], {}, [person('tor')]));
    expect(alone.promises[0]!.saves.map((s) => s.how)).not.toContain('less');
    expect(alone.promises[0]!.saves.map((s) => s.how)).not.toContain('second');
  });
  it('what is begun stays with who began it', () => {
    const w = planWeek(shop([order('a', 4, 60, { begun: true, assignee: 'maud' })]));
    expect(w.work[0]!.people).toEqual(['maud']);
  });
  it('says what would save a promise that slips, and whose slips then', () => {
    const w = planWeek(shop([order('a', 3, 100), order('b', 2.9, 100)], {}, [person('tor')]));
    const slips = w.promises.find((p) => p.verdict === 'fails')!;
    const other = slips.order === 'a' ? 'b' : 'a';
    expect(slips.saves).toEqual([{ how: 'first', chance: expect.any(Number) as number, slips: [other] }]);
    expect(slips.saves[0]!.chance).toBeGreaterThan(slips.chance);
  });
  it('tries a promise before the others also where it is planned in time, but only just', () => {
    const w = planWeek(shop([order('a', 1.4, 60), order('b', 2.1, 60)], {}, [person('tor')]));
    const b = w.promises.find((p) => p.order === 'b')!;
    expect(b.likely).toBeLessThan(MON + 2.1 * HOUR);
    expect(b.saves).toEqual([{ how: 'first', chance: expect.closeTo(1, 1) as number, slips: ['a'] }]);
  });
  it('stays as it was while nothing much is gained', () => {
    const orders = Array.from({ length: 8 }, (_, i) => order(`o${i}`, 30 + i, 60 + 13 * i));
    const first = planWeek(shop(orders));
    const changed = orders.map((o, i) =>
      i === 3 ? { ...o, work: [{ kits: [{ kit: 'road-kit', minutes: 104 }], hands: 1 as const, waitMinutes: 0 }] } : o,
    );
    const next = planWeek({ ...shop(changed), near: first });
    const who = (w: typeof first) => new Map(w.work.map((x) => [x.order, x.people.join()]));
    const same = orders.filter((o) => who(first).get(o.id) === who(next).get(o.id)).length;
    expect(same).toBeGreaterThanOrEqual(5);
  });
  it('tells when something new could be ready beside all that is promised, and what going first would cost', () => {
    const q = shop([order('a', 4, 200), order('b', 4, 200)]);
    const s = soonest(q, order('asked', 0, 100));
    if (typeof s === 'string') throw new Error(s);
    // both work till eleven twenty at least: then a hundred minutes, with the break
    expect(s.day!).toBeGreaterThan(MON + 4 * HOUR);
    expect(s.likely!).toBeLessThanOrEqual(s.day!);
    expect(s.first!.day!).toBeLessThan(s.day!);
    expect(s.first!.slips.length).toBe(1);
    expect(soonest(q, order('asked', 0, 100, { kind: 'boat', packs: true }))).toMatch(/nobody/);
    expect(typeof soonest(shop([]), order('asked', 0, 100))).toBe('object');
  });
  it('takes each kit’s own pace', () => {
    const o = order('a', 4, 100, {
      work: [
        {
          kits: [
            { kit: 'x', minutes: 60 },
            { kit: 'y', minutes: 40 },
          ],
          hands: 1,
          waitMinutes: 0,
        },
      ],
    });
    const band = bandOf(o, o.work[0]!, (_, kit) => ({ factor: kit === 'x' ? 2 : 1, low: 0.5, high: 3, jobs: 1, own: 0 }));
    expect(band).toEqual({ p10: 50, p50: 160, p90: 300 });
  });
});

it('a pin is changed in part, and is gone when it decides nothing', () => {
  const one = withPin([], 'a', { bay: 'lift' });
  const both = withPin(one, 'a', { person: 'tor' });
  expect(both).toEqual([{ order: 'a', bay: 'lift', person: 'tor', notBefore: null, weight: 1 }]);
  expect(withPin(withPin(both, 'a', { bay: null }), 'a', { person: null })).toEqual([]);
  expect(withPin(both, 'b', { bay: 'slip' }).map((p) => p.order)).toEqual(['a', 'b']);
});

describe('the picture of the week', () => {
  it('puts days side by side without nights, closed days narrow, from the first that is not over', () => {
    const w = planWeek(shop([order('a', 4, 60)], { closed: [{ from: '2026-03-03', to: '2026-03-03', why: 'fair' }] }));
    const axis = weekAxis(w, 3);
    expect(axis.map((d) => [d.day, d.closed])).toEqual([
      ['2026-03-02', null],
      ['2026-03-03', 'fair'],
      ['2026-03-04', null],
    ]);
    expect(axis[1]!.width).toBeLessThan(axis[0]!.width / 4);
    expect(axis.reduce((s, d) => s + d.width, 0)).toBeCloseTo(1, 9);
    expect(onAxis(axis, MON)).toBe(0);
    // in the night it is where the day ended
    expect(onAxis(axis, MON + 12 * HOUR)).toBeCloseTo(axis[0]!.width, 9);
    expect(onAxis(axis, Date.UTC(2026, 2, 4, 17))).toBeCloseTo(1, 9);
    const evening = weekAxis({ ...w, now: MON + 12 * HOUR }, 3);
    expect(evening[0]!.day).toBe('2026-03-04');
  });

  it('begins at the hour that it is, with two hours of the day at least', () => {
    const w = planWeek(shop([order('a', 4, 60)]));
    const end = w.days[0]!.open.at(-1)![1];
    const begins = (now: number) => weekAxis({ ...w, now }, 3)[0]!.from;
    expect(begins(MON - 3 * HOUR)).toBe(w.days[0]!.open[0]![0]);
    expect(begins(end - 4.5 * HOUR)).toBe(end - 5 * HOUR);
    expect(begins(end - HOUR / 2)).toBe(end - 2 * HOUR);
    const axis = weekAxis({ ...w, now: end - 4.5 * HOUR }, 3);
    // what is over lies at the beginning
    expect(onAxis(axis, end - 6 * HOUR)).toBe(0);
    expect(axis[0]!.width).toBeLessThan(axis[1]!.width);
  });
});
