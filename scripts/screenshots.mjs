// Rebuilds docs/screenshots from the demo: one picture of each main view.
import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from './build.mjs';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { openBrowser, signIn } from './lib/browser.mjs';
import { startShop } from './lib/shop.mjs';

ensureDebian(['mariadbd', 'chromium']);
ensureModules();
await build();
const folder = join(root, 'docs/screenshots');
mkdirSync(folder, { recursive: true });
for (const f of readdirSync(folder)) if (f.endsWith('.png')) rmSync(join(folder, f));

/** [file, path, what else]; a unit's name in braces stands for its order. */
const VIEWS = [
  ['floor', '/floor', { sees: '[aria-label="Bays by hours"]' }],
  ['door', '/orders/new', { model: '+', press: '[data-body=side-by-side-4]' }],
  ['arrive', '/orders/{Drover 4}/arrive'],
  ['fit', '/orders/{Tern 300}/fit'],
  ['power', '/orders/{Lapwing 500}/power'],
  ['wire', '/orders/{Drover 4}/wire', { turn: ['Engine/idle', 'Signal switch/left', 'Roof bar switch/on'] }],
  ['lamps', '/orders/{Parkway 48}/lamps'],
  ['plan', '/orders/{Drover 4}/plan'],
  ['bench', '/orders/{Drover 4}/bench'],
  ['parts', '/parts', { sees: '[data-item]' }],
  ['hand-over', '/orders/{Skarn 600}/handover'],
  ['price', '/orders/{Lapwing 500}/price', { sees: 'article' }],
  ['owner', '/orders/{Lapwing 500}/links', { size: [390, 844], link: true, sees: 'button' }],
  ['orders', '/orders?q=winch'],
  ['sheets', '/sheets/model/sandbar-21'],
  ['sheet-box', '/sheets/kit/roof-bar/edit', { sees: '[data-tried]' }],
  ['sheet-unit', '/sheets/model/drover-2/edit', { press: '[data-view=side] [data-place="bus-bar"]' }],
  ['tools', '/tools/wire.choose'],
  ['shop', '/shop/week', { sees: '[aria-label="What follows"]' }],
];

const shop = await startShop();
const { browser, close } = await openBrowser();
try {
  const page = await browser.newPage();
  await signIn(page, shop.base, 'ines');
  const { orders: floor } = await page.evaluate(() => fetch('/api/floor').then((r) => r.json()));
  for (const [file, path, { scheme = 'light', size = [1280, 800], press, model, turn, link, sees } = {}] of VIEWS) {
    await page.setViewport({ width: size[0], height: size[1] });
    await page.evaluate((s) => localStorage.setItem('kadro.scheme', JSON.stringify(s)), scheme);
    let at = path.replace(/\{([^}]+)\}/, (_, unit) => floor.find((o) => o.summary.unitName.endsWith(unit)).id);
    // the page of a unit’s owner, under an address of its own
    if (link)
      at = await page.evaluate(
        async (p) =>
          (await (await fetch(`/api${p}`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: '{}' })).json()).path,
        at,
      );
    await page.goto(shop.base + at, { waitUntil: 'load' });
    await page.waitForSelector('main h1, main h2, main h3');
    if (sees) await page.waitForSelector(sees, { timeout: 20_000 });
    await new Promise((r) => setTimeout(r, 700));
    if (model) {
      await page.waitForSelector(`#model option[value="${model}"]`);
      await page.select('#model', model);
    }
    for (const t of turn ?? []) {
      const [control, position] = t.split('/');
      await page.waitForSelector(`[role=group][aria-label="${control}"] button`);
      await page.evaluate(
        (c, p) => [...document.querySelectorAll(`[role=group][aria-label="${c}"] button`)].find((b) => b.textContent === p).click(),
        control,
        position,
      );
      await new Promise((r) => setTimeout(r, 900));
    }
    if (/\/(wire|power)/.test(path)) await new Promise((r) => setTimeout(r, 2500));
    if (press) await page.click(press);
    if (press || model) await new Promise((r) => setTimeout(r, 400));
    await page.screenshot({ path: join(folder, `${file}.png`) });
    console.log(`docs/screenshots/${file}.png`);
  }
} finally {
  await close();
  await shop.stop();
}
