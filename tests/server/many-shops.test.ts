import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ROUTES } from '#server/app';
import { sha256 } from '#server/store/chain';
import { pdfPages } from '../pdf-text';
import { png } from '../picture';
import { Client, looseBarFile, openingLike, shopsCommand, startShop, type Shop } from '../shop';

/** What stands only in one of the two shops, in words that no other data has. */
const MARKS = { first: 'Northernmost', south: 'Southernmost' } as const;
type Which = keyof typeof MARKS;

interface Side {
  /** works in this shop only */
  lead: Client;
  owner: Client;
  order: string;
  /** what stands for each parameter of an address here */
  has: Record<string, string>;
}

let shop: Shop;
const sides = {} as Record<Which, Side>;
const addressOf = (w: Which) => (w === 'first' ? shop.base : `${shop.base}/at/south`);

/** A shop with an order, a kit, a picture, a person and addresses of its own; ids of sheets and people’s roles are the same in both. */
async function furnish(w: Which): Promise<Side> {
  const mark = MARKS[w];
  const owner = await new Client(addressOf(w)).signIn('oda');
  const me = `lead-${w}`;
  const made = await owner.call('POST', '/api/people', { id: me, name: mark, role: 'lead', password: 'lantern-lit' });
  expect(made.status, made.text).toBe(200);
  const lead = await new Client(addressOf(w)).signIn(me, 'lantern-lit');
  if (w === 'south')
    expect((await lead.call('POST', '/api/sheets', readFileSync('demo/models/drover-2.json', 'utf8'))).status).toBeLessThan(300);
  const kit = await lead.call('POST', '/api/sheets', looseBarFile().replaceAll('Loose bar', `${mark} bar`));
  expect(kit.status, kit.text).toBeLessThan(300);
  const { models } = (await lead.call('GET', '/api/sheets')).body;
  const { ref, sheet } = models.find((m: { ref: { id: string } }) => m.ref.id === 'drover-2');
  const opened = await lead.call('POST', '/api/orders', {
    ...openingLike({ model: ref, build: sheet.builds[0].id, year: 2024 }),
    owner: `${mark} Edda`,
  });
  expect(opened.status, opened.text).toBeLessThan(300);
  const order = opened.body.id as string;
  let { version } = opened.body as { version: number };
  const picture = png(w === 'first' ? 11 : 12, 40, 40);
  const photo = sha256(picture);
  expect((await lead.bytes(`/api/photos/${photo}`, picture)).status).toBeLessThan(300);
  for (const command of [
    { type: 'kit.added', kit: 'loose-bar' },
    { type: 'finding.added', text: `${mark} scratch`, photo },
  ]) {
    const r = await lead.record(order, version, command);
    expect(r.status, r.text).toBe(200);
    version = r.body.version;
  }
  const calendar = (await lead.call('POST', '/api/calendars', { whose: 'shop' })).body as { id: string; path: string };
  const link = (await lead.call('POST', `/api/orders/${order}/links`, {})).body as { id: string; path: string };
  const purchase = crypto.randomUUID();
  const line = { item: 'fuse-blade-15', kind: 'buy', name: `${mark} switch`, unit: 'pieces', amount: 2, order: null };
  const bought = await lead.call('POST', '/api/purchases', { id: purchase, lines: [line], day: null });
  expect(bought.status, bought.text).toBeLessThan(300);
  const has = {
    order,
    photo,
    person: me,
    purchase,
    calendar: calendar.id,
    secret: calendar.path.split('/').at(-1)!,
    link: link.path.split('/').at(-1)!,
    linkId: link.id,
  };
  return { lead, owner, order, has };
}

beforeAll(async () => {
  shop = await startShop();
  const made = await shopsCommand(shop, 'make', 'south', 'South yard', '--owner', 'oda');
  expect(made.status, made.said).toBe(0);
  sides.first = await furnish('first');
  sides.south = await furnish('south');
}, 240_000);
afterAll(() => shop.stop());

/** An address with the parameters of a shop in it; null: what it names is in every shop. */
function addressWith(path: string, has: Record<string, string>): string | null {
  const id = path.startsWith('/api/people/')
    ? has.person
    : path.startsWith('/api/purchases/')
      ? has.purchase
      : path.startsWith('/api/calendars/')
        ? has.calendar
        : /photos/.test(path)
          ? has.photo
          : path.startsWith('/api/sheets')
            ? 'loose-bar'
            : has.order;
  return path
    .replace(':link', has.link!)
    .replace(':secret', has.secret!)
    .replace(':id', id!)
    .replace(':item', has.linkId!)
    .replace(':kind', 'kit')
    .replace(':session', 'others')
    .replace(':kit', 'loose-bar')
    .replace(':device', 'bar')
    .replace(':name', 'wire.choose');
}
/** Everything of one shop that the other must not say. */
const secretsOf = (w: Which): string[] => [MARKS[w], ...Object.values(sides[w].has)];
const textOf = async (r: Response): Promise<string> => {
  const bytes = await r.arrayBuffer();
  const type = r.headers.get('content-type') ?? '';
  if (type.includes('pdf')) return (await pdfPages(bytes)).join(' ');
  return Buffer.from(bytes).toString('latin1');
};
const listed = ROUTES.filter((r) => r.method === 'get' && !r.path.endsWith('/meter'));
const both: [Which, Which][] = [
  ['first', 'south'],
  ['south', 'first'],
];

describe('two shops at one address', () => {
  it('each shows its own', async () => {
    for (const [w] of both) {
      const { lead, order } = sides[w];
      const dossier = await lead.call('GET', `/api/orders/${order}`);
      expect(dossier.body.order.owner).toBe(`${MARKS[w]} Edda`);
      expect(dossier.body.sheets.kits[0].name).toBe(`${MARKS[w]} bar lamp kit`);
    }
  });

  it.each(both)(
    'no route of %s tells anything of %s, asked for what is its own or for what is the other’s',
    async (w, other) => {
      const { lead, owner } = sides[w];
      let told = 0;
      for (const who of [lead, owner])
        for (const r of listed) {
          const ours = addressWith(r.path, sides[w].has)!;
          const theirs = addressWith(r.path, sides[other].has)!;
          const query =
            r.path.includes('month') || r.path.includes('bills')
              ? '?from=2020-01-01&to=2030-01-01'
              : r.path === '/api/orders'
                ? `?q=${MARKS[other]}`
                : '';
          for (const path of new Set([ours + query, theirs + query])) {
            const res = await who.raw(path);
            const text = await textOf(res);
            for (const secret of secretsOf(other))
              expect(text.includes(secret) && !path.includes(secret), `${path} tells ${secret}`).toBe(false);
            // what it says back of the address itself is no answer
            if (path === theirs + query && ours !== theirs) expect(res.status, path).toBeGreaterThanOrEqual(400);
            else if (res.ok) told++;
          }
        }
      // most of what was asked of its own was there
      expect(told).toBeGreaterThan(30);
    },
    240_000,
  );

  it.each(both)(
    'who works in %s only is nobody in %s, whatever they ask',
    async (w, other) => {
      const at = new Client(addressOf(other));
      const cookie = { Cookie: sides[w].lead.cookieForTests() };
      expect((await at.call('GET', '/api/session', undefined, cookie)).body).toBeNull();
      for (const r of ROUTES.filter((x) => !x.open)) {
        const path = addressWith(r.path, sides[other].has)!;
        const res = await at.call(r.method.toUpperCase(), path, r.method === 'get' ? undefined : {}, cookie);
        expect(res.status, `${r.method} ${path}`).toBe(401);
      }
      expect((await at.call('POST', '/api/session', { name: `lead-${w}`, password: 'lantern-lit' })).status).toBe(401);
      const mine = (await at.call('GET', '/api/session/shops', undefined, cookie)).body as { id: string }[];
      expect(mine.map((s) => s.id)).toEqual([w === 'first' ? 'shop' : 'south']);
    },
    120_000,
  );

  it.each(both)('what is written in %s about things of %s is written nowhere', async (w, other) => {
    const { lead } = sides[w];
    const had = await sides[other].lead.call('GET', `/api/orders/${sides[other].order}`);
    const event = await lead.record(sides[other].order, had.body.order.version, { type: 'finding.added', text: 'not here' });
    expect(event.status).toBe(404);
    const borrowed = await lead.record(sides[w].order, (await lead.call('GET', `/api/orders/${sides[w].order}`)).body.order.version, {
      type: 'finding.added',
      text: 'with another’s picture',
      photo: sides[other].has.photo,
    });
    expect(borrowed.status, borrowed.text).toBeGreaterThanOrEqual(400);
    expect((await lead.call('DELETE', `/api/calendars/${sides[other].has.calendar}`)).status).toBe(404);
    expect((await lead.call('PATCH', `/api/purchases/${sides[other].has.purchase}`, { version: 1, day: '2030-02-01' })).status).toBe(404);
    expect((await new Client(addressOf(w)).call('POST', `/api/owner/${sides[other].has.link}`, { do: 'ask', text: 'hello' })).status).toBe(
      404,
    );
    const after = await sides[other].lead.call('GET', `/api/orders/${sides[other].order}`);
    expect(after.body.order).toEqual(had.body.order);
  });

  it('a stream hears of its own shop only, and nobody of the other gets one', async () => {
    const listen = async (w: Which) => {
      const stop = new AbortController();
      const res = await fetch(`${addressOf(w)}/api/stream`, { headers: { Cookie: sides[w].lead.cookieForTests() }, signal: stop.signal });
      expect(res.status).toBe(200);
      const heard: string[] = [];
      void (async () => {
        const reader = res.body!.getReader();
        for (let r = await reader.read(); !r.done; r = await reader.read()) heard.push(Buffer.from(r.value).toString());
      })().catch(() => undefined);
      return { heard: () => heard.join(''), stop: () => stop.abort() };
    };
    const first = await listen('first');
    const south = await listen('south');
    // what stood before anybody listened is no news
    await new Promise((r) => setTimeout(r, 1500));
    const { order, lead } = sides.south;
    const { version } = (await lead.call('GET', `/api/orders/${order}`)).body.order;
    expect((await lead.record(order, version, { type: 'finding.added', text: 'news' })).status).toBe(200);
    await expect.poll(south.heard, { timeout: 10_000 }).toContain(order);
    await new Promise((r) => setTimeout(r, 1500));
    expect(first.heard()).not.toContain('event: order');
    first.stop();
    south.stop();
    const foreign = await fetch(`${addressOf('south')}/api/stream`, { headers: { Cookie: sides.first.lead.cookieForTests() } });
    expect(foreign.status).toBe(401);
  }, 60_000);

  it('a search finds its own orders, and papers are of its own sheets, whichever thread makes them', async () => {
    for (const [w, other] of both) {
      const { lead, order } = sides[w];
      const found = async (words: string) => ((await lead.call('GET', `/api/orders?q=${words}`)).body as { id: string }[]).map((o) => o.id);
      expect(await found(MARKS[w])).toEqual([order]);
      expect(await found(MARKS[other])).toEqual([]);
    }
    const papers = await Promise.all(
      Array.from({ length: 12 }, (_, i) => both[i % 2]![0]).map(async (w) => {
        const r = await sides[w].lead.raw(`/api/orders/${sides[w].order}/hand-over.pdf`);
        return { w, words: (await pdfPages(await r.arrayBuffer())).join(' ') };
      }),
    );
    for (const { w, words } of papers) {
      expect(words).toContain(`${MARKS[w]} bar`);
      expect(words).not.toContain(MARKS[w === 'first' ? 'south' : 'first']);
    }
  }, 120_000);

  it('pictures lie apart', () => {
    const folder = join(shop.folder, 'pictures');
    const { first, south } = { first: sides.first.has.photo!, south: sides.south.has.photo! };
    expect(readdirSync(join(folder, first.slice(0, 2)))).toContain(first);
    expect(readdirSync(join(folder, 'at/south', south.slice(0, 2)))).toEqual([south]);
    expect(existsSync(join(folder, south.slice(0, 2), south))).toBe(false);
  });

  it('a name is taken across shops, and a shop’s command says what is wrong', async () => {
    const taken = await sides.south.owner.call('POST', '/api/people', {
      id: 'lead-first',
      name: 'X',
      role: 'desk',
      password: 'something long',
    });
    // its owner owns the other shop too: they are let in as who they are
    expect(taken.status, taken.text).toBe(200);
    expect(
      (await new Client(addressOf('south')).call('POST', '/api/session', { name: 'lead-first', password: 'something long' })).status,
    ).toBe(401);
    const there = await new Client(addressOf('south')).signIn('lead-first', 'lantern-lit');
    expect((await there.call('GET', '/api/session')).body).toMatchObject({ role: 'desk' });
    for (const [args, says] of [
      [['make', 'south', 'Again', '--owner', 'oda'], /already/],
      [['make', 'Wrong One', 'X', '--owner', 'oda'], /lower-case/],
      [['make', 'west', 'West'], /--owner/],
      [['join', 'nobody-here', 'south', 'lead'], /Nobody/],
      [['remove', 'shop', '--yes'], /stays/],
      [['remove', 'south'], /holds \d+ orders/],
      [['put', 'south', 'nogroup'], /no group/],
      [['dance'], /not understood/],
    ] as const) {
      const r = await shopsCommand(shop, ...args);
      expect([r.status, r.said], args.join(' ')).toEqual([2, expect.stringMatching(says)]);
    }
    expect((await new Client(shop.base).call('GET', '/at/west/api/about')).status).toBe(404);
    expect((await new Client(shop.base).call('GET', '/at/../api/floor')).status).toBe(401);
  }, 120_000);

  it('a shop made while the server runs is there at once; one removed is gone with all of it, and its people with it', async () => {
    const made = await shopsCommand(shop, 'make', 'west', 'West yard', '--owner', 'wes');
    const password = /password (\S+)/.exec(made.said)?.[1];
    expect(password, made.said).toBeTruthy();
    const at = `${shop.base}/at/west`;
    const wes = await new Client(at).signIn('wes', password);
    expect((await wes.call('GET', '/api/about')).body).toMatchObject({ shop: 'West yard' });
    expect((await wes.call('GET', '/api/sheets')).body.packs.length).toBeGreaterThan(3);
    const picture = png(99, 20, 20);
    expect((await wes.bytes(`/api/photos/${sha256(picture)}`, picture)).status).toBeLessThan(300);
    const gone = await shopsCommand(shop, 'remove', 'west', '--yes');
    expect(gone.status, gone.said).toBe(0);
    expect((await wes.call('GET', '/api/about')).status).toBe(404);
    const id = sha256(picture);
    expect(existsSync(join(shop.folder, 'pictures/at/west', id.slice(0, 2), id))).toBe(false);
    // the name is free again, for somebody else
    const again = await shopsCommand(shop, 'make', 'west', 'West again', '--owner', 'wes');
    expect(again.said).toMatch(/password \S+/);
    expect((await new Client(at).call('POST', '/api/session', { name: 'wes', password })).status).toBe(401);
  }, 120_000);
});

describe('a group of shops', () => {
  const period = '?from=2020-01-01&to=2040-01-01';
  let oda: Client;
  beforeAll(async () => {
    for (const args of [
      ['group', 'coast', 'Coast yards', '--owner', 'oda'],
      ['put', 'shop', 'coast'],
      ['put', 'south', 'coast'],
    ]) {
      const r = await shopsCommand(shop, ...args);
      expect(r.status, r.said).toBe(0);
    }
    oda = await new Client(shop.base).signIn('oda');
  }, 60_000);

  it('who owns it sees figures of every shop of it, which are those that each shop has itself; nobody else does', async () => {
    expect((await oda.call('GET', '/api/groups')).body).toEqual([{ id: 'coast', name: 'Coast yards', shops: ['shop', 'south'] }]);
    const { name, rows } = (await oda.call('GET', `/api/groups/coast${period}`)).body as {
      name: string;
      rows: { id: string; finished: number; kept: number; spent: number; here: number }[];
    };
    expect([name, rows.map((r) => r.id)]).toEqual(['Coast yards', ['shop', 'south']]);
    const month = (await oda.call('GET', `/api/month${period}`)).body as {
      finished: unknown[];
      kept: unknown[];
      byModel: { spent: number }[];
    };
    const floor = (await oda.call('GET', '/api/floor')).body as { orders: unknown[] };
    expect(month.finished.length).toBeGreaterThan(20);
    expect(rows[0]).toMatchObject({ finished: month.finished.length, kept: month.kept.length, here: floor.orders.length });
    expect(rows[0]!.spent).toBeCloseTo(month.byModel.reduce((n, r) => n + r.spent, 0));
    expect(rows[1]).toMatchObject({ finished: 0, here: 1 });
    const table = (await (await oda.raw(`/api/groups/coast/figures.csv${period}`)).text()).trim().split(/\r?\n/);
    expect(table).toHaveLength(3);
    expect(table[2]).toMatch(/^South yard,1,/);
    for (const who of [sides.first.lead, sides.south.lead, await new Client(shop.base).signIn('ines')]) {
      expect((await who.call('GET', '/api/groups')).body).toEqual([]);
      expect((await who.call('GET', `/api/groups/coast${period}`)).status).toBe(404);
      expect((await who.call('POST', '/api/groups/coast/sheets', { kind: 'kit', id: 'loose-bar' })).status).toBe(404);
    }
    expect((await oda.call('GET', '/api/groups/coast?from=2030-01-01&to=2020-01-01')).status).toBe(422);
  });

  it('a sheet is given down the group once; what a shop changed itself stays as it is there', async () => {
    const give = (id: string) => oda.call('POST', '/api/groups/coast/sheets', { kind: 'kit', id });
    // both have one of that name, of their own
    expect((await give('loose-bar')).body).toEqual([{ shop: 'South yard', became: 'changed there' }]);
    expect((await give('roof-bar')).body).toEqual([{ shop: 'South yard', became: 'taken' }]);
    expect((await give('roof-bar')).body).toEqual([{ shop: 'South yard', became: 'there already' }]);
    const south = sides.south.lead;
    const { kits } = (await south.call('GET', '/api/sheets')).body as { kits: { ref: { id: string; revision: number }; reason: string }[] };
    expect(kits.find((k) => k.ref.id === 'roof-bar')).toMatchObject({
      ref: { revision: 1 },
      reason: expect.stringMatching(/^from /) as string,
    });
    expect((await south.raw('/api/sheets/kit/roof-bar')).status).toBe(200);
    expect(await (await south.raw('/api/sheets/kit/roof-bar')).text()).toBe(await (await oda.raw('/api/sheets/kit/roof-bar')).text());
    expect((await give('no-such')).status).toBe(404);
    const r = await shopsCommand(shop, 'put', 'south', 'none');
    expect(r.status, r.said).toBe(0);
    expect(((await oda.call('GET', `/api/groups/coast${period}`)).body as { rows: unknown[] }).rows).toHaveLength(1);
  }, 60_000);
});
