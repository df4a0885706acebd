import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventsOf, fill, idOf, leave, open, openRoom, press, sees, station, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

/** Waits until this browser has the whole program, and what the server said of an order. */
const kept = (page: Page, path: string) =>
  page.waitForFunction(
    async (key: string) => {
      const program = (await caches.keys()).some((k) => k.includes('precache'));
      if (!program || !(await navigator.serviceWorker.getRegistration())?.active) return false;
      const db = await new Promise<IDBDatabase>((r) => {
        const q = indexedDB.open('kadro-device');
        q.onsuccess = () => r(q.result);
      });
      const had = await new Promise((r) => {
        const q = db.transaction('answers').objectStore('answers').get(key);
        q.onsuccess = () => r(q.result);
      });
      db.close();
      return !!had;
    },
    { timeout: 45_000, polling: 500 },
    path,
  );

describe('without a network', () => {
  it('opens, goes through every station and takes what is done, for an order never opened on this device before', async () => {
    const page = await room.person('tor', TABLET);
    const id = await idOf(page, 'Drover 4');
    await page.goto(`${room.shop.base}/floor`);
    await kept(page, `/api/orders/${id}`);
    await page.setOfflineMode(true);
    const began = Date.now();
    await page.reload({ waitUntil: 'domcontentloaded' });
    await sees(page, 'Drover 4');
    const took = Date.now() - began;
    console.log(`open offline after ${took} ms (2,000 asked)`);
    await sees(page, 'Out of reach of the server');
    await page.goto(`${room.shop.base}/orders/${id}/arrive`);
    for (const name of ['Arrive', 'Fit', 'Power', 'Wire', 'Lamps', 'Plan', 'Hand over', 'Bench']) {
      await station(page, name);
      await page.waitForSelector('main h2');
      expect(await page.evaluate(() => document.body.innerText.includes('fell over'))).toBe(false);
    }
    await press(page, 'Finding', 'main');
    await fill(page, '#finding', 'Written with no network');
    await press(page, 'Record', '[role=dialog]');
    await sees(page, /1 waiting to be sent/);
    // what only the server can do says so
    await station(page, 'Plan');
    await sees(page, /needs the server/);
    // paper does not: the browser prints it
    await press(page, 'Print it here');
    await sees(page, 'Made on this device');
    await sees(page, /The work in its order\. 2026/);
    await press(page, 'Back', '[data-paper]');
    await page.waitForFunction(() => !document.querySelector('[data-paper]'));
    await station(page, 'Hand over');
    await press(page, 'Print owner’s page');
    await sees(page, 'Received, with every control shown');
    await press(page, 'Back', '[data-paper]');
    await page.waitForFunction(() => !document.querySelector('[data-paper]'));
    await page.reload({ waitUntil: 'domcontentloaded' });
    await sees(page, /1 waiting to be sent/);
    await page.setOfflineMode(false);
    await page.waitForFunction(() => !/Out of reach|waiting to be sent/.test(document.body.innerText), { timeout: 30_000 });
    const arrived = async () => (await eventsOf(page, id)).filter((e) => e.says === 'Finding: Written with no network').length;
    await expect.poll(arrived).toBe(1);
  });
  it('an order that this device does not have says so, and who signs out leaves nothing behind', async () => {
    const page = await room.person('maud', TABLET);
    await open(room, page, 'Skarn 600', 'arrive');
    await sees(page, 'Skarn 600');
    await kept(page, '/api/floor');
    await page.setOfflineMode(true);
    await page.goto(`${room.shop.base}/orders/00000000-0000-4000-8000-000000000000/arrive`);
    await sees(page, 'this device has not kept this order');
    await leave(page);
    await sees(page, 'Name');
    await page.reload();
    await page.waitForFunction(() => !document.body.innerText.includes('Skarn 600'));
    await page.setOfflineMode(false);
  });
});
