import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { go, openRoom, press, sees, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

describe('the week', () => {
  it('stands on the Floor: a unit is touched, its promise told, and a lead decides its bay, which stays', async () => {
    const page = await room.person('ines');
    await go(page, '/floor');
    await page.waitForSelector('[aria-label="Bays by hours"] button', { timeout: 30_000 });
    const label = await page.$eval('[aria-label="Bays by hours"] button', (b) => (b as HTMLElement).dataset.says!);
    expect(label).toMatch(/^\d{4} .*, in .* from \w{3} \d\d:\d\d to /);
    // touched, a unit has the same edge all around; one that stands there too short for its mark keeps its verdict as the left one
    const edges = () =>
      page.$$eval('[aria-label="Bays by hours"] button', (all) =>
        all.map((b) => {
          const s = getComputedStyle(b);
          return { left: `${s.borderLeftWidth} ${s.borderLeftColor}`, top: `${s.borderTopWidth} ${s.borderTopColor}` };
        }),
      );
    const before = await edges();
    const short = before.findIndex((e) => e.left.startsWith('5px'));
    const at = Math.max(0, short);
    const touch = () => page.$$eval('[aria-label="Bays by hours"] button', (all, i) => (all[i] as HTMLElement).click(), at);
    await touch();
    await page.waitForSelector('[aria-label="Bays by hours"] button[aria-pressed=true]');
    const touched = (await edges())[at]!;
    expect(touched.top).not.toBe(before[at]!.top);
    expect(touched.left).toBe(short < 0 ? touched.top : before[at]!.left);
    await touch();
    await page.waitForSelector('[aria-label="Bays by hours"] button[aria-pressed=true]', { hidden: true });
    await page.click('[aria-label="Bays by hours"] button');
    await sees(page, 'Decided by hand');
    await sees(page, /Likely ready/);
    const section = `[aria-label="Order ${label.slice(0, 4)} in the week"]`;
    await page.select(`${section} select`, 'lift');
    await page.waitForFunction(
      async (number: string) => {
        const { settings } = (await (await fetch('/api/settings')).json()) as { settings: { pins: { bay: string | null }[] } };
        return settings.pins.some((p) => p.bay === 'lift') && number;
      },
      {},
      label.slice(0, 4),
    );
    await page.reload();
    await page.waitForSelector('[aria-label="Bays by hours"] button', { timeout: 30_000 });
    // as it was planned before stands there meanwhile
    await page.waitForFunction(() => !document.querySelector('main')!.innerText.includes('planned anew'));
    const labels = await page.$$eval('[aria-label="Bays by hours"] button', (all) => all.map((b) => (b as HTMLElement).dataset.says!));
    const again = labels.find((l) => l.startsWith(label.slice(0, 4)));
    // beyond the days that are drawn it stands in no picture
    if (again) expect(again).toContain('in Lift');
    // dragged to another bay it stands there
    const unit = (await page.$('[aria-label="Bays by hours"] button'))!;
    const said = await unit.evaluate((b) => (b as HTMLElement).dataset.says!);
    const bay = said.includes('in Floor bay') ? 'Stand' : 'Floor bay';
    const row = await page.evaluateHandle(
      (name: string) => [...document.querySelectorAll('[aria-label="Bays by hours"] span')].find((s) => s.textContent === name)!,
      bay,
    );
    const [here, there] = [(await unit.boundingBox())!, (await row.asElement()!.boundingBox())!];
    const y = there.y + there.height / 2;
    await page.mouse.move(here.x + 8, here.y + here.height / 2);
    await page.mouse.down();
    await page.mouse.move(here.x + 20, here.y + here.height / 2 + 4, { steps: 4 });
    await page.mouse.move(here.x + 12, y, { steps: 8 });
    await page.mouse.up();
    await page.waitForFunction(
      async (number: string, name: string) => {
        const { settings } = (await (await fetch('/api/settings')).json()) as {
          settings: { pins: { order: string; bay: string | null }[]; bays: { id: string; name: string }[] };
        };
        const { orders } = (await (await fetch('/api/floor')).json()) as { orders: { id: string; number: number }[] };
        const id = orders.find((o) => String(o.number) === number)!.id;
        return settings.pins.find((x) => x.order === id)?.bay === settings.bays.find((b) => b.name === name)!.id;
      },
      {},
      said.slice(0, 4),
      bay,
    );
    await press(page, 'For the wall');
    await page.waitForFunction(() => location.pathname === '/wall');
    await sees(page, 'Trailer bay');
  });
  it('follows from the shop’s hours, where a slip is told at its day and a change is seen at once', async () => {
    const page = await room.person('ines', TABLET);
    await go(page, '/shop/week');
    await page.waitForSelector('[aria-label="What follows"]', { timeout: 30_000 });
    const monday = '#shop-mon';
    const type = async (text: string) => {
      await page.$eval(monday, (e) => (e as HTMLInputElement).select());
      await page.type(monday, text);
      await page.keyboard.press('Enter');
    };
    await type('eight to five');
    await sees(page, 'is no shift');
    await type('17-8');
    await sees(page, 'ends before it begins');
    await type('7-12, 12:45-18:30');
    await sees(page, 'Saved');
    expect(await page.$eval(monday, (e) => (e as HTMLInputElement).value)).toBe('07:00-12:00, 12:45-18:30');
  });
});

describe('while the week is planned', () => {
  it('stands there as it was planned last', async () => {
    const page = await room.person('tor');
    await go(page, '/floor');
    await page.waitForSelector('[aria-label="Bays by hours"] button', { timeout: 30_000 });
    await page.evaluateOnNewDocument(() => {
      const fetched = window.fetch;
      const later = new Promise<void>((done) => addEventListener('planned', () => done()));
      window.fetch = async (...asked) => {
        if (asked[0] === '/api/week') await later;
        return fetched(...asked);
      };
    });
    await page.reload();
    await page.waitForSelector('[aria-label="Bays by hours"] button', { timeout: 30_000 });
    await sees(page, /as planned at \d\d:\d\d, planned anew now/);
    await page.evaluate(() => dispatchEvent(new Event('planned')));
    await page.waitForFunction(() => !document.querySelector('main')!.innerText.includes('as planned at'));
    await page.waitForSelector('[aria-label="Bays by hours"] button');
  });
});

describe('the desk', () => {
  it('says when a unit could be ready, and takes it in with that promise and its kits', async () => {
    const page = await room.person('wyn');
    await go(page, '/orders/when');
    await page.waitForSelector('#when-unit option[value="drover-2"]');
    await page.select('#when-unit', 'drover-2');
    await page.evaluate(() =>
      [...document.querySelectorAll('fieldset label')]
        .find((l) => l.textContent.startsWith('Roof bar lamp'))!
        .querySelector('input')!
        .click(),
    );
    await press(page, 'When could it be ready?');
    await sees(page, 'Ready by', 30_000);
    await sees(page, /holds 80 times in 100/);
    await press(page, 'Take it in with this promise');
    await page.waitForFunction(() => location.pathname === '/orders/new');
    await sees(page, 'With Roof bar lamp 120 W');
    await page.type('#owner', 'Orla Tarr');
    await page.type('#meter', '10');
    await press(page, 'Take it in');
    await page.waitForFunction(() => location.pathname.endsWith('/fit'), { timeout: 30_000 });
    await sees(page, 'Roof bar lamp 120 W');
    const kits = await page.evaluate(async () => {
      const { order } = (await (await fetch(`/api/orders/${location.pathname.split('/')[2]}`)).json()) as {
        order: { kits: { kit: { id: string } }[] };
      };
      return order.kits.map((k) => k.kit.id);
    });
    expect(kits).toEqual(['roof-bar']);
  });
});

describe('the month', () => {
  it('tells promises kept, and each figure opens its orders', async () => {
    const page = await room.person('oda');
    await go(page, '/shop/month');
    await sees(page, /\d+ handed over, \d+ of them by the promise/);
    await page.waitForSelector('[aria-label="Minutes of an order, planned and spent, by kit"] svg');
    await page.click('[aria-label="By person"] summary');
    await page.click('[aria-label="By person"] details[open] a');
    await page.waitForFunction(() => location.pathname.endsWith('/handover'));
  });
});
