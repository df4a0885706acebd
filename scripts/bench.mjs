// Figures of speed, each beside something measured in the same run. Not a test: machines are shared and noisy.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from './build.mjs';
import { firstView } from './lib/first-view.mjs';
import { CLUSTER_NEEDS, ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { benchEditor } from './lib/bench-editor.mjs';
import { benchFloor } from './lib/bench-floor.mjs';
import { benchManyShops } from './lib/bench-shops.mjs';
import { openBrowser, signIn } from './lib/browser.mjs';
import { startShop } from './lib/shop.mjs';

ensureDebian(['mariadbd', 'ngspice', 'chromium']);
ensureModules();
await build();

const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
const p95 = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length * 0.95)];

const first = firstView();
console.log(
  `First view: ${first.kB.toFixed(0)} kB of JavaScript gzipped in ${first.files} files, ${(first.kB / 300).toFixed(2)} of the 300 kB allowed; ${first.besides} more files load when opened.`,
);

// the computations, each beside something measured in the same run
const { build: bundle } = await import('esbuild');
/** Parts named behind the command; none named: all of them. */
const only = process.argv.slice(2);
const wants = (name) => !only.length || only.includes(name);
/** A part of the benchmark as one file that runs here. */
async function part(file) {
  const out = join(root, `dist/bench-${file}.mjs`);
  await bundle({
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    absWorkingDir: root,
    logLevel: 'error',
    packages: 'external',
    entryPoints: [`tests/bench/${file}.ts`],
    outfile: out,
  });
  return import(pathToFileURL(out).href);
}
for (const [file, name] of [
  ['wiring', 'benchWiring'],
  ['energy', 'benchEnergy'],
  ['lamps', 'benchLamps'],
  ['plan', 'benchPlan'],
  ['fault', 'benchFault'],
  ['week', 'benchWeek'],
  ['try-on', 'benchTryOn'],
])
  if (wants(file)) await (await part(file))[name]((line) => console.log(line));
// a hundred shops at their full size want thirty gigabytes and a quarter of an hour: only where they are named
if (only.includes('shops')) {
  ensureDebian(CLUSTER_NEEDS);
  await benchManyShops(await part('shops'), (line) => console.log(line));
  if (only.length === 1) process.exit(0);
}

const shop = await startShop({ fast: false });
try {
  const res = await fetch(`${shop.base}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name: 'tor', password: 'lantern' }),
  });
  const Cookie = res.headers.get('set-cookie').split(';')[0];
  const get = async (path) => {
    const t = performance.now();
    const r = await fetch(shop.base + path, { headers: { Cookie } });
    await r.text();
    return performance.now() - t;
  };
  if (wants('shop')) await benchShop(shop, Cookie, get);
  if (wants('editor')) await benchEditor(shop, (line) => console.log(line));
  if (wants('search')) await (await part('search')).benchSearch((line) => console.log(line), shop.url, get);
  // the last: it fills the shop
  if (wants('floor')) await benchFloor(shop, (line) => console.log(line));
} finally {
  await shop.stop();
}

/** A shop at work: its answers, and its screens in a browser. */
async function benchShop(shop, Cookie, get) {
  const { orders: floor } = await (await fetch(`${shop.base}/api/floor`, { headers: { Cookie } })).json();
  const order = floor.find((o) => o.summary.unitName.endsWith('Drover 4'));
  let { version } = order;
  const record = async (i) => {
    const t = performance.now();
    const r = await fetch(`${shop.base}/api/orders/${order.id}/events`, {
      method: 'POST',
      headers: { Cookie, 'Content-Type': 'application/json', 'If-Match': `"${version}"`, 'Idempotency-Key': `bench-${i}-${process.pid}` },
      body: JSON.stringify({ type: 'fact.told', key: 'watts:bench/x', value: i, label: 'bench' }),
    });
    version = (await r.json()).version;
    return performance.now() - t;
  };
  for (let i = 0; i < 60; i++) {
    await get('/api/health');
    await get(`/api/orders/${order.id}`);
  }
  const [health, read, find, write] = [[], [], [], []];
  for (let i = 0; i < 400; i++) {
    // one after another, so that all meet the same machine
    health.push(await get('/api/health'));
    read.push(await get(`/api/orders/${order.id}`));
    if (i % 4 === 0) {
      find.push(await get('/api/orders?q=winch'));
      write.push(await record(i));
    }
  }
  const say = (name, list) =>
    console.log(
      `${name}: median ${median(list).toFixed(1)} ms, 95th ${p95(list).toFixed(1)} ms, ${(median(list) / median(health)).toFixed(1)} times a bare request with one SELECT`,
    );
  say('Reading the largest demo order', read);
  say('Searching orders', find);
  say('Recording an event, on disk', write);
  console.log(`Server answer for an order: ${(median(read) / 20).toFixed(2)} of the 20 ms allowed at the median.`);

  // ten thousand days in the page's worker, and how long the page itself was ever busy meanwhile
  const { browser, close } = await openBrowser();
  const page = await browser.newPage();
  await signIn(page, shop.base, 'tor');
  await page.goto(`${shop.base}/orders/${order.id}/power?show=chance`, { waitUntil: 'load' });
  const press = (word) =>
    page.evaluate((w) => [...document.querySelectorAll('main button')].find((b) => b.textContent.startsWith(w))?.click(), word);
  const done = (n) =>
    page.waitForFunction(
      (x) => document.querySelector('main')?.textContent.includes(`from ${x} simulated`),
      { timeout: 60_000, polling: 200 },
      n,
    );
  await done('1,000');
  await new Promise((r) => setTimeout(r, 500));
  await page.evaluate(() => {
    window.busy = 0;
    new PerformanceObserver((l) => l.getEntries().forEach((e) => (window.busy = Math.max(window.busy, e.duration)))).observe({
      entryTypes: ['longtask'],
    });
  });
  const began = performance.now();
  await press('Simulate');
  await done('10,000');
  const took = performance.now() - began;
  const busy = await page.evaluate(() => window.busy);
  console.log(
    `In the browser: 10,000 days of the largest demo order in ${(took / 1000).toFixed(2)} s in a worker; the page’s longest task meanwhile ${busy ? `${Math.round(busy)} ms` : 'under 50 ms'} (50 ms allowed).`,
  );

  // a fact told at Lamps of the largest demo order: from the press until its answer is painted, and the page's longest task
  await page.goto(`${shop.base}/orders/${order.id}/lamps`, { waitUntil: 'load' });
  await page.waitForSelector('[role=group] button[aria-pressed]');
  await new Promise((r) => setTimeout(r, 1500));
  const told = await page.evaluate(async () => {
    let busy = 0;
    new PerformanceObserver((l) => l.getEntries().forEach((e) => (busy = Math.max(busy, e.duration)))).observe({
      entryTypes: ['longtask'],
    });
    const painted = () => new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
    const out = [];
    for (let i = 0; i < 60; i++) {
      const group = document.querySelector('[role=group]:has(> button[aria-pressed])');
      const button = group.querySelectorAll('button')[i % 2];
      const t = performance.now();
      button.click();
      while (button.isConnected && button.getAttribute('aria-pressed') !== 'true' && performance.now() - t < 3000)
        await new Promise((r) => setTimeout(r, 1));
      await painted();
      if (i >= 10) out.push(performance.now() - t);
      else busy = 0;
      await new Promise((r) => setTimeout(r, 120));
    }
    return { out, busy };
  });
  console.log(
    `A fact told, until painted: median ${median(told.out).toFixed(0)} ms, 95th ${p95(told.out).toFixed(0)} ms (100 allowed); the page’s longest task ${told.busy ? `${Math.round(told.busy)} ms` : 'under 50 ms'} (50 allowed).`,
  );

  // a lamp dragged over the front of the cart for two seconds: how often the page came to paint
  const cart = floor.find((o) => o.summary.unitName.endsWith('Parkway 48'));
  await page.goto(`${shop.base}/orders/${cart.id}/lamps`, { waitUntil: 'load' });
  await page.waitForSelector('[data-view=front] [data-lamp]');
  await new Promise((r) => setTimeout(r, 800));
  const frames = await page.evaluate(async () => {
    const svg = document.querySelector('[data-view=front]');
    const lamp = svg.querySelector('[data-lamp="cart-road-lamps/head-left"]').getBoundingClientRect();
    const [x, y] = [lamp.x + lamp.width / 2, lamp.y + lamp.height / 2];
    svg.setPointerCapture = () => undefined;
    const send = (type, dx, dy) =>
      svg.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 1, clientX: x + dx, clientY: y + dy }));
    const next = () => new Promise((r) => requestAnimationFrame(r));
    const still = [];
    let last = await next();
    for (let i = 0; i < 60; i++) {
      const t = await next();
      still.push(t - last);
      last = t;
    }
    send('pointerdown', 0, 0);
    const moving = [];
    last = await next();
    for (let i = 1; i <= 120; i++) {
      send('pointermove', -Math.abs(30 - (i % 60)), -Math.abs(20 - (i % 40)));
      const t = await next();
      moving.push(t - last);
      last = t;
    }
    send('pointerup', 0, 0);
    return { still, moving };
  });
  const late = frames.moving.filter((t) => t > 20).length;
  console.log(
    `Dragging a lamp: a frame every ${median(frames.moving).toFixed(1)} ms at the median, 95th ${p95(frames.moving).toFixed(1)} ms (at rest ${median(frames.still).toFixed(1)} and ${p95(frames.still).toFixed(1)}); ${late} of ${frames.moving.length} frames late, ${(1000 / median(frames.moving)).toFixed(0)} frames a second (60 asked).`,
  );

  // from one station to the next, from the press until its answer is painted; each is opened once before
  await page.goto(`${shop.base}/orders/${floor.find((o) => o.summary.unitName.endsWith('Drover 4')).id}/arrive`, { waitUntil: 'load' });
  await page.waitForSelector('nav[aria-label=Stations]');
  const stations = await page.evaluate(async () => {
    const painted = () => new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
    const out = [];
    for (let round = 0; round < 6; round++)
      for (const s of ['fit', 'power', 'wire', 'lamps', 'plan', 'bench', 'handover', 'arrive']) {
        const was = document.querySelector('main')?.firstElementChild;
        const t = performance.now();
        document.querySelector(`nav[aria-label=Stations] a[href$="/${s}"]`).click();
        while (
          (!location.pathname.endsWith(`/${s}`) || document.querySelector('main')?.firstElementChild === was) &&
          performance.now() - t < 5000
        )
          await new Promise((r) => setTimeout(r, 1));
        await painted();
        if (round) out.push(performance.now() - t);
        await new Promise((r) => setTimeout(r, 400));
      }
    return out;
  });
  console.log(
    `A station changed: painted after ${median(stations).toFixed(0)} ms at the median, ${p95(stations).toFixed(0)} ms at the 95th of ${stations.length} (100 ms allowed).`,
  );

  // a step done at the bench, from the press until the next one is painted
  await page.goto(`${shop.base}/orders/${floor.find((o) => o.summary.unitName.endsWith('Lapwing 500')).id}/bench?step=safe%2Foff`, {
    waitUntil: 'load',
  });
  await page.waitForSelector('main h2');
  await new Promise((r) => setTimeout(r, 800));
  const steps = await page.evaluate(async () => {
    const painted = () => new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
    const word = (w) => [...document.querySelectorAll('main button')].find((b) => b.textContent.trim().startsWith(w));
    const out = [];
    for (let i = 0; i < 40; i++) {
      const was = document.querySelector('main h2').textContent;
      const forth = word('Next') ?? document.querySelector('[data-act=done]');
      const button = i % 2 ? word('Back') : forth;
      const t = performance.now();
      button.click();
      while (document.querySelector('main h2').textContent === was && performance.now() - t < 3000)
        await new Promise((r) => setTimeout(r, 1));
      await painted();
      out.push(performance.now() - t);
      await new Promise((r) => setTimeout(r, 250));
    }
    return out;
  });
  console.log(
    `A step changed at the bench: painted after ${median(steps).toFixed(0)} ms at the median, ${p95(steps).toFixed(0)} ms at the 95th of ${steps.length} (100 ms allowed).`,
  );
  await close();
}
