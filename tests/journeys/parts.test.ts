import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { encode } from 'uqr';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fill, go, idOf, openRoom, press, sees, TABLET, type Room } from './hand';

/** What the camera sees: a label that lies under it, as a film of one picture (YUV4MPEG2). */
function film(text: string): Buffer {
  const [w, h, point] = [640, 480, 10];
  const { data, size } = encode(text, { ecc: 'M', border: 4 });
  const light = Buffer.alloc(w * h, 235);
  const [left, top] = [Math.floor((w - size * point) / 2), Math.floor((h - size * point) / 2)];
  data.forEach((line, j) =>
    line.forEach((dark, i) => {
      for (let y = 0; dark && y < point; y++)
        light.fill(16, (top + j * point + y) * w + left + i * point, (top + j * point + y) * w + left + (i + 1) * point);
    }),
  );
  const frame = Buffer.concat([Buffer.from('FRAME\n'), light, Buffer.alloc((w * h) / 2, 128)]);
  return Buffer.concat([Buffer.from(`YUV4MPEG2 W${w} H${h} F10:1 Ip A1:1 C420jpeg\n`), frame, frame, frame]);
}

const folder = mkdtempSync(join(tmpdir(), 'kadro-camera-'));
let room: Room;
beforeAll(async () => {
  writeFileSync(join(folder, 'label.y4m'), film('fuse-blade-15|5|L-20'));
  room = await openRoom({
    flags: [
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${join(folder, 'label.y4m')}`,
    ],
  });
});
afterAll(async () => {
  await room.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A scanner types what it reads and ends it with Enter. */
async function scan(page: Page, label: string): Promise<void> {
  await (await page.waitForSelector('[aria-label="Scan a label"]'))!.click();
  await page.keyboard.type(label);
  await page.keyboard.press('Enter');
}
const valueOf = async (page: Page, label: string) =>
  (await page.waitForSelector(`[aria-label="${label}"]`))!.evaluate((e) => (e as HTMLInputElement).value);
const have = (page: Page, item: string) =>
  page.evaluate(
    async (id) =>
      ((await (await fetch('/api/settings')).json()) as { settings: { shelf: { id: string; have: number }[] } }).settings.shelf.find(
        (s) => s.id === id,
      )?.have ?? null,
    item,
  );

describe('parts', () => {
  it('says what waits and what is to be ordered; it is ordered, comes, is counted by label, and nothing waits any more', async () => {
    const desk = await room.person('wyn');
    await go(desk, '/parts');
    await sees(desk, /Greenway 36 waits for push-pull switch.*after its promise/);
    await sees(desk, '2 things are to be ordered');
    // a figure that cannot be is said, and nothing is sent
    await fill(desk, '[aria-label="How many to order: 15 A blade fuse (32 V) and holder"]', '2.5');
    await sees(desk, 'order whole ones');
    await fill(desk, '[aria-label="How many to order: 15 A blade fuse (32 V) and holder"]', '9');
    await press(desk, 'Order 2 things');
    await sees(desk, /in all, as the supplier says/);
    await press(desk, 'Order them', '[role=dialog]');
    await desk.waitForSelector('[role=dialog]', { hidden: true });
    await press(desk, 'On order');
    await sees(desk, /Order 2: comes/);

    // what came is counted at the tablet, label by label
    const tor = await room.person('tor', TABLET);
    await go(tor, '/parts?see=ordered');
    await press(tor, 'It came', '[aria-label="Order 1 to the supplier"]');
    await scan(tor, 'relay-12');
    await sees(tor, 'relay-12 was not ordered with order 1');
    await scan(tor, 'cart-basic-lamps-push-pull-switch|1|PPS-77');
    expect(await valueOf(tor, 'Came: push-pull switch, Basic cart lamps')).toBe('1');
    expect(await valueOf(tor, 'Serial or lot: push-pull switch, Basic cart lamps')).toBe('PPS-77');
    // what is counted waits on the tablet
    await tor.reload();
    await press(tor, 'Go on counting it', '[aria-label="Order 1 to the supplier"]');
    expect(await valueOf(tor, 'Came: push-pull switch, Basic cart lamps')).toBe('1');
    await press(tor, 'Put 1 thing on the shelf');
    await sees(tor, /Order 1, made .* all of it came/);
    await go(desk, '/parts');
    await sees(desk, 'butt splice, 22–18 AWG');
    await desk.waitForFunction(() => !document.body.innerText.includes('waits for'), { timeout: 30_000, polling: 200 });
    const id = await idOf(desk, 'Greenway 36');
    expect(
      await desk.evaluate(
        (order) =>
          fetch('/api/week')
            .then((r) => r.json())
            .then((w: { parts: { order: string }[] }) => w.parts.some((p) => p.order === order)),
        id,
      ),
    ).toBe(false);
  });
  it('the number that a thing came with stands on the order it was fitted to, on its papers, and finds it', async () => {
    const tor = await room.person('tor', TABLET);
    const id = await idOf(tor, 'Greenway 36');
    await go(tor, `/orders/${id}/handover`);
    await tor.waitForSelector('#lot-item');
    await tor.select('#lot-item', 'cart-basic-lamps-push-pull-switch');
    await press(tor, 'PPS-77', '[aria-label="Serial and lot numbers"]');
    await sees(tor, /push-pull switch, Basic cart lamps\s+PPS-77/);
    // a maker’s code is the number of what is in hand, a label of the shop names its thing
    await tor.select('#lot-item', 'cart-basic-lamps-push-pull-switch');
    await fill(tor, '#lot-number', 'SN 4411');
    await tor.keyboard.press('Enter');
    await sees(tor, /push-pull switch, Basic cart lamps\s+SN 4411/);
    await fill(tor, '#lot-number', 'cart-basic-lamps-push-pull-switch||PPS-77');
    await tor.keyboard.press('Enter');
    await sees(tor, 'has the number PPS-77 already');
    expect(await tor.$eval('#lot-number', (e) => (e as HTMLInputElement).value)).toContain('PPS-77');
    // at the bench the dialog that stays open says so itself
    await go(tor, `/orders/${id}/bench?step=cart-basic-lamps%2Fswitch`);
    await press(tor, 'Serial number');
    await tor.waitForSelector('[role=dialog] #lot-number');
    await fill(tor, '#lot-number', 'cart-basic-lamps-push-pull-switch||PPS-77');
    await tor.keyboard.press('Enter');
    await tor.waitForFunction(() => /has the number PPS-77 already/.test(document.querySelector('[role=dialog]')?.textContent ?? ''));
    // and once only: not dimmed behind it too
    const told = await tor.$$eval('[role=alert]', (all) => all.filter((e) => e.getClientRects().length).map((e) => e.textContent));
    expect(told.filter((t) => t.includes('has the number PPS-77 already'))).toHaveLength(1);
    await press(tor, 'Close', '[role=dialog]');
    await go(tor, `/orders/${id}/paper/owner`);
    await sees(tor, 'Serial and lot numbers: push-pull switch, Basic cart lamps: PPS-77, SN 4411');
    const desk = await room.person('wyn');
    await go(desk, '/orders?q=PPS-77');
    await sees(desk, 'Greenway 36');
    await sees(desk, 'Serial or lot number of push-pull switch');
  });
  it('the shelf is counted by scanner, by hand and by camera; what is not saved waits through a reload', async () => {
    const page = await room.person('ines');
    await go(page, '/parts?see=count');
    await scan(page, 'relay-12');
    await scan(page, 'relay-12|2');
    await scan(page, 'what is this');
    await sees(page, '“what is this” is no label of a part');
    await scan(page, '16 RD|30');
    await sees(page, 'Wire is counted in metres, spool by spool');
    await page.reload();
    await page.waitForSelector('[aria-label="Counted: relay, sealed, with its socket"]');
    expect(await valueOf(page, 'Counted: relay, sealed, with its socket')).toBe('3');
    await sees(page, '1 missing');
    await press(page, 'Camera');
    await page.waitForFunction(
      () => (document.querySelector('[aria-label="Counted: 15 A blade fuse (32 V) and holder"]') as HTMLInputElement | null)?.value === '5',
      { timeout: 60_000, polling: 100 },
    );
    await press(page, 'Camera off');
    await fill(page, '[aria-label="Counted: 15 A blade fuse (32 V) and holder"]', 'some');
    await sees(page, 'count whole ones');
    await fill(page, '[aria-label="Counted: 15 A blade fuse (32 V) and holder"]', '6');
    await press(page, 'Save 2 counts');
    await sees(page, 'Save 0 counts');
    expect([await have(page, 'relay-12'), await have(page, 'fuse-blade-15')]).toEqual([3, 6]);
    await press(page, 'More');
    await press(page, 'Came and went');
    await sees(page, 'counted: 6');
    await sees(page, 'came with order 1 to the supplier');
  });
  it('an owner is told in the shop’s words, and what could not be sent says why and is sent by hand', async () => {
    const page = await room.person('ines');
    await go(page, '/shop/messages');
    await fill(page, '[aria-label="Text: The promise is put later"]', '{owner}, {price}');
    await sees(page, '{price} is nothing that can be told');
    await fill(page, '[aria-label="Text: The promise is put later"]', '{owner}: {unit} comes later, {promise}.');
    await press(page, 'Save the texts');
    await sees(page, 'Saved');
    const id = await idOf(page, 'Tern 300');
    await page.evaluate(async (order) => {
      const { order: o } = (await (await fetch(`/api/orders/${order}`)).json()) as { order: { version: number } };
      await fetch(`/api/orders/${order}/events`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'If-Match': `"${o.version}"` },
        body: JSON.stringify({ type: 'arrive.changed', patch: { promisedAt: '2031-01-02T10:00:00.000Z' } }),
      });
    }, id);
    await go(page, `/orders/${id}/price?see=owner`);
    await sees(page, 'Not sent: nobody wrote down how the owner is reached');
    await sees(page, 'Lio: Wexholm Tern 300 comes later');
    await fill(page, '[aria-label="Telephone or mail"]', '555-0199');
    await press(page, 'Send it');
    await sees(page, /Sent .* to 555-0199/);
    await go(page, `/orders/${id}/log`);
    await sees(page, 'Message to 555-0199: Lio: Wexholm Tern 300 comes later');
  });
});
