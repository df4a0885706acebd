import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { axe, eventsOf, fill, openRoom, press, sees, seesNot, station, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

describe('a unit that nobody has a sheet for', () => {
  it('is taken in by its body, says what its answers rest on, is measured where that settles most, and its sheet learns of it', async () => {
    const page = await room.person('tor', TABLET);
    await page.goto(`${room.shop.base}/orders/new`);
    await page.waitForFunction(() => document.querySelectorAll('#model option').length > 5);
    await page.select('#model', '+');
    await sees(page, 'Which of these is nearest to it?');
    await press(page, 'Take it in');
    await sees(page, 'choose the body nearest to it');
    await press(page, 'Boat', '[aria-label=Kind]');
    await sees(page, 'Console amidships');
    await press(page, 'Side-by-side', '[aria-label=Kind]');
    await page.waitForSelector('[data-body=side-by-side-2-open] svg path');
    await page.$eval('[data-body=side-by-side-2-open]', (b) => (b as HTMLElement).click());
    await fill(page, '#new-maker', 'Hollin');
    await sees(page, 'must not be empty');
    await fill(page, '#new-name', 'Ridge 8');
    await fill(page, '#new-lengthMm', '40 ft');
    await sees(page, 'another body is nearer');
    await fill(page, '#new-lengthMm', '118 in');
    expect(await seesNot(page, 'another body is nearer')).toBe(true);
    await fill(page, '#year', '2024');
    await fill(page, '#owner', 'Runa');
    await fill(page, '#rest', '12.8');
    expect(await axe(page)).toEqual([]);
    // what is typed outlives a reload
    await page.reload();
    await page.waitForSelector('#new-name');
    expect(await page.$eval('#new-name', (e) => (e as HTMLInputElement).value)).toBe('Ridge 8');
    await press(page, 'Take it in');
    await sees(page, 'No kit chosen yet.');
    await sees(page, 'Known only by its kind.');
    const row = await page.waitForSelector('xpath///main//li[.//b[starts-with(., "Roof bar lamp")]]//button');
    await row!.evaluate((b) => (b as HTMLElement).click());
    await sees(page, /\d · Roof bar lamp/);
    await sees(page, 'ask the maker whether it fits');

    await station(page, 'Power');
    await sees(page, /At idle, everything on would do on \d+ of 100 such units/, 40_000);
    await page.waitForSelector('[data-measure]');
    const next = await page.$$eval('[data-measure]', (l) => l.map((e) => (e as HTMLElement).dataset.measure!));
    expect(next.length).toBeLessThanOrEqual(3);
    expect(next).toContain('/electrical/source/curve');
    await page.$eval('[data-measure="/electrical/source/curve"]', (b) => (b as HTMLElement).click());
    await sees(page, 'Clamp meter on the cable from the regulator');
    await sees(page, 'First off: Front seats');
    await fill(page, '#value-in-hand', '900');
    await page.keyboard.press('Enter');
    await sees(page, 'were to be expected');
    await press(page, 'Dismiss');
    await fill(page, '#value-in-hand', '34');
    await page.keyboard.press('Enter');
    await sees(page, /What the source gives at idle: 34 A, measured by tor/);
    await page.waitForFunction(
      () => !!document.querySelector('[data-measure]') === false || !document.querySelector('[data-measure="/electrical/source/curve"]'),
    );
    const id = new URL(page.url()).pathname.split('/')[2]!;
    await expect
      .poll(async () => (await eventsOf(page, id)).some((e) => e.says === 'Measured: What the source gives at idle, 34 A'))
      .toBe(true);
    await station(page, 'Hand over');
    await sees(page, 'Known only by its kind.');

    // a lead takes it into the sheet
    const lead = await room.person('ines');
    await lead.goto(`${room.shop.base}/sheets/model/hollin-ridge-8-2024`);
    await sees(lead, 'Found on units of this model');
    await sees(lead, /What the source gives at idle: 34 A, between/);
    await sees(lead, 'Only assumed, as units of its kind commonly are');
    expect(await axe(lead)).toEqual([]);
    await press(lead, 'Take it into the sheet');
    await sees(lead, 'revision 2');
    await sees(lead, 'Known of it');
    expect(await seesNot(lead, 'Found on units of this model')).toBe(true);
  });
});
