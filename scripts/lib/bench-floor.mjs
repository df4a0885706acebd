// The Floor: how long until bays, people and promises stand after it is asked for, and how often it paints while a unit is dragged.
import { openBrowser, signIn } from './browser.mjs';

const OPENED = 12;
const sorted = (list) => [...list].sort((a, b) => a - b);
const median = (list) => sorted(list)[list.length >> 1];
const p95 = (list) => sorted(list)[Math.floor(list.length * 0.95)];

/**
 * @param {{ base: string }} shop a shop that runs, with its demo
 * @param {(line: string) => void} report
 */
export async function benchFloor(shop, report) {
  const { browser, close } = await openBrowser();
  try {
    const page = await browser.newPage();
    await signIn(page, shop.base, 'ines');
    await page.waitForSelector('[aria-label="Bays by hours"] [data-says]', { timeout: 60_000 });
    await new Promise((r) => setTimeout(r, 1500));
    const opened = await page.evaluate(async (times) => {
      const painted = () => new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
      // told by the page itself: a timer that looks again and again takes turns from what it waits for
      const until = (is) =>
        new Promise((done) => {
          if (is()) return done();
          const watch = new MutationObserver(() => is() && (watch.disconnect(), done()));
          watch.observe(document.body, { childList: true, subtree: true });
        });
      const place = (name) => [...document.querySelectorAll('nav[aria-label=Places] a')].find((a) => a.textContent.trim().startsWith(name));
      const out = [];
      for (let i = 0; i < times; i++) {
        place('Orders').click();
        await until(() => !document.querySelector('[aria-label="Bays by hours"]'));
        await new Promise((r) => setTimeout(r, 500));
        const t = performance.now();
        place('Floor').click();
        await until(() => document.querySelector('[data-says]'));
        await painted();
        if (i) out.push(performance.now() - t);
        await new Promise((r) => setTimeout(r, 500));
      }
      return out;
    }, OPENED);
    report(
      `The Floor: painted ${median(opened).toFixed(0)} ms after it is asked for at the median, ${p95(opened).toFixed(0)} ms at the 95th of ${opened.length} (100 allowed).`,
    );
    const from = await page.$eval('[data-says]', (e) => {
      const b = e.getBoundingClientRect();
      return [b.x + Math.min(20, b.width / 2), b.y + b.height / 2];
    });
    await page.evaluate(() => {
      window.frames = [];
      let last = performance.now();
      const frame = (t) => {
        window.frames.push(t - last);
        last = t;
        requestAnimationFrame(frame);
      };
      requestAnimationFrame(frame);
    });
    await page.mouse.move(...from);
    await new Promise((r) => setTimeout(r, 1000));
    const still = await page.evaluate(() => window.frames.splice(0));
    await page.mouse.down();
    for (let i = 1; i <= 240; i++) {
      await page.mouse.move(from[0] + Math.abs(60 - (i % 120)), from[1] + Math.abs(100 - (i % 200)));
      await new Promise((r) => setTimeout(r, 8));
    }
    const moving = await page.evaluate(() => window.frames.splice(0));
    // put back where it was
    await page.keyboard.press('Escape');
    await page.mouse.up();
    report(
      `Dragging a unit over the bays: a frame every ${median(moving).toFixed(1)} ms at the median, 95th ${p95(moving).toFixed(1)} ms (at rest ${median(still).toFixed(1)} and ${p95(still).toFixed(1)}); ${moving.filter((t) => t > 20).length} of ${moving.length} frames late.`,
    );
  } finally {
    await close();
  }
}
