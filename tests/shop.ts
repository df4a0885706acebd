import { execFile } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
// @ts-expect-error plain JavaScript shared with the scripts
import { startShop as start } from '../scripts/lib/shop.mjs';

export interface Shop {
  base: string;
  url: string;
  folder: string;
  database: { kill(): void; stop(): Promise<void> };
  killServer(): void;
  startServer(): Promise<void>;
  stop(): Promise<void>;
}

/** A whole shop of its own for tests. `restartMs`: how long a fallen database stays down. */
export const startShop = (options: { fast?: boolean; restartMs?: number; env?: Record<string, string> } = {}): Promise<Shop> =>
  start(options);

/** What `npm run shops` does, over a shop that runs. @returns what it said, and how it ended */
export function shopsCommand(shop: Shop, ...args: string[]): Promise<{ said: string; status: number }> {
  const env = { ...process.env, KADRO_DATABASE_URL: shop.url, KADRO_PICTURES: join(shop.folder, 'pictures') };
  return new Promise((resolve) =>
    execFile(process.execPath, ['dist/server.mjs', 'shops', ...args], { env }, (e, out, err) =>
      resolve({ said: out + err, status: e ? Number(e.code) : 0 }),
    ),
  );
}

/** How often a reader who is told to come again does so, and how long it waits each time, ms. */
const COMES_AGAIN = 12;
const WAITS_MS = 2000;
/**
 * Asks as every screen does: a reader who is told that the server is busy for a moment comes again, as the answer’s `Retry-After`
 * says; so does a writer who is told that nothing was begun.
 */
async function patient(method: string, url: string, init: RequestInit): Promise<Response> {
  for (let n = 1; ; n++) {
    const res = await fetch(url, init);
    if (res.status !== 503 || url.endsWith('/api/health') || n > COMES_AGAIN) return res;
    if (method !== 'GET' && !(await res.clone().text()).includes('"title":"Busy"')) return res;
    await new Promise((r) => setTimeout(r, WAITS_MS));
  }
}

/** A person's hand on the API: keeps the cookie, answers status and body. */
export class Client {
  private cookie = '';
  constructor(readonly base: string) {}
  /** for requests that are made beside this hand */
  cookieForTests(): string {
    return this.cookie;
  }
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- a test reads whatever came
  async call<T = any>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; body: T; headers: Headers; text: string }> {
    const res = await patient(method, this.base + path, {
      method,
      headers: {
        ...(body !== undefined ? { 'Content-Type': typeof body === 'string' ? 'text/plain' : 'application/json' } : {}),
        ...(this.cookie ? { Cookie: this.cookie } : {}),
        ...headers,
      },
      body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
    });
    const set = res.headers.get('set-cookie');
    if (set) this.cookie = set.split(';')[0]!;
    const text = await res.text();
    let parsed: unknown = null;
    try {
      parsed = JSON.parse(text);
    } catch {
      parsed = null;
    }
    return { status: res.status, body: parsed as T, headers: res.headers, text };
  }
  /** The answer as it comes, for files. */
  raw(path: string): Promise<Response> {
    return patient('GET', this.base + path, { headers: this.cookie ? { Cookie: this.cookie } : {} });
  }
  /** Sends a file’s bytes. */
  async bytes(path: string, body: Buffer, type = 'image/png', method = 'PUT'): Promise<{ status: number; text: string }> {
    const res = await patient(method, this.base + path, {
      method,
      headers: { 'Content-Type': type, ...(this.cookie ? { Cookie: this.cookie } : {}) },
      body: new Uint8Array(body),
    });
    return { status: res.status, text: await res.text() };
  }
  async signIn(name: string, password = 'lantern'): Promise<this> {
    const r = await this.call('POST', '/api/session', { name, password });
    if (r.status !== 200) throw new Error(`sign-in of ${name}: ${r.status} ${r.text}`);
    return this;
  }
  async order(unit: string): Promise<{ id: string; version: number }> {
    const floor = await this.call<{ orders: { id: string; version: number; summary: { unitName: string } }[] }>('GET', '/api/floor');
    return floor.body.orders.find((o) => o.summary.unitName.endsWith(unit))!;
  }
  record(id: string, version: number, command: unknown, headers: Record<string, string> = {}, merge = false) {
    return this.call('POST', `/api/orders/${id}/events${merge ? '?merge=yes' : ''}`, command, { 'If-Match': `"${version}"`, ...headers });
  }
}

/** What takes in another unit like one that is here, for a new owner. */
export const openingLike = (unit: { model: unknown; build: string; year: number }, restVolts: number | null = 12.7) => ({
  model: unit.model,
  build: unit.build,
  year: unit.year,
  identity: '1M8GDM9AXKP042788',
  meterValue: null,
  owner: 'Edda',
  promisedAt: '2030-01-01T12:00:00.000Z',
  wishes: [],
  restVolts,
  condition: '',
  fitted: [],
});

/** A bar lamp whose wire comes off the shelf, as the file of a kit of the first format: `loose-bar`. */
export const looseBarFile = (): string =>
  readFileSync(new URL('./loose-kits/roof-bar.json', import.meta.url), 'utf8')
    .replace('"id": "roof-bar"', '"id": "loose-bar"')
    .replace('"name": "Roof bar lamp 120 W"', '"name": "Loose bar lamp kit"')
    .replace('"id": "bar", "name": "Roof bar lamp", "devices"', '"id": "bar", "name": "Loose bar lamp", "devices"');

/** Takes it in at Sheets, by somebody who may. */
export async function takeInLooseBar(lead: Client): Promise<void> {
  // a machine at its limit may want to be asked again
  for (let tries = 0; ; tries++) {
    const { status, text } = await lead.call('POST', '/api/sheets', looseBarFile());
    if (status < 300) return;
    if (tries > 8) throw new Error(`the loose kit was not taken in: ${text}`);
    await new Promise((r) => setTimeout(r, 1000));
  }
}
