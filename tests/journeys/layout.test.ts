import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fill, go, openRoom, press, read, sees, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

const ordersOf = async (page: Page): Promise<Record<string, string>> => {
  const { orders } = await read<{ orders: { id: string; summary: { unitName: string } }[] }>(page, '/api/floor');
  return Object.fromEntries(orders.map((o) => [o.summary.unitName.split(' ').slice(1).join(' '), o.id]));
};

/** What sticks out of the window or of its own box, by its words. */
const sticksOut = (page: Page) =>
  page.evaluate(() => {
    const out: string[] = [];
    const wide = document.documentElement.clientWidth;
    if (document.documentElement.scrollWidth > wide + 1) out.push(`the page is ${document.documentElement.scrollWidth} wide`);
    if (document.documentElement.scrollHeight > document.documentElement.clientHeight + 1) out.push('the page scrolls as a whole');
    for (const e of document.querySelectorAll<HTMLElement>('button, a, input, select, textarea, h1, h2, h3')) {
      const r = e.getBoundingClientRect();
      if (!r.width || e.closest('[aria-hidden=true]')) continue;
      const scroller = e.closest<HTMLElement>('[data-scrolls], nav[aria-label=Stations]');
      if (!scroller && (r.right > wide + 1 || r.left < -1))
        out.push(
          `“${(e.innerText || e.getAttribute('aria-label') || e.id).slice(0, 40)}” from ${Math.round(r.left)} to ${Math.round(r.right)}`,
        );
      if ((e.tagName === 'BUTTON' || e.tagName === 'A') && e.scrollWidth > e.clientWidth + 2 && getComputedStyle(e).display !== 'inline')
        out.push(`“${e.innerText.slice(0, 40)}” is wider than its box`);
    }
    return out;
  });

describe.each([
  [1280, 800],
  [1024, 768],
])('at %i by %i', (width, height) => {
  it('nothing sticks out of any view', async () => {
    const page = await room.person('ines', { width, height });
    const id = await ordersOf(page);
    const paths = [
      '/floor',
      '/orders',
      '/orders?q=winch',
      '/orders/new',
      '/sheets/model/drover-4',
      '/sheets/kit/cart-road-lamps',
      '/tools/wire.choose',
      '/shop/house',
      '/orders/when',
      '/wall',
      '/shop/account',
      '/shop/people',
      '/shop/week',
      '/shop/month',
      '/shop/rules',
      '/shop/stock',
      '/shop/messages',
      ...['needs', 'ordered', 'cuts', 'count', 'moves'].map((s) => `/parts?see=${s}`),
    ];
    for (const unit of ['Drover 4', 'Parkway 48', 'Lapwing 500', 'Sandbar 21', 'Skarn 600'])
      for (const s of ['arrive', 'fit', 'power', 'wire', 'lamps', 'plan', 'bench', 'handover', 'log'])
        paths.push(`/orders/${id[unit]}/${s}`);
    for (const show of ['hold', 'sums', 'off', 'winch', 'chance', 'compare', 'measured'])
      paths.push(`/orders/${id['Drover 4']}/power?show=${show}`);
    paths.push(`/orders/${id['Parkway 48']}/power?show=pack`);
    const found: string[] = [];
    for (const p of paths) {
      await go(page, p);
      found.push(...(await sticksOut(page)).map((s) => `${p}: ${s}`));
    }
    expect(found).toEqual([]);
  });
  it('at the bench everything to press is 48 pixels or more, and the step, the pad and Done are seen at once', async () => {
    const page = await room.person('tor', { width, height });
    const id = await ordersOf(page);
    await page.goto(`${room.shop.base}/orders/${id['Drover 2']}/bench?step=prove%2Fparked`);
    await page.waitForSelector('#reading-in-hand');
    const small = await page.$$eval('main button', (bs) =>
      bs
        .map((b) => ({
          text: (b as HTMLElement).innerText || b.getAttribute('aria-label')!,
          h: b.getBoundingClientRect().height,
          w: b.getBoundingClientRect().width,
        }))
        .filter((b) => b.h < 48 || b.w < 48),
    );
    expect(small).toEqual([]);
    const seen = await page.evaluate(() => {
      const inside = (e: Element) => e.getBoundingClientRect().bottom <= innerHeight && e.getBoundingClientRect().top >= 0;
      const buttons = [...document.querySelectorAll('main button')];
      return [document.querySelector('main h2')!, document.querySelector('#reading-in-hand')!, ...buttons]
        .map((e) => [(e as HTMLElement).innerText?.trim() || e.getAttribute('aria-label'), inside(e)])
        .filter(([, ok]) => !ok);
    });
    expect(seen).toEqual([]);
    const size = await page.$eval('#reading-in-hand', (e) => getComputedStyle(e).fontSize);
    expect(size).toBe('44px');
  });
});

describe('the pad', () => {
  it('takes a reading with no keyboard, back and sign included', async () => {
    const page = await room.person('maud', TABLET);
    const id = await ordersOf(page);
    await page.goto(`${room.shop.base}/orders/${id['Drover 2']}/bench?step=prove%2Fcharging`);
    await page.waitForSelector('#reading-in-hand');
    for (const key of ['1', '3', '9', 'take back', '.', '9', '.', 'change sign', 'change sign'])
      await press(page, key, '[aria-label="Number pad"]');
    expect(await page.$eval('#reading-in-hand', (e) => (e as HTMLInputElement).value)).toBe('13.9');
    await press(page, 'Read', '[aria-label="Number pad"]');
    await sees(page, '13.9 V');
    await sees(page, 'Holds');
    await press(page, 'Read again');
    await page.waitForSelector('#reading-in-hand');
    for (const key of ['1', '2']) await press(page, key, '[aria-label="Number pad"]');
    await press(page, 'Read', '[aria-label="Number pad"]');
    await sees(page, 'Fails');
    await fill(page, '#reading-in-hand', '13.9 ohm');
    await page.keyboard.press('Enter');
    await sees(page, '“ohm” is not a unit for this');
  });
});

describe('the other system of units', () => {
  it('is a setting of the shop; lengths, pulls and heights follow, and either may still be typed', async () => {
    const page = await room.person('ines');
    const id = await ordersOf(page);
    await page.goto(`${room.shop.base}/shop`);
    await page.waitForSelector('#units:not(:disabled)');
    await page.select('#units', '1');
    await sees(page, 'Saved');
    await page.waitForFunction(
      async () => ((await (await fetch('/api/settings')).json()) as { settings: { units: string } }).settings.units === 'metric',
    );
    await page.goto(`${room.shop.base}/orders/${id['Drover 4']}/wire?show=circuits`);
    await sees(page, /3\.75 m/);
    await page.goto(`${room.shop.base}/orders/${id['Drover 4']}/bench?step=wire%2Froof-bar%2Fbar`);
    await sees(page, /at least [\d.]+ N/);
    // a tug by hand is asked for; the gauge's figure may be left out
    await press(page, 'Read it');
    await fill(page, '#reading-in-hand', '40 lbf');
    await page.keyboard.press('Enter');
    await sees(page, '178 N');
    await page.goto(`${room.shop.base}/orders/${id['Parkway 48']}/lamps`);
    await sees(page, 'Left headlamp is 19 mm too low');
    await sees(page, '540 mm, 559 mm wanted');
    await page.goto(`${room.shop.base}/shop`);
    await page.waitForSelector('#units:not(:disabled)');
    await page.select('#units', '0');
    await sees(page, 'Saved');
    await page.waitForFunction(
      async () => ((await (await fetch('/api/settings')).json()) as { settings: { units: string } }).settings.units === 'imperial',
    );
  });
});

describe('light and dark', () => {
  it('is flipped on the rail, kept on the device, and reads on both', async () => {
    const page = await room.person('tor');
    const paper = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    expect(await paper()).toBe('rgb(247, 245, 239)');
    await press(page, 'Dark', 'nav[aria-label=Places]');
    expect(await paper()).toBe('rgb(18, 25, 27)');
    await page.reload();
    await page.waitForSelector('nav[aria-label=Places]');
    expect(await paper()).toBe('rgb(18, 25, 27)');
    await press(page, 'Light', 'nav[aria-label=Places]');
  });
});

describe('the shop’s people', () => {
  it('the owner adds somebody, who can then sign in; a name is taken once', async () => {
    const page = await room.person('oda');
    await page.goto(`${room.shop.base}/shop/people`);
    await sees(page, 'Add a person');
    await fill(page, '#person-name', 'Nell');
    await fill(page, '#person-id', 'nell');
    await fill(page, '#person-password', 'short');
    await press(page, 'Add', 'main');
    await sees(page, 'at least 8 characters');
    await fill(page, '#person-password', 'long enough');
    await press(page, 'Add', 'main');
    await sees(page, /Nell\s+nell\s+installer/);
    await fill(page, '#person-name', 'Nell');
    await fill(page, '#person-id', 'nell');
    await fill(page, '#person-password', 'long enough');
    await press(page, 'Add', 'main');
    await sees(page, 'already taken');
    const status = await page.evaluate(
      async () =>
        (
          await fetch('/api/session', {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ name: 'nell', password: 'long enough' }),
          })
        ).status,
    );
    expect(status).toBe(200);
  });
});
