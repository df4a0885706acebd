import { createPool } from 'mysql2/promise';
import { eventWords, nameWords } from '#core/order/search';
import { say } from '#core/events/registry';
import type { EventBody } from '#core/events/registry';

const ORDERS = 100_000;
const EVENTS = 30;
const AT_ONCE = 1000;
const PEOPLE = ['tor', 'maud', 'ines', 'bo', 'kit', 'rune'];
const MODELS = ['drover-4', 'drover-2', 'parkway-48', 'greenway-36', 'lapwing-500', 'tern-300', 'skarn-600', 'sandbar-21'];
const KITS = ['road-kit', 'winch-32', 'roof-bar', 'aux-lamps', 'heated-grips', 'nav-lights', 'reducer-48', 'usb-socket'];
const OWNERS = ['Bram', 'Cila', 'Dov', 'Elke', 'Finn', 'Gail', 'Hedda', 'Iago', 'Juna', 'Kester', 'Linde', 'Marn'];
const THINGS = [
  'bolt',
  'clip',
  'grommet',
  'fuse',
  'plug',
  'bracket',
  'seat',
  'hood',
  'relay',
  'boot',
  'strap',
  'latch',
  'hinge',
  'tank',
  'strut',
];
const WAYS = ['loose', 'cracked', 'missing', 'wet', 'seized', 'bent', 'swapped', 'short', 'worn', 'painted', 'rusty', 'reversed'];

/** Numbers that look random and are the same in every run. */
function dice(seed: number) {
  let s = seed >>> 0;
  return (n: number) => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return Math.floor((s / 4294967296) * n);
  };
}

function eventsOf(n: number): { by: string; body: EventBody }[] {
  const roll = dice(n * 7919 + 1);
  const by = PEOPLE[roll(PEOPLE.length)]!;
  const model = MODELS[roll(MODELS.length)]!;
  const kits = [KITS[roll(KITS.length)]!, KITS[roll(KITS.length)]!];
  const bodies: EventBody[] = [
    {
      type: 'order.opened',
      number: 10_000 + n,
      opening: {
        model: { id: model, revision: 1 },
        build: 'a',
        year: 2025,
        identity: `SN${String(n * 37).padStart(8, '0')}`,
        meterValue: 5,
        owner: OWNERS[roll(OWNERS.length)]!,
        promisedAt: '2026-01-01T12:00:00.000Z',
        wishes: [],
        restVolts: 12.6,
        condition: '',
        fitted: [],
      },
    },
    ...[...new Set(kits)].map((k): EventBody => ({ type: 'kit.added', kit: { id: k, revision: 1 }, name: k.replace('-', ' ') })),
  ];
  if (roll(8) === 0)
    bodies.push({
      type: 'finding.added',
      text: `${THINGS[roll(THINGS.length)]} ${WAYS[roll(WAYS.length)]} behind the ${THINGS[roll(THINGS.length)]}, build ${roll(40)}`,
    });
  while (bodies.length < EVENTS) {
    const kit = kits[roll(2)]!;
    const thing = THINGS[roll(THINGS.length)]!;
    const x = roll(10);
    if (x < 4) {
      const value = 11 + roll(300) / 100;
      bodies.push({
        type: 'reading.taken',
        step: `volts/${kit}`,
        reading: 'volts',
        label: `Volts at ${kit.replace('-', ' ')}: at the device`,
        value,
        expected: { low: 11.06, high: 14.6, unit: 'V', why: '' },
        verdict: value < 11.06 ? 'fails' : 'holds',
        origin: { how: 'typed' },
        settles: null,
      });
    } else if (x < 9)
      bodies.push({
        type: 'step.done',
        step: `${kit}/${thing}`,
        title: `Fit the ${thing} of ${kit.replace('-', ' ')}`,
        next: null,
        counts: null,
        affirmed: [],
        took: [],
      });
    else
      bodies.push({
        type: 'step.skipped',
        step: `${kit}/${thing}`,
        title: `Fit the ${thing}`,
        reason: `${thing} ${WAYS[roll(WAYS.length)]}`,
        next: null,
      });
  }
  return bodies.map((body) => ({ by, body }));
}

/** Words and line of an event: the same ones come again and again. */
const told = new Map<string, { says: string; words: string[] }>();
function tell(by: string, body: EventBody, json: string) {
  const key = body.type === 'order.opened' ? null : by + json;
  const known = key === null ? undefined : told.get(key);
  if (known) return known;
  const made = { says: say(body), words: eventWords(body, by) };
  if (key !== null) told.set(key, made);
  return made;
}

/** Puts a shop’s hundred thousand orders, three million events, beside what is there. */
export async function seed(url: string): Promise<void> {
  const db = createPool({ uri: url, connectionLimit: 1 });
  const c = await db.getConnection();
  const many = (table: string, columns: string, list: unknown[][]) => c.query(`INSERT INTO ${table} (${columns}) VALUES ?`, [list]);
  await c.query('SET SESSION unique_checks = 0, foreign_key_checks = 0');
  await c.query('CREATE TABLE loose_words (word VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, number INT NOT NULL)');
  for (let first = 0; first < ORDERS; first += AT_ONCE) {
    const orders: unknown[][] = [];
    const events: unknown[][] = [];
    const words: unknown[][] = [];
    for (let n = first; n < first + AT_ONCE; n++) {
      const id = `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
      const list = eventsOf(n);
      const opened = new Date(Date.UTC(2030, 0, 1) + n * 8_000_000);
      const at = opened;
      const opening = list[0]!.body as Extract<EventBody, { type: 'order.opened' }>;
      const kits = list.flatMap(({ body }) => (body.type === 'kit.added' ? [{ id: body.kit.id, name: body.name }] : []));
      const summary = {
        unitName: opening.opening.model.id.replace('-', ' '),
        kind: 'side-by-side' as const,
        owner: opening.opening.owner,
        identity: opening.opening.identity,
        kits,
        station: 'handover' as const,
        stations: {} as never,
        waitsFor: '',
        minutes: { planned: 90, spent: 80 },
        powerSays: '',
        assignee: null,
      };
      orders.push([id, 10_000 + n, EVENTS, 'sealed', opening.opening.model.id, opened, at, at, '{}', JSON.stringify(summary)]);
      const own = new Set(nameWords(opening, 10_000 + n, opening.opening.model.id, '', summary));
      list.forEach(({ by, body }, i) => {
        const json = JSON.stringify(body);
        const line = tell(by, body, json);
        line.words.forEach((w) => own.add(w));
        events.push([id, i + 1, at, by, body.type, json, line.says, '0'.repeat(64), '0'.repeat(64)]);
      });
      for (const w of own) words.push([w, 10_000 + n]);
    }
    await many('orders', 'id, number, version, status, model, opened_at, promised_at, updated_at, state, summary', orders);
    for (let i = 0; i < events.length; i += 5000)
      await many('order_events', 'order_id, seq, at, by_person, type, body, says, prev_hash, hash', events.slice(i, i + 5000));
    for (let i = 0; i < words.length; i += 20_000) await many('loose_words', 'word, number', words.slice(i, i + 20_000));
  }
  await c.query('INSERT IGNORE INTO order_words (word, number) SELECT word, number FROM loose_words ORDER BY word, number');
  await c.query('INSERT IGNORE INTO words (word) SELECT DISTINCT word FROM order_words');
  await c.query('DROP TABLE loose_words');
  await c.query('ANALYZE TABLE orders, order_events, order_words');
  c.release();
  await db.end();
}

const p95 = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length * 0.95)]!;
const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** What people look for: a unit, a word or two of a finding, a number, what happened, and all of these within a period. */
export function asked(i: number): string {
  const roll = dice(i * 31 + 5);
  const thing = THINGS[roll(THINGS.length)]!;
  const way = WAYS[roll(WAYS.length)]!;
  const q = [
    { q: `${thing} ${way}` },
    { q: `${10_000 + roll(ORDERS)}` },
    { q: `SN${String(roll(ORDERS) * 37).padStart(8, '0')}` },
    { q: OWNERS[roll(OWNERS.length)]!.slice(0, 3) },
    { q: `winch ${thing}`, mark: 'finding' },
    { mark: 'out-of-band', kit: KITS[roll(KITS.length)]! },
    { q: thing, by: PEOPLE[roll(PEOPLE.length)]!, model: MODELS[roll(MODELS.length)]! },
    { q: 'volts at', from: '2042-03-01', to: '2042-04-30' },
    { q: `${thing} ${way}`, mark: 'skipped', from: '2035-01-01' },
    { q: `build ${roll(40)}`, mark: 'finding', kit: KITS[roll(KITS.length)]! },
  ][i % 10]!;
  return new URLSearchParams(Object.entries(q).map(([k, v]) => [k, String(v)])).toString();
}

/** Searches over 100,000 orders and 3,000,000 events, beside a bare request in the same run. */

export async function benchSearch(say: (line: string) => void, url: string, get: (path: string) => Promise<number>): Promise<void> {
  const t = performance.now();
  await seed(url);
  const seeding = (performance.now() - t) / 1000;
  const [bare, found]: [number[], number[]] = [[], []];
  for (let i = 0; i < 300; i++) {
    bare.push(await get('/api/health'));
    found.push(await get(`/api/orders?${asked(i)}`));
  }
  say(
    `Searching 100,000 orders of 3,000,000 events: median ${median(found).toFixed(0)} ms, 95th ${p95(found).toFixed(0)} ms of 300 searches of ten kinds (100 ms allowed at the 95th), ${(median(found) / median(bare)).toFixed(1)} times a bare request; seeded in ${seeding.toFixed(0)} s.`,
  );
}
