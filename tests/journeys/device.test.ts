import type { HTTPRequest, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventsOf, fill, go, idOf, leave, open, openRoom, press, sees, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** Writes a finding at the bench. */
async function find(page: Page, text: string): Promise<void> {
  if (!(await page.$('#finding'))) await press(page, 'Finding', 'main');
  await fill(page, '#finding', text);
  await press(page, 'Record', '[role=dialog]');
  await page.waitForFunction(() => !document.querySelector('#finding'));
}
const found = async (page: Page, id: string, pattern: RegExp) => {
  const events = (await eventsOf(page, id)) as unknown as { by: string; says: string; doneAt: string; recordedAt: string }[];
  return events.filter((e) => pattern.test(e.says));
};
const arrived = (page: Page, id: string, pattern: RegExp, count: number) =>
  page.waitForFunction(
    async (i: string, p: string, n: number) =>
      ((await (await fetch(`/api/orders/${i}/events`)).json()) as { says: string }[]).filter((e) => new RegExp(p).test(e.says)).length >= n,
    { polling: 300 },
    id,
    pattern.source,
    count,
  );
async function signIn(page: Page, name: string): Promise<void> {
  await page.waitForSelector('#name');
  await fill(page, '#name', name);
  await fill(page, '#password', 'lantern');
  await page.keyboard.press('Enter');
  await page.waitForSelector('nav[aria-label=Places]');
}

describe('what a device keeps', () => {
  it('one person’s work waits for that person: another who signs in neither sends it nor signs for it, and a sign-out without network holds', async () => {
    const page = await room.person('tor');
    const id = await open(room, page, 'Drover 4', 'bench');
    await page.waitForSelector('main h2');
    await page.setOfflineMode(true);
    await find(page, 'done by tor in the dark');
    await sees(page, '1 waiting to be sent');
    await leave(page);
    await sees(page, 'Sign in to ');
    await sees(page, '1 recorded here by tor is kept');
    await wait(2500);
    const back = Date.now();
    await page.setOfflineMode(false);
    await page.reload();
    await sees(page, 'Sign in to ');
    await signIn(page, 'maud');
    await sees(page, '1 recorded by tor: sent when tor signs in here.');
    await wait(1500);
    expect(await found(page, id, /done by tor/)).toEqual([]);
    await leave(page);
    await signIn(page, 'tor');
    await arrived(page, id, /done by tor/, 1);
    const [event] = await found(page, id, /done by tor/);
    expect(event!.by).toBe('tor');
    // it was done when it was done, and received later
    expect(Date.parse(event!.doneAt)).toBeLessThan(back - 2400);
    expect(Date.parse(event!.recordedAt)).toBeGreaterThan(back);
  });

  it('what was typed for a new unit is its author’s: the next person does not see it', async () => {
    const page = await room.person('tor');
    await go(page, '/orders/new');
    await fill(page, '#owner', 'Owner as tor typed');
    await leave(page);
    await signIn(page, 'maud');
    await go(page, '/orders/new');
    await page.waitForSelector('#owner');
    expect(await page.$eval('#owner', (e) => (e as HTMLInputElement).value)).toBe('');
    await leave(page);
    await signIn(page, 'tor');
    await go(page, '/orders/new');
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('#owner')?.value === 'Owner as tor typed');
  });

  it('two tabs share one queue: nothing is overwritten, all of it arrives once', async () => {
    const one = await room.person('maud');
    const id = await open(room, one, 'Tern 300', 'bench');
    const two = await one.browserContext().newPage();
    await two.setViewport({ width: 1280, height: 800 });
    await two.goto(`${room.shop.base}/orders/${id}/bench`);
    for (const page of [one, two]) {
      await page.waitForSelector('main h2');
      await page.setOfflineMode(true);
    }
    for (let i = 0; i < 3; i++)
      for (const [k, page] of [one, two].entries()) {
        await page.bringToFront();
        await find(page, `tab ${k} thing ${i}`);
      }
    await one.setOfflineMode(false);
    await two.setOfflineMode(false);
    await one.bringToFront();
    await arrived(one, id, /tab \d thing/, 6);
    await wait(800);
    expect((await found(one, id, /tab \d thing/)).map((e) => e.says)).toEqual(
      [0, 1, 2].flatMap((i) => [0, 1].map((k) => `Finding: tab ${k} thing ${i}`)),
    );
  });

  it('a server that answers 500, 413 and 429 takes nothing out of it', async () => {
    const page = await room.person('maud');
    const id = await open(room, page, 'Lapwing 500', 'bench');
    await page.waitForSelector('main h2');
    let failing = true;
    let tries = 0;
    await page.setRequestInterception(true);
    const answer = (r: HTTPRequest) => {
      if (!failing || r.method() !== 'POST' || !/\/events/.test(r.url())) return void r.continue();
      const status = [500, 413, 429][tries++ % 3]!;
      void r.respond({ status, contentType: 'application/problem+json', body: JSON.stringify({ status, detail: 'not now' }) });
    };
    page.on('request', answer);
    await find(page, 'through a minute of faults');
    await sees(page, 'Kept on this device and tried again', 30_000);
    expect(tries).toBeGreaterThanOrEqual(3);
    await page.reload();
    await wait(1500);
    expect(await found(page, id, /minute of faults/)).toEqual([]);
    failing = false;
    await arrived(page, id, /minute of faults/, 1);
    await wait(500);
    expect(await found(page, id, /minute of faults/)).toHaveLength(1);
  });

  it('a full store is said at once, and what was done is sent all the same', async () => {
    const page = await room.person('maud');
    const id = await idOf(page, 'Sandbar 21');
    await page.evaluateOnNewDocument(() => {
      IDBObjectStore.prototype.add = function () {
        throw new DOMException('the disk is full', 'QuotaExceededError');
      };
    });
    await page.goto(`${room.shop.base}/orders/${id}/bench`);
    await page.waitForSelector('main h2');
    await find(page, 'with no room');
    await sees(page, 'No room on this device');
    await sees(page, 'This device has no room left');
    await arrived(page, id, /with no room/, 1);
  });

  it('a clock an hour wrong is put right by what the server says; another page’s damage is set aside and said', async () => {
    const page = await room.person('maud');
    const id = await idOf(page, 'Sandbar 21');
    await page.evaluate(() => localStorage.setItem('kadro.outbox', '[{"half":'));
    await page.evaluateOnNewDocument(() => {
      const Real = Date;
      const off = -3600_000;
      class Wrong extends Real {
        constructor(...args: unknown[]) {
          super(...((args.length ? args : [Real.now() + off]) as []));
        }
        static override now() {
          return Real.now() + off;
        }
      }
      globalThis.Date = Wrong as DateConstructor;
    });
    await page.goto(`${room.shop.base}/orders/${id}/bench`);
    await page.waitForSelector('main h2');
    await sees(page, 'It is set aside, not lost');
    const began = Date.now();
    await find(page, 'by a wrong clock');
    await arrived(page, id, /by a wrong clock/, 1);
    const [event] = await found(page, id, /by a wrong clock/);
    expect(Math.abs(Date.parse(event!.doneAt) - began)).toBeLessThan(6000);
  });

  it('says wherever one is that this is the demo, and which order is no customer’s', async () => {
    const page = await room.person('maud');
    await open(room, page, 'Drover 4', 'arrive');
    await sees(page, 'stand-ins on');
    await page.waitForSelector('header');
    expect(await page.$eval('header', (e) => (e as HTMLElement).innerText)).toContain('Demo');
  });
});

describe('people and their rights', () => {
  it('an owner gives a code for a new password and ends an access where people are seen', async () => {
    const page = await room.person('oda');
    await go(page, '/shop/people');
    await press(page, 'New password', '[data-person=tor]');
    await sees(page, 'Give Tor this code');
    const code = await page.$eval('[data-person=tor] [role=status] b', (e) => (e as HTMLElement).innerText);
    const tor = await room.person('maud');
    await leave(tor);
    await press(tor, 'I have a code from the owner');
    await fill(tor, '#code-name', 'tor');
    await fill(tor, '#code', code);
    await fill(tor, '#new-password', 'a new lantern');
    await press(tor, 'Set it and sign in');
    await tor.waitForSelector('nav[aria-label=Places]');
    await go(tor, '/shop/account');
    await fill(tor, '#old-password', 'a new lantern');
    await fill(tor, '#my-password', 'lantern!');
    await press(tor, 'Change it');
    await sees(tor, 'Your password is changed');
    await press(page, 'End access', '[data-person=tor]');
    await sees(page, 'signed out everywhere at once');
    await press(page, 'End it', '[data-person=tor]');
    await sees(page, 'No longer here');
    await sees(page, 'access ended');
    await tor.reload();
    await sees(tor, 'Sign in to ');
    await press(page, 'Let in again', '[data-person=tor]');
    await sees(page, 'access given again');
  });
  it('an owner sees how the machines do, and signs out where they left themselves signed in', async () => {
    const page = await room.person('oda');
    const left = await room.person('oda', TABLET);
    await go(page, '/shop/system');
    // a demo that nobody backed up: said with what to do; how quick the answers are is the machine’s affair
    await sees(page, /wants? a look/);
    const lines = await page.$$eval('[data-well]', (l) => l.map((e) => (e as HTMLElement).innerText.replace(/\s+/g, ' ')));
    expect(lines).toHaveLength(6);
    expect(lines.join('\n')).toMatch(/Backup None was ever written\. None is needed of a demo\./);
    expect(lines.join('\n')).toMatch(/The record \d+ orders, [\d,]+ events and \d+ pictures?, on one database\./);
    await go(page, '/shop/account');
    await sees(page, 'Where you are signed in');
    const others = () =>
      page.$$eval('[aria-label="Where you are signed in"] button', (l) => l.filter((e) => e.innerText.trim() === 'Sign out there').length);
    await expect.poll(others).toBeGreaterThan(0);
    for (let n = await others(); n; n = await others()) {
      await press(page, 'Sign out there', '[aria-label="Where you are signed in"]');
      await expect.poll(others).toBeLessThan(n);
    }
    await left.reload();
    await sees(left, 'Sign in to ');
    // who is no owner is told whose it is
    const maud = await room.person('maud');
    await go(maud, '/shop/system');
    await sees(maud, 'This is for the owner.');
  });
});
