import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { onTestFinished } from 'vitest';
// @ts-expect-error plain JavaScript shared with the screenshots command
import { openBrowser, signIn as signInAt } from '../../scripts/lib/browser.mjs';
import { startShop, type Shop } from '../shop';

/** The size of the tablet at the bench. */
export const TABLET = { width: 1024, height: 768 };

export interface Room {
  shop: Shop;
  /** a browser of its own for a person, signed in */
  person(name: string, size?: { width: number; height: number }, password?: string): Promise<Page>;
  close(): Promise<void>;
}

/** A shop with people at their browsers, started with flags of their own. Errors that a page throws fail the journey. */
export async function openRoom({
  flags = [],
  ...options
}: NonNullable<Parameters<typeof startShop>[0]> & { flags?: string[] } = {}): Promise<Room> {
  const shop = await startShop(options);
  const browsers: { browser: Browser; close(): Promise<void> }[] = [];
  // whoever's test is over leaves the shop, and with it the load that an open page is; the browser is for the next
  const free: typeof browsers = [];
  return {
    shop,
    person: async (name, size = { width: 1280, height: 800 }, password?: string) => {
      let own = free.pop();
      if (!own) {
        own = (await openBrowser({ ...size, flags })) as (typeof browsers)[number];
        browsers.push(own);
      }
      const mine = own;
      const context = await mine.browser.createBrowserContext();
      onTestFinished(async () => {
        await context.close().catch(() => undefined);
        free.push(mine);
      });
      const page: Page = await context.newPage();
      await page.setViewport(size);
      page.on('pageerror', (e) => {
        throw new Error(`the page of ${name} threw: ${String(e)}`);
      });
      await signInAt(page, shop.base, name, password);
      return page;
    },
    close: async () => {
      await Promise.all(browsers.map((b) => b.close()));
      await shop.stop();
    },
  };
}

export const sees = (page: Page, text: string | RegExp, timeout = 60_000): Promise<unknown> =>
  page
    .waitForFunction(
      (t: string, isRe: boolean) => (isRe ? new RegExp(t).test(document.body.innerText) : document.body.innerText.includes(t)),
      { timeout, polling: 150 },
      typeof text === 'string' ? text : text.source,
      typeof text !== 'string',
    )
    .catch(async () => {
      throw new Error(`never saw ${String(text)}; the screen says: ${(await page.evaluate(() => document.body.innerText)).slice(0, 900)}`);
    });

export const seesNot = async (page: Page, text: string): Promise<boolean> =>
  !(await page.evaluate(() => document.body.innerText)).includes(text);

const taps = new WeakMap<Page, number>();
const tapped = (page: Page, n: number) => void taps.set(page, (taps.get(page) ?? 0) + n);
/** How often this person touched the screen so far, digits on the pad counted. */
export const tapsOf = (page: Page): number => taps.get(page) ?? 0;

/** What a click answers when the page drew the thing anew between finding and touching it. */
const drawnAnew = (e: unknown) => /detached|not clickable|not an Element|Cannot find context/i.test(String(e));

/** Clicks the first thing to press whose words or name begin with, or are, the text. */
export async function press(page: Page, text: string, within = 'body', timeout = 45_000): Promise<void> {
  for (let tries = 4; ; tries--) {
    try {
      return await pressOnce(page, text, within, timeout);
    } catch (e) {
      // a hand that misses because the thing moved reaches for it again
      if (tries <= 1 || !drawnAnew(e)) throw e;
    }
  }
}

async function pressOnce(page: Page, text: string, within: string, timeout: number): Promise<void> {
  const handle = await page
    .waitForFunction(
      (t: string, w: string) =>
        [...document.querySelectorAll<HTMLElement>(`${w} button, ${w} a, ${w} summary`)].find(
          (e) =>
            (e.innerText.trim().startsWith(t) || e.getAttribute('aria-label') === t) &&
            !(e as HTMLButtonElement).disabled &&
            e.getClientRects().length > 0,
        ),
      { timeout, polling: 150 },
      text,
      within,
    )
    .catch(async () => {
      throw new Error(
        `nothing to press says “${text}”; the screen says: ${(await page.evaluate(() => document.body.innerText)).slice(0, 900)}`,
      );
    });
  const element = handle.asElement() as ElementHandle<HTMLElement>;
  await element.evaluate((e) => e.scrollIntoView({ block: 'center' }));
  // a hand waits until what it reaches for stands still
  await element.evaluate(async (e) => {
    const frame = () => new Promise((r) => requestAnimationFrame(r));
    for (let top = NaN; e.getBoundingClientRect().top !== top; await frame()) top = e.getBoundingClientRect().top;
  });
  await element.click();
  tapped(page, 1);
}

/** Signs out the person who is signed in. */
export async function leave(page: Page): Promise<void> {
  await (await page.waitForSelector('[data-part=me]'))!.click();
  await press(page, 'Sign out', '[role=dialog]');
}

/** Replaces what stands in a field by typing. */
export async function fill(page: Page, selector: string, text: string): Promise<void> {
  await page.waitForSelector(`${selector}:not(:disabled)`, { visible: true });
  await page.$eval(selector, (e) => e.scrollIntoView({ block: 'center' }));
  await page.click(selector, { count: 3 });
  await page.keyboard.press('Backspace');
  await page.type(selector, text);
  // a figure at the bench is pressed digit by digit; a field elsewhere is touched once and typed
  tapped(page, selector === '#reading-in-hand' ? text.replace(/[^\d.-]/g, '').length : 1);
}

/** How often a reader who is told that the server is busy comes again, every other second. */
const COMES_AGAIN = 15;
/** What the API answers who is signed in on a page. */
export const read = <T>(page: Page, path: string): Promise<T> =>
  page.evaluate(
    async (p: string, most: number) => {
      for (let n = 1; ; n++) {
        const r = await fetch(p);
        if (r.status !== 503 || n > most) return (await r.json()) as unknown;
        await new Promise((again) => setTimeout(again, 2000));
      }
    },
    path,
    COMES_AGAIN,
  ) as Promise<T>;

/** The order of the unit on the floor whose name ends so. */
export async function idOf(page: Page, unit: string): Promise<string> {
  const { orders } = await read<{ orders: { id: string; summary: { unitName: string } }[] }>(page, '/api/floor');
  return orders.find((o) => o.summary.unitName.endsWith(unit))!.id;
}
/** Opens one of its stations; answers its order. */
export async function open(room: Room, page: Page, unit: string, station: string): Promise<string> {
  const id = await idOf(page, unit);
  await page.goto(`${room.shop.base}/orders/${id}/${station}`);
  return id;
}
export const eventsOf = (page: Page, id: string) => read<{ by: string; says: string }[]>(page, `/api/orders/${id}/events`);

/** Goes to another view inside the application, as its own links do. */
export async function go(page: Page, path: string): Promise<void> {
  await page.evaluate((p: string) => {
    history.pushState({}, '', p);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);
  await page
    .waitForFunction(
      (p: string) =>
        location.pathname + location.search === p &&
        document.querySelector<HTMLElement>('[data-part=page]')?.dataset.at === location.pathname &&
        // a paper lies over the page
        !!document.querySelector(':is(main, [data-paper]) :is(h1, h2, h3)'),
      { polling: 100 },
      path,
    )
    .catch(async () => {
      const { at, shown, text } = await page.evaluate(() => ({
        at: location.pathname + location.search,
        shown: document.querySelector<HTMLElement>('[data-part=page]')?.dataset.at,
        text: document.body.innerText,
      }));
      throw new Error(`${path} was asked for; the address is ${at}, shown is ${shown}; the screen says: ${text.slice(0, 900)}`);
    });
  await page.waitForNetworkIdle({ idleTime: 120, concurrency: 2, timeout: 5000 }).catch(() => undefined);
}

export const heading = (page: Page): Promise<string> => page.$eval('main h2', (e) => (e as HTMLElement).innerText.trim());

const SMALL: Record<string, number> = { mA: 0.001, V: 1, A: 1, lbf: 1, N: 1, 'per min': 1, in: 1, mm: 1 };

/** What to type for a band as the screen shows it: well inside. */
export function inside(expected: string): string {
  const m = /(?:at least )?([\d.,]+) ?(mA|V|A|lbf|N|per min|in|mm)?(?: to ([\d.,]+) ?(mA|V|A|lbf|N|per min|in|mm)?)?/.exec(expected);
  if (!m) throw new Error(`cannot read the band “${expected}”`);
  const value = (t: string | undefined, u: string | undefined) =>
    t === undefined ? null : Number(t.replace(',', '')) * (SMALL[u ?? ''] ?? 1);
  const [low, high] = [value(m[1], m[2])!, value(m[3], m[4])];
  const middle = high === null ? low * 1.25 : low + (high - low) * 0.5;
  const unit = (m[4] ?? m[2])!;
  // as a meter shows it: volts with a tenth, the rest with as few figures as lie well inside
  const well = (x: number) => high === null || Math.abs(x - middle) < (high - low) * 0.3;
  const read =
    [...(unit === 'V' ? [1, 2] : []).map((n) => Number(middle.toFixed(n))), ...[1, 2, 3, 4].map((n) => Number(middle.toPrecision(n)))].find(
      well,
    ) ?? middle;
  return `${Number((read / SMALL[unit]!).toPrecision(5))} ${unit}`;
}

const stepInHand = (page: Page): Promise<string | null> =>
  page.evaluate(() => {
    const at = document.querySelector<HTMLElement>('[data-step]');
    return at && document.querySelector('[data-act=done]') ? at.dataset.step! : null;
  });

/** Does the step in hand as a person would: every reading, then done where it is not done by them. Answers the title it had. */
export async function doStep(page: Page): Promise<string> {
  const step = await page.waitForSelector('[data-step] [data-act=done]').then(() => stepInHand(page));
  const title = await heading(page);
  for (let i = 0; i < 12 && (await stepInHand(page)) === step; i++) {
    // a yes is pressed; a figure is read off the screen's own expectation and typed
    const state = await page.evaluate(() => {
      // one tap says yes to all that a step asks
      const done = document.querySelector<HTMLElement>('[data-act=done]');
      if (done?.innerText.startsWith('Yes') || done?.innerText.includes(', yes')) return { did: 'none' };
      const still = [...document.querySelectorAll<HTMLButtonElement>('main button')].find((b) => b.innerText.startsWith('Still '));
      if (still) {
        const row = still.closest<HTMLElement>('[data-reading]')!;
        still.click();
        return { did: 'tap', reading: row.dataset.reading };
      }
      const yes = [...document.querySelectorAll<HTMLButtonElement>('main button[aria-pressed=false]')].find(
        (b) => b.innerText.trim() === 'Yes' && !b.disabled && ![...b.parentElement!.querySelectorAll('[aria-pressed=true]')].length,
      );
      if (yes) {
        const pressed = document.querySelectorAll('main button[aria-pressed=true]').length;
        yes.scrollIntoView({ block: 'center' });
        yes.click();
        return { did: 'yes', pressed };
      }
      const input = document.querySelector<HTMLInputElement>('#reading-in-hand');
      if (!input) return { did: 'none' };
      const row = input.closest<HTMLElement>('[data-reading]')!;
      return { did: 'type', text: row.innerText, reading: row.dataset.reading };
    });
    if (state.did === 'none') break;
    if (state.did === 'type' || state.did === 'tap') {
      if (state.did === 'type') {
        await fill(page, '#reading-in-hand', inside(/expected\s+([^\n]+)/.exec(state.text!)![1]!));
        await page.keyboard.press('Enter');
      }
      tapped(page, 1);
      await page.waitForFunction(
        (r: string) => document.querySelector('#reading-in-hand')?.closest<HTMLElement>('[data-reading]')!.dataset.reading !== r,
        { polling: 60 },
        state.reading!,
      );
    } else {
      tapped(page, 1);
      await page.waitForFunction(
        (n: number, s: string | null) =>
          document.querySelectorAll('main button[aria-pressed=true]').length !== n ||
          document.querySelector<HTMLElement>('[data-step]')?.dataset.step !== s ||
          !document.querySelector('[data-act=done]'),
        { polling: 60 },
        state.pressed!,
        step,
      );
    }
  }
  if ((await stepInHand(page)) !== step) return title;
  await page.$eval('[data-act=done]', (b) => (b as HTMLElement).click());
  tapped(page, 1);
  return title;
}

/** Works through all that is left at the bench, or through so many steps. Answers the titles in the order they came. */
export async function workTheBench(page: Page, steps = 90): Promise<string[]> {
  const titles: string[] = [];
  for (let i = 0; i < steps; i++) {
    // between one step and the next there may be none for a moment, and for longer on a slow machine
    const next = (timeout?: number) =>
      page
        .waitForSelector('[data-step] [data-act=done]', { timeout })
        .then(() => stepInHand(page))
        .catch(() => null);
    const left = () =>
      page.evaluate(() => /steps?$/.test(document.querySelector('nav[aria-label=Stations] a[href$="/bench"]')!.textContent ?? ''));
    const step = (await next(2500)) ?? ((await left()) ? await next() : null);
    if (step === null) {
      if (await left())
        throw new Error(
          `the bench stopped after “${titles.at(-1)}”: ${(await page.evaluate(() => document.body.innerText)).slice(0, 1200)}`,
        );
      break;
    }
    // what is answered together stands on one card
    const beside = await page.$$eval('[data-step] > section > h3', (l) => l.map((e) => (e as HTMLElement).innerText.trim()));
    const title = await doStep(page);
    titles.push(title, ...beside);
    await page
      .waitForFunction(
        (s: string) => document.querySelector<HTMLElement>('[data-step]')?.dataset.step !== s || !document.querySelector('[data-act=done]'),
        { polling: 100 },
        step,
      )
      .catch(async () => {
        throw new Error(`stuck at “${title}”: ${(await page.evaluate(() => document.body.innerText)).slice(0, 1500)}`);
      });
  }
  return titles;
}

/** Signs with the mouse. */
export async function sign(page: Page): Promise<void> {
  const canvas = (await page.waitForSelector('canvas[aria-label="Sign here"]'))!;
  await canvas.evaluate((e) => e.scrollIntoView({ block: 'center' }));
  const box = (await canvas.boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + 100);
  await page.mouse.down();
  for (let i = 1; i < 12; i++) await page.mouse.move(box.x + 40 + i * 25, box.y + 90 + (i % 2 ? -40 : 30), { steps: 2 });
  await page.mouse.up();
  tapped(page, 1);
}

/** Opens the first circuit of the list at Wire. */
export async function openFirstCircuit(page: Page): Promise<void> {
  await press(page, 'Circuits', 'main');
  const row = (await page.waitForSelector('main button[aria-expanded]:not([aria-label$="what that means"])'))!;
  await row.click();
}

/** Takes a unit in through the form. */
export async function takeIn(
  room: Room,
  page: Page,
  u: { model: string; build?: string; year?: string; identity: string; owner: string; rest: string; wish?: string },
): Promise<void> {
  await page.goto(`${room.shop.base}/orders/new`);
  await sees(page, 'Take a unit in');
  await page.waitForFunction(() => document.querySelectorAll('#model option').length > 5);
  await page.select('#model', u.model);
  tapped(page, u.build ? 2 : 1);
  if (u.build) await page.select('#build', u.build);
  if (u.year) await fill(page, '#year', u.year);
  await fill(page, '#identity', u.identity);
  await fill(page, '#owner', u.owner);
  await fill(page, '#rest', u.rest);
  if (u.wish) await press(page, u.wish);
}
/** Goes to a station by its tab. */
export const station = async (page: Page, name: string): Promise<void> => {
  const link = (await page.waitForSelector(`nav[aria-label=Stations] a[href$="/${name.toLowerCase().replace(' ', '')}"]`))!;
  await link.click();
  tapped(page, 1);
};
export const addKit = async (page: Page, name: string): Promise<void> => {
  await press(page, `Add ${name}`);
  await sees(page, new RegExp(`\\d · ${name}`));
};
/** Has the owner sign and seals the order. */
export async function handOver(page: Page, owner: string): Promise<void> {
  await station(page, 'Hand over');
  await sees(page, 'Not yet: the owner has not signed.');
  await sign(page);
  await press(page, 'Hand over and seal');
  // what is open is shown first, and asked about
  const asked = await page.waitForSelector('[role=dialog][data-state=open]', { timeout: 2500 }).catch(() => null);
  if (asked) await press(page, 'Seal all the same', '[role=dialog]');
  await sees(page, /Handed over .* and sealed/);
  await sees(page, `${owner}, `);
}

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** Serious and critical findings of axe on the page as it stands, by all of its rules or by some. */
export async function axe(page: Page, rules?: string[]): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeSource);
  return page.evaluate(async (only) => {
    const r = await (
      window as unknown as {
        axe: {
          run(o: unknown): Promise<{ violations: { id: string; impact: string; nodes: { target: string[]; failureSummary: string }[] }[] }>;
        };
      }
    ).axe.run({ resultTypes: ['violations'], ...(only && { runOnly: only }) });
    return r.violations
      .filter((v) => v.impact === 'serious' || v.impact === 'critical')
      .map(
        (v) =>
          `${v.id}: ${v.nodes
            .slice(0, 3)
            .map((n) => `${n.target.join(' ')} (${n.failureSummary.split('\n').slice(-1)[0]!.trim().slice(0, 160)})`)
            .join('; ')}`,
      );
  }, rules);
}
