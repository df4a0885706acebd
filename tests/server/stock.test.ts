import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Settings } from '#model/settings';
import { Client, openingLike, startShop, takeInLooseBar, type Shop } from '../shop';

let shop: Shop;
let tor: Client;
beforeAll(async () => {
  shop = await startShop();
  tor = await new Client(shop.base).signIn('tor');
});
afterAll(() => shop.stop());

const settings = async (): Promise<Settings> => (await tor.call('GET', '/api/settings')).body.settings;
const metres = (s: Settings, awg: number, colour: string) =>
  s.stock.filter((x) => x.awg === awg && x.colour === colour).reduce((n, x) => n + x.lengthM, 0);
const total = (s: Settings) => s.stock.reduce((n, x) => n + x.lengthM, 0);

it('what is cut goes off the spools and the shelf with the step that says so, once, and comes back when that is taken back', async () => {
  const like = (await tor.call('GET', `/api/orders/${(await tor.order('Drover 2')).id}`)).body.order;
  const { id } = (await tor.call('POST', '/api/orders', openingLike(like.unit))).body;
  let version = 1;
  const ask = async (command: unknown) => {
    const r = await tor.record(id, version, command);
    expect(r.status, r.text).toBe(200);
    version = r.body.version ?? version + 1;
    return r;
  };
  const dossier = async () => (await tor.call('GET', `/api/orders/${id}`)).body;
  await takeInLooseBar(await new Client(shop.base).signIn('ines'));
  await ask({ type: 'kit.added', kit: 'loose-bar' });
  // nothing is joined while the unit is live
  const early = await tor.record(id, version, { type: 'step.done', step: 'wire/loose-bar/bar', yes: ['tugged', 'fuse-place'] });
  expect([early.status, early.body.detail]).toEqual([409, expect.stringMatching(/^The unit is live/)]);
  await ask({ type: 'step.done', step: 'safe/negative', yes: ['off'] });
  const before = await settings();
  const done = { type: 'step.done', step: 'wire/loose-bar/bar', yes: ['tugged', 'fuse-place'] };
  await ask(done);
  const after = await settings();
  const took = (await dossier()).order.used['wire/loose-bar/bar'] as {
    of: string;
    awg: number;
    colour: string;
    lengthM: number;
    id: string;
    pieces: number;
  }[];
  const wire = took.filter((t) => t.of === 'spool');
  expect(wire.length).toBeGreaterThan(0);
  for (const t of wire) {
    const cut = wire.filter((x) => x.awg === t.awg && x.colour === t.colour).reduce((n, x) => n + x.lengthM, 0);
    expect(metres(before, t.awg, t.colour) - metres(after, t.awg, t.colour)).toBeCloseTo(cut, 3);
  }
  for (const t of took.filter((x) => x.of === 'shelf'))
    expect(before.shelf.find((x) => x.id === t.id)!.have - after.shelf.find((x) => x.id === t.id)!.have).toBe(t.pieces);

  // reopened and done again: the wire is cut already
  await ask({ type: 'step.reopened', step: 'wire/loose-bar/bar' });
  await ask(done);
  expect(total(await settings())).toBeCloseTo(total(after), 3);

  // taken back three times: the last of them is the cut itself
  for (let i = 0; i < 3; i++) {
    const { order } = await dossier();
    await ask({ type: 'action.undone', says: order.undo.tor.at(-1).says });
  }
  expect(total(await settings())).toBeCloseTo(total(before), 3);
  expect((await settings()).shelf.map((x) => [x.id, x.have])).toEqual(before.shelf.map((x) => [x.id, x.have]));
});
