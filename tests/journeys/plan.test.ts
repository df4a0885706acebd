import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openingLike } from '../shop';
import { axe, eventsOf, fill, idOf, openRoom, press, sees, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

async function openPlan(page: Page, unit: string): Promise<string> {
  const id = await idOf(page, unit);
  await page.goto(`${room.shop.base}/orders/${id}/plan`);
  await sees(page, 'The work in its order');
  return id;
}
const order = (page: Page) => page.$$eval('[data-step]', (l) => l.map((e) => e.getAttribute('data-step')!));
/** Takes a step by its handle and keeps it in hand until the places for it are lit. */
async function lift(page: Page, step: string): Promise<void> {
  const handle = (await page.waitForSelector(`[data-step="${step}"] button[aria-label^="Move"]`))!;
  await handle.evaluate((e) => e.scrollIntoView({ block: 'center' }));
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 12, box.y + box.height / 2 + 6, { steps: 4 });
  await page.waitForSelector('[data-gap=allowed]');
}

describe('the plan of an order', () => {
  it('says that no order takes less, lights where a step may stand, says why not elsewhere, and keeps a step put by hand', async () => {
    const page = await room.person('ines');
    const id = await openPlan(page, 'Drover 4');
    await sees(
      page,
      /\d+ steps, \d+ minutes( and \d+ minutes of waiting \(its modules fall asleep\))?; no order takes less, and one tear-down saves \d+ minutes over kit by kit/,
    );
    await sees(page, 'One kit after another');
    const before = await order(page);
    await lift(page, 'wire/roof-bar/bar');
    const gaps = await page.$$eval('[data-gap]', (l) => l.map((e) => (e as HTMLElement).innerText));
    expect(gaps.some((g) => /^here: (no more minutes|[\d.]+ min more)$/.test(g))).toBe(true);
    expect(gaps.some((g) => /^not here: “Volts at .*” comes after “Wire|^not here: “.*” comes before/.test(g))).toBe(true);
    // the farthest: the nearest may be where it stands
    const target = (await page.$$('[data-gap=allowed]')).at(-1)!;
    await target.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    const box = (await target.boundingBox())!;
    await page.mouse.move(box.x + 120, box.y + box.height / 2, { steps: 12 });
    await page.mouse.up();
    await sees(page, 'put here by hand');
    await page.reload();
    await sees(page, 'put here by hand');
    expect((await order(page)).indexOf('wire/roof-bar/bar')).not.toBe(before.indexOf('wire/roof-bar/bar'));
    expect(await axe(page)).toEqual([]);
    await press(page, 'put here by hand', 'main');
    await page.waitForFunction(() => !document.body.innerText.includes('put here by hand'), { polling: 150 });
    expect(await order(page)).toEqual(before);
    // paper
    for (const file of ['plan.pdf', 'bag-labels.pdf']) {
      const head = await page.evaluate(
        async (url: string) => new TextDecoder().decode((await (await fetch(url)).arrayBuffer()).slice(0, 5)),
        `/api/orders/${id}/${file}`,
      );
      expect(head).toBe('%PDF-');
    }
  });

  it('takes off more or fishes, tries harnesses or not, with the minutes of each, at 1024 by 768', async () => {
    const page = await room.person('maud', TABLET);
    await openPlan(page, 'Lapwing 500');
    const steps = async () => Number(/(\d+) steps/.exec(await page.$eval('main h2', (e) => (e as HTMLElement).innerText))![1]);
    const minutes = async () => Number(/(\d+) minutes/.exec(await page.$eval('main h2', (e) => (e as HTMLElement).innerText))![1]);
    const told = (n: number) =>
      page.evaluate(
        (i: number) => parseInt(document.querySelectorAll('input[name=runs]')[i]!.parentElement!.innerText.match(/\d+(?= min)/)![0]),
        n,
      );
    const radio = (n: number) =>
      page.evaluate((i: number) => document.querySelectorAll<HTMLInputElement>('input[name=runs]')[i]!.click(), n);
    await radio(1);
    await page.waitForFunction(() => document.querySelectorAll<HTMLInputElement>('input[name=runs]')[1]!.checked, { polling: 100 });
    const fished = await minutes();
    expect(fished).toBe(await told(1));
    await radio(2);
    await page.waitForFunction(() => document.querySelectorAll<HTMLInputElement>('input[name=runs]')[2]!.checked, { polling: 100 });
    expect(await minutes()).toBe(await told(2));
    expect(await minutes()).not.toBe(fished);
    const all = await steps();
    const tried = () => page.$$eval('[data-step]', (l) => l.filter((e) => (e as HTMLElement).innerText.includes('Bench-test')).length);
    expect(await tried()).toBeGreaterThan(0);
    await page.evaluate(() => document.querySelector<HTMLInputElement>('main input[type=checkbox]')!.click());
    await page.waitForFunction(() => !document.querySelector<HTMLInputElement>('main input[type=checkbox]')!.checked, { polling: 100 });
    expect(await tried()).toBe(0);
    expect(await steps()).toBeLessThan(all);
    await page.reload();
    await sees(page, 'The work in its order');
    expect(await page.$eval('main input[type=checkbox]', (e) => (e as HTMLInputElement).checked)).toBe(false);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
  });
});

describe('fasteners at the bench', () => {
  it('a count that is short holds the panel, until it is said why', async () => {
    const page = await room.person('tor', TABLET);
    const id = await idOf(page, 'Drover 2');
    await page.goto(`${room.shop.base}/orders/${id}/bench?step=shut%2Fhood`);
    await sees(page, /All \d+ back, (yes, )?next/);
    const less = await page.$eval('main button[aria-label$=" less"]', (b) => b.getAttribute('aria-label')!);
    await press(page, less, 'main');
    await sees(page, /Close without 1 × /);
    await press(page, 'Close without 1', 'main');
    await fill(page, '#reason', 'was not there when it came');
    await press(page, 'Close without', '[role=dialog]');
    await sees(page, 'Closes without 1');
    await page.reload();
    await sees(page, 'was not there when it came');
    expect(await axe(page)).toEqual([]);
  });
});

describe('what the last one found, and time', () => {
  it('a finding made at a step stands there on the next unit of the model, and is confirmed; a clock is put right with a reason', async () => {
    const page = await room.person('maud', TABLET);
    const id = await idOf(page, 'Drover 2');
    const dossier = (await page.evaluate((i: string) => fetch(`/api/orders/${i}`).then((r) => r.json()), id)) as {
      order: { unit: { model: unknown; build: string; year: number }; kits: { kit: { id: string } }[] };
    };
    // the same model comes in again, with one of its kits
    const next = (await page.evaluate(
      async (body: string, kit: string) => {
        const made = (await (
          await fetch('/api/orders', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body })
        ).json()) as { id: string; version: number };
        await fetch(`/api/orders/${made.id}/events`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', 'If-Match': `"${made.version}"` },
          body: JSON.stringify({ type: 'kit.added', kit }),
        });
        return made;
      },
      JSON.stringify(openingLike(dossier.order.unit)),
      dossier.order.kits[0]!.kit.id,
    )) as { id: string };

    await page.goto(`${room.shop.base}/orders/${id}/bench?step=open%2Fhood`);
    await press(page, 'Finding', 'main');
    await fill(page, '#finding', 'A clip hides behind the badge');
    await press(page, 'Record', '[role=dialog]');
    // in the record before the next order is opened, which reads it once
    await expect.poll(async () => (await eventsOf(page, id)).some((e) => e.says.includes('hides behind the badge'))).toBe(true);
    await page.goto(`${room.shop.base}/orders/${next.id}/bench?step=open%2Fhood`);
    await sees(page, 'A clip hides behind the badge');
    await sees(page, 'not confirmed yet');
    await press(page, 'Still so', 'main');
    await sees(page, 'confirmed once');
    await page.goto(`${room.shop.base}/orders/${next.id}/fit`);
    await sees(page, 'A clip hides behind the badge');
    await press(page, 'Outdated', 'main');
    await sees(page, 'outdated, says maud');
    await page.goto(`${room.shop.base}/orders/${next.id}/bench?step=open%2Fhood`);
    await sees(page, /0:00 of/);
    expect(await page.evaluate(() => document.body.innerText.includes('Still so'))).toBe(false);

    await press(page, '0:00 of', 'main');
    await fill(page, '#took', 'six');
    await sees(page, 'Minutes from 0 to 1440');
    await fill(page, '#took', '6.5');
    await fill(page, '#why-time', 'forgot the clock');
    await press(page, 'Put it right', '[role=dialog]');
    await sees(page, /6:30 of/);
    expect(await axe(page)).toEqual([]);
    await page.goto(`${room.shop.base}/orders/${next.id}/log`);
    await sees(page, '6:30 instead of 0:00, because forgot the clock');
  });
});
