// Faults in a shop under load (servers, databases, browsers), and counts of what came of what had been acknowledged.
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BROWSER_FLAGS, CHROMIUM } from './browser.mjs';
import { Hand } from './client.mjs';
import { random } from './hostile.mjs';
import { freePort } from './mariadb.mjs';
import { startServer, startShop } from './shop.mjs';
import { watchStolen } from './stolen.mjs';

const wait = (ms) => new Promise((r) => setTimeout(r, ms));

/** Does numbered things one after another as a screen does: each with its key, again until it is acknowledged, at whichever server answers. */
function hammer(hands, order, name, command) {
  const acknowledged = [];
  /** the longest time between two answers, ms, since it was last asked for */
  let longest = 0;
  /** what was answered since then: when, with what, after how many ms */
  let heard = [];
  let last = performance.now();
  let going = true;
  let at = 0;
  const done = (async () => {
    for (let i = 0; going; i++) {
      const key = randomUUID();
      for (;;) {
        const asked = performance.now();
        const r = await hands[at % hands.length].call(
          'POST',
          `/api/orders/${order}/events?merge=yes`,
          command(i),
          { 'If-Match': '"1"', 'Idempotency-Key': key },
          8000,
        );
        heard.push({
          at: new Date().toISOString(),
          status: r.status,
          ms: Math.round(performance.now() - asked),
          ...(r.status !== 200 && { says: r.text.slice(0, 200) }),
        });
        if (r.status === 200) break;
        if (![0, 500, 502, 503].includes(r.status)) throw new Error(`${name}: ${r.status} ${r.text}`);
        at++;
        // it is not acknowledged: whether it stands or not, nobody was told
        if (!going) return;
        await wait(60);
      }
      acknowledged.push(i);
      longest = Math.max(longest, performance.now() - last);
      last = performance.now();
      await wait(15);
    }
  })();
  return {
    acknowledged,
    end: async () => ((going = false), done),
    gap: () => {
      const was = { ms: Math.max(longest, performance.now() - last), heard };
      longest = 0;
      heard = [];
      return was;
    },
  };
}

/** A person at a tablet whose browser is killed: what was kept on the device must reach the record, once. */
async function tablet(base, unit, rnd) {
  const { default: puppeteer } = await import('puppeteer-core');
  const profile = mkdtempSync(join(tmpdir(), 'kadro-tablet-'));
  const kept = [];
  let browser;
  let page;
  const open = async () => {
    browser = await puppeteer.launch({
      executablePath: CHROMIUM,
      userDataDir: profile,
      headless: true,
      defaultViewport: { width: 1280, height: 800 },
      args: BROWSER_FLAGS,
    });
    page = await browser.newPage();
    await page.goto(base, { waitUntil: 'domcontentloaded' });
    await page.waitForSelector('#name, nav[aria-label=Places]', { timeout: 20_000 });
    if (await page.$('#name')) {
      await page.type('#name', 'ines');
      await page.type('#password', 'lantern');
      await page.keyboard.press('Enter');
      await page.waitForSelector('nav[aria-label=Places]');
    }
  };
  /** Writes a finding by hand; true once the device has it, or the record. */
  const record = async (text) => {
    await page.keyboard.press('x');
    await page.waitForSelector('#finding', { timeout: 10_000 });
    await page.type('#finding', text);
    await page.evaluate(() => [...document.querySelectorAll('[role=dialog] button[type=submit]')].at(-1).click());
    await page.waitForFunction(() => !document.querySelector('#finding'), { timeout: 10_000 });
    // acknowledged is what the device's disk has, or what has left it for the record
    await page.waitForFunction(
      async () => {
        const db = await new Promise((ok) => (indexedDB.open('kadro-device').onsuccess = (e) => ok(e.target.result)));
        const rows = await new Promise(
          (ok) => (db.transaction('commands').objectStore('commands').getAll().onsuccess = (e) => ok(e.target.result)),
        );
        db.close();
        return rows.length >= 0;
      },
      { timeout: 10_000 },
    );
  };
  await open();
  const { id } = await (await new Hand(base).signIn('ines')).order(unit);
  return {
    order: id,
    kept,
    kill: async () => {
      await page.goto(`${base}/orders/${id}/bench`, { waitUntil: 'domcontentloaded' });
      await page.waitForSelector('[data-step], main h2', { timeout: 20_000 });
      await wait(400);
      for (let i = 0; i < 3; i++) {
        const text = `tablet ${kept.length}`;
        await record(text);
        kept.push(text);
      }
      await wait(rnd() * 30);
      browser.process().kill('SIGKILL');
      await wait(150);
      await open();
    },
    settle: async () => {
      await page.goto(`${base}/orders/${id}/bench`, { waitUntil: 'domcontentloaded' });
      for (let i = 0; i < 200; i++) {
        const left = await page.evaluate(async () => {
          const db = await new Promise((ok) => (indexedDB.open('kadro-device').onsuccess = (e) => ok(e.target.result)));
          const rows = await new Promise(
            (ok) => (db.transaction('commands').objectStore('commands').getAll().onsuccess = (e) => ok(e.target.result)),
          );
          db.close();
          return rows.filter((r) => r.state === 'waiting').length;
        });
        if (!left) return;
        await wait(200);
      }
    },
    close: async () => {
      await browser?.close().catch(() => undefined);
      rmSync(profile, { recursive: true, force: true });
    },
  };
}

/** A shop with one database and one server or two, and what may befall it. */
async function loneShop(servers) {
  // not fast: what is acknowledged must be on the disk
  const shop = await startShop({ fast: false, restartMs: 100 });
  const second = { port: await freePort(), child: null };
  const startSecond = async () => {
    const s = startServer(shop.url, second.port, { KADRO_DEMO: '1', KADRO_STAND_INS: '1' });
    second.child = s.child;
    await s.ready.catch(() => undefined);
  };
  const bases = [shop.base];
  if (servers > 1) {
    await startSecond();
    bases.push(`http://127.0.0.1:${second.port}`);
  }
  const server = async () => {
    shop.killServer();
    await shop.startServer().catch(() => undefined);
  };
  const other = async () => {
    second.child.kill('SIGKILL');
    await startSecond();
  };
  return {
    bases,
    url: shop.url,
    faults: {
      database: async () => shop.database.kill(),
      server: servers > 1 ? (rnd) => (rnd() < 0.5 ? other() : server()) : server,
    },
    settled: async () => undefined,
    stop: async () => (second.child?.kill('SIGKILL'), shop.stop()),
  };
}

/**
 * Does things wrong to a shop while two people record in it, one after another.
 * @param place where they record (`bases`), what may befall it by name (`faults`), and when it is itself again (`settled`)
 * @param strikes names of faults in turn
 * @param browserKills how often a tablet's browser is killed besides
 * @param told after each of them: what is kept of it in `silent`, and what each person heard meanwhile
 * @returns acknowledged writes, and how many of them were lost, doubled or out of order; how long nobody was answered, ms,
 *   and what share of the machine others took from it meanwhile, fault by fault
 */
export async function faultRun(place, { strikes, browserKills = 0, seed = 1, log = () => {}, told = () => {} }) {
  const rnd = random(seed);
  const { bases } = place;
  const people = async (name) => Promise.all(bases.map((b) => new Hand(b).signIn(name)));
  const healthy = async () => {
    for (;;) {
      const all = await Promise.all(bases.map((b) => new Hand(b).call('GET', '/api/health', undefined, {}, 2000)));
      if (all.every((r) => r.status === 200)) return;
      await wait(20);
    }
  };
  const [tor, maud] = [await people('tor'), await people('maud')];
  const order = (await tor[0].order('Greenway 36')).id;
  const hands = [
    hammer(tor, order, 'tor', (i) => ({ type: 'finding.added', text: `found ${i}` })),
    hammer(maud, order, 'maud', (i) => ({ type: 'finding.added', text: `seen ${i}` })),
  ];
  const back = [];
  const silent = [];
  const done = {};
  const others = watchStolen();
  const pad = browserKills ? await tablet(bases[0], 'Sandbar 21', rnd) : null;
  let under = 'nothing';
  try {
    for (const [n, name] of strikes.entries()) {
      await wait(150 + rnd() * 500);
      hands.forEach((h) => h.gap());
      others.most();
      const began = performance.now();
      under = name;
      await place.faults[name](rnd);
      done[name] = (done[name] ?? 0) + 1;
      await healthy();
      back.push(performance.now() - began);
      const answered = async () => {
        const had = hands.map((h) => h.acknowledged.length);
        for (let i = 0; i < 400 && hands.some((h, k) => h.acknowledged.length <= had[k]); i++) await wait(50);
      };
      await answered();
      // what came of it is over once all is as it was and both are answered: who comes back may hold others up too
      await place.settled();
      await answered();
      const gaps = hands.map((h) => h.gap());
      const ms = Math.max(...gaps.map((g) => g.ms));
      const stolen = others.most();
      silent.push({ name, ms, stolen });
      told({ name, ms, stolen, heard: gaps.map((g) => g.heard) });
      if (n % 20 === 19) log(`${n + 1} of ${strikes.length} faults`);
    }
    for (let n = 0; n < browserKills; n++) {
      await pad.kill();
      done.browser = (done.browser ?? 0) + 1;
      if (n % 10 === 9) log(`${n + 1} of ${browserKills} browsers`);
    }
    await Promise.all(hands.map((h) => h.end()));
    await pad?.settle();
    await wait(500);
    const texts = async (id, by) =>
      (await tor[0].call('GET', `/api/orders/${id}/events`)).json
        .filter((e) => e.by === by && e.body.type === 'finding.added')
        .map((e) => e.body.text);
    const out = { done, acknowledged: 0, lost: 0, doubled: 0, disordered: 0, backMs: back, silent };
    const compare = (wanted, found) => {
      out.acknowledged += wanted.length;
      out.lost += wanted.filter((w) => !found.includes(w)).length;
      out.doubled += found.length - new Set(found).size;
      const numbers = found.map((t) => Number(t.split(' ')[1]));
      out.disordered += numbers.filter((x, i) => i > 0 && x < numbers[i - 1]).length;
    };
    compare(
      hands[0].acknowledged.map((i) => `found ${i}`),
      await texts(order, 'tor'),
    );
    compare(
      hands[1].acknowledged.map((i) => `seen ${i}`),
      await texts(order, 'maud'),
    );
    if (pad)
      compare(
        pad.kept,
        (await texts(pad.order, 'ines')).filter((t) => t.startsWith('tablet ')),
      );
    const { events } = (await tor[0].call('GET', `/api/orders/${order}/history.json`)).json;
    out.gaps = events.filter((e, i) => e.seq !== i + 1).length;
    return { ...out, order };
  } catch (e) {
    log(`the trial broke after: ${under}`);
    throw e;
  } finally {
    others.end();
    await Promise.allSettled(hands.map((h) => h.end()));
    await pad?.close();
  }
}

/**
 * @param kills how many of servers and database; @param browserKills how many of the browser; @param servers one or two
 * @returns as `faultRun` does, with the shop, which is to be stopped
 */
export async function killRun({ kills, browserKills = 0, servers = 1, seed = 1, log = () => {} }) {
  const rnd = random(seed);
  const place = await loneShop(servers);
  try {
    const strikes = Array.from({ length: kills }, () => (rnd() < 0.5 ? 'database' : 'server'));
    return { ...(await faultRun(place, { strikes, browserKills, seed, log })), url: place.url, stop: place.stop };
  } catch (e) {
    await place.stop();
    throw e;
  }
}
