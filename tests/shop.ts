import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
// @ts-expect-error plain JavaScript shared with the start command
import { freePort, startMariadb } from '../scripts/lib/mariadb.mjs';

export interface Shop {
  base: string;
  url: string;
  database: { kill(): void; stop(): Promise<void> };
  killServer(): void;
  startServer(): Promise<void>;
  stop(): Promise<void>;
}

/** A whole shop of its own for tests: database, built server, demo data, on free ports. It is thrown away after. */
export async function startShop({ fast = true, restartMs = 700 } = {}): Promise<Shop> {
  const folder = mkdtempSync(join(tmpdir(), 'kadro-test-'));
  const database = await startMariadb(folder, { fast, restartMs });
  const port: number = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let child: ChildProcess | null = null;
  const startServer = () =>
    new Promise<void>((resolve, reject) => {
      child = spawn(process.execPath, ['--enable-source-maps', 'dist/server.mjs'], { env: { ...process.env, KADRO_DATABASE_URL: database.url, KADRO_PORT: String(port) }, stdio: ['ignore', 'pipe', 'inherit'] });
      child.stdout!.on('data', (c) => String(c).includes('kadro ready') && resolve());
      child.once('exit', (code) => reject(new Error(`the server ended (${code})`)));
    });
  await startServer();
  return {
    base,
    url: database.url,
    database,
    startServer,
    killServer: () => void child?.kill('SIGKILL'),
    stop: async () => {
      child?.kill('SIGTERM');
      await database.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** A person's hand on the API: keeps the cookie, answers status and body. */
export class Client {
  private cookie = '';
  constructor(readonly base: string) {}
  async call<T = any>(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<{ status: number; body: T; headers: Headers; text: string }> { // eslint-disable-line @typescript-eslint/no-explicit-any
    const res = await fetch(this.base + path, {
      method,
      headers: { ...(body !== undefined ? { 'Content-Type': typeof body === 'string' ? 'text/plain' : 'application/json' } : {}), ...(this.cookie ? { Cookie: this.cookie } : {}), ...headers },
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
  async signIn(name: string, password = 'lantern'): Promise<this> {
    const r = await this.call('POST', '/api/session', { name, password });
    if (r.status !== 200) throw new Error(`sign-in of ${name}: ${r.status} ${r.text}`);
    return this;
  }
  async order(unit: string): Promise<{ id: string; version: number }> {
    const floor = await this.call<{ id: string; version: number; summary: { unitName: string } }[]>('GET', '/api/floor');
    return floor.body.find((o) => o.summary.unitName.endsWith(unit))!;
  }
  record(id: string, version: number, command: unknown, headers: Record<string, string> = {}, merge = false) {
    return this.call('POST', `/api/orders/${id}/events${merge ? '?merge=yes' : ''}`, command, { 'If-Match': `"${version}"`, ...headers });
  }
}
