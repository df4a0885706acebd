import type { OrderCommand } from '#model/event';
import type { QueryClient } from '@tanstack/react-query';
import { call, Trouble, type Dossier } from './api';
import { readKept, writeKept } from './kept';
import { dropPhoto, heldPhoto } from './photos';

/**
 * One thing recorded on an order that the server has not yet confirmed, kept on this device. `sent` ones are recorded and
 * only wait to be seen in the order as read back; `clash` ones wait for the person to choose.
 */
export interface Pending {
  key: string;
  order: string;
  command: OrderCommand;
  onVersion: number;
  at: string;
  by: string;
  state: 'waiting' | 'sent' | 'clash';
  version?: number;
  clash?: { message: string; theirs: { by: string; says: unknown }[]; current: number };
}

export interface Notice {
  id: number;
  tone: 'fails' | 'quiet';
  text: string;
}

type Listener = () => void;

/** The queue of writes: sent in order, each once, across reloads and lost networks. */
export class Outbox {
  private items: Pending[] = readKept<Pending[]>('outbox', []).filter((p) => p.state !== 'sent');
  private notices: Notice[] = [];
  private listeners = new Set<Listener>();
  private pumping = false;
  private wait = 500;
  private next = 1;
  /** whether the last try reached the server */
  private reachable = true;

  constructor(private readonly client: QueryClient) {
    window.addEventListener('online', () => void this.pump());
    void this.pump();
  }

  subscribe = (l: Listener) => {
    this.listeners.add(l);
    return () => void this.listeners.delete(l);
  };
  snapshot = () => this.items;
  noticeSnapshot = () => this.notices;
  reachSnapshot = () => this.reachable;

  private change(items: Pending[]): void {
    this.items = items;
    writeKept('outbox', items.length ? items : null);
    this.listeners.forEach((l) => l());
  }

  private reach(now: boolean): void {
    if (this.reachable === now) return;
    this.reachable = now;
    this.listeners.forEach((l) => l());
  }

  tell(text: string, tone: Notice['tone'] = 'fails'): void {
    // what is said again stands once, last
    this.notices = [...this.notices.filter((n) => n.text !== text).slice(-2), { id: this.next++, tone, text }];
    this.listeners.forEach((l) => l());
  }
  dismiss = (id: number): void => {
    this.notices = this.notices.filter((n) => n.id !== id);
    this.listeners.forEach((l) => l());
  };

  add(p: Omit<Pending, 'key' | 'state' | 'at'>): void {
    this.change([...this.items, { ...p, key: crypto.randomUUID(), at: new Date().toISOString(), state: 'waiting' }]);
    void this.pump();
  }

  /** Drops what the order as read back already holds. */
  settle(order: string, version: number): void {
    if (this.items.some((p) => p.order === order && p.state === 'sent' && p.version! <= version))
      this.change(this.items.filter((p) => !(p.order === order && p.state === 'sent' && p.version! <= version)));
  }

  /**
   * Waits until all that was recorded on an order has arrived, for what must come after it. False where it has not within
   * `ms`: the record is out of reach, or somebody has to choose in a clash.
   */
  async arrived(order: string, ms: number): Promise<boolean> {
    const open = () => this.items.some((p) => p.order === order && p.state !== 'sent');
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
    this.change(
      keepMine
        ? this.items.map((p) =>
            p.key === key ? { ...p, key: crypto.randomUUID(), state: 'waiting', onVersion: p.clash!.current, clash: undefined } : p,
          )
        : this.items.filter((p) => p.key !== key),
    );
    void this.pump();
  }

  /** A picture goes before what names it: whatever happens between, the record never names one that is not there. */
  private async sendPhoto(p: Pending): Promise<void> {
    const id = 'photo' in p.command ? p.command.photo : undefined;
    if (!id) return;
    const bytes = await heldPhoto(id);
    // gone from this device: it arrived before, or the server says that it is not there
    if (bytes) await call(`/api/photos/${id}`, { method: 'PUT', bytes });
  }

  /** Tries again now, such as after signing in. */
  pump = async (): Promise<void> => {
    if (this.pumping) return;
    this.pumping = true;
    try {
      for (;;) {
        const stuck = new Set(this.items.filter((p) => p.state === 'clash').map((p) => p.order));
        const p = this.items.find((x) => x.state === 'waiting' && !stuck.has(x.order));
        if (!p) return;
        try {
          await this.sendPhoto(p);
          const { version } = await call<{ version: number }>(`/api/orders/${p.order}/events?merge=yes`, {
            json: p.command,
            headers: { 'If-Match': `"${p.onVersion}"`, 'Idempotency-Key': p.key },
          });
          if ('photo' in p.command && p.command.photo) void dropPhoto(p.command.photo);
          this.wait = 500;
          this.reach(true);
          this.change(this.items.map((x) => (x.key === p.key ? { ...x, state: 'sent', version } : x)));
          await this.client.invalidateQueries({ queryKey: ['order', p.order] });
          void this.client.invalidateQueries({ queryKey: ['events', p.order] });
          void this.client.invalidateQueries({ queryKey: ['floor'] });
          const read = this.client.getQueryData<Dossier>(['order', p.order]);
          if (read) this.settle(p.order, read.order.version);
          else this.change(this.items.filter((x) => x.key !== p.key));
        } catch (e) {
          if (!(e instanceof Trouble)) throw e;
          if (e.passing || e.status === 401) {
            this.reach(false);
            if (e.status === 401) {
              void this.client.invalidateQueries({ queryKey: ['session'] });
              return;
            }
            await new Promise((r) => setTimeout(r, this.wait));
            this.wait = Math.min(5000, this.wait * 1.6);
            continue;
          }
          if (e.status === 409 && e.body.stale) {
            const theirs = (e.body.clashing ?? []).map((c) => ({ by: c.by, says: c.body }));
            this.change(
              this.items.map((x) =>
                x.key === p.key ? { ...x, state: 'clash', clash: { message: e.message, theirs, current: e.body.current!.version } } : x,
              ),
            );
          } else {
            this.change(this.items.filter((x) => x.key !== p.key));
            this.tell(e.message);
          }
          void this.client.invalidateQueries({ queryKey: ['order', p.order] });
        }
      }
    } finally {
      this.pumping = false;
    }
  };
}
