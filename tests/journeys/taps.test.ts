import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'puppeteer-core';
import { addKit, handOver, openRoom, press, sees, station, TABLET, takeIn, tapsOf, workTheBench, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

/** Counts what each part of an order took, digits on the pad counted, and prints it. */
function counter(page: Page, unit: string) {
  const parts: string[] = [];
  let before = 0;
  return {
    upTo: (part: string) => {
      parts.push(`${part} ${tapsOf(page) - before}`);
      before = tapsOf(page);
    },
    told: (asked: number) => {
      console.log(`${unit}: ${tapsOf(page)} taps (${asked} asked): ${parts.join(', ')}`);
      expect(tapsOf(page)).toBeLessThanOrEqual(asked);
    },
  };
}

/** From the door to the sealed sheet, by somebody who knows the way and makes no mistake. */
async function through(
  unit: Parameters<typeof takeIn>[2],
  kits: string[],
  asked: number,
  lamps?: (page: Page) => Promise<unknown>,
): Promise<void> {
  const page = await room.person('ines', TABLET);
  const count = counter(page, unit.model);
  await takeIn(room, page, unit);
  // the number names the year: nobody types it
  await sees(page, 'as its number says');
  await press(page, 'Take it in');
  count.upTo('door');
  for (const kit of kits) await addKit(page, kit);
  count.upTo('kits');
  if (lamps) {
    await station(page, 'Lamps');
    await lamps(page);
    count.upTo('lamps');
  }
  await station(page, 'Bench');
  await sees(page, 'Key off and out');
  const steps = await workTheBench(page);
  count.upTo(`bench with ${steps.length} steps`);
  await handOver(page, unit.owner);
  count.upTo('hand over');
  count.told(asked);
}

describe('taps from the door to the sealed sheet', () => {
  it('a boat', () => through({ model: 'sandbar-21', identity: 'ABC12345D424', owner: 'Tam', rest: '12.8' }, ['Navigation lights'], 45));
  it('a motorcycle', () =>
    through({ model: 'lapwing-500', identity: '1M8GDM9A7RP042788', owner: 'Siv', rest: '12.7' }, ['Heated grips 60 W'], 75));
  it('a golf cart', () =>
    through(
      { model: 'parkway-48', build: 'street', identity: '1M8GDM9AXSP042788', owner: 'Mei', rest: '50.2' },
      ['USB socket', 'Reducer 48 to 12 V, 20 A'],
      100,
    ));
  it('a side-by-side with three kits', () =>
    through(
      { model: 'drover-2', build: 'cab', identity: '1M8GDM9AXSP042788', owner: 'Runa', rest: '12.7' },
      ['Road kit', 'Front accessory harness', 'Roof bar lamp 120 W'],
      130,
    ));
});
