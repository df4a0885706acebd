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
  await page.goto(`${room.shop.base}/shop/account`);
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
  await page.goto(`${room.shop.base}/shop/account`);
  await page.waitForSelector('#short-code');
  await fill(page, '#short-password', 'lantern');
  await fill(page, '#short-code', '2468');
  await press(page, 'Set it', '[aria-label="Short code"]');
  // what stands above the next thing to press grows once more when the server has told that there is a code
  await sees(page, 'Take it away');
  await press(page, 'Share this device', '[aria-label="This device"]');
  await sees(page, 'It is shared at the bench');
  await press(page, 'Maud', 'nav');
  // ines signs in over her, and she stays
  await press(page, 'Let somebody else sign in', '[role=dialog]');
  await page.waitForSelector('#name');
  await page.evaluate(() => localStorage.setItem('kadro.walk.ines', 'true'));
  await fill(page, '#name', 'ines');
  await fill(page, '#password', 'lantern');
  await press(page, 'Sign in', 'main');
  await page.waitForFunction(() => document.querySelector('[data-part=me]')?.textContent?.includes('Ines'));
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

it('a passkey is made with the finger of a device, and opens the account without a password; taken away, it opens nothing', async () => {
  // passkeys are bound to a name: an address of digits has none
  const base = room.shop.base.replace('127.0.0.1', 'localhost');
  const page = await room.person('maud', TABLET);
  const device = await page.createCDPSession();
  await device.send('WebAuthn.enable');
  const { authenticatorId } = await device.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  const signInHere = async () => {
    await page.goto(`${base}/shop/account`);
    await page.waitForSelector('#name');
    await fill(page, '#name', 'wyn');
    await fill(page, '#password', 'lantern');
    await press(page, 'Sign in', 'main');
    await page.waitForSelector('#passkey-name');
  };
  await page.goto(base);
  await page.evaluate(() => localStorage.setItem('kadro.walk.wyn', 'true'));
  await signInHere();
  await fill(page, '#passkey-password', 'wrong');
  await fill(page, '#passkey-name', 'bench tablet');
  await press(page, 'Make a passkey', '[aria-label=Passkeys]');
  await sees(page, 'is wrong');
  await fill(page, '#passkey-password', 'lantern');
  await press(page, 'Make a passkey', '[aria-label=Passkeys]');
  await sees(page, /bench tablet at localhost, made .* not used yet/);
  expect(await axe(page)).toEqual([]);
  // a device makes one for an account, not two
  await fill(page, '#passkey-password', 'lantern');
  await fill(page, '#passkey-name', 'again');
  await press(page, 'Make a passkey', '[aria-label=Passkeys]');
  await sees(page, 'has a passkey of yours already');
  const out = async () => {
    await page.deleteCookie({ name: 'kadro', url: base });
    await page.goto(`${base}/shop/account`);
    await page.waitForSelector('#name');
  };
  await out();
  await press(page, 'Sign in with a passkey', 'main');
  await page.waitForSelector('#passkey-name');
  await sees(page, /bench tablet at localhost, made .* last used/);
  // one who only holds the device, and is not whose finger it knows
  await out();
  await device.send('WebAuthn.setUserVerified', { authenticatorId, isUserVerified: false });
  await press(page, 'Sign in with a passkey', 'main');
  await new Promise((r) => setTimeout(r, 1000));
  expect(await page.$('#name')).not.toBeNull();
  await device.send('WebAuthn.setUserVerified', { authenticatorId, isUserVerified: true });
  await page.reload();
  await signInHere();
  await press(page, 'Take it away', '[aria-label=Passkeys]');
  await page.waitForFunction(() => !document.querySelector('[aria-label=Passkeys]')?.textContent?.includes('bench tablet'));
  await out();
  await press(page, 'Sign in with a passkey', 'main');
  await sees(page, 'That passkey opens nothing in this shop');
});
