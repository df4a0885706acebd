import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readFileSync } from 'node:fs';
import { createConnection } from 'mysql2/promise';
import { OpenSession } from '#model/system';
import { openShop } from '#server/store/db';
import { checkRecord } from '#server/store/check-record';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let ines: Client;
let tor: Client;
let wyn: Client;
beforeAll(async () => {
  shop = await startShop();
  ines = await new Client(shop.base).signIn('ines');
  tor = await new Client(shop.base).signIn('tor');
  wyn = await new Client(shop.base).signIn('wyn');
});
afterAll(() => shop.stop());

const opening = (over: Record<string, unknown> = {}) => ({
  model: { id: 'skarn-600', revision: 1 },
  build: 'std',
  year: 2025,
  identity: 'SN-9',
  meterValue: 10,
  owner: 'Bo',
  promisedAt: '2030-01-01T10:00:00.000Z',
  wishes: [],
  restVolts: 12.7,
  condition: '',
  fitted: [],
  ...over,
});

describe('the demo', () => {
  it('puts the scenario’s eight units at their stations and thirty in the log', async () => {
    const floor = (await ines.call('GET', '/api/floor')).body.orders as {
      summary: { unitName: string; station: string; stations: { power: { verdict: string } } };
    }[];
    const at = Object.fromEntries(floor.map((o) => [o.summary.unitName, o.summary.station]));
    expect(at).toEqual({
      'Aldermoor Drover 4': 'bench',
      'Quillon Parkway 48': 'lamps',
      'Quillon Greenway 36': 'fit',
      'Wexholm Lapwing 500': 'power',
      'Tarnbeck Sandbar 21': 'lamps',
      'Aldermoor Skarn 600': 'handover',
      'Aldermoor Drover 2': 'bench',
      'Wexholm Tern 300': 'arrive',
    });
    const power = Object.fromEntries(floor.map((o) => [o.summary.unitName.split(' ')[1], o.summary.stations.power.verdict]));
    expect(power).toMatchObject({ Lapwing: 'fails', Parkway: 'holds', Skarn: 'tight', Greenway: 'fails' });
    const all = (await ines.call('GET', '/api/orders?limit=100')).body as { status: string }[];
    expect(all.filter((o) => o.status === 'sealed')).toHaveLength(30);
  });
  it('shows the finding of the first of a model on the second', async () => {
    const { id } = await ines.order('Tern 300');
    const d = (await ines.call('GET', `/api/orders/${id}`)).body;
    expect(d.findings[0]).toMatchObject({ build: 'r2', text: expect.stringMatching(/right side panel/) });
  });
});

describe('sign-in and roles', () => {
  it('refuses who is not signed in, a wrong password, and too many of them', async () => {
    const nobody = new Client(shop.base);
    expect((await nobody.call('GET', '/api/floor')).status).toBe(401);
    for (let i = 0; i < 8; i++) expect((await nobody.call('POST', '/api/session', { name: 'maud', password: `no${i}` })).status).toBe(401);
    const limited = await nobody.call('POST', '/api/session', { name: 'maud', password: 'lantern' });
    expect([limited.status, limited.body.detail]).toEqual([429, 'Too many wrong tries for this name. Wait 10 minutes.']);
    expect((await new Client(shop.base).call('POST', '/api/session', { name: 'tor', password: 'lantern' })).status).toBe(200);
  });
  it('signing out ends the session on the server', async () => {
    const c = await new Client(shop.base).signIn('oda');
    const cookie = (c as unknown as { cookie: string }).cookie;
    await c.call('DELETE', '/api/session');
    expect((await new Client(shop.base).call('GET', '/api/floor', undefined, { Cookie: cookie })).status).toBe(401);
  });
  it('shows people where they are signed in, and ends what they say, their own only', async () => {
    const agent = (words: string) => ({ 'User-Agent': words });
    const tablet = new Client(shop.base);
    await tablet.call('POST', '/api/session', { name: 'oda', password: 'lantern' }, agent('Something (Linux; Android 15; Tablet)'));
    const phone = new Client(shop.base);
    await phone.call('POST', '/api/session', { name: 'oda', password: 'lantern' }, agent('Something (Linux; Android 15) Mobile'));
    const oda = await new Client(shop.base).signIn('oda');
    const all = async (c: Client) => (await c.call<OpenSession[]>('GET', '/api/session/all')).body;
    const seen = await all(oda);
    expect(seen.filter((s) => s.here)).toHaveLength(1);
    expect(seen.map((s) => s.device)).toEqual(expect.arrayContaining(['tablet', 'telephone']));
    for (const s of seen) expect(OpenSession.parse(s).begunAt).not.toBeNull();
    const there = seen.find((s) => s.device === 'tablet')!;
    // nobody ends another person’s, and a name of nothing is not there
    expect((await tor.call('DELETE', `/api/session/all/${there.id}`)).status).toBe(404);
    expect((await oda.call('DELETE', '/api/session/all/zz')).status).toBe(404);
    expect((await oda.call('DELETE', `/api/session/all/${there.id}`)).body).toEqual({ ended: 1 });
    expect((await tablet.call('GET', '/api/floor')).status).toBe(401);
    expect((await phone.call('GET', '/api/floor')).status).toBe(200);
    expect((await oda.call('DELETE', '/api/session/all/others')).status).toBe(200);
    expect((await phone.call('GET', '/api/floor')).status).toBe(401);
    expect(await all(oda)).toHaveLength(1);
  });
  it('the cookie is HttpOnly and SameSite, and another site’s write is refused', async () => {
    const r = await new Client(shop.base).call('POST', '/api/session', { name: 'wyn', password: 'lantern' });
    expect(r.headers.get('set-cookie')).toMatch(/HttpOnly.*SameSite=Strict/);
    expect((await ines.call('POST', '/api/orders', opening(), { Origin: 'http://evil.example' })).status).toBe(403);
    expect((await ines.call('PATCH', '/api/settings', {}, { 'Sec-Fetch-Site': 'cross-site' })).status).toBe(403);
  });
  it('who may do what is said in words', async () => {
    const { id, version } = await wyn.order('Drover 4');
    const r = await wyn.record(id, version, { type: 'step.started', step: 'safe/rest' });
    expect([r.status, r.body.detail, r.headers.get('content-type')]).toEqual([
      403,
      'This is for an installer or a lead or the owner.',
      'application/problem+json; charset=utf-8',
    ]);
    expect((await tor.call('POST', '/api/sheets', '{}')).status).toBe(403);
    expect((await ines.call('POST', '/api/people', { id: 'zed', name: 'Zed', role: 'owner', password: 'long enough' })).status).toBe(403);
  });
});

describe('taking in and recording', () => {
  it('answers impossible openings at the field, and takes a right one in once for one key', async () => {
    const bad = async (over: Record<string, unknown>) => (await tor.call('POST', '/api/orders', opening(over))).body.fields[0];
    expect(await bad({ owner: ' ' })).toEqual({ path: 'owner', message: 'must not be empty' });
    expect(await bad({ owner: 'x'.repeat(81) })).toMatchObject({ path: 'owner', message: 'must be at most 80 characters' });
    expect(await bad({ restVolts: -3 })).toMatchObject({ path: 'restVolts' });
    expect(await bad({ year: 1990 })).toMatchObject({ path: 'year', message: 'Skarn 600 was made from 2020 to 2027.' });
    expect(await bad({ build: 'x' })).toMatchObject({ path: 'build' });
    expect(await bad({ model: { id: 'moon', revision: 1 } })).toMatchObject({ path: 'model' });
    expect(await bad({ promisedAt: 'soon' })).toMatchObject({ path: 'promisedAt' });
    expect(await bad({ extra: 1 })).toMatchObject({ message: '“extra” is not a field here' });
    const key = { 'Idempotency-Key': 'one-key-0001' };
    const [a, b] = await Promise.all([tor.call('POST', '/api/orders', opening(), key), tor.call('POST', '/api/orders', opening(), key)]);
    expect([a.status, b.status]).toEqual([201, 201]);
    expect(a.body).toEqual(b.body);
    const other = await tor.call('POST', '/api/orders', opening({ owner: 'Al' }), key);
    expect([other.status, other.body.title]).toEqual([422, 'Key used']);
    // sent again when it would be refused by now: it was done, and is not done twice
    const change = (owner: string) =>
      tor.record(a.body.id, 1, { type: 'arrive.changed', patch: { owner } }, { 'Idempotency-Key': 'one-key-0002' });
    expect(await change('Bo')).toMatchObject({ status: 200, body: { version: 2 } });
    expect(await change('Bo')).toMatchObject({ status: 200, body: { version: 2 } });
    expect(await change('Cy')).toMatchObject({ status: 422, body: { title: 'Key used' } });
    expect((await tor.call('POST', '/api/orders', 'not json', { 'Content-Type': 'application/json' })).status).toBe(400);
  });
  it('a stale version is refused with both versions; a change elsewhere can be merged', async () => {
    const { id } = (await tor.call('POST', '/api/orders', opening())).body;
    expect((await tor.record(id, 1, { type: 'arrive.changed', patch: { owner: 'Cy' } })).body).toEqual({ version: 2 });
    const stale = await ines.record(id, 1, { type: 'arrive.changed', patch: { owner: 'Di' } });
    expect(stale.status).toBe(409);
    expect(stale.body).toMatchObject({
      stale: true,
      current: { version: 2, owner: 'Cy' },
      clashing: [{ by: 'tor', body: { patch: { owner: 'Cy' } } }],
    });
    expect((await ines.record(id, 1, { type: 'arrive.changed', patch: { owner: 'Di' } }, {}, true)).status).toBe(409);
    expect((await ines.record(id, 1, { type: 'arrive.changed', patch: { condition: 'dusty' } }, {}, true)).body).toEqual({ version: 3 });
    expect((await ines.call('POST', `/api/orders/${id}/events`, { type: 'timer.stopped' })).status).toBe(428);
    expect((await ines.record('00000000-0000-4000-8000-000000000000', 1, { type: 'timer.stopped' })).status).toBe(404);
    expect((await ines.record('nonsense', 1, { type: 'timer.stopped' })).status).toBe(404);
    expect((await ines.record(id, 3, { type: 'no.such' })).status).toBe(422);
  });
  it('two people recording at once lose nothing and repeat nothing', async () => {
    const { id } = (await tor.call('POST', '/api/orders', opening())).body;
    const jobs = Array.from(
      { length: 24 },
      (_, i) => [i % 2 ? tor : ines, { type: 'finding.added', text: `finding ${i}` }, `key-at-once-${i}`] as const,
    );
    // each is sent twice, as a client does that missed the answer
    const answers = await Promise.all(
      [...jobs, ...jobs].map(([c, command, key]) => c.record(id, 1, command, { 'Idempotency-Key': key }, true)),
    );
    expect(answers.map((a) => a.status)).toEqual(answers.map(() => 200));
    const events = (await tor.call('GET', `/api/orders/${id}/events`)).body as { seq: number; says: string }[];
    expect(events).toHaveLength(25);
    expect(new Set(events.slice(1).map((e) => e.says)).size).toBe(24);
  });
  it('says at the same moment what changed to who listens', async () => {
    const { id } = (await tor.call('POST', '/api/orders', opening())).body;
    const abort = new AbortController();
    const res = await fetch(`${shop.base}/api/stream`, {
      headers: { Cookie: (ines as unknown as { cookie: string }).cookie },
      signal: abort.signal,
    });
    const reader = res.body!.getReader();
    const heard = (async () => {
      let text = '';
      while (!text.includes(id)) text += new TextDecoder().decode((await reader.read()).value);
      return text;
    })();
    await new Promise((r) => setTimeout(r, 1600));
    await tor.record(id, 1, { type: 'finding.added', text: 'heard?' });
    expect(await heard).toMatch(/event: order\ndata: .*"version":2/);
    abort.abort();
  });
});

describe('hand-over', () => {
  it('refuses until proved and signed, then seals, prints, and takes only additions', async () => {
    const { id, version } = await ines.order('Skarn 600');
    const early = await ines.record(id, version, { type: 'order.sealed' });
    expect([early.status, early.body.detail]).toEqual([409, 'Not yet: the owner has not signed.']);
    const signed = await ines.record(id, version, { type: 'handover.signed', name: 'Petra', strokes: 'M10 10L200 100' });
    expect((await ines.record(id, signed.body.version, { type: 'order.sealed' })).status).toBe(200);
    const sheet = (await ines.call('GET', `/api/orders/${id}/hand-over.json`)).body;
    expect(sheet).toMatchObject({
      kadro: 'hand-over',
      order: { status: 'sealed', owner: 'Petra' },
      circuits: [{ feed: 'solenoid hot post', fuseA: 3, fuseColour: 'violet' }],
    });
    const csv = (await ines.call('GET', `/api/orders/${id}/hand-over.csv`)).text.split('\r\n');
    expect(csv[0]).toBe('order,unit,identity,stage,step,status,reason,minutes,reading,value,readingUnit,low,high,verdict,origin,by,at');
    expect(csv.some((l) => l.includes('Parked draw') && l.includes('holds'))).toBe(true);
    const pdf = await ines.call('GET', `/api/orders/${id}/hand-over.pdf`);
    expect(pdf.headers.get('content-type')).toBe('application/pdf');
    expect(pdf.text.slice(0, 5)).toBe('%PDF-');
    const now = signed.body.version + 1;
    const late = await ines.record(id, now, { type: 'reading.taken', step: 'prove/parked', reading: 'amps', value: 1 });
    expect([late.status, late.body.detail]).toEqual([409, expect.stringMatching(/sealed/)]);
    expect((await ines.record(id, now, { type: 'addition.made', text: 'plug replaced' })).status).toBe(200);
    expect((await ines.call('GET', `/api/orders/${id}/hand-over.json`)).body.additions).toMatchObject([
      { by: 'ines', text: 'plug replaced' },
    ]);
  });
});

describe('sheets', () => {
  const file = () => JSON.parse(readFileSync('demo/kits/roof-bar.json', 'utf8'));
  it('exports what it takes in, makes a revision of a change, and keeps orders on theirs', async () => {
    const exported = (await ines.call('GET', '/api/sheets/kit/roof-bar')).body;
    expect((await ines.call('POST', '/api/sheets', JSON.stringify(exported))).body).toMatchObject({ changed: false, ref: { revision: 1 } });
    const changed = file();
    changed.sheet.devices[0].load.watts = 90;
    expect((await ines.call('POST', '/api/sheets', JSON.stringify(changed))).body).toMatchObject({
      changed: true,
      ref: { id: 'roof-bar', revision: 2 },
    });
    const { id } = await ines.order('Drover 4');
    const d = (await ines.call('GET', `/api/orders/${id}`)).body;
    expect(d.sheets.kits.find((k: { id: string }) => k.id === 'roof-bar').devices[0].load.watts).toBe(120);
  });
  it('a malformed one is answered with line and field', async () => {
    const bad = JSON.stringify(file(), null, 2).replace('"watts": 120', '"watts": "much"');
    const r = await ines.call('POST', '/api/sheets', bad);
    expect(r.status).toBe(422);
    expect(r.body.problems[0]).toMatchObject({
      line: bad.split('\n').findIndex((l) => l.includes('much')) + 1,
      field: 'sheet.devices.0.load.watts',
    });
  });
});

describe('finding orders', () => {
  it.each([
    ['1031', 'Drover 4'],
    ['Sanna', 'Lapwing 500'],
    ['sandbar', 'Sandbar 21'],
    ['heated grips', 'Lapwing 500'],
    ['TBK21077E323', 'Sandbar 21'],
    ['fuse box right side', 'Tern 300'],
    ['shuttle', 'Greenway 36'],
  ])('by “%s”', async (q, unit) => {
    const found = (await ines.call('GET', `/api/orders?q=${encodeURIComponent(q)}`)).body as { summary: { unitName: string } }[];
    expect(found.map((o) => o.summary.unitName).join()).toContain(unit);
    expect(found.length).toBeLessThan(12);
  });
  it('takes any text without falling over', async () => {
    for (const q of ['+-*"()~<>@', '%', "'; DROP TABLE orders; --", 'a', '12 V', 'zzzzqq'])
      expect((await ines.call('GET', `/api/orders?q=${encodeURIComponent(q)}`)).status).toBe(200);
  });
});

describe('the calculation door over HTTP, and the rest of the face', () => {
  it('computes, refuses the impossible, and does not know the unknown', async () => {
    // it computes for who is signed in: a stranger costs nothing
    expect((await new Client(shop.base).call('POST', '/api/calc/wire.choose', { amps: 10 })).status).toBe(401);
    // on a machine at its limit a calculation may be ended before it began
    const calc = async (input: unknown) => {
      for (let i = 0; ; i++) {
        const { body } = await tor.call('POST', '/api/calc/wire.choose', input);
        if (body.title !== 'Too much to compute' || i === 20) return body;
      }
    };
    expect(await calc({ amps: 10, oneWayM: 3.048, systemV: 12, maxDropPct: 3 })).toMatchObject({
      awg: 12,
      limitedBy: 'drop',
    });
    expect(await calc({ amps: -1 })).toMatchObject({ status: 422, fields: [{ path: 'amps' }] });
    expect((await tor.call('POST', '/api/calc/none', {})).status).toBe(404);
  });
  it('describes itself in OpenAPI from the same schemas', async () => {
    const doc = (await ines.call('GET', '/api/openapi.json')).body;
    expect(doc.openapi).toBe('3.1.0');
    expect(doc.paths['/api/orders/{id}/events'].post.parameters.map((p: { name: string }) => p.name)).toEqual([
      'id',
      'merge',
      'If-Match',
      'Idempotency-Key',
      'Done-At',
      'Author',
    ]);
    expect(doc.paths['/api/orders'].post.requestBody.content['application/json'].schema.required).toContain('owner');
  });
  it('answers what is not there and what is too large, without stack traces, under a strict policy', async () => {
    const none = await ines.call('GET', '/api/none');
    expect([none.status, none.body.title]).toEqual([404, 'Not here']);
    const big = await ines.call('POST', '/api/orders', { x: 'y'.repeat(3_000_000) });
    expect([big.status, big.text.includes(' at ')]).toEqual([413, false]);
    const page = await ines.call('GET', '/floor');
    expect(page.headers.get('content-security-policy')).toMatch(/script-src 'self'(;|$)/);
    expect(page.text).toContain('<div id="root">');
  });
  it('settings are checked and only a lead changes them', async () => {
    const { versions } = (await ines.call('GET', '/api/settings')).body;
    const change = (field: string, value: unknown, version = versions[field] ?? 0) => ({ changes: [{ field, value, version }] });
    expect((await tor.call('PATCH', '/api/settings', change('units', 'metric'))).status).toBe(403);
    expect((await ines.call('PATCH', '/api/settings', change('tightShare', 3))).body.fields[0].path).toContain('tightShare');
    const metric = (await ines.call('PATCH', '/api/settings', change('units', 'metric'))).body;
    expect(metric.settings.units).toBe('metric');
    // an older page does not take back what was changed meanwhile, and nothing erases by leaving out
    expect((await ines.call('PATCH', '/api/settings', change('units', 'imperial'))).body).toMatchObject({ status: 409, stale: true });
    expect((await ines.call('PATCH', '/api/settings', {})).status).toBe(422);
    await ines.call('PATCH', '/api/settings', change('units', 'imperial', metric.versions.units));
  });
});

describe('the record', () => {
  it('is what its events make, and a change behind its back shows', async () => {
    const db = openShop('shop', shop.url);
    const good = await checkRecord(db);
    expect(good.problems).toEqual([]);
    expect(good.orders).toBeGreaterThan(38);
    expect(good.events).toBeGreaterThan(1000);
    const c = await createConnection(shop.url);
    await c
      .query(
        "UPDATE order_events e JOIN orders o ON o.id = e.order_id SET e.body = REPLACE(e.body, '\"value\":', '\"value\":1') WHERE o.number = 1001 AND e.type = 'reading.taken' LIMIT 1",
      )
      .catch(() =>
        c.query(
          "UPDATE order_events SET body = REPLACE(body, '\"value\":', '\"value\":1') WHERE type = 'reading.taken' AND order_id = (SELECT id FROM orders WHERE number = 1001) LIMIT 1",
        ),
      );
    await c.query("UPDATE orders SET state = REPLACE(state, 'Sanna', 'Sandra') WHERE number = 1034");
    await c.end();
    const bad = await checkRecord(db);
    await db.close();
    expect(bad.problems.join('\n')).toMatch(/order 1001: event \d+ was changed after it was recorded/);
    expect(bad.problems.join('\n')).toMatch(/order 1034: the stored state is not what its events make/);
  });
});
