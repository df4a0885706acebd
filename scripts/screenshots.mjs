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
  ['floor', '/floor'],
  ['door', '/orders/new', { model: '+', press: '[data-body=side-by-side-4]' }],
  ['arrive', '/orders/{Drover 4}/arrive'],
  ['fit', '/orders/{Tern 300}/fit'],
  ['power', '/orders/{Lapwing 500}/power'],
  ['wire', '/orders/{Drover 4}/wire', { turn: ['Engine/idle', 'Signal switch/left', 'Roof bar switch/on'] }],
  ['wire-cut', '/orders/{Parkway 48}/wire?show=cut'],
  ['lamps', '/orders/{Parkway 48}/lamps'],
  ['plan', '/orders/{Drover 4}/plan'],
  ['bench', '/orders/{Drover 4}/bench'],
  ['bench-tablet', '/orders/{Drover 2}/bench?step=prove%2Fparked', { size: [1024, 768] }],
  ['bench-fault', '/orders/{Drover 4}/bench?step=road-kit%2Fleft', { answer: ['No', 'Yes'] }],
  ['hand-over', '/orders/{Skarn 600}/handover'],
  ['orders', '/orders?q=winch'],
  ['sheets', '/sheets/model/sandbar-21'],
  ['sheet-box', '/sheets/kit/roof-bar/edit'],
  ['sheet-unit', '/sheets/model/drover-2/edit', { press: '[data-view=side] [data-place="bus-bar"]' }],
  ['tools', '/tools/wire.choose'],
  ['shop', '/shop/rules'],
];

const shop = await startShop();
const { browser, close } = await openBrowser();
try {
  const page = await browser.newPage();
  await signIn(page, shop.base, 'ines');
  const { orders: floor } = await page.evaluate(() => fetch('/api/floor').then((r) => r.json()));
  for (const [file, path, { scheme = 'light', size = [1280, 800], press, model, turn, answer } = {}] of VIEWS) {
    await page.setViewport({ width: size[0], height: size[1] });
    await page.evaluate((s) => localStorage.setItem('kadro.scheme', JSON.stringify(s)), scheme);
    const at = path.replace(/\{([^}]+)\}/, (_, unit) => floor.find((o) => o.summary.unitName.endsWith(unit)).id);
    await page.goto(shop.base + at, { waitUntil: 'load' });
    await page.waitForSelector('main h1, main h2, main h3');
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
    for (const [i, word] of (answer ?? []).entries()) {
      await page.evaluate((n, w) => [...document.querySelectorAll('main button')].filter((b) => b.textContent === w)[n].click(), i, word);
      await new Promise((r) => setTimeout(r, 800));
    }
    if (answer) {
      await page.waitForSelector('[aria-label="What is wrong"][aria-busy=false] [data-next-measurement]', { timeout: 20_000 });
      await page.$eval('[aria-label="What is wrong"]', (e) => e.scrollIntoView());
    }
    if (press) await page.click(press);
    if (press || model) await new Promise((r) => setTimeout(r, 400));
    await page.screenshot({ path: join(folder, `${file}.png`) });
    console.log(`docs/screenshots/${file}.png`);
  }
} finally {
  await close();
  await shop.stop();
}
