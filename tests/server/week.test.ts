import ICAL from 'ical.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Month } from '#core/shop/month';
import type { Soonest } from '#core/shop/soonest';
import type { Week } from '#core/shop/week';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let ines: Client;
let tor: Client;
beforeAll(async () => {
  shop = await startShop();
  ines = await new Client(shop.base).signIn('ines');
  tor = await new Client(shop.base).signIn('tor');
});
afterAll(() => shop.stop());

const week = async () => (await tor.call('GET', '/api/week')).body as Week;
const setting = async (field: string, value: unknown, version?: number, who = ines) => {
  const { versions } = (await who.call('GET', '/api/settings')).body as { versions: Record<string, number> };
  return who.call('PATCH', '/api/settings', { changes: [{ field, value, version: version ?? versions[field] ?? 0 }] });
};

describe('the week of the demo', () => {
  it('has every order with work left once, in a bay that takes it, by people who can, when they are there', async () => {
    const w = await week();
    const { settings } = (await tor.call('GET', '/api/settings')).body;
    const floor = (await tor.call('GET', '/api/floor')).body.orders as { id: string; summary: { kind: string; work: unknown[] } }[];
    const placed = [...w.promises.map((p) => p.order), ...w.unplanned.map((u) => u.order)].sort();
    expect(placed).toEqual(
      floor
        .filter((o) => o.summary.work.length)
        .map((o) => o.id)
        .sort(),
    );
    const bays = settings.bays as { id: string; kinds: string[] }[];
    for (const h of w.holds) expect(bays.find((b) => b.id === h.bay)!.kinds).toContain(floor.find((o) => o.id === h.order)!.summary.kind);
    // nobody does two things at once
    for (const p of w.people) {
      const own = w.work.filter((x) => x.people.includes(p.id)).sort((a, b) => a.from - b.from);
      own.slice(1).forEach((x, i) => expect(x.from).toBeGreaterThanOrEqual(own[i]!.to));
    }
    // Tor is away the day after tomorrow
    const off = w.people.find((p) => p.id === 'tor')!.off;
    expect(off).toMatchObject([{ why: 'away' }]);
    for (const x of w.work.filter((y) => y.people.includes('tor')))
      expect([x.from, x.to - 1].map((t) => new Date(t).toISOString().slice(0, 10))).not.toContain(off[0]!.day);
    for (const p of w.promises) expect(p.chance >= 0 && p.chance <= 1).toBe(true);
  });
  it('is the same for whoever looks, and is planned anew when something is decided', async () => {
    const w = await week();
    expect((await ines.call('GET', '/api/week')).body.work).toEqual(w.work);
    // what is begun stays with who began it
    const { orders } = (await tor.call<{ orders: { id: string; summary: { begun?: boolean } }[] }>('GET', '/api/floor')).body;
    const { order } = w.holds.find((h) => orders.some((o) => o.id === h.order && !o.summary.begun))!;
    const pin = { order, bay: null, person: 'ines', notBefore: null };
    expect((await setting('pins', [pin])).status).toBe(200);
    const next = await week();
    expect(new Set(next.work.filter((x) => x.order === order).map((x) => x.people[0]))).toEqual(new Set(['ines']));
    expect(next.pinsCostMin).toBeGreaterThanOrEqual(0);
    // and hardly another unit stands elsewhere for it
    const bays = new Map(next.holds.map((h) => [h.order, h.bay]));
    expect(w.holds.filter((h) => h.order !== order && bays.get(h.order) !== h.bay).length).toBeLessThanOrEqual(2);
    // of two leads who decide at once, one is told
    const { versions } = (await ines.call('GET', '/api/settings')).body;
    expect((await setting('pins', [], versions.pins)).status).toBe(200);
    const late = await setting('pins', [pin], versions.pins);
    expect(late.status).toBe(409);
    expect((await setting('pins', [pin], undefined, tor)).status).toBe(403);
  });
  it('refuses what cannot be with its field, and keeps what stands', async () => {
    const bad = async (field: string, value: unknown) => {
      const r = await setting(field, value);
      return [r.status, JSON.stringify(r.body.fields ?? r.body.detail)] as const;
    };
    const { settings } = (await ines.call('GET', '/api/settings')).body;
    const [s1, m1] = await bad('hours', { ...settings.hours, mon: [{ from: '17:00', to: '08:00' }] });
    expect([s1, m1]).toEqual([422, expect.stringContaining('ends before it begins')]);
    expect((await bad('bays', [{ id: 'x', name: 'X', kinds: [] }]))[1]).toContain('say which kinds');
    expect((await bad('closed', [{ from: '2026-02-30', to: '2026-03-01', why: '' }]))[1]).toContain('no such day');
    expect((await bad('pins', [{ order: 'x', bay: null, person: null, notBefore: null }]))[1]).toContain('say what is to stay');
    expect((await ines.call('GET', '/api/settings')).body.settings.hours).toEqual(settings.hours);
    // nobody works: every order says so, nothing breaks
    const had = settings.roster;
    const nobody = ['ines', 'tor', 'maud'].map((person) => ({ person, skills: [], hours: null, off: [] }));
    expect((await setting('roster', nobody)).status).toBe(200);
    const w = await week();
    expect([w.work, w.promises]).toEqual([[], []]);
    expect(w.unplanned.length).toBeGreaterThan(4);
    expect((await setting('roster', had)).status).toBe(200);
  });
});

describe('when could I have it?', () => {
  const ask = (json: object) => tor.call('POST', '/api/when', json);
  it('answers for a model of the sheets and for a unit that nobody has one for, without an order', async () => {
    const before = (await tor.call('GET', '/api/floor')).body.orders.length;
    const known = await ask({ model: 'drover-2', build: 'full-cab', kits: ['roof-bar'] });
    expect(known.status, known.text).toBe(200);
    const a = known.body as Soonest;
    expect(a.day).toBeGreaterThan(Date.now());
    expect(a.minutes.p10).toBeLessThan(a.minutes.p90);
    const unknown = await ask({
      begun: { body: 'side-by-side-6', maker: 'Unknown', name: 'Six seats', year: 2025, figures: {} },
      kits: ['usb-socket'],
    });
    expect(unknown.status, unknown.text).toBe(200);
    expect((unknown.body as Soonest).day).toBeGreaterThan(Date.now());
    expect((await tor.call('GET', '/api/floor')).body.orders.length).toBe(before);
  });
  it('says what it cannot answer', async () => {
    expect((await ask({ model: 'drover-2', kits: ['nope'] })).body).toMatchObject({ status: 422, fields: [{ path: 'kits.0' }] });
    expect((await ask({ model: 'nope', kits: ['roof-bar'] })).body).toMatchObject({ status: 422, fields: [{ path: 'model' }] });
    expect((await ask({ kits: ['roof-bar'] })).status).toBe(422);
    expect((await ask({ model: 'drover-2', kits: [] })).body.fields[0].message).toMatch(/choose at least one kit/);
  });
});

describe('a calendar behind a secret address', () => {
  it('is read by whoever has it, as another package reads iCalendar, until it is withdrawn', async () => {
    const w = await week();
    const made = await ines.call('POST', '/api/calendars', { whose: 'person:maud' });
    expect(made.status, made.text).toBe(200);
    const read = async (path: string) => fetch(`${shop.base}${path}`);
    const res = await read(made.body.path);
    expect([res.status, res.headers.get('content-type')]).toEqual([200, expect.stringContaining('text/calendar')]);
    const events = new ICAL.Component(ICAL.parse(await res.text()) as unknown[])
      .getAllSubcomponents('vevent')
      .map((c) => new ICAL.Event(c));
    const minutes = (list: readonly { from: number; to: number }[]) => list.reduce((s, x) => s + (x.to - x.from) / 60_000, 0);
    expect(minutes(events.map((e) => ({ from: e.startDate.toJSDate().getTime(), to: e.endDate.toJSDate().getTime() })))).toBe(
      minutes(w.work.filter((x) => x.people.includes('maud'))),
    );
    expect(new Set(events.map((e) => e.uid)).size).toBe(events.length);
    const whole = await (await read((await ines.call('POST', '/api/calendars', { whose: 'shop' })).body.path)).text();
    expect(new ICAL.Component(ICAL.parse(whole) as unknown[]).getAllSubcomponents('vevent')).toHaveLength(w.holds.length);
    // a guess opens nothing, nor does what is no secret; installers make none
    expect((await read(`/api/calendar/${'x'.repeat(43)}.ics`)).status).toBe(404);
    expect((await read('/api/calendar/shop.ics')).status).toBe(404);
    expect((await tor.call('POST', '/api/calendars', { whose: 'shop' })).status).toBe(403);
    expect((await ines.call('POST', '/api/calendars', { whose: 'everything' })).status).toBe(422);
    const list = (await ines.call('GET', '/api/calendars')).body as { id: string }[];
    expect(JSON.stringify(list)).not.toContain(made.body.path.slice(14, 57));
    expect((await ines.call('DELETE', `/api/calendars/${made.body.id}`)).status).toBe(200);
    expect((await read(made.body.path)).status).toBe(404);
    expect((await ines.call('DELETE', `/api/calendars/${made.body.id}`)).status).toBe(404);
  });
});

describe('the month', () => {
  const today = () => new Date().toISOString().slice(0, 10);
  const ago = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString().slice(0, 10);
  it('is made of what was handed over, each order once, and installers see only their own times', async () => {
    const m = (await ines.call('GET', `/api/month?from=${ago(89)}&to=${today()}`)).body as Month;
    expect(m.finished.length).toBeGreaterThanOrEqual(30);
    expect(new Set(m.finished.map((f) => f.id)).size).toBe(m.finished.length);
    expect(m.kept.length + m.late.length).toBe(m.finished.length);
    for (const f of m.finished.slice(0, 3)) {
      const { order } = (await ines.call('GET', `/api/orders/${f.id}`)).body;
      expect([order.status, order.sealedAt]).toEqual(['sealed', f.sealedAt]);
    }
    expect(m.byPerson.map((r) => r.key).sort()).toEqual(['maud', 'tor']);
    const own = (await tor.call('GET', `/api/month?from=${ago(89)}&to=${today()}`)).body as Month;
    expect(own.byPerson.map((r) => r.key)).toEqual(['tor']);
    // two halves are the whole
    const [a, b] = [
      (await ines.call('GET', `/api/month?from=${ago(89)}&to=${ago(40)}`)).body as Month,
      (await ines.call('GET', `/api/month?from=${ago(39)}&to=${today()}`)).body as Month,
    ];
    expect(a.finished.length + b.finished.length).toBe(m.finished.length);
    const csv = await (await ines.raw(`/api/month.csv?from=${ago(89)}&to=${today()}`)).text();
    expect(csv.split('\r\n')[0]).toBe('order,unit,promised,handed_over,in_time,kit,by,planned_min,spent_min,findings,came_back');
    expect(
      new Set(
        csv
          .split('\r\n')
          .slice(1)
          .map((l) => l.split(',')[0]),
      ).size,
    ).toBe(m.finished.length);
  });
  it('refuses a period that is none', async () => {
    for (const q of ['from=2026-03-02&to=2026-03-01', 'from=yesterday&to=today', 'from=2026-02-30&to=2026-03-01', ''])
      expect((await ines.call('GET', `/api/month?${q}`)).status).toBe(422);
  });
});
