// The Floor: how long until bays, people and promises stand after it is asked for, and how often it paints while a unit is dragged.
import { dragged, median, p95 } from './bench-frames.mjs';
import { openBrowser, signIn } from './browser.mjs';
import { fillFloor } from './busy-floor.mjs';
import { Hand } from './client.mjs';

const OPENED = 25;
const BUSY = { orders: 40, people: 8, bays: 6 };

/** Waits until the server has done what so many new orders gave it to do: the week is planned, and answered at once. */
async function quiet(base) {
  const hand = await new Hand(base).signIn('ines');
  for (let soon = 0, tries = 0; soon < 3 && tries < 60; tries++) {
    const { ms } = await hand.call('GET', '/api/week');
    soon = ms < 100 ? soon + 1 : 0;
    await new Promise((r) => setTimeout(r, 1000));
  }
}

/**
 * @param {{ base: string }} shop a shop that runs, with its demo; it is filled
 * @param {(line: string) => void} report
 */
export async function benchFloor(shop, report) {
  await fillFloor(shop.base, BUSY);
  await quiet(shop.base);
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
      `The Floor with ${BUSY.orders} orders, ${BUSY.people} people, ${BUSY.bays} bays: painted ${median(opened).toFixed(0)} ms after it is asked for at the median, ${p95(opened).toFixed(0)} ms at the 95th of ${opened.length} (100 allowed).`,
    );
    const from = await page.$eval('[data-says]', (e) => {
      const b = e.getBoundingClientRect();
      return [b.x + Math.min(20, b.width / 2), b.y + b.height / 2];
    });
    report(`Dragging a unit over the bays: ${await dragged(page, from, (i) => [Math.abs(60 - (i % 120)), Math.abs(100 - (i % 200))])}`);
  } finally {
    await close();
  }
}
