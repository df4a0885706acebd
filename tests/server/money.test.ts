import { createHash } from 'node:crypto';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OwnersView } from '#core/order/owners-view';
import type { Order } from '#model/order';
import { pdfPages } from '../pdf-text';
import { Client, openingLike, startShop, type Shop } from '../shop';

let shop: Shop;
let wyn: Client;
let ines: Client;
/** whoever has the address: nobody of the shop */
let lio: Client;
beforeAll(async () => {
  shop = await startShop();
  wyn = await new Client(shop.base).signIn('wyn');
  ines = await new Client(shop.base).signIn('ines');
  lio = new Client(shop.base);
});
afterAll(() => shop.stop());

const orderOf = async (id: string) => (await wyn.call('GET', `/api/orders/${id}`)).body.order as Order;
const record = async (id: string, command: unknown, who = wyn) => who.record(id, (await orderOf(id)).version, command);
const quote = (more: object = {}) => ({
  type: 'quote.made',
  basis: 'fixed',
  options: [{ name: 'As planned', changes: [] }],
  discount: null,
  note: '',
  prices: {},
  ...more,
});
/** Another unit like the Tern, with its lamps on it and a page for its owner. */
async function begun(): Promise<{ id: string; page: string }> {
  const like = (await orderOf((await wyn.order('Tern 300')).id)).unit;
  const { body } = await wyn.call('POST', '/api/orders', openingLike(like));
  await record(body.id, { type: 'kit.added', kit: 'aux-lamps' });
  const link = await wyn.call('POST', `/api/orders/${body.id}/links`, {});
  expect(link.body.path).toMatch(/^\/u\/[\w-]{43}$/);
  return { id: body.id, page: `/api/owner/${link.body.path.slice(3)}` };
}
const textOf = async (path: string): Promise<string> => {
  const res = await wyn.raw(path);
  expect(res.headers.get('content-type')).toContain('application/pdf');
  return (await pdfPages(await res.arrayBuffer())).join('');
};

describe('a quote', () => {
  it('is tried without recording anything, given, shown on the owner’s page, and agreed there once', async () => {
    const { id, page } = await begun();
    const before = await orderOf(id);
    const tried = await wyn.call('POST', `/api/orders/${id}/quote/try`, {
      options: [{ changes: [] }],
      discount: { rate: '5 %' },
      prices: {},
    });
    expect(tried.status).toBe(200);
    expect((await orderOf(id)).version).toBe(before.version);
    expect((await lio.call<OwnersView>('GET', page)).body.quote).toBeNull();
    expect((await record(id, quote({ discount: { rate: '5 %' } }))).status).toBe(200);
    const { quotes } = (await orderOf(id)).money!;
    expect(quotes[0]!.options[0]!.totals).toEqual(tried.body.options[0].totals);
    const view = (await lio.call<OwnersView>('GET', page)).body;
    expect(view.quote!.options[0]!.totals.gross).toBe(quotes[0]!.options[0]!.totals.gross);
    // two touches at once are one agreement
    const agree = { do: 'agree', revision: 1, option: 'a', name: 'Edda' };
    const both = await Promise.all([lio.call('POST', page, agree), lio.call('POST', page, agree)]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    const second = both.find((r) => r.status === 409)!.body;
    expect(second.detail).toContain('agreed already, by Edda');
    // the order as the shop has it is not told
    expect(second.current).toBeUndefined();
    const after = await orderOf(id);
    expect(after.money!.agreed).toMatchObject({ revision: 1, option: 'a', how: 'page', by: '~owner', name: 'Edda' });
    const log = (await wyn.call('GET', `/api/orders/${id}/events`)).body as { by: string; says: string }[];
    expect(log.filter((e) => e.says.startsWith('Agreed: quote 1'))).toMatchObject([{ by: '~owner' }]);
  });
  it('without a price names what it lacks, by its field; “1.000,5” is no amount', async () => {
    const { id } = await begun();
    const { versions, settings } = (await ines.call('GET', '/api/settings')).body;
    const kits = settings.priceBook.kits.filter((k: { kit: string }) => k.kit !== 'aux-lamps');
    const change = (value: unknown, version: number) =>
      ines.call('PATCH', '/api/settings', { changes: [{ field: 'priceBook', value, version }] });
    expect((await change({ ...settings.priceBook, kits }, versions.priceBook)).status).toBe(200);
    const refused = await record(id, quote());
    expect(refused.status).toBe(422);
    expect(refused.body).toMatchObject({
      detail: expect.stringContaining('no price for Auxiliary driving lamps'),
      fields: [{ path: 'prices.aux-lamps' }],
    });
    expect((await record(id, quote({ prices: { 'aux-lamps': '1.000,5' } }))).status).toBe(422);
    expect((await record(id, quote({ prices: { 'aux-lamps': '1000.5' } }))).status).toBe(200);
    expect((await change(settings.priceBook, versions.priceBook + 1)).status).toBe(200);
  });
});

describe('what turns up', () => {
  it('is asked with a picture, agreed on the page, done, and billed; its picture is the only one the page shows', async () => {
    const { id, page } = await begun();
    await record(id, quote({ basis: 'time' }));
    await record(id, { type: 'quote.agreed', revision: 1, option: 'a', how: 'told', name: 'Edda', strokes: null });
    const png = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');
    const photo = createHash('sha256').update(png).digest('hex');
    expect((await wyn.bytes(`/api/photos/${photo}`, png)).status).toBe(200);
    // not of this order yet
    expect((await lio.call('GET', `${page}/photos/${photo}`)).status).toBe(404);
    const asked = await record(id, {
      type: 'extra.asked',
      title: 'Clean the posts',
      why: 'they are green',
      place: 'battery',
      minutes: 20,
      labour: 'wire',
      powerOff: true,
      question: 'Clean',
      parts: [],
      photo,
      step: null,
    });
    expect(asked.status).toBe(200);
    expect((await lio.raw(`${page}/photos/${photo}`)).status).toBe(200);
    expect((await orderOf(id)).jobs ?? []).toEqual([]);
    const yes = await lio.call('POST', page, { do: 'answer', extra: 'clean-the-posts', yes: true, name: 'Edda', reason: '' });
    expect(yes.body.extras).toMatchObject([{ title: 'Clean the posts', answer: { yes: true, name: 'Edda' } }]);
    expect((await orderOf(id)).jobs).toMatchObject([{ id: 'clean-the-posts', minutes: 20 }]);
    expect((await record(id, { type: 'bill.made' })).status).toBe(200);
    const { bill } = (await orderOf(id)).money!;
    // nothing was done of it
    expect(bill!.left).toContain('Clean the posts: agreed, and not done');
    const paper = await textOf(`/api/orders/${id}/bill.pdf`);
    expect(paper).toContain(bill!.totals.gross);
    const rows = Papa.parse<Record<string, string>>(await (await wyn.raw(`/api/orders/${id}/bill.csv`)).text(), { header: true }).data;
    expect(rows.reduce((s, r) => s + Math.round(Number(r.gross) * 100), 0)).toBe(Math.round(Number(bill!.totals.gross) * 100));
    const today = new Date().toISOString().slice(0, 10);
    const all = await (await wyn.raw(`/api/bills.csv?from=${today}&to=${today}`)).text();
    expect(all).toContain(`${(await orderOf(id)).number}-1`);
    expect(await textOf(`/api/orders/${id}/quote.pdf`)).toContain('10 % more');
    expect((await wyn.raw(`/api/orders/${id}/quote.pdf?revision=7`)).status).toBe(404);
  });
});

describe('the owner’s page', () => {
  it('shows nothing once it is withdrawn, over, or guessed; and nothing of another order', async () => {
    const { id, page } = await begun();
    expect((await lio.call('GET', page)).status).toBe(200);
    const [link] = (await wyn.call('GET', `/api/orders/${id}/links`)).body;
    expect(link).toMatchObject({ by: 'wyn', seen: expect.any(String) });
    expect(JSON.stringify(link)).not.toContain(page.slice(11));
    const other = await begun();
    // one order’s address is not withdrawn by another’s
    expect((await wyn.call('DELETE', `/api/orders/${other.id}/links/${link.id}`)).status).toBe(404);
    expect((await wyn.call('DELETE', `/api/orders/${id}/links/${link.id}`)).status).toBe(200);
    const gone = await lio.call('GET', page);
    const guessed = await lio.call('GET', `/api/owner/${'x'.repeat(43)}`);
    expect([gone.status, guessed.status]).toEqual([404, 404]);
    expect(gone.body.detail).toBe(guessed.body.detail);
    expect((await lio.call('POST', page, { do: 'ask', text: 'hello' })).status).toBe(404);
    // signed in or not, it opens no other door
    expect((await lio.call('GET', `/api/orders/${other.id}`)).status).toBe(401);
    const view = JSON.stringify((await lio.call('GET', other.page)).body);
    expect(view).not.toContain(id);
    expect(view).not.toContain('"wyn"');
  });
  it('asks, is answered, and is refused what is none of its business', async () => {
    const { id, page } = await begun();
    expect((await lio.call('POST', page, { do: 'ask', text: 'Is it ready?' })).body.questions).toMatchObject([
      { text: 'Is it ready?', answer: null },
    ]);
    const floor = (await wyn.call('GET', '/api/floor')).body.orders as { id: string; summary: { waitsFor: string } }[];
    expect(floor.find((o) => o.id === id)!.summary.waitsFor).toBe('an answer for its owner');
    await record(id, { type: 'question.answered', id: 'q1', text: 'Tomorrow', photo: null });
    expect((await lio.call('GET', page)).body.questions).toMatchObject([{ answer: { text: 'Tomorrow' } }]);
    for (const said of [
      { do: 'agree', revision: 1, option: 'a', name: '' },
      { do: 'pay' },
      { do: 'ask', text: 'x'.repeat(601) },
      { do: 'ask' },
    ])
      expect((await lio.call('POST', page, said)).status).toBe(422);
    // by the staff’s own door nobody speaks as the owner
    expect((await record(id, { type: 'quote.declined', revision: 1, name: 'x', reason: '' })).status).toBe(422);
  });
  it('after the hand-over has what the owner takes along, as it was sealed', async () => {
    const found = (await wyn.call('GET', '/api/orders?status=sealed&q=drover')).body as { id: string; status: string }[];
    const { id } = found.find((o) => o.status === 'sealed')!;
    const link = await wyn.call('POST', `/api/orders/${id}/links`, {});
    const view = (await lio.call<OwnersView>('GET', `/api/owner/${link.body.path.slice(3)}`)).body;
    expect(view.state).toBe('over');
    expect(view.sheet!.map.fuses.length).toBeGreaterThan(0);
    expect(view.sheet!.cautions.join()).toContain('local');
    const sealed = (await wyn.call('GET', `/api/orders/${id}/hand-over.json`)).body;
    expect(view.sheet!.map.fuses.map((f) => f.circuit)).toEqual(
      sealed.circuits
        .filter((c: { fuseA: number | null; feed: string | null }) => c.fuseA !== null && c.feed)
        .map((c: { circuit: string }) => c.circuit),
    );
    expect((await lio.call('POST', `/api/owner/${link.body.path.slice(3)}`, { do: 'ask', text: 'Which fuse?' })).status).toBe(200);
  });
  it('many guesses from one place are made to wait, and meanwhile whoever asks from there', async () => {
    const { page } = await begun();
    expect((await lio.call('GET', page)).status).toBe(200);
    let last = 0;
    for (let i = 0; i < 70 && last !== 429; i++) last = (await lio.call('GET', `/api/owner/${String(i).padStart(43, 'a')}`)).status;
    expect(last).toBe(429);
    expect((await lio.call('GET', page)).status).toBe(429);
  });
});
