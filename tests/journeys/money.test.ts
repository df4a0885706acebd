import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'puppeteer-core';
import { axe, eventsOf, go, idOf, openRoom, press, sees, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

/** The telephone of a unit’s owner. */
const TELEPHONE = { width: 390, height: 844 };

/** Nothing is wider than the telephone, and what is touched has room for a thumb. */
const fitsTelephone = (page: Page) =>
  page.evaluate(() => ({
    wide: document.documentElement.scrollWidth > innerWidth,
    small: [...document.querySelectorAll<HTMLElement>('button, summary, textarea, input')]
      .filter((e) => e.offsetHeight > 0 && e.offsetHeight < 44)
      .map((e) => e.innerText || e.tagName),
  }));

describe('money, from the desk to the owner and back', () => {
  it('a quote with options is given at the desk, agreed on the owner’s telephone, and what turned up is asked and billed', async () => {
    const desk = await room.person('wyn');
    const id = await idOf(desk, 'Tern 300');
    await go(desk, `/orders/${id}/price`);
    await desk.waitForSelector('article[aria-label="As planned"]');
    // a kit’s choice is another option, computed beside the first
    await press(desk, 'Another option');
    const other = await desk.$eval('[aria-label="What is otherwise in option 2"]', (s) => (s as HTMLSelectElement).options[1]!.value);
    await desk.select('[aria-label="What is otherwise in option 2"]', other);
    await desk.waitForFunction(() => document.querySelectorAll('article[aria-label]').length === 2);
    await desk.type('#quote-off', '1.000,5');
    await sees(desk, 'a share as 5 %, or an amount as 20.00');
    await desk.$eval('#quote-off', (e) => (e as HTMLInputElement).select());
    await desk.type('#quote-off', '5 %');
    await press(desk, 'Give this quote');
    await sees(desk, /Quoted .* or .* USD/);
    await press(desk, 'Owner’s page');
    await press(desk, 'Make an address');
    await desk.waitForSelector('[data-part="owner-link"]');
    expect(
      await desk.$eval('[aria-label="The address as a code to point a telephone at"] path', (p) => p.getAttribute('d')!.length),
    ).toBeGreaterThan(500);
    const address = await desk.$eval('[data-part="owner-link"]', (e) => e.textContent!);

    const phone = await room.person('maud', TELEPHONE);
    // nobody is signed in there
    await phone.evaluate(() => fetch('/api/session', { method: 'DELETE' }));
    await phone.goto(address);
    await sees(phone, 'Agree to A');
    expect(await fitsTelephone(phone)).toEqual({ wide: false, small: [] });
    expect(await axe(phone)).toEqual([]);
    await press(phone, 'Agree to A');
    await press(phone, 'Yes, I agree');
    await sees(phone, 'Agreed: As planned');
    await phone.type('#ask', 'Can I come at five?');
    await press(phone, 'Send');
    await sees(phone, 'The answer stands here');

    // the desk sees both, and answers
    await sees(desk, 'Can I come at five?', 30_000);
    await desk.type('[aria-label="Your answer"]', 'Yes, until six');
    await press(desk, 'Answer');
    await press(desk, 'Quote');
    await sees(desk, /Agreed by /);

    const bench = await room.person('tor', TABLET);
    await go(bench, `/orders/${id}/price?see=extras`);
    await bench.type('#extra-title', 'Clean the posts');
    await bench.select('#extra-place', 'battery');
    await bench.type('#extra-minutes', '20');
    await press(bench, 'Ask the owner');
    await sees(bench, 'say why: the owner decides by it');
    await bench.type('#extra-why', 'They are green, and the start suffers');
    await press(bench, 'Ask the owner');
    await sees(bench, 'it is not done before it is agreed');

    // the bench shows it before the record has it
    await expect.poll(async () => (await eventsOf(desk, id)).some((e) => e.says.includes('Clean the posts'))).toBe(true);
    await phone.reload();
    await sees(phone, 'Yes, until six');
    await sees(phone, 'Turned up while working');
    await press(phone, 'Agree');
    await press(phone, 'Yes, I agree');
    await sees(phone, 'You agreed');
    await sees(bench, /Agreed by .*/, 30_000);

    await go(desk, `/orders/${id}/price?see=bill`);
    await sees(desk, 'Clean the posts: agreed, and not done');
    await press(desk, 'Make the bill');
    await sees(desk, 'Owing');
    await press(desk, 'Mark as paid');
    await sees(desk, 'Paid');
    // the desk shows it before the record has it
    await desk.waitForFunction(
      (order: string) =>
        fetch(`/api/orders/${order}`)
          .then((r) => r.json())
          .then((d: { order: { money?: { bill: { paid: unknown } | null } } }) => Boolean(d.order.money?.bill?.paid)),
      { timeout: 30_000, polling: 500 },
      id,
    );
    await phone.reload();
    await sees(phone, 'Paid');

    // withdrawn, it shows nothing
    await press(desk, 'Owner’s page');
    await press(desk, 'Withdraw');
    await sees(desk, 'Make an address');
    await phone.reload();
    await sees(phone, 'Nothing is here');
    expect(await phone.evaluate(() => document.body.innerText)).not.toContain('Tern');
  });

  it('prices and taxes are kept, with what is wrong named by its line, and only by a lead', async () => {
    const lead = await room.person('ines');
    await go(lead, '/shop/prices');
    const field = '[aria-label="Price of Auxiliary driving lamps"]';
    await lead.waitForSelector(field);
    await lead.$eval(field, (e) => (e as HTMLInputElement).select());
    await lead.type(field, '1.000,5');
    await sees(lead, 'Auxiliary driving lamps: an amount as 1000.50');
    await lead.$eval(field, (e) => (e as HTMLInputElement).select());
    await lead.type(field, '199.00');
    await press(lead, 'Save the price book');
    await lead.waitForFunction(async () => {
      const { settings } = (await (await fetch('/api/settings')).json()) as {
        settings: { priceBook: { kits: { kit: string; price: string }[] } };
      };
      return settings.priceBook.kits.find((k) => k.kit === 'aux-lamps')?.price === '199.00';
    });
    const bench = await room.person('tor');
    await go(bench, '/shop/prices');
    await bench.waitForSelector(field);
    expect(await bench.$eval(field, (e) => (e as HTMLInputElement).disabled)).toBe(true);
  });
});
