import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { QueryClient } from '@tanstack/react-query';
import type { OrderCommand } from '#core/events/registry';
import { Outbox } from './outbox';
import { DeviceStore } from './store';

/** A network that answers what it is told to, a cache that is read back, a browser's locks and small store. */
const kept = new Map<string, string>();
const sent: { key: string; version: string; author: string; doneAt: string; text: string }[] = [];
let answer: (n: number, text: string) => { status: number; body?: unknown } | 'down';
let readVersion = 1;
let last: Promise<unknown> = Promise.resolve();
let atOnce = 0;
let mostAtOnce = 0;
const tabs: Outbox[] = [];

const client = {
  invalidateQueries: async () => undefined,
  getQueryData: () => ({ order: { version: readVersion } }),
} as unknown as QueryClient;
const finding = (text: string): OrderCommand => ({ type: 'finding.added', text });
const add = (box: Outbox, text: string, { onVersion = 1, order = 'o1', by = 'tor' } = {}) =>
  box.add({ order, command: finding(text), onVersion, by });
/** A tenth of what is waited otherwise: what is held still outlasts every test. */
const WAITS = { first: 50, longest: 500, held: 1500, barred: 3000 };
/** A tab of this browser, with somebody signed in. */
async function tab(person: string | null = 'tor', store = new DeviceStore()): Promise<Outbox> {
  const box = new Outbox(client, store, WAITS);
  tabs.push(box);
  await box.ready;
  box.signedIn(person);
  return box;
}
const waiting = (box: Outbox) => box.snapshot().map((p) => `${p.state} ${(p.command as { text: string }).text}`);
const until = async (ready: () => boolean) => {
  for (let i = 0; i < 600 && !ready(); i++) await new Promise((r) => setTimeout(r, 10));
  expect(ready()).toBe(true);
};
const texts = () => sent.map((s) => s.text);

beforeEach(() => {
  kept.clear();
  sent.length = 0;
  readVersion = 1;
  mostAtOnce = 0;
  answer = (n) => ({ status: 200, body: { version: n + 1 } });
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => void kept.set(k, v),
    removeItem: (k: string) => void kept.delete(k),
  });
  vi.stubGlobal('window', { addEventListener: () => undefined });
  // each tab waits for the one before, as a browser's lock does
  vi.stubGlobal('navigator', {
    locks: { request: (_name: string, work: () => Promise<unknown>) => (last = last.then(work, work)) },
  });
  vi.stubGlobal('fetch', async (_path: string, init: { headers: Record<string, string>; body: string }) => {
    mostAtOnce = Math.max(mostAtOnce, ++atOnce);
    await new Promise((r) => setTimeout(r, 2));
    atOnce--;
    const { text } = JSON.parse(init.body) as { text: string };
    const a = answer(sent.length + 1, text);
    if (a === 'down') throw new TypeError('network');
    const h = init.headers;
    sent.push({ key: h['Idempotency-Key']!, version: h['If-Match']!, author: h.Author!, doneAt: h['Done-At']!, text });
    if (a.status === 200) readVersion = (a.body as { version: number }).version;
    return { ok: a.status < 400, status: a.status, headers: new Headers(), text: async () => JSON.stringify(a.body ?? {}) };
  });
});
afterEach(async () => {
  for (const t of tabs.splice(0)) t.signedIn(null);
  await new Promise((r) => setTimeout(r, 30));
  await new Promise((done) => (indexedDB.deleteDatabase('kadro-device').onsuccess = done));
  vi.unstubAllGlobals();
});

describe('the queue of a device', () => {
  it('sends in order, each with a key of its own, its author, and when it was done; and forgets what is read back', async () => {
    const box = await tab();
    await add(box, 'a', { onVersion: 4 });
    await add(box, 'b', { onVersion: 4 });
    await until(() => box.snapshot().length === 0);
    expect(sent.map((s) => [s.text, s.version, s.author])).toEqual([
      ['a', '"4"', 'tor'],
      ['b', '"4"', 'tor'],
    ]);
    expect(new Set(sent.map((s) => s.key)).size).toBe(2);
    expect(Math.abs(Date.parse(sent[0]!.doneAt) - Date.now())).toBeLessThan(3000);
    expect((await new DeviceStore().read()).rows).toEqual([]);
  });
  it('keeps what cannot be sent, row by row, and sends it after a reload with the same keys', async () => {
    answer = () => 'down';
    const before = await tab();
    await add(before, 'a');
    await add(before, 'b');
    await until(() => before.stuckSnapshot());
    const keys = before.snapshot().map((p) => p.key);
    before.signedIn(null);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    const reloaded = await tab();
    await until(() => reloaded.snapshot().length === 0);
    expect(sent.map((s) => s.key)).toEqual(keys);
    expect(reloaded.stuckSnapshot()).toBe(false);
  });
  it.each([500, 403, 404, 408, 413, 429])('a %i never takes anything out of it', async (status) => {
    answer = () => ({ status, body: { detail: 'no' } });
    const box = await tab();
    await add(box, 'a');
    await until(() => sent.length >= 2);
    expect(waiting(box)).toEqual(['waiting a']);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    await until(() => box.snapshot().length === 0);
    expect(new Set(sent.map((s) => s.key)).size).toBe(1);
  });
  it('what the server does not take holds up its own order only, and its author is told that it is kept', async () => {
    answer = (n, text) => (text === 'bad' ? { status: 500, body: { detail: 'fault 1a2b' } } : { status: 200, body: { version: n + 1 } });
    const box = await tab();
    await add(box, 'bad');
    await add(box, 'after it');
    await add(box, 'elsewhere', { order: 'o2' });
    await until(() => texts().includes('elsewhere'));
    expect(texts()).not.toContain('after it');
    await until(() => box.noticeSnapshot().some((n) => n.text.includes('Kept on this device')));
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    await until(() => box.snapshot().length === 0);
    expect(texts().filter((t) => t !== 'bad' && t !== 'elsewhere')).toEqual(['after it']);
  });
  it('something new on another order does not wait until what is held is tried again', async () => {
    answer = (n, text) => (text === 'bad' ? { status: 500, body: { detail: 'no' } } : { status: 200, body: { version: n + 1 } });
    const box = await tab();
    await add(box, 'bad');
    await until(() => sent.filter((s) => s.text === 'bad').length >= 3);
    const asked = Date.now();
    await add(box, 'at once', { order: 'o3' });
    await until(() => texts().includes('at once'));
    expect(Date.now() - asked).toBeLessThan(1500);
  });
  it('what the rules refused stays until its author has seen it, over a reload too', async () => {
    answer = (n, text) =>
      text === 'sealed' ? { status: 409, body: { refused: true, detail: 'This order is sealed.' } } : { status: 200, body: { version: n } };
    const box = await tab();
    await add(box, 'sealed');
    await add(box, 'b');
    await until(() => texts().includes('b'));
    await until(() => box.noticeSnapshot().some((n) => n.text === 'This order is sealed.'));
    box.signedIn(null);
    const reloaded = await tab();
    await until(() => reloaded.noticeSnapshot().length === 1);
    reloaded.dismiss(reloaded.noticeSnapshot()[0]!.id);
    await until(() => reloaded.snapshot().length === 0);
    await until(() => reloaded.noticeSnapshot().length === 0);
    expect((await new DeviceStore().read()).rows).toEqual([]);
  });
  it('another person who signs in here neither sends it nor signs for it', async () => {
    answer = () => 'down';
    const box = await tab('tor');
    await add(box, 'by tor');
    await until(() => box.stuckSnapshot());
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    box.signedIn('maud');
    await add(box, 'by maud', { by: 'maud' });
    await until(() => sent.length === 1);
    await new Promise((r) => setTimeout(r, 80));
    expect(sent.map((s) => [s.text, s.author])).toEqual([['by maud', 'maud']]);
    expect(box.ofOthers()).toEqual([{ by: 'tor', n: 1 }]);
    box.signedIn('tor');
    await until(() => sent.length === 2);
    expect(sent[1]).toMatchObject({ text: 'by tor', author: 'tor' });
  });
  it('several tabs share it without overwriting, and one sends at a time', async () => {
    answer = () => 'down';
    const [one, two, three] = [await tab(), await tab(), await tab()];
    for (let i = 0; i < 5; i++) for (const [k, t] of [one, two, three].entries()) await add(t, `${k}.${i}`);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    for (const t of [one, two, three]) void t.pump();
    await until(() => sent.length >= 15);
    await until(() => [one, two, three].every((t) => t.snapshot().length === 0));
    expect(texts()).toEqual(Array.from({ length: 15 }, (_, n) => `${n % 3}.${Math.floor(n / 3)}`));
    expect(new Set(sent.map((s) => s.key)).size).toBe(15);
    expect(mostAtOnce).toBe(1);
  });
  it('a full store is said at once, and what was done is still sent while the page stays', async () => {
    const store = new DeviceStore();
    store.add = () => Promise.reject(new DOMException('full', 'QuotaExceededError'));
    answer = () => 'down';
    const box = await tab('tor', store);
    await add(box, 'a');
    expect(box.roomSnapshot()).toBe(false);
    expect(box.noticeSnapshot().map((n) => n.text)).toEqual([expect.stringContaining('no room left')]);
    expect(box.snapshot()).toMatchObject([{ kept: false, state: 'waiting' }]);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    await until(() => box.snapshot().length === 0);
    expect(texts()).toEqual(['a']);
  });
  it('a damaged row is set aside and said, and the rest goes on', async () => {
    answer = () => 'down';
    const before = await tab();
    await add(before, 'good');
    before.signedIn(null);
    const store = new DeviceStore();
    await store.add({ nonsense: true } as never);
    await store.add({ ...before.snapshot()[0]!, n: undefined, command: { type: 'order.burnt' } } as never).catch(() => undefined);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    const box = await tab();
    await until(() => texts().includes('good'));
    expect(box.noticeSnapshot().some((n) => n.text.includes('set aside'))).toBe(true);
    expect((await store.readAside()).map((a) => a.what)).toEqual(expect.arrayContaining([expect.objectContaining({ nonsense: true })]));
  });
  it('what an older version kept as one text is brought along; one that is no JSON is set aside', async () => {
    const row = {
      key: 'k'.repeat(36),
      order: 'o1',
      command: finding('old'),
      onVersion: 3,
      at: new Date().toISOString(),
      by: 'tor',
      state: 'waiting',
    };
    kept.set('kadro.outbox', JSON.stringify([row, { ...row, key: 's'.repeat(36), state: 'sent' }]));
    const box = await tab();
    await until(() => texts().includes('old'));
    expect(sent).toHaveLength(1);
    expect(kept.has('kadro.outbox')).toBe(false);
    await until(() => box.snapshot().length === 0);
    kept.set('kadro.outbox', '[{"key":');
    const next = await tab();
    expect(next.noticeSnapshot().some((n) => n.text.includes('set aside'))).toBe(true);
    expect(await new DeviceStore().readAside()).toMatchObject([{ what: '[{"key":' }]);
  });
  it('a clash stops that order and waits for the person; other orders go on', async () => {
    const theirs = [{ seq: 9, doneAt: '', by: 'wyn', body: finding('theirs') }];
    const clash = { status: 409, body: { stale: true, detail: 'Somebody changed this order', current: { version: 9 }, clashing: theirs } };
    answer = (n) => (n === 1 ? clash : { status: 200, body: { version: 10 + n } });
    const box = await tab();
    await add(box, 'mine', { onVersion: 8 });
    await add(box, 'after it', { onVersion: 8 });
    await add(box, 'elsewhere', { order: 'o2' });
    await until(() => sent.length === 2);
    expect(sent[1]!.text).toBe('elsewhere');
    const held = box.snapshot().find((p) => p.state === 'clash')!;
    expect(held.clash).toMatchObject({ current: 9, theirs: [{ by: 'wyn' }] });
    box.resolve(held.key, true);
    await until(() => sent.length === 4);
    expect(sent.slice(2).map((s) => [s.text, s.version])).toEqual([
      ['mine', '"9"'],
      ['after it', '"8"'],
    ]);
    expect(sent[2]!.key).not.toBe(sent[0]!.key);
  });
  it('keeping theirs drops mine and lets the rest go', async () => {
    answer = (n) =>
      n === 1
        ? { status: 409, body: { stale: true, detail: 'x', current: { version: 2 }, clashing: [] } }
        : { status: 200, body: { version: 3 } };
    const box = await tab();
    await add(box, 'mine');
    await until(() => box.snapshot()[0]?.state === 'clash');
    box.resolve(box.snapshot()[0]!.key, false);
    await until(() => box.snapshot().length === 0);
    expect(sent).toHaveLength(1);
  });
  it('waits for a sign-in without trying again and again', async () => {
    answer = () => ({ status: 401, body: { detail: 'Sign in first' } });
    const box = await tab();
    await add(box, 'a');
    await until(() => sent.length >= 1);
    await new Promise((r) => setTimeout(r, 900));
    expect(sent).toHaveLength(1);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    box.signedIn(null);
    box.signedIn('tor');
    await until(() => box.snapshot().length === 0);
  });
  it('tells when all of an order has arrived, and when it has not in time', async () => {
    const box = await tab();
    expect(await box.arrived('o1', 1000)).toBe(true);
    answer = () => 'down';
    await add(box, 'a');
    await add(box, 'b', { order: 'o2' });
    expect(await box.arrived('o1', 120)).toBe(false);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    expect(await box.arrived('o1', 20_000)).toBe(true);
  });
  it('says the same thing once, however often it is refused', async () => {
    const box = await tab();
    box.tell('Read the volts first.');
    box.tell('No clock of yours is running.');
    box.tell('Read the volts first.');
    expect(box.noticeSnapshot().map((n) => n.text)).toEqual(['No clock of yours is running.', 'Read the volts first.']);
  });
});
