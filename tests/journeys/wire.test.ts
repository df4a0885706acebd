import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { looseBarFile } from '../shop';
import { axe, idOf, openRoom, press, sees, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

let page: Page;
/** Somebody at a browser that wants no motion; what the last test left open is closed, so that it takes nothing from this one. */
async function at(name: string): Promise<void> {
  page = await room.person(name);
}

async function open(page: Page, unit: string, show = ''): Promise<string> {
  const id = await idOf(page, unit);
  await page.goto(`${room.shop.base}/orders/${id}/wire${show ? `?show=${show}` : ''}`);
  if (!show) await page.waitForSelector('[data-block]');
  return id;
}
/** Puts a switch into a position by its buttons. */
const turn = (page: Page, control: string, position: string) => press(page, position, `[role=group][aria-label="${control}"]`);
const block = async (page: Page, id: string): Promise<string> => page.$eval(`[data-block="${id}"]`, (e) => e.textContent ?? '');
const until = (page: Page, id: string, text: RegExp) =>
  page.waitForFunction(
    (b: string, t: string) => new RegExp(t).test(document.querySelector(`[data-block="${b}"]`)?.textContent ?? ''),
    { polling: 50 },
    id,
    text.source,
  );
/** Touches a point of the schematic with the probe at hand. */
const touch = (page: Page, port: string) =>
  page.$eval(`[data-port="${port}"]`, (e) => e.dispatchEvent(new MouseEvent('click', { bubbles: true })));
const pick = (page: Page, wire: string) =>
  page.$eval(`[data-wire="${wire}"]`, (e) => e.dispatchEvent(new MouseEvent('click', { bubbles: true })));
const reading = (page: Page, text: RegExp) =>
  page.waitForFunction(
    (t: string) => new RegExp(t).test(document.querySelector('[data-reading]')?.textContent ?? ''),
    { polling: 50 },
    text.source,
  );
const file = (page: Page, id: string, name: string) =>
  page.evaluate(
    async (o: string, f: string) => {
      const r = await fetch(`/api/orders/${o}/wiring/${f}`);
      return { status: r.status, type: r.headers.get('content-type')!, size: (await r.arrayBuffer()).byteLength };
    },
    id,
    name,
  );

/** A bar lamp whose wire comes off the shelf, on an order: a kit of the first format, taken in at Sheets. */
async function withLooseBar(unit: string): Promise<void> {
  const status = await page.evaluate(
    (t: string) => fetch('/api/sheets', { method: 'POST', headers: { 'Content-Type': 'text/plain' }, body: t }).then((r) => r.status),
    looseBarFile(),
  );
  expect([200, 201]).toContain(status);
  const id = await open(page, unit);
  await page.goto(`${room.shop.base}/orders/${id}/fit`);
  await press(page, 'Add Loose bar lamp kit');
  await sees(page, /\d · Loose bar lamp kit/);
}

describe('a side-by-side with a winch', () => {
  it('is switched on, probed, broken, mended, and printed', async () => {
    await at('tor');
    const id = await open(page, 'Drover 4');
    // the rule pack and the kit's sheet exclude each other, and Wire says what Lamps says
    await sees(page, /Hazard flashes with the key off.*they exclude each other/, 30_000);
    await page.waitForSelector('[data-wire]');
    // key off: nothing is live
    expect(await page.$$eval('[data-wire][data-live=true]', (e) => e.length)).toBe(0);
    await press(page, 'Yes', '[aria-label="What the rule packs ask of the feeds"]');
    await sees(page, /8 circuits fed, sized and fused; sound in all \d+ states/, 30_000);
    await sees(page, /Signals and module: constant, because/);
    await turn(page, 'Engine', 'idle');
    await turn(page, 'Roof bar switch', 'on');
    await until(page, 'roof-bar/bar#relay', /pulled in/);
    await until(page, 'roof-bar/bar', /1[123]\.?\d* V/);
    expect(await page.$$eval('[data-wire][data-live=true]', (e) => e.length)).toBeGreaterThan(3);
    // a switch on the schematic is thrown by touching it
    await page.$eval('[data-block="winch-32/dash-switch"]', (e) => e.dispatchEvent(new MouseEvent('click', { bubbles: true })));
    await until(page, 'winch-32/contactor', /pulled in/);
    await until(page, 'winch-32/motor', /\d\.?\d* V/);
    // two probes
    await page.keyboard.press('p');
    await page.waitForSelector('[data-port]');
    await touch(page, 'roof-bar/bar.plus');
    await touch(page, 'roof-bar/bar.minus');
    await reading(page, /^1[01]\.\d\d V/);
    // pull the fuse: dark, and the meter across it reads what flowed
    await page.$eval('[data-block="roof-bar/bar#fuse"]', (e) => e.dispatchEvent(new MouseEvent('click', { bubbles: true })));
    await press(page, 'Pull the fuse');
    await reading(page, /^−?0\.0\d V/);
    await turn(page, 'Winch switch', 'rest');
    await press(page, 'A in series');
    await touch(page, 'pp:bus-constant');
    await touch(page, 'roof-bar/bar#30');
    await reading(page, /^[89]\.\d+ A|^1\d\.?\d* A/);
    await press(page, 'Mend');
    // ohms with the battery off
    await press(page, 'Ω, battery off');
    await touch(page, 'roof-bar/bar#86');
    await touch(page, 'roof-bar/bar#85');
    await reading(page, /^8\d\.\d+ Ω/);
    // corrosion: the checks say which lamp has too little
    await press(page, 'V', '[aria-label=Meter]');
    await pick(page, 'roof-bar/relay:ground:ground');
    await press(page, 'Corrode it');
    await press(page, 'Switches and checks', 'main');
    await sees(page, /Too few volts/, 30_000);
    await press(page, 'Show it');
    await until(page, 'roof-bar/bar', /\d\.?\d* V/);
    await press(page, 'Mend');
    for (const f of ['schematic.svg', 'schematic.pdf', 'cut-list.pdf', 'cut-list.csv', 'splices.csv', 'labels.pdf', 'harness.json']) {
      const got = await file(page, id, f);
      expect(got.status, f).toBe(200);
      // nothing of this order is cut: the list has its head only
      expect(got.size, f).toBeGreaterThan(f === 'cut-list.csv' ? 80 : 400);
    }
    expect(await axe(page)).toEqual([]);
  });
  it('a kit whose two feeds meet is found as a back-feed, and shown', async () => {
    await at('ines');
    const id = await open(page, 'Drover 4');
    await page.goto(`${room.shop.base}/orders/${id}/fit`);
    await press(page, 'Add Bed lamp');
    await sees(page, /\d · Bed lamp/);
    await open(page, 'Drover 4', 'switches');
    await sees(page, /Back-feed\. tail-lamp wire to Bed lamp, plus: [\d.]+ A run backwards/, 30_000);
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[aria-label=Checks] > div')]
        .find((row) => row.innerText.includes('Back-feed'))!
        .querySelector('button')!
        .click(),
    );
    await page.waitForSelector('[data-wire="wire:tail>bed-lamp/strip.plus"]');
    await sees(page, /bed lamp switch on/);
    await page.goto(`${room.shop.base}/orders/${id}/fit`);
    await press(page, 'Take off Bed lamp');
    await page.waitForFunction(() => !/\d · Bed lamp/.test(document.body.innerText));
  });
  it('a circuit is led another way by touching a run, and its length follows', async () => {
    await at('ines');
    await withLooseBar('Drover 4');
    await open(page, 'Drover 4');
    await pick(page, 'loose-bar/bar#87>loose-bar/bar.plus');
    await sees(page, /12 AWG/);
    const length = () => page.$eval('[aria-label="What is picked"]', (e) => /(\d+ ft \d+ in)/.exec(e.textContent!)![1]!);
    const before = await length();
    await press(page, 'Lead it another way');
    await page.waitForSelector('[data-run="battery>bus-bar"]');
    await page.$eval('[data-run="battery>bus-bar"]', (e) => e.dispatchEvent(new MouseEvent('click', { bubbles: true })));
    await page.waitForSelector('[data-run="battery>bus-bar"][aria-pressed=true]');
    await page.waitForFunction(
      (b: string) => !document.querySelector('[aria-label="What is picked"]')!.textContent!.includes(b),
      {},
      before,
    );
    await page.$eval('[data-run="battery>bus-bar"]', (e) => e.dispatchEvent(new MouseEvent('click', { bubbles: true })));
    await page.waitForFunction(
      (b: string) => document.querySelector('[aria-label="What is picked"]')!.textContent!.includes(b),
      {},
      before,
    );
  });
  it('a lead is asked why before a way past hot parts that the wire does not stand', async () => {
    await at('ines');
    await withLooseBar('Drover 2');
    await open(page, 'Drover 2', 'circuits');
    await press(page, 'H\nRoof bar lamp', 'main');
    // just right where it is cool
    await page.select('#awg-loose-bar\\/bar', '16');
    await sees(page, /by hand \(ines\); Kadro chose \d+ AWG/);
    expect(await page.$('[role=dialog] #reason')).toBeNull();
    const hot = 'tunnel>rear-frame';
    await page.select('#route-loose-bar\\/bar', hot);
    await sees(page, 'Unsafe: only a lead may pass this');
    await sees(page, /fuse is above what the wire may carry/);
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('[role=dialog] #reason'));
    expect(await page.$eval('#route-loose-bar\\/bar', (e) => (e as HTMLSelectElement).value)).toBe('');
    await page.select('#route-loose-bar\\/bar', hot);
    await page.waitForSelector('#reason');
    await page.type('#reason', 'sleeved along the tunnel');
    await press(page, 'Pass it', '[role=dialog]');
    await page.waitForFunction((h: string) => document.querySelector<HTMLSelectElement>('#route-loose-bar\\/bar')!.value === h, {}, hot);
    for (let left = 2; left > 0; left--) {
      await press(page, 'Back to it', 'main');
      await page.waitForFunction(
        (n: number) => [...document.querySelectorAll('main button')].filter((b) => b.textContent === 'Back to it').length === n,
        {},
        left - 1,
      );
    }
  });
});

describe('a cart', () => {
  it('is dark while the reducer’s trigger is not connected, and the meter names the fault', async () => {
    await at('maud');
    await open(page, 'Parkway 48');
    await turn(page, 'Key', 'run');
    await turn(page, 'Lamp knob', 'on');
    await until(page, 'reducer-48/reducer', /awake/);
    await until(page, 'cart-road-lamps/head-left', /11\.\d V/);
    await turn(page, 'Lamp knob', 'off');
    await pick(page, 'reducer-48/trigger:wake:lead');
    await press(page, 'Open the joint');
    await until(page, 'reducer-48/reducer', /asleep/);
    await page.select('select[aria-label="Red probe"]', 'pp:reducer-out');
    await page.select('select[aria-label="Black probe"]', 'gnd:pack');
    // the little it gives asleep sags under whatever is connected
    await reading(page, /^[0-7]\.\d+ V/);
    await press(page, 'Close the joint');
    await reading(page, /^1[12]\.\d\d V/);
    await press(page, 'Switches', 'main');
    await sees(page, 'Brake pedal: pressed');
    await press(page, 'Cut and join', 'main');
    await sees(page, 'Splice sheet');
    await sees(page, /left over on the pieces|the rest leaves/);
  });
});

describe('a motorcycle with a relay kit', () => {
  it('a feed is chosen by hand, refused when it would blow, and the schools stand side by side', async () => {
    await at('ines');
    await open(page, 'Lapwing 500', 'circuits');
    await press(page, 'H\nHeated grips', 'main');
    await sees(page, 'Proved best for the whole');
    await sees(page, 'accessory plug, 2 A: needs 5 A, 1.6 A free of its 2 A fuse');
    await sees(page, 'factory plug kept');
    await page.select('#feed-heated-grips\\/grips', 'plug-2');
    await sees(page, 'Unsafe: only a lead may pass this');
    await page.type('#reason', 'to see what happens');
    await press(page, 'Pass it', '[role=dialog]');
    await sees(page, /What the hand changes/);
    await press(page, 'Schematic', 'main');
    await page.waitForSelector('[data-block]');
    await turn(page, 'Key', 'run');
    await turn(page, 'Grip controller', 'high');
    await sees(page, /accessory plug, 2 A, the unit’s fuse blows: [45]\.?\d* A/);
    await press(page, 'Circuits', 'main');
    await press(page, 'Back to it', 'main');
    await sees(page, '3 circuits fed, sized and fused');
    await press(page, 'Schematic', 'main');
    await page.waitForSelector('[data-block]');
    await turn(page, 'Auxiliary lamp switch', 'on');
    await until(page, 'aux-lamps/lamps#relay', /pulled in/);
  });
});

describe('the boat’s panel', () => {
  it('bow and stern under way, the stern alone at anchor; its harness is saved and opened again', async () => {
    await at('tor');
    const id = await open(page, 'Sandbar 21');
    await turn(page, 'Navigation switch', 'under way');
    await until(page, 'nav-lights/port', /12\.\d V/);
    await until(page, 'nav-lights/white', /12\.\d V/);
    await turn(page, 'Navigation switch', 'at anchor');
    await until(page, 'nav-lights/white', /12\.\d V/);
    await page.waitForFunction(() => !/12\.\d V/.test(document.querySelector('[data-block="nav-lights/port"]')!.textContent!));
    expect(await block(page, 'nav-lights/port')).not.toMatch(/ V/);
    await press(page, 'Switches', 'main');
    await sees(page, /Days to the reserve/);
    const text = (await page.evaluate((o: string) => fetch(`/api/orders/${o}/wiring/harness.json`).then((r) => r.text()), id)) as string;
    const folder = mkdtempSync(join(tmpdir(), 'kadro-harness-'));
    try {
      const [good, bad] = [join(folder, 'boat.json'), join(folder, 'bad.json')];
      writeFileSync(good, text);
      writeFileSync(bad, readFileSync(good, 'utf8').replaceAll('"bat-"', '"lost"'));
      await page.goto(`${room.shop.base}/tools/harness`);
      const input = (await page.waitForSelector('input[type=file]'))! as unknown as { uploadFile(f: string): Promise<void> };
      await input.uploadFile(bad);
      await sees(page, 'a harness needs the node “bat-”');
      await input.uploadFile(good);
      await page.waitForSelector('[data-block="nav-lights/port"]');
      await turn(page, 'Navigation switch', 'under way');
      await until(page, 'nav-lights/port', /12\.\d V/);
      await sees(page, /All [\d,]+ reachable states tried/);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
    expect(await axe(page)).toEqual([]);
  });
});
