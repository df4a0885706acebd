import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { QueryClient } from '@tanstack/react-query';
import type { OrderCommand } from '#core/events/registry';
import { Outbox, type Pending } from './outbox';

/** A browser's store, a network that answers what it is told to, and a cache that is read back. */
const store = new Map<string, string>();
const sent: { key: string; version: string; body: OrderCommand }[] = [];
let answer: (n: number) => { status: number; body?: unknown } | 'down';
let readVersion = 1;

const client = {
  invalidateQueries: async () => undefined,
  getQueryData: () => ({ order: { version: readVersion } }),
} as unknown as QueryClient;
const finding = (text: string): OrderCommand => ({ type: 'finding.added', text });
const add = (box: Outbox, text: string, onVersion = 1, order = 'o1') => box.add({ order, command: finding(text), onVersion, by: 'tor' });
const until = async (ready: () => boolean) => {
  for (let i = 0; i < 400 && !ready(); i++) await vi.advanceTimersByTimeAsync(50);
  expect(ready()).toBe(true);
};

beforeEach(() => {
  vi.useFakeTimers();
  store.clear();
  sent.length = 0;
  readVersion = 1;
  answer = (n) => ({ status: 200, body: { version: n + 1 } });
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => store.get(k) ?? null,
    setItem: (k: string, v: string) => void store.set(k, v),
    removeItem: (k: string) => void store.delete(k),
  });
  vi.stubGlobal('window', { addEventListener: () => undefined });
  vi.stubGlobal('fetch', async (_path: string, init: { headers: Record<string, string>; body: string }) => {
    const a = answer(sent.length + 1);
    if (a === 'down') throw new TypeError('network');
    sent.push({ key: init.headers['Idempotency-Key']!, version: init.headers['If-Match']!, body: JSON.parse(init.body) });
    if (a.status === 200) readVersion = (a.body as { version: number }).version;
    return { ok: a.status < 400, status: a.status, text: async () => JSON.stringify(a.body ?? {}) };
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('the outbox', () => {
  it('sends in order, each with a key of its own on the version it was made on, and forgets what is read back', async () => {
    const box = new Outbox(client);
    add(box, 'a', 4);
    add(box, 'b', 4);
    await until(() => box.snapshot().length === 0);
    expect(sent.map((s) => [(s.body as { text: string }).text, s.version])).toEqual([
      ['a', '"4"'],
      ['b', '"4"'],
    ]);
    expect(new Set(sent.map((s) => s.key)).size).toBe(2);
    expect(store.has('kadro.outbox')).toBe(false);
  });
  it('keeps what cannot be sent, says so, and sends it with the same key when the network is back', async () => {
    let down = true;
    answer = (n) => (down ? 'down' : { status: 200, body: { version: n + 1 } });
    const box = new Outbox(client);
    const heard = vi.fn();
    box.subscribe(heard);
    add(box, 'a');
    await until(() => !box.reachSnapshot());
    const kept = JSON.parse(store.get('kadro.outbox')!) as Pending[];
    expect(kept).toMatchObject([{ command: { text: 'a' }, state: 'waiting' }]);
    heard.mockClear();
    down = false;
    await until(() => box.snapshot().length === 0);
    expect(sent[0]!.key).toBe(kept[0]!.key);
    expect(box.reachSnapshot()).toBe(true);
    expect(heard).toHaveBeenCalled();
  });
  it('goes on after a reload with the same keys', async () => {
    answer = () => 'down';
    const before = new Outbox(client);
    add(before, 'a');
    add(before, 'b');
    await until(() => !before.reachSnapshot());
    const keys = before.snapshot().map((p) => p.key);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    const afterReload = new Outbox(client);
    await until(() => afterReload.snapshot().length === 0);
    expect(sent.slice(0, 2).map((s) => s.key)).toEqual(keys);
  });
  it('a database that is gone is waited for, a refusal is told and dropped', async () => {
    answer = (n) =>
      n < 3
        ? { status: 503, body: { detail: 'away' } }
        : n === 3
          ? { status: 409, body: { detail: 'This order is sealed.' } }
          : { status: 200, body: { version: n } };
    const box = new Outbox(client);
    add(box, 'a');
    add(box, 'b');
    await until(() => box.snapshot().length === 0);
    expect(sent.map((s) => (s.body as { text: string }).text)).toEqual(['a', 'a', 'a', 'b']);
    expect(box.noticeSnapshot().map((n) => n.text)).toEqual(['This order is sealed.']);
    box.dismiss(box.noticeSnapshot()[0]!.id);
    expect(box.noticeSnapshot()).toEqual([]);
  });
  it('a clash stops that order and waits for the person; other orders go on', async () => {
    const clash = {
      status: 409,
      body: {
        stale: true,
        detail: 'Somebody changed this order',
        current: { version: 9 },
        clashing: [{ seq: 9, at: '', by: 'wyn', body: finding('theirs') }],
      },
    };
    answer = (n) => (n === 1 ? clash : { status: 200, body: { version: 10 + n } });
    const box = new Outbox(client);
    add(box, 'mine', 8);
    add(box, 'after it', 8);
    add(box, 'elsewhere', 1, 'o2');
    await until(() => sent.length === 2);
    expect((sent[1]!.body as { text: string }).text).toBe('elsewhere');
    const held = box.snapshot().find((p) => p.state === 'clash')!;
    expect(held.clash).toMatchObject({ current: 9, theirs: [{ by: 'wyn' }] });
    box.resolve(held.key, true);
    await until(() => sent.length === 4);
    expect(sent.slice(2).map((s) => [(s.body as { text: string }).text, s.version])).toEqual([
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
    const box = new Outbox(client);
    add(box, 'mine');
    await until(() => box.snapshot()[0]?.state === 'clash');
    box.resolve(box.snapshot()[0]!.key, false);
    expect(box.snapshot()).toEqual([]);
    expect(sent).toHaveLength(1);
  });
  it('waits for a sign-in without trying again and again', async () => {
    answer = () => ({ status: 401, body: { detail: 'Sign in first' } });
    const box = new Outbox(client);
    add(box, 'a');
    await vi.advanceTimersByTimeAsync(20_000);
    expect(sent).toHaveLength(1);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    void box.pump();
    await until(() => box.snapshot().length === 0);
  });

  it('tells when all of an order has arrived, and when it has not in time', async () => {
    const box = new Outbox(client);
    expect(await box.arrived('o1', 1000)).toBe(true);
    answer = () => 'down';
    add(box, 'a');
    add(box, 'b', 1, 'o2');
    const late = box.arrived('o1', 1000);
    await vi.advanceTimersByTimeAsync(1100);
    expect(await late).toBe(false);
    answer = (n) => ({ status: 200, body: { version: n + 1 } });
    const all = box.arrived('o1', 60_000);
    await until(() => sent.length === 2);
    expect(await all).toBe(true);
  });

  it('says the same thing once, however often it is refused', () => {
    const box = new Outbox(client);
    box.tell('Read the volts first.');
    box.tell('No clock of yours is running.');
    box.tell('Read the volts first.');
    expect(box.noticeSnapshot().map((n) => n.text)).toEqual(['No clock of yours is running.', 'Read the volts first.']);
  });
});
