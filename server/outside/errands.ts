import type { Logger } from 'pino';
import { filled, PAGE } from '#core/messages/due';
import { localDay } from '#core/quantity/say-here';
import type { PurchaseLine, SupplierAnswer } from '#model/supply';
import { rows, run, type Shop } from '../store/db';
import { withLease } from '../store/lease';
import { dueNow, markSent, markUnsent } from '../store/messages';
import { makeOwnerLink } from '../store/owner-links';
import { readSettings } from '../store/settings';
import { keepAnswerOf } from '../store/supply';
import type { Messenger } from './messenger';
import { OutOfReach } from './out-of-reach';
import type { Supplier } from './supplier';

/** Who is reached outside of the shop; null: nobody answers there. */
export interface Outside {
  supplier: Supplier | null;
  messenger: Messenger | null;
}

/** How long is waited before the nth try, ms: longer each time. */
const waitOf = (tries: number): number => Math.min(600_000, 1000 * 2 ** Math.min(tries, 10));
/** How often the supplier is asked what became of an order, ms. */
const ASK_EVERY_MS = 600_000;
/** How often it is looked whether there is something to do, ms. */
const LOOK_MS = 5000;
/** Who makes the address of an owner’s page that a message names. */
const KADRO = 'kadro';

/**
 * What is to be done outside: orders to the supplier, messages to owners. One server at a time does it; one that dies in the middle
 * leaves it to the next, and what was heard twice has one name.
 */
export class Errands {
  private running: Promise<void> | null = null;
  private again = false;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly shop: Shop,
    readonly outside: Outside,
    private readonly log: Logger,
    private readonly changed: () => void,
  ) {}

  /** Looks from now on. */
  begin(): void {
    this.timer = setInterval(() => void this.go(), LOOK_MS);
    void this.go();
  }
  end(): void {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
  }

  /** Does what is due; asked while it is under way, it is done once more. */
  go(): Promise<void> {
    if (this.running) {
      this.again = true;
      return this.running;
    }
    this.running = this.all()
      .catch((e: unknown) => this.log.warn({ err: e as Error }, 'errands wait'))
      .finally(() => {
        this.running = null;
        if (this.again) {
          this.again = false;
          void this.go();
        }
      });
    return this.running;
  }

  /** Does what is due after a pause, unless it has ended by then. */
  private later(ms: number): void {
    setTimeout(() => void (this.timer && this.go()), ms).unref();
  }

  private async all(): Promise<void> {
    const now = new Date();
    const anything = await rows(
      this.shop,
      "(SELECT 1 FROM purchases WHERE state IN ('waiting', 'sent') AND next_try <= ? LIMIT 1) UNION (SELECT 1 FROM messages WHERE state = 'waiting' AND next_try <= ? LIMIT 1)",
      [now, now],
    );
    if (!anything.length) return;
    await withLease(this.shop, 'errands', async (held) => {
      await this.purchases(held);
      await this.messages(held);
    });
  }

  private async purchases(held: () => void): Promise<void> {
    const { supplier } = this.outside;
    if (!supplier) return;
    const { timeZone } = await readSettings(this.shop);
    const today = localDay(new Date().toISOString(), timeZone);
    const due = await rows<{ id: string; state: string; purchase_lines: string; answer: string | null; tries: number }>(
      this.shop,
      "SELECT id, state, purchase_lines, answer, tries FROM purchases WHERE state IN ('waiting', 'sent') AND next_try <= ? ORDER BY number LIMIT 20",
      [new Date()],
    );
    for (const p of due) {
      held();
      try {
        const answer =
          p.state === 'waiting'
            ? await supplier.place(p.id, JSON.parse(p.purchase_lines) as PurchaseLine[], today)
            : await supplier.ask(p.id, today);
        await this.answered(p.id, p.answer, answer);
      } catch (e) {
        if (!(e instanceof OutOfReach)) throw e;
        await run(this.shop, 'UPDATE purchases SET tries = tries + 1, says = ?, next_try = ? WHERE id = ?', [
          `${e.message}: it is tried again`,
          new Date(Date.now() + waitOf(p.tries)),
          p.id,
        ]);
        this.later(waitOf(p.tries));
      }
    }
  }

  private async answered(id: string, before: string | null, answer: SupplierAnswer[] | null): Promise<void> {
    if (answer && JSON.stringify(answer) !== before) {
      await keepAnswerOf(this.shop, id, answer);
      this.changed();
    }
    await run(this.shop, 'UPDATE purchases SET tries = 0, next_try = ? WHERE id = ?', [new Date(Date.now() + ASK_EVERY_MS), id]);
  }

  private async messages(held: () => void): Promise<void> {
    const { messenger } = this.outside;
    const { publicAddress } = await readSettings(this.shop);
    for (const m of await dueNow(this.shop, new Date())) {
      held();
      if (!messenger) {
        await markUnsent(this.shop, m.id, 'nothing here sends messages', null);
        continue;
      }
      if (m.text.includes(PAGE) && !publicAddress) {
        await markUnsent(this.shop, m.id, 'it names the owner’s page, and the shop has not said at which address that is reached', null);
        continue;
      }
      try {
        const text = m.text.includes(PAGE) ? filled(m.text, { page: await this.page(m.order_id, publicAddress) }) : m.text;
        await messenger.send(m.id, m.address, text);
        await markSent(this.shop, m.id, hidden(text), new Date());
        this.changed();
      } catch (e) {
        if (!(e instanceof OutOfReach)) throw e;
        await markUnsent(this.shop, m.id, `${e.message}: it is tried again`, new Date(Date.now() + waitOf(m.tries)));
        this.later(waitOf(m.tries));
      }
    }
  }

  private async page(order: string, publicAddress: string): Promise<string> {
    const { secret } = await makeOwnerLink(this.shop, order, KADRO);
    return `${publicAddress}/u/${secret}`;
  }
}

/** A text as it is kept: the secret of a page is told to its owner and to nobody else. */
const hidden = (text: string): string => text.replaceAll(/\/u\/[A-Za-z0-9_-]{43}/g, '/u/…');
