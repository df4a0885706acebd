import { Secret, TOTP } from 'otpauth';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { shopsCommand } from '../shop';
import { axe, fill, openRoom, press, sees, seesNot, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
  for (const args of [
    ['make', 'south', 'South yard', '--owner', 'oda'],
    ['group', 'coast', 'Coast yards', '--owner', 'oda'],
    ['put', 'shop', 'coast'],
    ['put', 'south', 'coast'],
  ]) {
    const r = await shopsCommand(room.shop, ...args);
    expect(r.status, r.said).toBe(0);
  }
}, 120_000);
afterAll(() => room.close());

it('who owns two shops goes from the one to the other, where everything is the other’s, and sees both beside each other', async () => {
  const page = await room.person('oda', TABLET);
  await sees(page, 'Aldermoor Drover 4');
  await press(page, 'Oda', 'nav');
  await press(page, 'South yard', '[role=dialog]');
  await sees(page, 'Nothing on the floor');
  expect(new URL(page.url()).pathname).toBe('/at/south/floor');
  expect(await seesNot(page, 'Drover')).toBe(true);
  // within it one stays in it, also over a page that is loaded anew
  await press(page, 'Orders', 'nav');
  await expect.poll(() => new URL(page.url()).pathname).toBe('/at/south/orders');
  await page.reload();
  await sees(page, 'Orders');
  await press(page, 'Shop', 'nav');
  await press(page, 'All shops', 'nav[aria-label=Subjects]');
  await sees(page, 'Coast yards');
  await sees(page, 'All 2');
  expect(await axe(page)).toEqual([]);
  const kept = await page.evaluate(async () => (await indexedDB.databases()).map((d) => d.name).sort());
  expect(kept).toEqual(expect.arrayContaining(['kadro-device', 'kadro-device-south']));
  // back by the first shop’s own figures
  await press(page, 'Skerry Point Powersports', 'table');
  await sees(page, 'handed over');
  expect(new URL(page.url()).pathname).toBe('/shop/month');
});

it('who works in one shop only is told so at the door of another, and an address without a shop says that', async () => {
  const page = await room.person('maud');
  await page.goto(`${room.shop.base}/at/south/floor`);
  await sees(page, 'Sign in to South yard');
  await sees(page, 'You are signed in, and work in');
  await press(page, 'Skerry Point Powersports', 'main');
  await sees(page, 'Aldermoor Drover 4');
  await page.goto(`${room.shop.base}/at/nowhere/floor`);
  await sees(page, 'There is no shop at this address');
});

it('a second factor is turned on with what an authenticator shows, and asked for at the next sign-in', async () => {
  const page = await room.person('tor');
  await page.goto(`${room.shop.base}/shop/people`);
  await page.waitForSelector('#second-password');
  await fill(page, '#second-password', 'not it');
  await press(page, 'Begin', '[aria-label="Second factor"]');
  await sees(page, 'is wrong');
  await fill(page, '#second-password', 'lantern');
  await press(page, 'Begin', '[aria-label="Second factor"]');
  await page.waitForSelector('#second-digits');
  const key = /(?:[A-Z2-7]{4} ){7}[A-Z2-7]{4}/.exec(await page.evaluate(() => document.body.innerText))![0];
  const shows = (ahead: number) =>
    new TOTP({ secret: Secret.fromBase32(key.replaceAll(' ', '')) }).generate({ timestamp: Date.now() + ahead });
  await fill(page, '#second-digits', shows(0));
  await press(page, 'Turn it on', '[aria-label="Second factor"]');
  await sees(page, 'Write these down');
  await press(page, 'I have them');
  await press(page, 'Tor', 'nav');
  await press(page, 'Sign out', '[role=dialog]');
  await page.waitForSelector('#name');
  await fill(page, '#name', 'tor');
  await fill(page, '#password', 'lantern');
  await press(page, 'Sign in', 'main');
  await page.waitForSelector('#second');
  expect(await axe(page)).toEqual([]);
  await fill(page, '#second', '123');
  await press(page, 'Sign in', 'main');
  await sees(page, 'six digits');
  // those of the next half minute: what turned it on opens nothing again
  await fill(page, '#second', shows(30_000));
  await press(page, 'Sign in', 'main');
  await page.waitForSelector('nav[aria-label=Places]');
});

it('two people at one tablet: each is back by a short code, and what waits of the one is never sent as the other’s', async () => {
  const page = await room.person('maud', TABLET);
  await page.goto(`${room.shop.base}/shop/people`);
  await page.waitForSelector('#short-code');
  await fill(page, '#short-password', 'lantern');
  await fill(page, '#short-code', '2468');
  await press(page, 'Set it', '[aria-label="Short code"]');
  await sees(page, 'It is set');
  await press(page, 'Maud', 'nav');
  await press(page, 'Share this device', '[role=dialog]');
  await sees(page, 'no longer shared');
  await press(page, 'Sign out', '[role=dialog]');
  await page.waitForSelector('#name');
  for (const who of ['maud', 'ines']) {
    await page.waitForSelector('#name');
    await fill(page, '#name', who);
    await fill(page, '#password', 'lantern');
    await press(page, 'Sign in', 'main');
    await page.waitForSelector('nav[aria-label=Places]');
    if (who === 'ines') break;
    // the next signs in over them
    await page.evaluate(() => localStorage.setItem('kadro.walk.ines', 'true'));
    await page.deleteCookie({ name: 'kadro', url: room.shop.base });
    await page.reload();
  }
  await press(page, 'Ines', 'nav');
  await press(page, 'Maud', '[aria-label="At this bench"]');
  await fill(page, '#bench-code', '1111');
  await page.keyboard.press('Enter');
  await sees(page, 'That code is wrong');
  await fill(page, '#bench-code', '2468');
  expect(await axe(page)).toEqual([]);
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.querySelector('[data-part=me]')?.textContent?.includes('Maud'));
});
