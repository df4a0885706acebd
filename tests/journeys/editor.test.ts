import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest';
import type { ElementHandle, Page } from 'puppeteer-core';
import { png } from '../picture';
import { axe, fill, idOf, openRoom, press, sees, seesNot, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

const value = (page: Page, id: string) => page.$eval(id, (e) => (e as HTMLInputElement).value);
/** Takes a place in hand as the keyboard does. */
const hold = (page: Page, view: string, place: string) =>
  page.$eval(`[data-view=${view}] [data-place="${place}"]`, (e) => (e as unknown as HTMLElement).focus());
const dot = (view: string, place: string) => `[data-view=${view}] [data-place="${place}"]`;

describe('a model’s sheet on its drawing', () => {
  it('places are dragged and typed, ways taped, taken back and made again, kept through a reload, and published with what they change', async () => {
    const page = await room.person('ines');
    await page.goto(`${room.shop.base}/sheets/model/drover-2`);
    await press(page, 'Edit');
    await sees(page, 'Touch a place to move it');
    expect(await axe(page)).toEqual([]);
    // dragged in the front view, the other side goes along
    const box = (await (await page.waitForSelector(dot('front', 'front-left-signal')))!.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 8, y - 18, { steps: 4 });
    await page.mouse.up();
    await sees(page, 'front left signal');
    const up = await value(page, '#place-z');
    expect(up).not.toBe('33 7/8 in');
    await hold(page, 'front', 'front-right-signal');
    await page.waitForFunction((z: string) => document.querySelector<HTMLInputElement>('#place-z')?.value === z, {}, up);
    // by keys, and taken back
    await page.keyboard.press('ArrowUp');
    await page.waitForFunction((z: string) => document.querySelector<HTMLInputElement>('#place-z')?.value !== z, {}, up);
    await press(page, 'Undo');
    await page.waitForFunction((z: string) => document.querySelector<HTMLInputElement>('#place-z')?.value === z, {}, up);
    await press(page, 'Redo');
    await press(page, 'Undo');
    // typed, it is known
    await fill(page, '#place-z', '36 in');
    await page.keyboard.press('Enter');
    await sees(page, 'measured');
    await fill(page, '#place-z', 'high');
    await page.keyboard.press('Enter');
    await sees(page, /“high” is not a figure/);
    // a draft outlives a reload
    await page.reload();
    await page.waitForSelector(dot('side', 'bus-bar'));
    await hold(page, 'side', 'front-left-signal');
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('#place-z')?.value === '36 in');
    // a way that is taped shorter than straight is worth a look, a new place and its way
    await hold(page, 'side', 'bus-bar');
    await page.waitForSelector('#way-dash');
    await fill(page, '#way-dash', '4 in');
    await page.keyboard.press('Enter');
    await sees(page, /and the straight line is/);
    await fill(page, '#way-dash', '60 in');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => !/and the straight line is/.test(document.body.innerText));
    await fill(page, '#new-place', 'Glove box');
    await press(page, 'Put it on the drawing');
    await sees(page, 'Nothing of the unit stands here.');
    await page.select('[aria-label="A way to"]', 'dash');
    await press(page, 'Add', 'aside');
    await page.waitForSelector('#way-dash');
    // another is drawn to the place that is touched, and taken by its line; what it passes is touched, and stands on it
    await press(page, 'Draw a way from here');
    await sees(page, 'where does it lead?');
    const middle = async (place: string): Promise<[number, number]> => {
      const box = (await (await page.waitForSelector(dot('side', place)))!.boundingBox())!;
      return [box.x + box.width / 2, box.y + box.height / 2];
    };
    await page.mouse.click(...(await middle('tunnel')));
    await sees(page, 'From Glove box to ');
    await press(page, 'All that can be edited');
    const [[x1, y1], [x2, y2]] = [await middle('pillar'), await middle('roof-front')];
    await page.mouse.click(x1 + 0.7 * (x2 - x1), y1 + 0.7 * (y2 - y1));
    await page.waitForSelector('[data-way="pillar..roof-front"]');
    await sees(page, 'sharp: grommet or edge trim');
    await press(page, 'heat', '[aria-label="The way in hand"]');
    await page.waitForFunction(() => document.querySelector('[data-view=side] [data-way] text')?.textContent === 'sharp, heat');
    await fill(page, '#way-length', '50 in');
    await page.keyboard.press('Enter');
    await sees(page, 'measured', 30_000);
    expect(await axe(page)).toEqual([]);
    await hold(page, 'side', 'glove-box');
    // a feed there, with its fuse; a panel that hides the place, after another; a point of the source's curve
    await page.select('#thing-kind', 'powerPoints');
    await fill(page, '#new-thing', 'glove box socket');
    await press(page, 'Add', 'aside');
    await page.waitForSelector('#thing-fuse');
    await fill(page, '#thing-fuse', '10 A');
    await page.keyboard.press('Enter');
    await sees(page, 'read off');
    await fill(page, '#thing-used', '12 A');
    await page.keyboard.press('Enter');
    await sees(page, 'its fuse of 10 A is under the 12 A that it feeds already');
    await fill(page, '#thing-used', '1 A');
    await page.keyboard.press('Enter');
    expect(await axe(page)).toEqual([]);
    await press(page, 'All that can be edited');
    await fill(page, '#new-panel', 'Glove box lid');
    await press(page, 'Add it');
    await sees(page, 'It hides nothing yet.');
    await page.$eval('[data-view=side] [data-place="glove-box"]', (e) => (e as unknown as HTMLElement).focus());
    await page.keyboard.press('Enter');
    await sees(page, 'Hides Glove box.');
    await press(page, 'Hood', '[aria-label="Off before it"]');
    await sees(page, 'First off: Hood.');
    await fill(page, '[aria-label="Of what"]', 'bolt M5');
    await press(page, 'Add what holds it');
    await sees(page, '4 × bolt M5, hands');
    expect(await axe(page)).toEqual([]);
    await press(page, 'All that can be edited');
    await press(page, 'Source, battery, sizes');
    await page.waitForSelector('[data-point="1"]');
    const amps = await value(page, '#curve-amps-1');
    await page.$eval('[data-point="1"]', (e) => (e as unknown as HTMLElement).focus());
    await page.keyboard.press('ArrowUp');
    await page.waitForFunction((was: string) => document.querySelector<HTMLInputElement>('#curve-amps-1')?.value !== was, {}, amps);
    expect(await axe(page)).toEqual([]);
    await press(page, 'Publish…');
    await sees(page, 'Glove box: new');
    await sees(page, 'Feed “glove box socket”: new');
    await sees(page, 'Panel “Glove box lid”: new');
    await sees(page, 'Source: curve');
    await sees(page, /Order \d+: /, 30_000);
    await fill(page, '#publish-reason', 'taped on two units');
    await press(page, 'Publish revision 2');
    await sees(page, 'revision 2, ines: taped on two units');
    expect(await seesNot(page, 'Publish')).toBe(true);
    // open orders keep theirs until they take it
    const id = await idOf(page, 'Drover 2');
    await page.goto(`${room.shop.base}/orders/${id}/arrive`);
    await sees(page, 'A newer sheet of this model is there');
    await press(page, 'What it would change');
    await press(page, 'Take it', '[aria-label="A newer sheet"]');
    await page.waitForFunction(() => !/A newer sheet of this model is there/.test(document.body.innerText));
    // who is no lead edits nothing
    const tor = await room.person('tor');
    await tor.goto(`${room.shop.base}/sheets/model/drover-2`);
    await sees(tor, 'revision 2');
    expect(await seesNot(tor, 'Edit')).toBe(true);
    await tor.goto(`${room.shop.base}/sheets/model/drover-2/edit`);
    await sees(tor, 'Sheets are edited by a lead or the owner.');
  });

  it('has a photograph behind it, straightened by four points, and places and fuses out of tables', async () => {
    const page = await room.person('ines');
    await page.goto(`${room.shop.base}/sheets/model/tern-300/edit`);
    await press(page, 'A photograph behind it…');
    const folder = mkdtempSync(join(tmpdir(), 'kadro-picture-'));
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
    const [file, none] = [join(folder, 'side.png'), join(folder, 'none.png')];
    writeFileSync(file, png(3, 800, 500));
    writeFileSync(none, 'no picture');
    const choose = async (path: string) =>
      ((await page.$('input[type=file][aria-label*="photograph"]')) as ElementHandle<HTMLInputElement>).uploadFile(path);
    await choose(none);
    await sees(page, 'That file is not a picture that this device can open.');
    await choose(file);
    await sees(page, 'Two points that are known set its size; four or more straighten it.');
    const mark = async (x: number, y: number, landmark: string) => {
      const box = (await (await page.waitForSelector('[data-part=photograph]'))!.boundingBox())!;
      await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
      await page.waitForSelector('#photo-point');
      await page.select('#photo-point', landmark);
    };
    await mark(0.2, 0.8, 'rear-hub');
    await mark(0.8, 0.85, 'front-hub');
    await sees(page, 'Turned and sized.');
    await mark(0.2, 0.3, 'front-top');
    await mark(0.8, 0.3, 'rear-top');
    // two that were mistaken for each other: it says so, and they are put right, one of them by a touch that takes it out
    await sees(page, 'look at the order of the points');
    await press(page, 'Take out: Corner of its front end and its top');
    await mark(0.86, 0.24, 'front-top');
    await mark(0.2, 0.3, 'rear-top');
    await sees(page, 'Straightened.');
    expect(await axe(page)).toEqual([]);
    await press(page, 'Put it behind the drawing');
    const href = await page.waitForFunction(() => document.querySelector('[data-view=side] image')?.getAttribute('href'));
    const picture = (await href.jsonValue())!;
    expect(await page.evaluate(async (u: string) => (await fetch(u)).headers.get('content-type'), picture)).toBe('image/jpeg');
    // a place by its name moved, another new; a row that cannot be is told
    await press(page, 'Places from a table…');
    await fill(page, '#table', 'Place\tx\ty\tz\nhelmet hook\t10\t0\t30\nnowhere\t10');
    await sees(page, 'row 3, nowhere: it is new, and needs all three figures: left out');
    await press(page, 'Take in 1 line');
    await page.waitForSelector('[data-place="helmet-hook"]');
    await press(page, 'A fuse list…');
    await fill(page, '#table', 'Circuit,Fuse,Live,Where\nheated vest,7.5,key,helmet hook');
    await press(page, 'Take in 1 line');
    await hold(page, 'side', 'helmet-hook');
    await press(page, 'heated vest', 'aside');
    await press(page, 'Its pinout from a table…');
    await fill(page, '#table', 'pin,colour,use\n1,brown,feed\n2,black,ground');
    await press(page, 'Take in 2 lines');
    await page.waitForSelector('[aria-label="Pins of its plug"]');
    expect(await axe(page)).toEqual([]);
    await press(page, 'Publish…');
    await sees(page, 'Photograph behind the side view: another');
    await fill(page, '#publish-reason', 'from its papers');
    await press(page, 'Publish revision 2');
    await sees(page, 'revision 2, ines: from its papers');
    await page.goto(`${room.shop.base}/sheets/model/tern-300/edit`);
    await page.waitForFunction((u: string) => document.querySelector('[data-view=side] image')?.getAttribute('href') === u, {}, picture);
    // what hides a light is added, drawn and moved by its corners
    await fill(page, '#new-box', 'Top case');
    await press(page, 'Add it', 'aside form:has(#new-box)');
    await page.waitForSelector('[data-view=side] [data-obstacle="top-case"]');
    await fill(page, '#obstacle-to-z', '50 in');
    await page.keyboard.press('Enter');
    expect(await axe(page)).toEqual([]);
    // somebody else publishes meanwhile: the draft is put onto that
    const published = await page.evaluate(async () => {
      const put = { pointer: '/massKg', how: 'maker', revision: 2, value: 171 };
      const headers = { 'Content-Type': 'application/json' };
      return (await fetch('/api/sheets/model/tern-300/values', { method: 'POST', headers, body: JSON.stringify(put) })).status;
    });
    expect(published).toBe(200);
    await page.reload();
    await sees(page, 'The sheet has become another since you began: what you changed is put onto that one.');
    await press(page, 'Publish…');
    await sees(page, 'What hides a light “Top case”: new');
    await press(page, 'Drop all changes');
    await page.waitForFunction(() => !/The sheet has become another|Top case/.test(document.body.innerText));
  });
});
