import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assess, stepState } from '#core/order/assess';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { Client, openingLike, startShop, type Shop } from '../shop';

let shop: Shop;
let owner: Client;
beforeAll(async () => {
  shop = await startShop({ env: { KADRO_OWNER_PASSWORD: 'of the owner' } });
  owner = await new Client(shop.base).signIn('owner', 'of the owner');
}, 120_000);
afterAll(() => shop.stop());

const RIDGE = { body: 'quad-1', maker: 'Hollin', name: 'Ridge 5', year: 2024, figures: { lengthMm: 2150, capacityAh: 18 } };
const opening = (model: unknown) => ({ ...openingLike({ model, build: 'as-it-stands', year: 2024 }, 12.8), identity: '', meterValue: 10 });
const begin = (body: unknown) => owner.call('POST', '/api/sheets/begun', body);

describe('a shop that has no sheet at all', () => {
  it('begins one from a body, once however often it is asked, and by the same rules as any other', async () => {
    const first = await begin(RIDGE);
    expect(first.status, first.text).toBe(200);
    expect(first.body).toMatchObject({ ref: { id: 'hollin-ridge-5-2024', revision: 1 }, sheet: { dims: { lengthMm: 2150 } } });
    expect((await begin(RIDGE)).body).toMatchObject({ ref: first.body.ref });
    const list = (await owner.call('GET', '/api/sheets')).body as { models: unknown[]; kits: unknown[]; packs: unknown[] };
    expect([list.models.length, list.kits.length]).toEqual([1, 0]);
    expect(list.packs.length).toBeGreaterThan(3);
    // out as a file, with how each value is known, and in again as the same
    const file = await (await owner.raw('/api/sheets/model/hollin-ridge-5-2024')).text();
    expect(JSON.parse(file).sheet.known['/dims/lengthMm']).toMatchObject({ how: 'read', by: 'owner' });
    expect((await owner.call('POST', '/api/sheets', file)).body).toMatchObject({ changed: false, ref: { revision: 1 } });
  });
  it('two of one name that are not alike are told apart, and what cannot be is told at its field', async () => {
    const other = await begin({ ...RIDGE, figures: { lengthMm: 2300 } });
    expect([other.status, other.body.fields[0].path]).toEqual([409, 'name']);
    const long = await begin({ ...RIDGE, name: 'Ridge 9', figures: { lengthMm: 9000 } });
    expect([long.status, long.body.fields[0].path]).toEqual([422, 'lengthMm']);
    for (const bad of [
      { ...RIDGE, body: 'sledge' },
      { ...RIDGE, maker: '' },
      { ...RIDGE, year: 'new' },
      { ...RIDGE, figures: { doors: 4 } },
      {},
    ])
      expect((await begin(bad)).status).toBe(422);
    expect((await new Client(shop.base).call('POST', '/api/sheets/begun', RIDGE)).status).toBe(401);
  });
  it('takes a unit in, with a job that is no kit, measures it, does it and seals it without a single file', async () => {
    const { ref } = (await begin(RIDGE)).body;
    const opened = await owner.call('POST', '/api/orders', opening(ref));
    expect(opened.status, opened.text).toBe(201);
    const { id } = opened.body as { id: string };
    const look = async () => {
      const d = (await owner.call<{ order: Order; sheets: Sheets; settings: Settings }>('GET', `/api/orders/${id}`)).body;
      return { order: d.order, a: assess(d.order, d.sheets, d.settings) };
    };
    const say = async (command: Record<string, unknown>) => {
      const r = await owner.record(id, (await look()).order.version, command);
      expect(r.status, `${JSON.stringify(command)}: ${r.text}`).toBe(200);
    };
    const job = {
      id: 'lead',
      title: 'Mend the tail lamp’s lead',
      place: 'rear-frame',
      minutes: 20,
      text: '',
      powerOff: true,
      question: 'Lamp lit',
    };
    await say({ type: 'job.added', job });
    await say({ type: 'value.taken', pointer: '/electrical/source/curve', value: 20 });
    const slip = await owner.record(id, (await look()).order.version, {
      type: 'value.taken',
      pointer: '/electrical/source/curve',
      value: 2000,
    });
    expect([slip.status, slip.body.detail]).toEqual([422, expect.stringMatching(/were to be expected/)]);
    for (let i = 0; i < 40; i++) {
      const { order, a } = await look();
      const step = a.steps.find((s) => stepState(order, s.id).status === 'todo');
      if (!step) break;
      for (const r of step.readings.filter((x) => x.expected.unit !== 'yes' && !x.optional)) {
        const { low, high } = r.expected;
        await say({ type: 'reading.taken', step: step.id, reading: r.id, value: high === null ? low! : ((low ?? 0) + high) / 2 });
      }
      // a reading that holds may have ended its step
      if (stepState((await look()).order, step.id).status !== 'todo') continue;
      const yes = step.readings.filter((x) => x.expected.unit === 'yes').map((x) => x.id);
      await say({
        type: 'step.done',
        step: step.id,
        ...(yes.length && { yes }),
        ...(step.panel?.fasteners.length && { counts: step.panel.fasteners.map((f) => f.count) }),
      });
    }
    await say({ type: 'handover.signed', name: 'Edda', strokes: 'M0 0L100 100' });
    const { a } = await look();
    expect(a.blocks).toEqual([]);
    expect(a.open.map((o) => o.says)).toContainEqual(expect.stringMatching(/known only by its kind: \d+ of its values are assumed/));
    await say({ type: 'order.sealed', seen: a.open.length });
    expect((await look()).order).toMatchObject({
      status: 'sealed',
      values: { '/electrical/source/curve': { value: 20, how: 'measured', by: 'owner' } },
    });
    const sheet = await owner.call('GET', `/api/orders/${id}/hand-over.json`);
    expect(sheet.status).toBe(200);
  }, 90_000);
});

describe('what orders find of a value', () => {
  it('is proposed to the sheet, taken or declined by a lead, and the record of who and why stays', async () => {
    const { ref } = (await begin({ ...RIDGE, name: 'Ridge 7' })).body;
    const path = `/api/sheets/model/${ref.id}/proposals`;
    const opened = async (value: number) => {
      const { id } = (await owner.call('POST', '/api/orders', opening(ref))).body as { id: string };
      const r = await owner.record(id, 1, { type: 'value.taken', pointer: '/electrical/parkedMa', value });
      expect(r.status, r.text).toBe(200);
      return id;
    };
    const proposed = async () =>
      (await owner.call('GET', path)).body as {
        value: number | null;
        evidence: { order: string; contradicts: boolean }[];
        builds: { build: string; value: number }[];
      }[];
    expect(await proposed()).toEqual([]);
    const kept = await opened(4);
    await opened(4.1);
    const odd = await opened(9);
    const [p] = await proposed();
    expect(p!.value).toBeCloseTo(4.05, 1);
    expect(p!.evidence.map((e) => e.contradicts)).toEqual([false, false, true]);
    const say = (what: string, json: object) => owner.call('POST', `${path}/${what}`, json);
    expect((await say('taken', { pointer: '/electrical/parkedMa', value: 4 })).status).toBe(409);
    expect((await say('declined', { pointer: '/electrical/parkedMa', order: odd, reason: '' })).status).toBe(422);
    expect((await say('declined', { pointer: '/electrical/parkedMa', order: odd, reason: 'a radio was left on' })).status).toBe(200);
    expect((await proposed())[0]!.evidence).toHaveLength(2);
    // for one build it is asked for by that build’s own figure
    const build = p!.builds[0]!;
    expect((await say('taken', { pointer: '/electrical/parkedMa', value: build.value, build: 'none' })).status).toBe(409);
    expect((await say('taken', { pointer: '/electrical/parkedMa', value: build.value + 1, build: build.build })).status).toBe(409);
    expect((await say('taken', { pointer: '/electrical/parkedMa', value: p!.value })).body).toMatchObject({
      changed: true,
      ref: { revision: 2 },
    });
    expect(await proposed()).toEqual([]);
    const file = JSON.parse(await (await owner.raw(`/api/sheets/model/${ref.id}`)).text());
    expect(file.sheet.known['/electrical/parkedMa']).toMatchObject({
      how: 'measured',
      by: 'owner',
      note: expect.stringMatching(/^orders \d+, \d+$/),
    });
    expect(file.sheet.electrical.parkedMa).toBe(p!.value);
    expect((await say('taken', { pointer: '/electrical/parkedMa', value: p!.value })).status).toBe(409);
    expect((await owner.call('GET', '/api/sheets/model/none/proposals')).status).toBe(404);
    // what a lead knows from a book goes in as the maker’s, on the revision that was looked at
    const put = (json: object) =>
      owner.call('POST', `/api/sheets/model/${ref.id}/values`, { pointer: '/massKg', how: 'maker', revision: 2, ...json });
    expect((await put({ value: 341, revision: 1 })).status).toBe(409);
    expect((await put({ value: 34_100 })).body.fields[0]).toMatchObject({
      path: 'value',
      message: expect.stringMatching(/were to be expected/),
    });
    expect((await put({ value: 341, pointer: '/maker' })).status).toBe(422);
    expect((await put({ value: 341 })).body).toMatchObject({ changed: true, ref: { revision: 3 } });
    // one build may weigh otherwise, and again as the others
    const ofBuild = (json: object) => put({ revision: 3, build: build.build, ...json });
    expect((await put({ value: null, revision: 3 })).status).toBe(422);
    expect((await ofBuild({ value: 350, build: 'none' })).body.fields[0]).toMatchObject({ path: 'build' });
    expect((await ofBuild({ value: 350 })).body).toMatchObject({ changed: true, ref: { revision: 4 } });
    const narrowed = JSON.parse(await (await owner.raw(`/api/sheets/model/${ref.id}`)).text());
    expect(narrowed.sheet.builds[0].values['/massKg']).toMatchObject({ value: 350, known: { how: 'maker', by: 'owner' } });
    expect(narrowed.sheet.massKg).toBe(341);
    expect((await ofBuild({ value: null, revision: 4 })).body).toMatchObject({ ref: { revision: 5 } });
    // an edited sheet is made from one revision: another by now is not written over, and why is kept
    const edited = { ...file, sheet: { ...file.sheet, massKg: 350 } };
    const publish = (from: number) =>
      owner.call('POST', `/api/sheets?from=${from}&reason=${encodeURIComponent('weighed it')}`, JSON.stringify(edited));
    expect(await publish(2)).toMatchObject({ status: 409, body: { detail: expect.stringMatching(/revision 5 meanwhile/) } });
    expect((await publish(5)).body).toMatchObject({ changed: true, ref: { revision: 6 } });
    const listed = (await owner.call('GET', '/api/sheets')).body.models as { ref: { id: string }; reason: string | null }[];
    expect(listed.find((m) => m.ref.id === ref.id)!.reason).toBe('weighed it');
    // an order keeps its revision until somebody takes the newer one, and may go back
    const look = async () => (await owner.call<{ order: Order; sheets: Sheets }>('GET', `/api/orders/${kept}`)).body;
    const renew = async () => owner.record(kept, (await look()).order.version, { type: 'model.renewed' });
    expect((await look()).order.unit.model.revision).toBe(1);
    expect((await renew()).status).toBe(200);
    expect((await look()).order.unit.model.revision).toBe(6);
    expect((await look()).sheets.model.massKg).toBe(350);
    expect((await look()).sheets.model.electrical.parkedMa).toBe(p!.value);
    expect(await renew()).toMatchObject({ status: 409, body: { detail: 'This order has the newest sheet of its model.' } });
    const undo = await owner.record(kept, (await look()).order.version, {
      type: 'action.undone',
      says: 'Judged by revision 6 of its model’s sheet from here on',
    });
    expect(undo.status, undo.text).toBe(200);
    expect((await look()).order.unit.model.revision).toBe(1);
  });
});
