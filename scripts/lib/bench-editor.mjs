// The editor of a model on its drawing, with two hundred places: how long until it stands, and how often it paints while one is dragged.
import { dragged, median } from './bench-frames.mjs';
import { openBrowser, signIn } from './browser.mjs';

const PLACES = 200;
const OPENED = 9;

/** A sheet with pairs of places all over the unit, each on a way from the one before it. */
function crowded(sheet) {
  const { lengthMm, widthMm, heightMm, rearOverhangMm } = sheet.dims;
  const places = [...sheet.places];
  const runs = [...sheet.runs];
  const last = {};
  for (let i = 0; places.length < PLACES; i++) {
    const x = Math.round(lengthMm * ((i * 0.618) % 1) - rearOverhangMm);
    const y = 20 + Math.round((widthMm / 2 - 40) * ((i * 0.377) % 1));
    const z = 100 + Math.round((heightMm - 200) * ((i * 0.271) % 1));
    for (const side of ['left', 'right']) {
      const id = `spot-${i}-${side}`;
      places.push({ id, name: `Spot ${i}, ${side}`, wet: false, x, y: side === 'left' ? y : -y, z });
      runs.push({ from: last[side] ?? sheet.places[0].id, to: id, hazards: i % 9 ? [] : ['heat'] });
      last[side] = id;
    }
  }
  return {
    ...sheet,
    id: 'crowded',
    name: 'Crowded',
    places: places.slice(0, PLACES),
    runs: runs.filter((r) => places.findIndex((p) => p.id === r.to) < PLACES),
    known: {},
  };
}

/**
 * @param {{ base: string }} shop a shop that runs, with its demo
 * @param {(line: string) => void} report
 */
export async function benchEditor(shop, report) {
  const { browser, close } = await openBrowser();
  try {
    const page = await browser.newPage();
    await signIn(page, shop.base, 'ines');
    const { models } = await page.evaluate(async () => (await fetch('/api/sheets')).json());
    const sheet = crowded(models.sort((a, b) => b.sheet.places.length - a.sheet.places.length)[0].sheet);
    const posted = await page.evaluate(
      async (text) => {
        const r = await fetch('/api/sheets', {
          method: 'POST',
          headers: { 'Content-Type': 'text/plain' },
          body: text,
        });
        return `${r.status} ${await r.text()}`;
      },
      JSON.stringify({ kadro: 'model', format: 1, sheet }),
    );
    if (!posted.startsWith('200')) throw new Error(`the crowded sheet was refused: ${posted.slice(0, 400)}`);
    await page.goto(`${shop.base}/sheets/model/crowded`, { waitUntil: 'load' });
    await page.waitForSelector('a[href$="/sheets/model/crowded/edit"]');
    await new Promise((r) => setTimeout(r, 1500));
    const opened = await page.evaluate(async (times) => {
      const painted = () => new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
      const until = async (is) => {
        for (const t = performance.now(); !is() && performance.now() - t < 10_000;) await new Promise((r) => setTimeout(r, 1));
      };
      const out = [];
      for (let i = 0; i < times; i++) {
        const link = document.querySelector('a[href$="/sheets/model/crowded/edit"]');
        const t = performance.now();
        link.click();
        await until(() => document.querySelectorAll('[data-place]').length >= 4 * 200);
        await painted();
        if (i) out.push(performance.now() - t);
        await new Promise((r) => setTimeout(r, 500));
        history.back();
        await until(() => document.querySelector('a[href$="/sheets/model/crowded/edit"]'));
        await new Promise((r) => setTimeout(r, 700));
      }
      return out;
    }, OPENED);
    report(
      `The editor of a model with ${PLACES} places: stands ${median(opened).toFixed(0)} ms after it is asked for at the median, ${Math.max(...opened).toFixed(0)} ms at most of ${opened.length} (300 allowed).`,
    );
    await page.goto(`${shop.base}/sheets/model/crowded/edit`, { waitUntil: 'load' });
    await page.waitForSelector('[data-view=side] [data-place]');
    await new Promise((r) => setTimeout(r, 1500));
    const from = await page.$eval('[data-view=side] [data-place^="spot-20-right"]', (e) => {
      const b = e.getBoundingClientRect();
      return [b.x + b.width / 2, b.y + b.height / 2];
    });
    report(`Dragging one of them: ${await dragged(page, from, (i) => [Math.abs(30 - (i % 60)) - 30, Math.abs(20 - (i % 40)) - 20])}`);
  } finally {
    await close();
  }
}
