import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pdfPages } from '../pdf-text';
import { Client, openingLike, startShop, type Shop } from '../shop';

let shop: Shop;
let tor: Client;
let ines: Client;
beforeAll(async () => {
  shop = await startShop();
  tor = await new Client(shop.base).signIn('tor');
  ines = await new Client(shop.base).signIn('ines');
}, 120_000);
afterAll(() => shop.stop());

interface Box {
  model: string;
  build: string;
  kits: string[];
  fitted?: unknown[];
  more?: Record<string, unknown>[];
  lead?: Record<string, unknown>;
}
/** Takes a unit in with these boxes, as a shop does, and answers its order. */
async function takeIn(b: Box): Promise<string> {
  const opened = await tor.call('POST', '/api/orders', {
    model: { id: b.model, revision: 1 },
    build: b.build,
    year: 2024,
    identity: '',
    meterValue: 10,
    owner: 'Edda',
    promisedAt: '2030-01-01T12:00:00.000Z',
    wishes: [],
    restVolts: null,
    condition: '',
    fitted: b.fitted ?? [],
  });
  expect(opened.status, opened.text).toBe(201);
  const { id } = opened.body as { id: string };
  let version = (await tor.call('GET', `/api/orders/${id}`)).body.order.version as number;
  const say = async (who: Client, command: Record<string, unknown>) => {
    const r = await who.record(id, version, command);
    expect(r.status, r.text).toBe(200);
    version = r.body.order?.version ?? version + 1;
  };
  for (const kit of b.kits) await say(tor, { type: 'kit.added', kit });
  for (const m of b.more ?? []) await say(tor, m);
  if (b.lead) await say(ines, b.lead);
  return id;
}
const rows = async (id: string, file: string) =>
  Papa.parse<Record<string, string>>((await tor.call('GET', `/api/orders/${id}/wiring/${file}`)).text, {
    header: true,
    skipEmptyLines: true,
  }).data;
const words = async (id: string): Promise<string> => {
  const res = await tor.raw(`/api/orders/${id}/wiring/cut-list.pdf`);
  return (await pdfPages(await res.arrayBuffer())).join('');
};
const option = (kit: string, variant: string, o: string) => ({ type: 'variant.chosen', kit, variant, option: o });
const winch = {
  id: 'winch',
  name: 'winch',
  watts: 0,
  standbyMa: 0,
  wires: ['feed', 'in', 'out'].map((w, i) => ({ function: `winch-${w}`, colour: ['RD', 'GN', 'BK'][i], place: 'dash' })),
};
const feed = (circuit: string, value: string) => ({ type: 'wire.overridden', circuit, field: 'feed', value, reason: 'as the owner asked' });

/** What the papers of each box must say: how many pieces are cut, what is joined to what, and words on the sheet. */
const BOXES: [string, Box, { cuts: number; joined?: RegExp[]; says?: RegExp[] }][] = [
  ['a winch on its own leads', { model: 'drover-4', build: 'a', kits: ['winch-32'] }, { cuts: 0 }],
  [
    'signals on a harness that provides their plug',
    { model: 'drover-4', build: 'b', kits: ['front-harness', 'road-kit'], more: [option('road-kit', 'running', 'on')] },
    { cuts: 0, joined: [/BN.*BN\/WH|BN\/WH.*BN/], says: [/spare cavit/] },
  ],
  [
    'rear lamps that become signals',
    { model: 'drover-4', build: 'b', kits: ['rear-lamp-signals'] },
    { cuts: 0, joined: [/RD\/BU.*BU/, /RD\/BU.*GN\/BK/, /RD\/BU.*GY\/BK/] },
  ],
  ['inserts, which wire nothing', { model: 'lapwing-500', build: 'std', kits: ['signal-inserts'] }, { cuts: 0 }],
  ['grips on the port’s own pins', { model: 'lapwing-500', build: 'tour', kits: ['heated-grips'] }, { cuts: 0 }],
  ['lamps behind a relay harness', { model: 'lapwing-500', build: 'std', kits: ['aux-lamps'] }, { cuts: 0, joined: [/OG/] }],
  [
    'a helm panel that runs what others bring',
    {
      model: 'sandbar-21',
      build: 'canopy',
      kits: ['helm-panel', 'nav-lights', 'docking-lamps'],
      more: [option('nav-lights', 'switch', 'panel'), option('docking-lamps', 'switch', 'panel')],
    },
    { cuts: 0 },
  ],
  [
    'a tap of the pack that a lead chose, its lead a hand too short',
    { model: 'greenway-36', build: 'std', kits: ['cart-basic-lamps'], lead: feed('cart-basic-lamps/lamps', 'tap-12') },
    { cuts: 1, joined: [/RD/] },
  ],
  [
    'a power manager on the data plug',
    { model: 'lapwing-500', build: 'std', kits: ['data-power-manager'] },
    { cuts: 0, says: [/channel 1/, /channel 4/, /5 spare cavities/] },
  ],
  [
    'mirrors with thin leads',
    { model: 'parkway-48', build: 'street', kits: ['reducer-48', 'cart-road-lamps', 'signal-mirrors'] },
    { cuts: 0, joined: [/24|GN/] },
  ],
  [
    'a switch swapped on a winch that was there',
    { model: 'drover-2', build: 'cab', kits: ['lit-winch-switch'], fitted: [winch] },
    { cuts: 0, joined: [/RD.*RD\/WH/, /GN.*GN/, /BK.*BN/] },
  ],
  [
    'audio on a tee',
    { model: 'drover-2', build: 'cab', kits: ['overhead-audio'], more: [option('overhead-audio', 'lead', 'tee')] },
    // the dome lamp’s own two leads
    { cuts: 2 },
  ],
];

describe('a box, through the door to its papers', () => {
  it.each(BOXES)('%s', async (_, box, want) => {
    const id = await takeIn(box);
    const cuts = await rows(id, 'cut-list.csv');
    expect(cuts.map((r) => r.colour)).toHaveLength(want.cuts);
    const splices = await rows(id, 'splices.csv');
    for (const j of want.joined ?? []) expect(splices.map((r) => Object.values(r).join(' ')).join('\n')).toMatch(j);
    const text = await words(id);
    for (const s of want.says ?? []) expect(text).toMatch(s);
    expect(text).toMatch(/Local codes and licensed practice/);
  });
});

describe('work that is no kit', () => {
  it('is recorded with its place on this unit, once, and may be taken off until it is begun', async () => {
    const id = await takeIn({ model: 'drover-4', build: 'a', kits: [] });
    const job = { id: 'horn', title: 'Mend the horn’s lead', place: 'dash', minutes: 15, text: '', powerOff: true, question: 'Sounds' };
    const add = async (over: Record<string, unknown> = {}) => {
      const { version } = (await tor.call('GET', `/api/orders/${id}`)).body.order as { version: number };
      return tor.record(id, version, { type: 'job.added', job: { ...job, ...over } });
    };
    expect((await add({ place: 'moon' })).status).toBe(422);
    expect((await add({ minutes: -3 })).status).toBe(422);
    expect((await add({ title: '' })).status).toBe(422);
    expect((await add()).status).toBe(200);
    expect((await add()).status).toBe(422);
    const { version } = (await tor.call('GET', `/api/orders/${id}`)).body.order as { version: number };
    expect((await tor.record(id, version, { type: 'job.removed', id: 'moon' })).status).toBe(422);
    expect((await tor.record(id, version, { type: 'job.removed', id: 'horn' })).status).toBe(200);
    const log = (await tor.call('GET', `/api/orders/${id}`)).text;
    expect(log).toContain('Mend the horn’s lead');
  });
  it('a wire of something fitted before with a colour that is none is named at its field', async () => {
    const id = await takeIn({ model: 'drover-2', build: 'cab', kits: [] });
    const { version } = (await tor.call('GET', `/api/orders/${id}`)).body.order as { version: number };
    const bad = { ...winch, wires: [{ function: 'winch-in', colour: 'MAUVE', place: 'dash' }] };
    const r = await tor.record(id, version, { type: 'fitted.added', item: bad });
    expect(r.status).toBe(422);
    expect(r.text).toMatch(/IEC 60757/);
    // nor is one taken that would be found nowhere on this unit
    const far = { ...winch, wires: [{ function: 'winch-in', colour: 'GN', place: 'moon' }] };
    const lost = await tor.record(id, version, { type: 'fitted.added', item: far });
    expect([lost.status, lost.text]).toEqual([422, expect.stringContaining('has no place “moon”')]);
    const { order } = (await tor.call('GET', `/api/orders/${id}`)).body as { order: { unit: Parameters<typeof openingLike>[0] } };
    expect((await tor.call('POST', '/api/orders', { ...openingLike(order.unit), fitted: [far] })).status).toBe(422);
  });
});

it('a kit that was taken off comes back with its undo, as the record brings back the sheet that the order does not name now', async () => {
  const id = await takeIn({ model: 'drover-4', build: 'a', kits: ['winch-32'] });
  const order = async () => (await tor.call('GET', `/api/orders/${id}`)).body.order as { version: number; kits: { kit: { id: string } }[] };
  expect((await tor.record(id, (await order()).version, { type: 'kit.removed', kit: 'winch-32' })).status).toBe(200);
  expect((await order()).kits).toEqual([]);
  const undo = await tor.record(id, (await order()).version, { type: 'action.undone', says: 'Kit taken off: winch-32' });
  expect(undo.status, undo.text).toBe(200);
  expect((await order()).kits.map((k) => k.kit.id)).toEqual(['winch-32']);
});
