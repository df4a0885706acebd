import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
// @ts-expect-error plain JavaScript shared with the start command
import { freePort } from '../../scripts/lib/mariadb.mjs';
import { Client } from '../shop';

const home = mkdtempSync(join(tmpdir(), 'kadro-start-'));
let port = 0;
let starter: ChildProcess | null = null;
let printed = '';
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
afterAll(async () => {
  starter?.kill('SIGTERM');
  await wait(3000);
  rmSync(home, { recursive: true, force: true });
});

/** The start command as a person runs it, with a folder and a port of its own. */
async function start(...args: string[]): Promise<void> {
  port ||= await freePort();
  printed = '';
  starter = spawn(process.execPath, ['scripts/start.mjs', ...args], {
    env: { ...process.env, KADRO_HOME: home, KADRO_PORT: String(port) },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  starter.stdout!.on('data', (c) => (printed += String(c)));
  starter.stderr!.on('data', (c) => (printed += String(c)));
  for (let i = 0; i < 1800 && !printed.includes('Kadro is running'); i++) await wait(100);
  expect(printed).toContain('Kadro is running at http://127.0.0.1:');
}
async function stop(signal: NodeJS.Signals): Promise<void> {
  const gone = new Promise((r) => starter!.once('exit', r));
  starter!.kill(signal);
  await gone;
}
const healthy = async () => {
  for (let i = 0; i < 150; i++) {
    if (
      await fetch(`http://127.0.0.1:${port}/api/health`).then(
        (r) => r.ok,
        () => false,
      )
    )
      return true;
    await wait(100);
  }
  return false;
};

describe('npm start', () => {
  it('prints address and demo sign-ins, keeps what was recorded through a stop and through kills, and is not started twice', async () => {
    await start();
    expect(printed).toMatch(/password lantern:\s+ines {3}lead\s+tor {4}installer/);
    const tor = await new Client(`http://127.0.0.1:${port}`).signIn('tor');
    const { id, version } = await tor.order('Lapwing 500');
    expect((await tor.record(id, version, { type: 'finding.added', text: 'kept through everything' })).status).toBe(200);

    // a second start from the same folder says so and leaves the first alone
    const second = spawn(process.execPath, ['scripts/start.mjs'], { env: { ...process.env, KADRO_HOME: home, KADRO_PORT: String(port) } });
    let said = '';
    second.stderr.on('data', (c) => (said += String(c)));
    expect(await new Promise((r) => second.once('exit', r))).toBe(1);
    expect(said).toContain('already running from this folder');

    // the server killed, then the database
    process.kill(JSON.parse(readFileSync(join(home, 'run.json'), 'utf8')).servers[0], 'SIGKILL');
    await wait(300);
    expect(await healthy()).toBe(true);
    process.kill(Number(readFileSync(join(home, 'mariadb.pid'), 'utf8')), 'SIGKILL');
    await wait(500);
    expect(await healthy()).toBe(true);

    // everything killed at once, as when the machine goes down
    const { servers } = JSON.parse(readFileSync(join(home, 'run.json'), 'utf8'));
    starter!.kill('SIGKILL');
    process.kill(servers[0], 'SIGKILL');
    process.kill(Number(readFileSync(join(home, 'mariadb.pid'), 'utf8')), 'SIGKILL');
    await wait(500);
    await start();
    const again = await new Client(`http://127.0.0.1:${port}`).signIn('maud');
    const events = (await again.call('GET', `/api/orders/${id}/events`)).body as { says: string }[];
    expect(events.filter((e) => e.says === 'Finding: kept through everything')).toHaveLength(1);

    // Ctrl-C stops all of it
    const pid = Number(readFileSync(join(home, 'mariadb.pid'), 'utf8'));
    await stop('SIGINT');
    await wait(300);
    expect(() => process.kill(pid, 0)).toThrow();
    expect(
      await fetch(`http://127.0.0.1:${port}/api/health`).then(
        () => 'up',
        () => 'down',
      ),
    ).toBe('down');
  }, 400_000);
});
