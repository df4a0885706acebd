import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { png } from '../picture';
import { eventsOf, open, openRoom, press, sees, seesNot, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

const folder = mkdtempSync(join(tmpdir(), 'kadro-pictures-'));
const file = (name: string, bytes: Buffer) => {
  writeFileSync(join(folder, name), bytes);
  return join(folder, name);
};
const choose = async (page: Page, path: string, within = 'main') =>
  ((await page.waitForSelector(`${within} input[data-photo]`)) as ElementHandle<HTMLInputElement>).uploadFile(path);
/** Yes or No of the reading with that label. */
const answer = (page: Page, label: string, word: 'Yes' | 'No') =>
  page.evaluate(
    (l: string, w: string) => {
      const p = [...document.querySelectorAll('main p')].find((x) => x.textContent === l)!;
      const row = p.parentElement!.parentElement!;
      [...row.querySelectorAll('button')].find((b) => b.textContent === w)!.click();
    },
    label,
    word,
  );

describe('a fault at the bench', () => {
  it('a lamp stays dark: the meter streams, three measurements at most name what is planted, it is put right and proved', async () => {
    const page = await room.person('tor', TABLET);
    const id = await open(room, page, 'Drover 4', 'bench?step=road-kit%2Fleft');
    await sees(page, 'Front left flashes');
    await answer(page, 'Front left flashes', 'No');
    await sees(page, 'What is wrong');
    await sees(page, 'First answer “Rear left flashes”');
    await answer(page, 'Rear left flashes', 'Yes');
    await page.waitForSelector('[aria-label="What is wrong"][aria-busy=false] [data-next-measurement]');
    await press(page, 'Simulated meter', '[data-next-measurement]');
    const cause = '[data-cause="open:road-kit/signals:ground:front-left"]';
    for (let n = 0; n < 3; n++) {
      await sees(page, 'From the simulated meter, steady.');
      await press(page, 'Read', '[data-next-measurement]');
      await page.waitForFunction((k: number) => document.querySelectorAll('[aria-label="Measured so far"] li').length === k, {}, n + 1);
      await page.waitForSelector('[aria-label="What is wrong"][aria-busy=false]');
      const named = await page.$$eval('[data-cause]', (e) => e[0]?.textContent ?? '');
      if (/^9\d %/.test(named)) break;
    }
    expect(await page.$$eval('[data-cause]', (e) => e[0]!.getAttribute('data-cause'))).toBe('open:road-kit/signals:ground:front-left');
    await page.$eval(`${cause} button`, (b) => (b as HTMLElement).click());
    await sees(page, 'Read again what failed.');
    await answer(page, 'Front left flashes', 'Yes');
    await page.waitForFunction(
      async (i: string) =>
        ((await (await fetch(`/api/orders/${i}/events`)).json()) as { says: string }[]).some((e) =>
          /Front left flashes: yes.*: holds/.test(e.says),
        ),
      {},
      id,
    );
    const says = (await eventsOf(page, id)).map((e) => e.says);
    expect(says.find((s) => s.startsWith('Volts, '))).toMatch(/should be/);
    expect(says.find((s) => s.startsWith('Put right: '))).toMatch(/Front left signal, minus/);
  });
  it('lids that lift off are one answer, why is folded away until it is asked for, and what keeps people safe is no installer’s to skip', async () => {
    const page = await room.person('maud', TABLET);
    const id = await open(room, page, 'Sandbar 21', 'bench');
    await sees(page, 'Stern locker lid off');
    expect(await page.$eval('main h2', (e) => e.textContent)).toBe('Key off and out');
    // open for who has not done such a kit before
    if (!(await page.$('main details[open]'))) await page.click('main details summary');
    await sees(page, 'What is not live cannot start');
    await page.click('main details summary');
    await page.waitForFunction(() => !document.querySelector('main details[open]'));
    await press(page, 'Skip', 'main');
    await (await page.waitForSelector('#reason'))!.type('it is off');
    await press(page, 'Skip it', '[role=dialog]');
    await sees(page, 'keeps people safe: a lead may skip it');
    await press(page, 'Done', 'main');
    await sees(page, 'Read the battery at rest');
    expect(await page.$('main details[open]')).toBeNull();
    await page.waitForFunction(
      async (i: string) => {
        const says = ((await (await fetch(`/api/orders/${i}/events`)).json()) as { says: string }[]).map((e) => e.says);
        return ['Done: Key off and out', 'Done: Stern locker lid off'].every((s) => says.includes(s));
      },
      {},
      id,
    );
  });
  it('a figure is said with its unit, and a wrong unit is told what is right', async () => {
    const page = await room.person('maud', TABLET);
    await open(room, page, 'Parkway 48', 'bench?step=safe%2Frest');
    await page.waitForSelector('#reading-in-hand');
    await page.type('#reading-in-hand', 'fifty point one amps');
    await page.keyboard.press('Enter');
    await sees(page, '“amps” is not a unit for this: use V, mV');
    await page.$eval('#reading-in-hand', (e) => ((e as HTMLInputElement).value = ''));
    await page.click('#reading-in-hand', { clickCount: 3 });
    await page.keyboard.down('Control');
    await page.keyboard.press('a');
    await page.keyboard.up('Control');
    await page.type('#reading-in-hand', 'fifty point one volts');
    await page.keyboard.press('Enter');
    await sees(page, 'Undo: Read the battery at rest');
    // taken back by key, its step comes again with it
    await page.evaluate(() => (document.activeElement as HTMLElement)?.blur());
    await page.keyboard.press('u');
    await page.waitForSelector('[data-step="safe/rest"] #reading-in-hand');
  });
});

describe('pictures', () => {
  it('wait with what names them through a lost network and a reload, and arrive once', async () => {
    const page = await room.person('maud', TABLET);
    const id = await open(room, page, 'Lapwing 500', 'bench?step=safe%2Foff');
    await sees(page, 'Key off');
    await page.setOfflineMode(true);
    await choose(page, file('posts.png', png(5, 640, 480)));
    await sees(page, '1 waiting to be sent. Nothing is lost');
    await page.waitForSelector('main figure img');
    expect(await page.$eval('main figure img', (e) => (e as HTMLImageElement).src)).toMatch(/^blob:/);
    await page.setOfflineMode(false);
    await page.reload();
    await page.waitForFunction(() =>
      [...document.querySelectorAll('main figure img')].some(
        (e) => /api\/photos/.test((e as HTMLImageElement).src) && (e as HTMLImageElement).naturalWidth > 0,
      ),
    );
    await expect
      .poll(async () => (await eventsOf(page, id)).filter((e) => e.says.startsWith('Picture')), { interval: 300 })
      .toHaveLength(1);
  });
  it('a file that is none is told so, and so is one of 40 MB; nothing is recorded', async () => {
    const page = await room.person('tor', TABLET);
    const id = await open(room, page, 'Tern 300', 'bench?step=safe%2Foff');
    await sees(page, 'Key off');
    await choose(page, file('sheet.pdf', Buffer.from('%PDF-1.4 no picture')));
    await sees(page, 'That file is not a picture that this device can open.');
    await press(page, 'Dismiss');
    await choose(page, file('large.jpg', Buffer.alloc(40 * 1024 * 1024, 3)));
    await sees(page, 'That file is not a picture that this device can open.');
    expect((await eventsOf(page, id)).filter((e) => e.says.startsWith('Picture'))).toEqual([]);
  });
  it('a large one is made smaller on the device, and goes with a finding to the next such unit', async () => {
    const page = await room.person('tor', TABLET);
    const id = await open(room, page, 'Tern 300', 'bench?step=safe%2Foff');
    await sees(page, 'Key off');
    await press(page, 'Finding', 'main');
    await page.waitForSelector('#finding');
    await page.type('#finding', 'Key switch is loose');
    await choose(page, file('wide.png', png(9, 4000, 3000)), '[role=dialog]');
    await page.waitForSelector('[role=dialog] figure img');
    await press(page, 'Record', '[role=dialog]');
    await page.waitForFunction(
      async (i: string) =>
        ((await (await fetch(`/api/orders/${i}/events`)).json()) as { says: string }[]).some((e) => /Key switch is loose/.test(e.says)),
      {},
      id,
    );
    const size = await page.evaluate(async (i: string) => {
      const events = (await (await fetch(`/api/orders/${i}/events`)).json()) as { body: { photo?: string } }[];
      const blob = await (await fetch(`/api/photos/${events.find((e) => e.body.photo)!.body.photo}`)).blob();
      const b = await createImageBitmap(blob);
      return [b.width, b.height, blob.type];
    }, id);
    expect(size).toEqual([2048, 1536, 'image/jpeg']);
  });
});

describe('two people at one unit', () => {
  it('share the steps, have a clock each, and see each other’s', async () => {
    const tor = await room.person('tor');
    const maud = await room.person('maud', TABLET);
    const id = await open(room, tor, 'Sandbar 21', 'bench');
    await tor.waitForSelector('main h2');
    const first = await tor.$eval('main h2', (e) => e.textContent);
    await press(tor, 'Anyone', 'main');
    await press(tor, 'this step', '[role=dialog]');
    await press(tor, 'Maud', '[role=dialog]');
    await press(tor, 'Give it', '[role=dialog]');
    // what is given away is out of the way at once
    await tor.waitForFunction((f: string) => document.querySelector('main h2')?.textContent !== f, {}, first!);
    await open(room, maud, 'Sandbar 21', 'bench');
    await maud.waitForSelector('main h2');
    expect(await maud.$eval('main h2', (e) => e.textContent)).toBe(first);
    await sees(maud, 'You');
    await press(maud, 'Clock', 'main');
    await sees(tor, `maud is at “${first}”`, 15_000);
    // the other’s next is what is not given away
    await tor.goto(`${room.shop.base}/orders/${id}/bench`);
    await tor.waitForSelector('main h2');
    expect(await tor.$eval('main h2', (e) => e.textContent)).not.toBe(first);
    await press(maud, 'Pause', 'main');
    await tor.waitForFunction(() => !/is at “/.test(document.body.innerText));
    expect(await seesNot(tor, 'is at “')).toBe(true);
  });
});
