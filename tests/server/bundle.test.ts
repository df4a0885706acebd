import { createHash } from 'node:crypto';
import { unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoIds, packIds } from '../demo-sheets';
import { png } from '../picture';
import { Client, startShop, type Shop } from '../shop';

let ours: Shop;
let theirs: Shop;
let ines: Client;
let owner: Client;
beforeAll(async () => {
  [ours, theirs] = await Promise.all([startShop(), startShop({ env: { KADRO_OWNER_PASSWORD: 'of the owner' } })]);
  ines = await new Client(ours.base).signIn('ines');
  owner = await new Client(theirs.base).signIn('owner', 'of the owner');
});
afterAll(() => Promise.all([ours.stop(), theirs.stop()]));

interface Beside {
  kind: string;
  id: string;
  standing: string;
  revision: number;
  changes: string[];
  problems: string[];
  text?: string;
}
const bundleOf = async (c: Client) => Buffer.from(await (await c.raw('/api/sheets.zip')).arrayBuffer());
const compare = async (c: Client, bytes: Buffer) => {
  const r = await c.bytes('/api/sheets/compare', bytes, 'application/zip', 'POST');
  return { status: r.status, body: JSON.parse(r.text) as { from: string; sheets: Beside[]; detail?: string } };
};
const take = (c: Client, b: Beside) => c.call('POST', `/api/sheets?reason=from+them&from=${b.revision}`, b.text);
const count = (list: Beside[], standing: string) => list.filter((b) => b.standing === standing).length;

describe('sheets between two shops', () => {
  it('go out as one zip, come in with a comparison, and are each other’s inverse', async () => {
    const all = await bundleOf(ines);
    expect(Object.keys(unzipSync(all))).toHaveLength(1 + demoIds('models').length + demoIds('kits').length + packIds().length);
    // at home nothing is otherwise
    expect(count((await compare(ines, all)).body.sheets, 'same')).toBe(
      demoIds('models').length + demoIds('kits').length + packIds().length,
    );
    // an empty shop has the rule packs; the rest is new to it, and is the same once it is in
    const arrived = (await compare(owner, all)).body;
    expect(arrived.from).toBe('Skerry Point Powersports');
    expect([count(arrived.sheets, 'same'), count(arrived.sheets, 'new')]).toEqual([
      packIds().length,
      demoIds('models').length + demoIds('kits').length,
    ]);
    for (const b of arrived.sheets.filter((x) => x.text)) expect((await take(owner, b)).status, b.id).toBe(200);
    expect((await compare(owner, all)).body.sheets.every((b) => b.standing === 'same' && !b.text)).toBe(true);
    const back = await bundleOf(owner);
    expect((await compare(ines, back)).body.sheets.every((b) => b.standing === 'same')).toBe(true);
    const files = (zip: Buffer) => Object.entries(unzipSync(zip)).filter(([n]) => n !== 'manifest.json');
    expect(files(back).map(([n, b]) => [n, Buffer.from(b).toString()])).toEqual(files(all).map(([n, b]) => [n, Buffer.from(b).toString()]));
  });

  it('says what is newer there, newer here, and changed in both, with what is otherwise', async () => {
    const edit = async (c: Client, id: string, minutes: number) => {
      const file = JSON.parse(await (await c.raw(`/api/sheets/kit/${id}`)).text()) as { sheet: { steps: { minutes: number }[] } };
      file.sheet.steps[0]!.minutes = minutes;
      expect((await c.call('POST', '/api/sheets?reason=timed', JSON.stringify(file))).status).toBe(200);
    };
    await edit(owner, 'roof-bar', 21);
    await edit(owner, 'usb-socket', 22);
    await edit(ines, 'usb-socket', 23);
    await edit(ines, 'bed-lamp', 24);
    const { sheets } = (await compare(ines, await bundleOf(owner))).body;
    const of = (id: string) => sheets.find((b) => b.id === id)!;
    expect(of('roof-bar')).toMatchObject({
      standing: 'theirs newer',
      revision: 1,
      changes: ['Step “Bar on the roof edge”: minutes 10; now 21'],
    });
    expect(of('usb-socket')).toMatchObject({ standing: 'both changed', revision: 2 });
    expect(of('bed-lamp')).toMatchObject({ standing: 'ours newer' });
    expect(of('bed-lamp').text).toBeUndefined();
    expect((await take(ines, of('roof-bar'))).body).toMatchObject({ ref: { revision: 2 }, changed: true });
    // somebody was faster
    expect((await take(ines, of('roof-bar'))).status).toBe(200);
    await edit(ines, 'roof-bar', 25);
    expect((await take(ines, of('roof-bar'))).status).toBe(409);
  });

  it('is refused with words where it is no bundle, and takes nothing in by itself', async () => {
    const bad = async (bytes: Buffer) => (await compare(ines, bytes)).body.detail;
    expect(await bad(Buffer.from('hello'))).toBe('that is no zip, or it is broken');
    expect(await bad(Buffer.from(zipSync({ '../evil.json': Buffer.from('{}') })))).toMatch(/would be put outside of the folder/);
    const files = unzipSync(await bundleOf(owner));
    const broken = { ...files, 'kit/roof-bar.json': Buffer.from('{"kadro":"kit","format":2,"sheet":{"id":"roof-bar"}}') };
    const b = (await compare(ines, Buffer.from(zipSync(broken)))).body.sheets.find((x) => x.id === 'roof-bar')!;
    expect(b.text).toBeUndefined();
    expect(b.problems[0]).toMatch(/line 1/);
    const tor = await new Client(ours.base).signIn('tor');
    expect((await compare(tor, Buffer.from('x'))).status).toBe(403);
  });

  it('are taken from what is offered and put back; who has which revision is told', async () => {
    interface Use {
      number: number;
      unitName: string;
      revision: number;
    }
    const uses = (await ines.call('GET', '/api/sheets/model/drover-2/uses')).body as Use[];
    expect(uses).toMatchObject([{ revision: 1, unitName: 'Aldermoor Drover 2' }]);
    expect(((await ines.call('GET', '/api/sheets/kit/roof-bar/uses')).body as Use[]).every((u) => u.revision === 1)).toBe(true);
    expect((await ines.call('GET', '/api/sheets/kit/no-such/uses')).status).toBe(404);
    expect((await ines.call('GET', `/api/sheets/rules/${packIds()[0]!}/uses`)).body).toEqual([]);
    const retired = async () =>
      ((await ines.call('GET', '/api/sheets')).body as { kits: { ref: { id: string }; retired?: true }[] }).kits
        .filter((k) => k.retired)
        .map((k) => k.ref.id);
    expect(await retired()).toEqual([]);
    const set = (c: Client, kind: string, to: boolean) => c.call('PUT', `/api/sheets/${kind}/roof-bar/retired`, { retired: to });
    expect((await set(ines, 'kit', true)).body).toEqual({ retired: true });
    expect((await set(ines, 'kit', true)).status).toBe(200);
    expect(await retired()).toEqual(['roof-bar']);
    expect((await set(ines, 'rules', true)).status).toBe(404);
    expect((await set(await new Client(ours.base).signIn('tor'), 'kit', false)).status).toBe(403);
    expect((await set(ines, 'kit', false)).body).toEqual({ retired: false });
    expect(await retired()).toEqual([]);
  });

  it('carries the pictures that its sheets name, and says which it lacks', async () => {
    const bytes = png(5);
    const id = createHash('sha256').update(bytes).digest('hex');
    expect((await ines.bytes(`/api/photos/${id}`, bytes)).status).toBe(200);
    const file = JSON.parse(await (await ines.raw('/api/sheets/kit/docking-lamps')).text()) as { sheet: { steps: object[] } };
    Object.assign(file.sheet.steps[0]!, { picture: id });
    const put = await ines.call('POST', '/api/sheets?reason=pictured', JSON.stringify(file));
    expect(put.status, put.text).toBe(200);
    const zip = await bundleOf(ines);
    expect(Buffer.from(unzipSync(zip)[`pictures/${id}`]!)).toEqual(bytes);
    const of = (list: Beside[]) => list.find((b) => b.id === 'docking-lamps')!;
    // one that does not come along, and one that is another than it says
    const { [`pictures/${id}`]: _, ...bare } = unzipSync(zip);
    for (const less of [bare, { ...bare, [`pictures/${id}`]: png(6) }]) {
      const { body } = await compare(owner, Buffer.from(zipSync(less)));
      expect(of(body.sheets).changes).toContain('1 of its pictures is not in the file, or no picture');
      expect((await owner.raw(`/api/photos/${id}`)).status).toBe(404);
    }
    const { body } = await compare(owner, zip);
    expect(of(body.sheets).changes.join()).not.toMatch(/pictures/);
    expect((await take(owner, of(body.sheets))).status).toBe(200);
    expect(Buffer.from(await (await owner.raw(`/api/photos/${id}`)).arrayBuffer())).toEqual(bytes);
  });
});
