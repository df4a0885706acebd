import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { axe, fill, open, openRoom, press, sees, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

describe('help inside', () => {
  it('the walk is offered once to who is here for the first time, goes through every station, and is left at any moment', async () => {
    const page = await room.person('tor', TABLET);
    // as somebody new: what this device knew of walks is gone
    await page.evaluate(() => localStorage.removeItem('kadro.walk.tor'));
    await page.goto(`${room.shop.base}/floor`);
    await press(page, 'Walk through', '[aria-label="A walk through an order"]');
    for (const word of ['Floor', 'Arrive', 'Fit', 'Power', 'Wire', 'Lamps', 'Plan', 'Bench']) {
      await sees(page, `${word}: `);
      await press(page, 'Next', '[aria-label="A walk through an order"]');
    }
    await sees(page, 'Hand over: proofs');
    await expect.poll(() => page.url()).toMatch(/handover$/);
    await press(page, 'Leave', '[aria-label="A walk through an order"]');
    await page.reload();
    await sees(page, 'Hand over');
    expect(await page.$('[aria-label="A walk through an order"]')).toBeNull();
  });
  it('is found from a station, says what the marks mean, and a mark says so where it stands', async () => {
    const page = await room.person('maud');
    await open(room, page, 'Drover 4', 'power');
    await sees(page, 'to spare');
    await press(page, 'Tight: what that means', 'main');
    await sees(page, 'within its limits, but near the edge');
    await press(page, 'Help', 'nav');
    await sees(page, 'Without a network');
    expect(await axe(page)).toEqual([]);
    await press(page, 'Close', '[role=dialog]');
  });
});

describe('the shop by subject', () => {
  it('a line is kept where it is changed, says what is wrong with it, and shares are per cent', async () => {
    const page = await room.person('ines');
    await page.goto(`${room.shop.base}/shop/rules`);
    await page.waitForSelector('#reserveSoc:not(:disabled)');
    expect(await page.$eval('#reserveSoc', (e) => (e as HTMLInputElement).value)).toBe('50');
    await fill(page, '#reserveSoc', '450');
    await page.keyboard.press('Enter');
    await sees(page, 'Too big');
    await fill(page, '#reserveSoc', '45 %');
    await page.keyboard.press('Enter');
    await sees(page, 'Saved');
    const kept = () =>
      page.evaluate(
        async () => ((await (await fetch('/api/settings')).json()) as { settings: { reserveSoc: number } }).settings.reserveSoc,
      );
    await expect.poll(kept).toBe(0.45);
    await fill(page, '#reserveSoc', '50');
    await page.keyboard.press('Enter');
    await expect.poll(kept).toBe(0.5);
    await page.goto(`${room.shop.base}/shop/prices`);
    await sees(page, 'What work and things are sold for');
    expect(await axe(page)).toEqual([]);
  });
});

describe('who was here before', () => {
  it('a number and a name bring up what was done, before the order is opened', async () => {
    const page = await room.person('wyn');
    const before = await page.evaluate(
      async () =>
        ((await (await fetch('/api/orders?q=winch')).json()) as { number: number; summary: { identity: string; owner: string } }[])[0]!,
    );
    await page.goto(`${room.shop.base}/orders/new`);
    await fill(page, '#identity', before.summary.identity.toLowerCase());
    await sees(page, 'This unit was here before');
    await sees(page, String(before.number));
    await fill(page, '#owner', before.summary.owner);
    await fill(page, '#phone', '555 0142');
  });
});
