import { writeFileSync, readFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ElementHandle } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventsOf, idOf, fill, leave, open, openRoom, press, type Room, sees, seesNot } from './hand';

let room: Room;
beforeAll(async () => {
  // a database that falls stays down for ten seconds
  room = await openRoom({ restartMs: 10_000 });
});
afterAll(() => room.close());

describe('two browsers on one order', () => {
  it('see each other’s work at once, and a clash is shown and chosen, not resolved in silence', async () => {
    const tor = await room.person('tor');
    const wyn = await room.person('wyn');
    const id = await open(room, tor, 'Tern 300', 'arrive');
    await open(room, wyn, 'Tern 300', 'arrive');
    await tor.waitForSelector('#rest');
    await wyn.waitForSelector('#rest');
    await fill(wyn, '#condition', 'Scratch on the tank');
    await wyn.keyboard.press('Enter');
    await tor.waitForFunction(() => (document.querySelector('#condition') as HTMLInputElement).value === 'Scratch on the tank');

    // the same field at the same time, tor's network being away for the moment
    await tor.setOfflineMode(true);
    await fill(tor, '#owner', 'Liora');
    await tor.keyboard.press('Enter');
    await sees(tor, '1 waiting');
    await fill(wyn, '#owner', 'Leo');
    await wyn.keyboard.press('Enter');
    await sees(wyn, 'Leo');
    await new Promise((r) => setTimeout(r, 800));
    await tor.setOfflineMode(false);
    await sees(tor, 'Changed meanwhile.');
    await sees(tor, 'wyn: owner Leo. Yours: owner Liora');
    await press(tor, 'Record mine too');
    await wyn.waitForFunction(() => (document.querySelector('#owner') as HTMLInputElement).value === 'Liora');
    const says = (await eventsOf(tor, id)).map((e) => `${e.by}: ${e.says}`);
    expect(says.slice(-2)).toEqual(['wyn: owner Leo', 'tor: owner Liora']);
  });
  it('readings by two people on different steps both stand', async () => {
    const tor = await room.person('tor');
    const maud = await room.person('maud');
    const id = await open(room, tor, 'Drover 2', 'bench?step=prove%2Fcharging');
    await open(room, maud, 'Drover 2', 'bench?step=prove%2Fparked');
    await tor.waitForSelector('#reading-in-hand');
    await maud.waitForSelector('#reading-in-hand');
    await tor.type('#reading-in-hand', '13.9 V');
    await maud.type('#reading-in-hand', '8 mA');
    await Promise.all([tor.keyboard.press('Enter'), maud.keyboard.press('Enter')]);
    await sees(tor, '13.9 V');
    await sees(maud, '8 mA');
    await tor.waitForFunction(
      async (i: string) =>
        ((await (await fetch(`/api/orders/${i}/events`)).json()) as { says: string }[]).filter((e) =>
          /Charging volts.*13.9 V|Parked draw.*0.008 A/.test(e.says),
        ).length === 2,
      {},
      id,
    );
  });
});

describe('what is typed and recorded is kept', () => {
  it('through a lost network: readings queue, are shown as waiting, survive a reload, and arrive once in order', async () => {
    const page = await room.person('tor');
    const id = await open(room, page, 'Drover 4', 'bench');
    await page.waitForSelector('main h2');
    await press(page, 'Finding');
    await page.waitForSelector('#finding');
    await page.setOfflineMode(true);
    for (const text of ['first in the dark', 'second in the dark']) {
      if (!(await page.$('#finding'))) await press(page, 'Finding');
      await fill(page, '#finding', text);
      await press(page, 'Record', '[role=dialog]');
    }
    await sees(page, '2 waiting to be sent. Nothing is lost');
    // the tablet is switched off and on before the network is back
    await page.setOfflineMode(false);
    await page.reload();
    await sees(page, 'Aldermoor Drover 4');
    await page.waitForFunction(
      async (i: string) =>
        ((await (await fetch(`/api/orders/${i}/events`)).json()) as { says: string }[]).filter((e) => /in the dark/.test(e.says)).length >=
        2,
      {},
      id,
    );
    await new Promise((r) => setTimeout(r, 600));
    expect((await eventsOf(page, id)).filter((e) => /in the dark/.test(e.says)).map((e) => e.says)).toEqual([
      'Finding: first in the dark',
      'Finding: second in the dark',
    ]);
    await page.waitForFunction(() => !document.body.innerText.includes('waiting to be sent'));
  });
  it('through a database that is gone for ten seconds', async () => {
    const page = await room.person('maud');
    const id = await open(room, page, 'Parkway 48', 'arrive');
    await page.waitForSelector('#condition');
    room.shop.database.kill();
    await new Promise((r) => setTimeout(r, 400));
    await fill(page, '#condition', 'typed while the record was gone');
    await page.keyboard.press('Enter');
    await sees(page, 'waiting to be sent. Nothing is lost');
    await page.waitForFunction(() => !document.body.innerText.includes('waiting to be sent'), { timeout: 40_000 });
    await expect
      .poll(async () => (await eventsOf(page, id)).filter((e) => e.says.includes('record was gone')), { interval: 300 })
      .toHaveLength(1);
  });
});

describe('roles at the screen', () => {
  it('the desk reads the bench and does not work it; signing out closes the shop', async () => {
    const page = await room.person('wyn');
    await open(room, page, 'Drover 4', 'bench');
    await page.waitForSelector('main h2');
    expect(
      await page.$$eval('main button', (bs) =>
        bs.filter((b) => /Done, next|Skip/.test((b as HTMLElement).innerText)).every((b) => (b as HTMLButtonElement).disabled),
      ),
    ).toBe(true);
    await page.goto(`${room.shop.base}/sheets`);
    await sees(page, 'Rule packs');
    expect(await seesNot(page, 'Import a sheet')).toBe(true);
    await leave(page);
    await sees(page, 'Sign in to ');
    await page.goto(`${room.shop.base}/floor`);
    await sees(page, 'Sign in to ');
    await page.type('#name', 'wyn');
    await page.type('#password', 'wrong one');
    await page.keyboard.press('Enter');
    await sees(page, 'That name and password do not go together.');
    expect(await page.$eval('#name', (e) => (e as HTMLInputElement).value)).toBe('wyn');
  });
});

describe('sheets and tools', () => {
  it('a malformed sheet is answered with line and field and takes nothing in; a mended one comes in', async () => {
    const page = await room.person('ines');
    const folder = mkdtempSync(join(tmpdir(), 'kadro-sheet-'));
    const good = JSON.parse(readFileSync('demo/kits/usb-socket.json', 'utf8'));
    good.sheet.id = 'usb-twin';
    good.sheet.name = 'USB twin socket';
    const text = JSON.stringify(good, null, 2);
    writeFileSync(join(folder, 'bad.json'), text.replace('"awgMin": 18', '').replace('"minutes": 6', '"minutes": "six"'));
    writeFileSync(join(folder, 'good.json'), text);
    await page.goto(`${room.shop.base}/sheets`);
    const input = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(join(folder, 'bad.json'));
    await sees(page, 'Nothing was taken in.');
    await sees(page, 'sheet.steps.0.minutes');
    await sees(page, /line \d+/);
    await input.uploadFile(join(folder, 'good.json'));
    await sees(page, 'USB twin socket is in, revision 1.');
    await sees(page, 'revision 1');
    // an unknown draw: power is not known, says which number is missing, and takes it
    good.sheet.devices[0].load.watts = null;
    writeFileSync(join(folder, 'good.json'), JSON.stringify(good));
    await input.uploadFile(join(folder, 'good.json'));
    await sees(page, 'USB twin socket is in, revision 2.');
    rmSync(folder, { recursive: true });
    await open(room, page, 'Drover 2', 'fit');
    await press(page, 'Add USB twin socket');
    await sees(page, /\d · USB twin socket/);
    await page.goto(page.url().replace('/fit', '/power'));
    await sees(page, 'Not known: tell the number, or a band, and the verdict follows');
    await fill(page, 'main input[placeholder="24 W, or 20 to 40 W"]', '12 W');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => !document.body.innerText.includes('Not known: tell the number'));
  });
  it('a calculation answers as it is typed in either system of units, and is kept in an order', async () => {
    const page = await room.person('tor');
    await page.goto(`${room.shop.base}/tools/wire.choose`);
    await sees(page, 'Gauge 12 AWG');
    await fill(page, '#oneWayM', '30ft');
    await sees(page, 'Gauge 6 AWG');
    await fill(page, '#amps', '-4');
    await sees(page, 'must be above zero');
    await fill(page, '#amps', 'lots');
    await sees(page, '“lots” is not a figure in A');
    await fill(page, '#amps', '5');
    const id = await idOf(page, 'Lapwing 500');
    await page.select('#keep-in', id);
    await press(page, 'Keep', 'main');
    await sees(page, 'Kept in order 1034.');
    await page.waitForFunction(
      async (i: string) =>
        ((await (await fetch(`/api/orders/${i}/events`)).json()) as { says: string }[]).some((e) =>
          e.says.startsWith('Calculation wire.choose: Gauge'),
        ),
      {},
      id,
    );
  });
  it('keys go where they say, and never while typing', async () => {
    const page = await room.person('tor');
    await page.keyboard.press('g');
    await page.keyboard.press('t');
    await sees(page, 'Wire resistance');
    await page.keyboard.press('/');
    await page.waitForSelector('input[aria-label="Search orders"]');
    await page.keyboard.type('gt?');
    expect(await page.$eval('input[aria-label="Search orders"]', (e) => (e as HTMLInputElement).value)).toBe('gt?');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    // narrowing the search leaves the hand where it is
    await page.focus('select[aria-label="Any kit"]');
    await page.select('select[aria-label="Any kit"]', 'roof-bar');
    await page.waitForFunction(() => location.search.includes('kit=roof-bar'));
    expect(await page.evaluate(() => document.activeElement?.getAttribute('aria-label'))).toBe('Any kit');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('?');
    await sees(page, 'stations of an order');
    await page.keyboard.press('Escape');
    await open(room, page, 'Lapwing 500', 'arrive');
    await page.waitForSelector('#owner');
    await page.keyboard.press('3');
    await sees(page, 'Fails by');
  });
});
