import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
beforeAll(async () => {
  shop = await startShop();
}, 120_000);
afterAll(() => shop.stop());

/** A browser with all of its cookies. */
class Browser {
  readonly jar = new Map<string, string>();
  async call(method: string, path: string, body?: unknown): Promise<{ status: number; body: Record<string, unknown> }> {
    const res = await fetch(shop.base + path, {
      method,
      headers: {
        Cookie: [...this.jar].map(([k, v]) => `${k}=${v}`).join('; '),
        ...(body !== undefined && { 'Content-Type': 'application/json' }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    for (const c of res.headers.getSetCookie()) {
      const [, k, v] = /^([^=]+)=([^;]*)/.exec(c)!;
      if (v) this.jar.set(k!, v);
      else this.jar.delete(k!);
    }
    return { status: res.status, body: (await res.json().catch(() => null)) as Record<string, unknown> };
  }
  signIn = (name: string) => this.call('POST', '/api/session', { name, password: 'lantern' });
  who = async () => (await this.call('GET', '/api/session')).body?.id ?? null;
  people = async () => ((await this.call('GET', '/api/bench')).body.people as { id: string; code: boolean }[]).map((p) => p.id);
  goOn = (name: string, code: string) => this.call('POST', '/api/bench/person', { name, code });
}

it('at a shared bench people come back by a short code, each as themselves; the record carries who did it', async () => {
  const b = new Browser();
  await b.signIn('tor');
  expect((await b.call('PUT', '/api/session/bench-code', { password: 'lantern', code: '12' })).status).toBe(422);
  expect((await b.call('PUT', '/api/session/bench-code', { password: 'wrong', code: '4711' })).status).toBe(422);
  expect((await b.call('PUT', '/api/session/bench-code', { password: 'lantern', code: '4711' })).status).toBe(200);
  // on a device of one's own a code opens nothing
  expect((await b.goOn('tor', '4711')).status).toBe(401);
  expect((await b.call('PUT', '/api/bench', {})).status).toBe(200);
  await b.signIn('maud');
  expect(await b.people()).toEqual(['maud', 'tor']);
  const before = b.jar.get('kadro');
  expect((await b.goOn('tor', '4711')).body).toMatchObject({ id: 'tor' });
  expect(await b.who()).toBe('tor');
  // maud has none yet: her session stays, and takes her password
  expect((await b.goOn('maud', '4711')).status).toBe(401);
  const still = new Browser();
  still.jar.set('kadro', before!);
  expect(await still.who()).toBe('maud');
  // the token that tor had before opens nothing, the code nothing elsewhere
  const elsewhere = new Browser();
  expect((await elsewhere.goOn('tor', '4711')).status).toBe(401);
  elsewhere.jar.set('kadro-bench', 'x'.repeat(43));
  expect((await elsewhere.goOn('tor', '4711')).status).toBe(401);
  const order = ((await b.call('GET', '/api/floor')).body.orders as { id: string; version: number }[])[0]!;
  const res = await fetch(`${shop.base}/api/orders/${order.id}/events`, {
    method: 'POST',
    headers: { Cookie: `kadro=${b.jar.get('kadro')}`, 'Content-Type': 'application/json', 'If-Match': `"${order.version}"` },
    body: JSON.stringify({ type: 'finding.added', text: 'seen at the bench' }),
  });
  expect(res.status).toBe(200);
  const events = (await b.call('GET', `/api/orders/${order.id}/events`)).body as unknown as { by: string }[];
  expect(events.at(-1)).toMatchObject({ by: 'tor' });
});

it('a code guessed wrong a few times ends that session there; nothing of a code or a bench is stored as it is', async () => {
  const b = new Browser();
  await b.signIn('maud');
  await b.call('PUT', '/api/session/bench-code', { password: 'lantern', code: '1357' });
  await b.call('PUT', '/api/bench', {});
  await b.signIn('ines');
  for (let i = 0; i < 5; i++) expect((await b.goOn('maud', `999${i}`)).status).toBe(401);
  expect(await b.people()).toEqual(['ines']);
  expect((await b.goOn('maud', '1357')).status).toBe(401);
  const c = await createConnection(shop.url);
  const [all] = await c.query(
    'SELECT a.bench_code, s.bench FROM kadro_directory.accounts a JOIN kadro_directory.sessions s ON s.account = a.id',
  );
  expect(JSON.stringify(all)).not.toMatch(/1357/);
  expect(JSON.stringify(all)).not.toContain(b.jar.get('kadro-bench'));
  await c.end();
});

it('a bench that is none any more has nobody but who said so', async () => {
  const b = new Browser();
  await b.signIn('wyn');
  await b.call('PUT', '/api/bench', {});
  const wyn = b.jar.get('kadro')!;
  await b.signIn('ines');
  expect((await b.call('DELETE', '/api/bench')).body).toEqual({ ended: 1 });
  expect(await b.who()).toBe('ines');
  const old = new Browser();
  old.jar.set('kadro', wyn);
  expect(await old.who()).toBeNull();
  expect((await b.call('GET', '/api/bench')).body).toEqual({ shared: false, people: [] });
  // on a device of one's own the session of before is not kept for anybody
  expect((await new Client(shop.base).call('PUT', '/api/bench', {})).status).toBe(401);
});
