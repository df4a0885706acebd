import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openShop, run } from '#server/store/db';
import { checkRecord } from '#server/store/check-record';
import { png } from '../picture';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let tor: Client;
let wyn: Client;
let id: string;
beforeAll(async () => {
  shop = await startShop();
  tor = await new Client(shop.base).signIn('tor');
  wyn = await new Client(shop.base).signIn('wyn');
  id = (await tor.order('Drover 4')).id;
});
afterAll(() => shop.stop());

const sha = (b: Buffer) => createHash('sha256').update(b).digest('hex');
const version = async () => (await tor.call('GET', `/api/orders/${id}`)).body.order.version as number;

describe('pictures', () => {
  it('are kept by the hash of their bytes, once, and come back as they were', async () => {
    const p = png(1, 40, 30);
    expect((await tor.bytes(`/api/photos/${sha(p)}`, p)).status).toBe(200);
    expect((await tor.bytes(`/api/photos/${sha(p)}`, p)).status).toBe(200);
    const back = await tor.raw(`/api/photos/${sha(p)}`);
    expect(back.headers.get('content-type')).toBe('image/png');
    expect(back.headers.get('cache-control')).toMatch(/immutable/);
    expect(sha(Buffer.from(await back.arrayBuffer()))).toBe(sha(p));
  });
  it.each([
    ['not a picture', Buffer.from('%PDF-1.4 something else entirely'), 422, /not a picture/],
    [
      'a page with a script',
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>'),
      422,
      /JPEG, PNG or WebP|not a picture/,
    ],
    ['nothing', Buffer.alloc(0), 422, /not a picture/],
    ['larger than any side', png(2, 12_001, 1), 422, /at most 12000 pixels/],
  ])('%s is refused', async (_what, bytes, status, says) => {
    const r = await tor.bytes(`/api/photos/${sha(bytes)}`, bytes);
    expect(r.status).toBe(status);
    expect(r.text).toMatch(says);
  });
  it('40 MB is refused with what is the most', async () => {
    const r = await tor.bytes(`/api/photos/${'a'.repeat(64)}`, Buffer.alloc(40 * 1024 * 1024, 7));
    expect(r.status).toBe(413);
    expect(r.text).toMatch(/larger than 8 MB/);
  });
  it('bytes that are not those named are refused, and so is an event that names what is not there', async () => {
    expect((await tor.bytes(`/api/photos/${'a'.repeat(64)}`, png(3))).text).toMatch(/damaged on its way/);
    const r = await tor.record(id, await version(), { type: 'photo.taken', photo: 'b'.repeat(64), note: '' });
    expect(r.status).toBe(422);
    expect(r.text).toMatch(/has not arrived/);
    expect((await tor.raw(`/api/photos/${'b'.repeat(64)}`)).status).toBe(404);
    expect((await new Client(shop.base).raw(`/api/photos/${sha(png(1))}`)).status).toBe(401);
  });
  it('go with a step and with a finding, which the next unit of the model shows', async () => {
    const p = png(1, 40, 30);
    expect((await tor.record(id, await version(), { type: 'photo.taken', photo: sha(p), step: 'safe/rest', note: 'posts' })).status).toBe(
      200,
    );
    expect((await tor.record(id, await version(), { type: 'finding.added', text: 'Nut is 10 mm', photo: sha(p) })).status).toBe(200);
    const other = (await tor.call('GET', `/api/orders?q=drover`)).body.find(
      (o: { id: string; summary: { unitName: string } }) => o.id !== id && o.summary.unitName.endsWith('Drover 4'),
    );
    const found = (await tor.call('GET', `/api/orders/${other.id}`)).body.findings;
    expect(found.find((f: { text: string }) => f.text === 'Nut is 10 mm').photo).toBe(sha(p));
  });
});

describe('the meter that stands in', () => {
  const at = (look: unknown, controls: Record<string, string> = {}) =>
    `/api/orders/${id ?? 'ID'}/meter?sight=${encodeURIComponent(JSON.stringify({ look, state: { controls, beat: true } }))}`;
  /** Its figures until one is steady. */
  async function steady(path: string): Promise<{ value: number | null; figures: (number | null)[] }> {
    const res = await tor.raw(path);
    expect(res.headers.get('content-type')).toBe('text/event-stream');
    const reader = res.body!.getReader();
    const figures: (number | null)[] = [];
    let text = '';
    for (;;) {
      const { value, done } = await reader.read();
      if (done) throw new Error(`ended after ${figures.length}`);
      text += new TextDecoder().decode(value);
      for (const line of text.split('\n\n').slice(0, -1)) {
        const s = JSON.parse(line.replace(/^data: /, '')) as { value: number | null; steady: boolean };
        figures.push(s.value);
        if (s.steady) {
          await reader.cancel();
          return { value: s.value, figures };
        }
      }
      text = text.split('\n\n').at(-1)!;
    }
  }
  it('runs up to the volts of the live model and holds them within its error', async () => {
    const { value, figures } = await steady(at({ kind: 'volts', plus: 'bat+', minus: 'bat-' }));
    expect(value).toBeGreaterThan(12.5);
    expect(value).toBeLessThan(12.85);
    expect(figures[0]!).toBeLessThan(value!);
    expect(figures.length).toBeGreaterThan(4);
  });
  it('shows what is planted, until that is put right', async () => {
    const planted = (await tor.call('GET', `/api/orders/${id}/stand-in`)).body.planted;
    expect(planted.cause).toBe('open:road-kit/signals:ground:front-left');
    const look = { kind: 'volts', plus: 'road-kit/front-left.minus', minus: 'bat-' };
    const left = { 'unit#key': 'run', 'road-kit/switch#turn': 'left' };
    expect((await steady(at(look, left))).value).toBeGreaterThan(11);
    expect((await steady(at({ kind: 'works', lit: ['road-kit/front-left:load-0'], dark: [] }, left))).value).toBe(0);
    const mended = await tor.record(id, await version(), {
      type: 'fault.mended',
      step: 'road-kit/left',
      cause: planted.cause,
      says: planted.says,
    });
    expect(mended.status).toBe(200);
    expect((await steady(at(look, left))).value).toBeLessThan(0.5);
    expect((await tor.call('GET', `/api/orders/${id}/stand-in`)).body.planted).toBeNull();
  });
  it('an open way is no figure', async () => {
    await tor.call('PUT', `/api/orders/${id}/stand-in`, { cause: 'open:roof-bar/relay:lamp:lamp' });
    expect((await steady(at({ kind: 'ohms', plus: 'roof-bar/bar#87', minus: 'roof-bar/bar.plus' }))).value).toBeNull();
    await tor.call('PUT', `/api/orders/${id}/stand-in`, { cause: null });
    expect((await steady(at({ kind: 'ohms', plus: 'roof-bar/bar#87', minus: 'roof-bar/bar.plus' }))).value).toBeLessThan(1);
  });
  it.each([
    [at({ kind: 'volts', plus: 'moon', minus: 'bat-' }), 422, /no point “moon”/],
    ['/api/orders/ID/meter?sight=x', 422, /not told where/],
    [
      `/api/orders/00000000-0000-4000-8000-000000000000/meter?sight=${encodeURIComponent('{"look":{"kind":"amps","of":"battery"},"state":{"controls":{},"beat":true}}')}`,
      404,
      /no such order/,
    ],
  ])('%s answers %i', async (path, status, says) => {
    const r = await tor.raw(path.replace('ID', id));
    expect(r.status).toBe(status);
    expect(await r.text()).toMatch(says);
  });
  it('is planted anew by whoever works at a bench, not by the desk, and not with what is not there', async () => {
    expect((await wyn.call('PUT', `/api/orders/${id}/stand-in`, { cause: 'any' })).status).toBe(403);
    expect((await tor.call('PUT', `/api/orders/${id}/stand-in`, { cause: 'open:moon>sun' })).status).toBe(422);
    expect((await tor.call('PUT', `/api/orders/${id}/stand-in`, { cause: 'any' })).body).toEqual({ planted: true });
  });
});

describe('a clock that was set back', () => {
  it('does not turn the record round: what comes later is never earlier', async () => {
    const db = openShop('shop', shop.url);
    // as if the server’s clock had stood an hour fast until now
    await run(
      db,
      'UPDATE order_events SET at = at + INTERVAL 1 HOUR WHERE order_id = ? AND seq = (SELECT v FROM (SELECT MAX(seq) v FROM order_events WHERE order_id = ?) x)',
      [id, id],
    );
    await tor.record(id, await version(), { type: 'finding.added', text: 'after the clock was set back' });
    const times = ((await tor.call('GET', `/api/orders/${id}/events`)).body as { recordedAt: string }[]).map((e) => e.recordedAt);
    expect(times).toEqual([...times].sort());
    // the hour was put in behind the record’s back, which its own check finds
    expect((await checkRecord(db)).problems.length).toBeGreaterThan(0);
    await db.close();
  });
});
