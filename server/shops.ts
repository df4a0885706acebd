import { setTimeout as pause } from 'node:timers/promises';
import { join } from 'node:path';
import type { Logger } from 'pino';
import type { ServedShop } from './app';
import { loadRules } from './demo';
import { openPictures } from './pictures/open';
import { ONE_OF_MANY_BYTES, Shop, type Directory, type Pools } from './store/db';
import { migrate } from './store/migrate';
import { indexAgain } from './store/orders';
import { bringSettings, readSettings } from './store/settings';
import { adoptPeople, findShop, FIRST_SHOP, groupsOf, listShops, renameShop, type ShopRow } from './store/shops';

/** How often the directory is asked which shops there are, ms; an address that is not known asks at most so often. */
const LOOK_MS = 2000;
const ASKED_MS = 500;

/** Where a shop's pictures lie in the store that all have in common. */
export const picturesBelow = (id: string): string => (id === FIRST_SHOP ? '' : `at/${id}`);

/** A shop of the directory, on connections that are shared with others. @throws Error in words where the store of pictures cannot be read */
export const shopAt = (pools: Pools, directory: Directory, at: Pick<ShopRow, 'id' | 'schema'>, env: NodeJS.ProcessEnv): Shop =>
  new Shop(
    at.id,
    pools,
    at.schema,
    directory,
    openPictures(env, picturesBelow(at.id)),
    at.id === FIRST_SHOP ? undefined : ONE_OF_MANY_BYTES,
  );

/** Brings a shop’s database to where this program expects it, with the rules that ship. Repeated, or done by several servers at once, it is the same. */
export async function prepareShop(shop: Shop, root: string): Promise<void> {
  await adoptPeople(shop, shop.directory);
  await migrate(shop, join(root, 'server/store/migrations'));
  await bringSettings(shop);
  await indexAgain(shop);
  await loadRules(shop, root);
}

/** The directory knows a shop by the name that it gives itself. */
export async function tellName(shop: Shop): Promise<void> {
  const { shop: name } = await readSettings(shop);
  if ((await findShop(shop.directory, shop.id))?.name !== name) await renameShop(shop, name);
}

/** A group as its owner has it, with what each of its shops is reached by. */
export interface OwnGroup {
  name: string;
  shops: { at: ShopRow; shop: Shop }[];
}

/**
 * The shops that one server answers for: those that the directory knows. Each is opened when it is first asked for, or a little
 * after the start; one that is no longer in the directory is closed.
 */
export class Shops {
  private readonly opened = new Map<string, Promise<ServedShop>>();
  private known = new Map<string, ShopRow>();
  private lookedAt = 0;
  private looking: Promise<void> | null = null;
  private asking: Promise<void> | null = null;
  private timer: NodeJS.Timeout | null = null;
  private ended = false;

  constructor(
    private readonly directory: Directory,
    private readonly log: Logger,
    /** prepares a shop and serves it */
    private readonly serve: (at: ShopRow) => Promise<ServedShop>,
  ) {}

  /** A shop that is served already. */
  put(id: string, served: ServedShop): void {
    this.opened.set(id, Promise.resolve(served));
  }

  /** Opens all that there are, one after another, and follows the directory from now on. */
  begin(): void {
    this.timer = setInterval(() => void this.look(), LOOK_MS);
    this.timer.unref();
    void this.openAll();
  }

  /** The shop of an address, null for the one that is at the address itself; null: there is none. */
  async find(named: string | null): Promise<ServedShop | null> {
    const id = named ?? FIRST_SHOP;
    const had = this.opened.get(id);
    if (had) return had;
    if (!this.known.has(id)) {
      // it may have come a moment ago; all who ask for what is not there share one question
      await (this.asking ??= pause(Math.max(0, this.lookedAt + ASKED_MS - Date.now()))
        .then(() => this.look())
        .finally(() => (this.asking = null)));
    }
    const at = this.known.get(id);
    return at ? this.open(at) : null;
  }

  /** A group for one who owns it; null for everybody else: nobody else reaches beyond their shop. */
  async groupOf(account: string, group: string): Promise<OwnGroup | null> {
    const found = (await groupsOf(this.directory, account)).find((g) => g.id === group);
    if (!found) return null;
    const shops = await Promise.all(found.shops.map(async (at) => ({ at, shop: (await this.find(at.id))?.services.shop })));
    return { name: found.name, shops: shops.filter((x): x is OwnGroup['shops'][number] => x.shop !== undefined) };
  }

  /** Those that are open now. */
  all(): Promise<ServedShop[]> {
    return Promise.all([...this.opened.values()].map((s) => s.catch(() => null))).then((list) => list.filter((s) => s !== null));
  }

  private open(at: ShopRow): Promise<ServedShop> {
    const had = this.opened.get(at.id);
    if (had) return had;
    const opening = this.serve(at).catch((e: unknown) => {
      // the next who asks tries again
      this.opened.delete(at.id);
      throw e;
    });
    this.opened.set(at.id, opening);
    return opening;
  }

  private async openAll(): Promise<void> {
    await this.look();
    for (const at of this.known.values()) {
      if (this.ended) return;
      await this.open(at).catch((e: unknown) => this.log.error({ err: e as Error, shop: at.id }, 'a shop could not be opened'));
      // who is at work comes first
      await pause(20);
    }
  }

  private look(): Promise<void> {
    return (this.looking ??= this.lookNow().finally(() => (this.looking = null)));
  }
  private async lookNow(): Promise<void> {
    try {
      const now = new Map((await listShops(this.directory)).map((s) => [s.id, s]));
      this.lookedAt = Date.now();
      for (const [id, opening] of this.opened)
        if (!now.has(id)) {
          this.opened.delete(id);
          void opening.then(closeServed, () => undefined);
        }
      // one that came since is opened, so that its errands are run
      const came = this.known.size ? [...now.values()].filter((s) => !this.known.has(s.id)) : [];
      this.known = now;
      for (const at of came)
        void this.open(at).catch((e: unknown) => this.log.error({ err: e as Error, shop: at.id }, 'a shop could not be opened'));
    } catch (e) {
      this.log.warn({ code: (e as { code?: string }).code }, 'could not ask which shops there are');
    }
  }

  async end(): Promise<void> {
    this.ended = true;
    if (this.timer) clearInterval(this.timer);
    (await this.all()).forEach(closeServed);
  }
}

function closeServed(s: ServedShop): void {
  s.services.errands.end();
  s.stream.close();
}
