import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventsOf, fill, heading, idOf, open, openRoom, press, sees, station, TABLET, takeIn, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

const at = (page: Page) => page.evaluate(() => location.pathname.split('/').at(-1));
const openOrders = (page: Page, owner: string) =>
  page.evaluate(
    async (o: string) =>
      ((await (await fetch('/api/floor')).json()) as { orders: { summary: { owner: string } }[] }).orders.filter(
        (x) => x.summary.owner === o,
      ).length,
    owner,
  );

describe('at the bench', () => {
  it('wrong keys change nothing, a digit is a reading, and what is half typed waits through back, forward and a reload', async () => {
    const page = await room.person('maud', TABLET);
    const id = await open(room, page, 'Lapwing 500', 'bench?step=safe%2Frest');
    await page.waitForSelector('#reading-in-hand');
    const before = (await eventsOf(page, id)).length;
    for (const key of ['q', 'z', 'k', '#', 'Tab', 'Escape']) await page.keyboard.press(key as 'q');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('1');
    await page.keyboard.press('2');
    expect(await at(page)).toBe('bench');
    const typed = () => page.$eval('#reading-in-hand', (e) => (e as HTMLInputElement).value);
    expect(await typed()).toBe('12');
    await station(page, 'Wire');
    await page.waitForFunction(() => location.pathname.endsWith('/wire'));
    await page.goBack();
    await page.waitForSelector('#reading-in-hand');
    expect(await typed()).toBe('12');
    await page.goForward();
    await page.waitForFunction(() => location.pathname.endsWith('/wire'));
    await page.goBack();
    await page.reload();
    await page.waitForSelector('#reading-in-hand');
    expect(await typed()).toBe('12');
    expect(await eventsOf(page, id)).toHaveLength(before);
    // a figure in words that is none says so and stays
    await fill(page, '#reading-in-hand', '12..4');
    await page.keyboard.press('Enter');
    await sees(page, 'is two figures');
    expect(await typed()).toBe('12..4');
    expect(await eventsOf(page, id)).toHaveLength(before);
  });
  it('what one yes says yes to stands beside it, wherever the questions are scrolled to', async () => {
    const page = await room.person('maud', TABLET);
    await open(room, page, 'Drover 4', 'bench?step=wire%2Fwinch-32%2Fpower');
    await sees(page, 'Yes to all 2, next');
    const shown = await page.$eval('[data-part=affirms]', (e) => {
      const r = e.getBoundingClientRect();
      return { says: (e as HTMLElement).innerText, seen: r.top >= 0 && r.bottom <= innerHeight };
    });
    expect(shown).toEqual({ says: 'Each plug clicked, each nut tight; Fuse within 7 in of battery positive post', seen: true });
  });
  it('a double tap is one: the step is done once, and the next one is not', async () => {
    const page = await room.person('maud', TABLET);
    const id = await open(room, page, 'Lapwing 500', 'bench?step=safe%2Foff');
    await sees(page, 'Key off and out');
    const done = (await page.waitForSelector('[data-act=done]'))!;
    await done.click({ count: 2, delay: 20 });
    await page.waitForFunction(() => document.querySelector<HTMLElement>('[data-step]')!.dataset.step !== 'safe/off');
    const second = await heading(page);
    await expect.poll(async () => (await eventsOf(page, id)).filter((e) => e.says.startsWith('Done: Key off')).length).toBe(1);
    expect((await eventsOf(page, id)).some((e) => e.says.startsWith(`Done: ${second}`))).toBe(false);
  });
});

describe('at the door', () => {
  it('without an owner’s name or with none of the kind it says what is wanted and loses nothing; 80 characters go through', async () => {
    const page = await room.person('wyn');
    await takeIn(room, page, { model: 'lapwing-500', identity: 'ABC12345D424', owner: 'x', rest: '12.7' });
    await sees(page, /No VIN \(12 of 17 characters\)/);
    await fill(page, '#owner', ' ');
    await press(page, 'Take it in');
    await sees(page, 'must not be empty');
    expect(await page.$eval('#identity', (e) => (e as HTMLInputElement).value)).toBe('ABC12345D424');
    await fill(page, '#owner', 'y'.repeat(81));
    await press(page, 'Take it in');
    await sees(page, '81 characters, at most 80');
    const owner = 'Z'.repeat(80);
    await fill(page, '#owner', owner);
    await press(page, 'Take it in');
    await sees(page, 'No kit chosen yet.');
    expect(await openOrders(page, owner)).toBe(1);
    // no number at all is taken in too, and said to be open
    await takeIn(room, page, { model: 'lapwing-500', identity: ' ', owner: 'Ode Nonum', rest: '12.7' });
    await press(page, 'Take it in');
    await sees(page, 'No kit chosen yet.');
    await station(page, 'Arrive');
    await sees(page, 'No number yet');
  });
  it('a network that dies as it is sent: what was typed stands, and it arrives once', async () => {
    const page = await room.person('wyn');
    await takeIn(room, page, { model: 'lapwing-500', identity: '1M8GDM9A7RP042788', owner: 'Quill Ashby', rest: '12.7' });
    await page.setOfflineMode(true);
    await press(page, 'Take it in');
    await sees(page, /out of reach/i);
    expect(await page.$eval('#owner', (e) => (e as HTMLInputElement).value)).toBe('Quill Ashby');
    await page.setOfflineMode(false);
    await sees(page, 'No kit chosen yet.', 30_000);
    expect(await openOrders(page, 'Quill Ashby')).toBe(1);
  });
});

describe('two tabs of one person', () => {
  it('show the same: a reading of one stands in the other, and taking it again there is the newer one', async () => {
    const first = await room.person('maud', TABLET);
    const id = await idOf(first, 'Greenway 36');
    const address = `${room.shop.base}/orders/${id}/bench?step=safe%2Frest`;
    await first.goto(address);
    const second = await first.browserContext().newPage();
    await second.setViewport(TABLET);
    await second.goto(address);
    await second.waitForSelector('#reading-in-hand');
    await first.bringToFront();
    await fill(first, '#reading-in-hand', '30 V');
    await first.keyboard.press('Enter');
    await sees(first, 'Fails');
    await second.bringToFront();
    await sees(second, '30 V');
    await fill(second, '#reading-in-hand', '37.4 V');
    await second.keyboard.press('Enter');
    await expect
      .poll(async () =>
        second.evaluate(
          async (i: string) =>
            (
              (await (await fetch(`/api/orders/${i}`)).json()) as {
                order: { steps: Record<string, { readings: Record<string, { value: number }> }> };
              }
            ).order.steps['safe/rest']!.readings.rest!.value,
          id,
        ),
      )
      .toBe(37.4);
    await second.close();
  });
});
