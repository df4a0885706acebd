// What benchmarks of screens share: figures of a list, and how often a page paints while something is dragged.
const sorted = (list) => [...list].sort((a, b) => a - b);
export const median = (list) => sorted(list)[list.length >> 1];
export const p95 = (list) => sorted(list)[Math.floor(list.length * 0.95)];

/** A frame later than this was missed, ms. */
const LATE = 20;
const MOVES = 240;

/**
 * Drags with the browser's own pointer, so that what lies between a finger and the page counts too.
 * @param {import('puppeteer-core').Page} page
 * @param {[number, number]} from
 * @param {(move: number) => [number, number]} by how far from there it is at each of its moves
 * @returns what was measured, as a sentence's end
 */
export async function dragged(page, from, by) {
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
  for (let i = 1; i <= MOVES; i++) {
    const [x, y] = by(i);
    await page.mouse.move(from[0] + x, from[1] + y);
    await new Promise((r) => setTimeout(r, 8));
  }
  const moving = await page.evaluate(() => window.frames.splice(0));
  // let go of without being put anywhere
  await page.keyboard.press('Escape');
  await page.mouse.up();
  return `a frame every ${median(moving).toFixed(1)} ms at the median, 95th ${p95(moving).toFixed(1)} ms (at rest ${median(still).toFixed(1)} and ${p95(still).toFixed(1)}); ${moving.filter((t) => t > LATE).length} of ${moving.length} frames late.`;
}
