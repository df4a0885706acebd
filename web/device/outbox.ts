import type { QueryClient } from '@tanstack/react-query';
import type { EventBody } from '#core/events/registry';
import { ApiError, call, type Dossier } from '../app/api';
import { SHOP_ID } from '../app/place';
import { bringOld } from './before';
import { deviceClock } from './clock';
import type { Row } from './row';
import { deviceStore, type DeviceStore } from './store';

export interface Pending extends Row {
  /** false: only this page has it, because the device has no room */
  kept: boolean;
}

export interface Notice {
  id: number;
  tone: 'fails' | 'quiet';
  text: string;
  /** of a row that the rules refused: read, it is gone */
  row?: number;
  /** a file that holds what the notice speaks of */
  file?: () => Promise<void>;
  /** the address it speaks of: gone once that is left, or answered there */
  here?: string;
}

type Listener = () => void;

/** One tab of this browser sends at a time, and each hears what another changed. */
const LOCK = 'kadro-sender';
const CHANNEL = 'kadro-queue';
/** How long is waited, ms. */
const WAITS = {
  /** before the second try, and longer before each one more, up to the longest */
  first: 500,
  longest: 5000,
  /** a row that the server does not take is tried again this often at most, while others go on */
  held: 15_000,
  /** after the record asked for a sign-in nothing is sent for this long, unless somebody signs in */
  barred: 30_000,
};
/** After so many tries of one row its author is told. */
const TELL_AFTER = 3;

const fullStore = (e: unknown) => /quota|full|space/i.test(`${(e as Error)?.name} ${(e as Error)?.message}`);

/**
 * The queue of writes: one row each, under its author, sent in order, each once, across reloads, lost networks and tabs. A row
 * leaves it when the record has it, or when the rules refused it and its author has seen that; never for any other reason.
 */
export class Outbox {
  private rows: Pending[] = [];
  private notices: Notice[] = [];
  private readonly listeners = new Set<Listener>();
  private next = 1;
  private person: string | null = null;
  private sending = false;
  private again = false;
  /** ends a wait between two tries */
  private wake: () => void = () => undefined;
  private wait: number;
  /** the last try to send something did not reach the record */
  private stuck = false;
  /** rows the server did not take, by key: when to try again, and how often it was tried */
  private readonly held = new Map<string, { until: number; tries: number }>();
  private room = true;
  /** changes that this page made to the store, and the last of them under way */
  private edits = 0;
  private writes: Promise<void> = Promise.resolve();
  /** the record wants a sign-in: nothing is sent before, or until this passes */
  private barredUntil = 0;
  private readonly channel: BroadcastChannel | null;
  /** done once what this device kept was read */
  readonly ready: Promise<void>;

  constructor(
    private readonly client: QueryClient,
    private readonly store: DeviceStore = deviceStore,
    private readonly waits = WAITS,
  ) {
    this.wait = waits.first;
    this.channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(CHANNEL);
    this.channel?.addEventListener('message', () => void this.reread().then(this.pump));
    window.addEventListener('online', () => {
      this.wait = this.waits.first;
      void this.pump();
    });
    window.addEventListener('beforeunload', (e) => {
      // where the device keeps nothing, what only this page has would be lost with it
      if (!this.room && this.rows.some((r) => !r.kept)) e.preventDefault();
    });
    this.ready = this.begin();
  }

  private async begin(): Promise<void> {
    void navigator.storage?.persist?.();
    try {
      const old = SHOP_ID ? 0 : await bringOld(this.store);
      const { rows, setAside } = await this.store.read();
      // what was sent was read back by whoever looks at it next
      for (const r of rows.filter((x) => x.state === 'sent')) await this.store.drop(r.n!);
      this.take(rows.filter((x) => x.state !== 'sent'));
      if (old + setAside + (await this.store.readAside()).length > 0) this.tellAside();
    } catch (e) {
      this.full(e);
    }
    void this.pump();
  }

  subscribe = (l: Listener) => {
    this.listeners.add(l);
    return () => void this.listeners.delete(l);
  };
  snapshot = () => this.rows;
  noticeSnapshot = () => this.notices;
  /** Whether something waits that could not be sent at the last try. */
  stuckSnapshot = () => this.stuck;
  roomSnapshot = () => this.room;
  private heard(): void {
    this.listeners.forEach((l) => l());
  }

  /** The rows as the store has them, with those that only this page has. */
  private take(rows: readonly Row[]): void {
    const keys = new Set(rows.map((r) => r.key));
    this.rows = [...rows.map((r) => ({ ...r, kept: true })), ...this.rows.filter((r) => !r.kept && !keys.has(r.key))];
    for (const r of this.rows)
      if (r.state === 'refused' && r.by === this.person && !this.notices.some((n) => n.row === r.n))
        this.notices = [...this.notices, { id: this.next++, tone: 'fails', text: r.says ?? 'This was refused.', row: r.n! }];
    this.notices = this.notices.filter((n) => n.row === undefined || this.rows.some((r) => r.n === n.row));
    this.heard();
  }
  /** Reads what the store has, and again if this page changed something meanwhile: it never goes back to what was before. */
  private async reread(): Promise<void> {
    try {
      for (;;) {
        const at = this.edits;
        await this.writes;
        const { rows, setAside } = await this.store.read();
        if (setAside) this.tellAside();
        if (at !== this.edits) continue;
        this.take(rows);
        return;
      }
    } catch (e) {
      this.full(e);
    }
  }
  /** Writes to the store one after another. */
  private write<T>(work: () => Promise<T>): Promise<T> {
    this.edits++;
    const done = this.writes.then(work);
    this.writes = done.then(
      () => undefined,
      () => undefined,
    );
    return done;
  }
  private changed(): void {
    this.channel?.postMessage('changed');
  }

  private full(e: unknown): void {
    if (!this.room) return;
    this.room = false;
    this.tell(
      fullStore(e)
        ? 'This device has no room left to keep what you record. It is sent as long as this page stays open: make room now.'
        : 'This device does not keep what you record (its store does not open). It is sent as long as this page stays open.',
    );
  }
  /** A draft could not be kept. */
  noRoom = (): void => this.full(new Error('quota'));

  private tellAside(): void {
    this.tell(
      'Something kept on this device could not be read. It is set aside, not lost: save it and give it to the lead.',
      'fails',
      async () => {
        const text = JSON.stringify(await this.store.readAside(), null, 2);
        const a = document.createElement('a');
        a.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
        a.download = 'kadro-set-aside.json';
        a.click();
        await this.store.dropAside();
      },
    );
  }

  private sticks(now: boolean): void {
    if (this.stuck === now) return;
    this.stuck = now;
    this.heard();
  }

  tell(text: string, tone: Notice['tone'] = 'fails', file?: () => Promise<void>): void {
    this.say({ tone, text, ...(file && { file }) });
  }
  /** Says what was wrong with something done at an address. */
  refuse(text: string, here: string): void {
    this.notices = this.notices.filter((n) => n.here === undefined);
    this.say({ tone: 'fails', text, here });
  }
  private say(n: Omit<Notice, 'id'>): void {
    // what is said again stands once, last
    this.notices = [...this.notices.filter((x) => x.text !== n.text).slice(-2), { id: this.next++, ...n }];
    this.heard();
  }
  /** Drops what was said of other addresses than this one; null: of all. */
  left(here: string | null): void {
    const kept = this.notices.filter((n) => n.here === undefined || n.here === here);
    if (kept.length === this.notices.length) return;
    this.notices = kept;
    this.heard();
  }
  /** A person read a notice; what the rules refused is then gone for good. */
  dismiss = (id: number): void => {
    const n = this.notices.find((x) => x.id === id);
    this.notices = this.notices.filter((x) => x.id !== id);
    const row = n?.row === undefined ? undefined : this.rows.find((r) => r.n === n.row);
    if (row) void this.remove(row);
    this.heard();
  };

  /** Who is signed in here; only what is theirs is sent. */
  signedIn(person: string | null): void {
    if (this.person === person) return;
    this.person = person;
    this.barredUntil = 0;
    this.notices = this.notices.filter((n) => n.row === undefined);
    this.take(this.rows.filter((r) => r.kept));
    if (person) void this.pump();
  }

  /** How much of others waits here for them to sign in, by who they are. */
  ofOthers(): { by: string; n: number }[] {
    const count = new Map<string, number>();
    for (const r of this.rows) if (r.by !== this.person && r.state !== 'sent') count.set(r.by, (count.get(r.by) ?? 0) + 1);
    return [...count].map(([by, n]) => ({ by, n }));
  }

  /** Records something: seen at once, kept on this device before anything else happens to it, sent when it can be. */
  async add(p: Pick<Row, 'order' | 'command' | 'onVersion' | 'by'>): Promise<void> {
    const row: Pending = {
      ...p,
      key: crypto.randomUUID(),
      at: new Date().toISOString(),
      aheadMs: deviceClock.aheadMs,
      state: 'waiting',
      kept: false,
    };
    this.rows = [...this.rows, row];
    this.heard();
    try {
      await this.ready;
      const { kept: _, ...stored } = row;
      const n = await this.write(() => this.store.add(stored));
      this.rows = this.rows.map((r) => (r.key === row.key ? { ...r, n, kept: true } : r));
      this.room = true;
      this.heard();
      this.changed();
    } catch (e) {
      this.full(e);
    }
    void this.pump();
  }

  private async update(row: Pending, change: Partial<Row>): Promise<void> {
    this.rows = this.rows.map((r) => (r.key === row.key ? { ...r, ...change } : r));
    this.heard();
    const { n } = row;
    if (n !== undefined) await this.write(() => this.store.change(n, change)).catch((e: unknown) => this.full(e));
    this.changed();
  }
  private async remove(row: Pending): Promise<void> {
    this.held.delete(row.key);
    this.rows = this.rows.filter((r) => r.key !== row.key);
    this.heard();
    const { n } = row;
    if (n !== undefined) await this.write(() => this.store.drop(n)).catch((e: unknown) => this.full(e));
    this.changed();
  }

  /** Drops what the order as read back already holds. */
  settle(order: string, version: number): void {
    for (const r of this.rows.filter((p) => p.order === order && p.state === 'sent' && p.version! <= version)) void this.remove(r);
  }

  /**
   * Waits until all that this person recorded on an order has arrived, for what must come after it. False where it has not
   * within `ms`: the record is out of reach, or somebody has to choose in a clash.
   */
  async arrived(order: string, ms: number): Promise<boolean> {
    const open = () => this.rows.some((p) => p.order === order && p.by === this.person && (p.state === 'waiting' || p.state === 'clash'));
    if (!open()) return true;
    return new Promise((resolve) => {
      const end = (all: boolean) => {
        clearTimeout(timer);
        stop();
        resolve(all);
      };
      const timer = setTimeout(() => end(false), ms);
      const stop = this.subscribe(() => open() || end(true));
    });
  }

  /** The person chose in a clash: send theirs on the newest version, or drop it. */
  resolve(key: string, keepMine: boolean): void {
    const row = this.rows.find((r) => r.key === key);
    if (!row) return;
    const done = keepMine
      ? this.update(row, { key: crypto.randomUUID(), state: 'waiting', onVersion: row.clash!.current, clash: undefined })
      : this.remove(row);
    void done.then(this.pump);
  }

  /** Tries again now, such as after signing in. Of all tabs of this browser one sends, in the queue's order. */
  pump = async (): Promise<void> => {
    if (this.sending) {
      this.again = true;
      this.wake();
      return;
    }
    this.sending = true;
    try {
      do {
        this.again = false;
        const wait = await exclusively(async () => {
          await this.ready;
          // another tab may have sent some of it meanwhile
          await this.reread();
          return this.sendAll();
        });
        if (wait === null) continue;
        this.again = true;
        // something new need not wait until what is held is tried again
        await new Promise<void>((r) => {
          const timer = setTimeout(r, wait);
          this.wake = () => {
            clearTimeout(timer);
            r();
          };
        });
      } while (this.again);
    } finally {
      this.sending = false;
    }
  };

  private sendable(): Pending | undefined {
    if (Date.now() < this.barredUntil) return undefined;
    const mine = this.rows.filter((r) => r.by === this.person);
    const stuck = new Set(mine.filter((r) => r.state === 'clash').map((r) => r.order));
    const now = Date.now();
    for (const r of mine) {
      if (r.state !== 'waiting' || stuck.has(r.order)) continue;
      if ((this.held.get(r.key)?.until ?? 0) <= now) return r;
      // what comes after it on the same order waits too
      stuck.add(r.order);
    }
    return undefined;
  }

  /** Sends what can be sent. Answers how long to wait before the next try, ms; null: there is nothing more to do now. */
  private async sendAll(): Promise<number | null> {
    for (;;) {
      const row = this.sendable();
      if (!row) {
        const mine = new Set(this.rows.filter((r) => r.by === this.person && r.state === 'waiting').map((r) => r.key));
        const next = [...this.held].filter(([key]) => mine.has(key)).map(([, h]) => h.until);
        return next.length ? Math.max(50, Math.min(...next) - Date.now()) : null;
      }
      try {
        const version = await this.send(row);
        this.wait = this.waits.first;
        this.held.delete(row.key);
        this.sticks(false);
        await this.update(row, { state: 'sent', version });
        await this.readBack(row);
      } catch (e) {
        const wait = await this.failed(row, e);
        if (wait !== 'next') return wait;
      }
    }
  }

  private async send(row: Pending): Promise<number> {
    const { command } = row;
    const photo = 'photo' in command ? command.photo : undefined;
    if (photo) {
      // a picture goes before what names it; gone from this device: it arrived before, or the server says that it is not there
      const bytes = await this.store.photo(photo).catch(() => undefined);
      if (bytes) await call(`/api/photos/${photo}`, { method: 'PUT', bytes });
    }
    const ahead = row.aheadMs ?? deviceClock.aheadMs ?? 0;
    const { version } = await call<{ version: number }>(`/api/orders/${row.order}/events?merge=yes`, {
      json: command,
      headers: {
        'If-Match': `"${row.onVersion}"`,
        'Idempotency-Key': row.key,
        Author: row.by,
        'Done-At': new Date(Date.parse(row.at) + ahead).toISOString(),
      },
    });
    if (photo) void this.store.dropPhoto(photo).catch(() => undefined);
    return version;
  }

  private async readBack(row: Pending): Promise<void> {
    await this.client.invalidateQueries({ queryKey: ['order', row.order] });
    void this.client.invalidateQueries({ queryKey: ['events', row.order] });
    void this.client.invalidateQueries({ queryKey: ['floor'] });
    const read = this.client.getQueryData<Dossier>(['order', row.order]);
    if (read) this.settle(row.order, read.order.version);
    else for (const r of this.rows.filter((x) => x.key === row.key)) await this.remove(r);
  }

  /** What follows from a try that failed. Answers how long to wait, null to stop, or to go on with the next. */
  private async failed(row: Pending, e: unknown): Promise<number | null | 'next'> {
    if (!(e instanceof ApiError)) throw e;
    if (e.status === 401) {
      this.sticks(true);
      this.barredUntil = Date.now() + this.waits.barred;
      void this.client.invalidateQueries({ queryKey: ['session'] });
      return null;
    }
    if (e.status === 409 && e.body.stale && e.body.current) {
      const theirs = (e.body.clashing ?? []).map((c) => ({ by: c.by, says: c.body as EventBody }));
      await this.update(row, { state: 'clash', clash: { message: e.message, theirs, current: e.body.current.version } });
      void this.client.invalidateQueries({ queryKey: ['order', row.order] });
      return 'next';
    }
    if (e.body.refused) {
      await this.update(row, { state: 'refused', says: e.message });
      this.take(this.rows.filter((r) => r.kept));
      void this.client.invalidateQueries({ queryKey: ['order', row.order] });
      return 'next';
    }
    if (e.unreached) {
      this.sticks(true);
      const wait = this.wait;
      this.wait = Math.min(this.waits.longest, wait * 1.6);
      return wait;
    }
    // the server is there and does not take this one: it stays, and what does not depend on it goes on
    const tries = (this.held.get(row.key)?.tries ?? 0) + 1;
    this.held.set(row.key, { until: Date.now() + Math.min(this.waits.held, this.waits.first * 2 ** tries), tries });
    if (e.status === 403) void this.client.invalidateQueries({ queryKey: ['session'] });
    if (tries === TELL_AFTER) this.tell(`Kept on this device and tried again, because the server did not take it: ${e.message}`);
    return 'next';
  }
}

/** Does something while no other tab of this browser does the same. */
async function exclusively<T>(work: () => Promise<T>): Promise<T> {
  const locks = typeof navigator === 'undefined' ? undefined : navigator.locks;
  return locks ? ((await locks.request(LOCK, work)) as T) : work();
}
