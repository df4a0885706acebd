import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inOtherUnits } from '../other-units';
import { openRoom, read, TABLET, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

const VIEWS = [
  'arrive',
  'fit',
  'power',
  'wire',
  'wire?show=circuits',
  'lamps',
  'plan',
  'bench',
  'handover',
  'log',
  'paper/owner',
  'paper/plan',
];
const PLACES = [
  '/floor',
  '/orders',
  '/orders/new',
  '/sheets',
  '/shop/house',
  '/shop/account',
  '/shop/people',
  '/shop/rules',
  '/shop/prices',
  '/shop/stock',
  '/parts',
  '/parts?see=count',
  '/parts?see=moves',
];

/** What of a view's words lies over other words, or is cut off with nothing that says the rest. */
const laidBadly = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    const pieces: { text: string; rect: DOMRect; in: Element; node: Node }[] = [];
    const out: string[] = [];
    const shown = (e: Element) =>
      e.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true }) && !e.closest('svg, option, [aria-hidden=true]');
    for (let n = walker.nextNode(); n; n = walker.nextNode()) {
      const e = n.parentElement!;
      const text = n.textContent!.trim();
      if (!text || !shown(e)) continue;
      const range = document.createRange();
      range.selectNodeContents(n);
      // what a scrolled box hides is not seen
      const clip = { left: 0, top: 0, right: innerWidth, bottom: innerHeight };
      for (let a: Element | null = e; a; a = a.parentElement) {
        if (getComputedStyle(a).overflow === 'visible') continue;
        const r = a.getBoundingClientRect();
        Object.assign(clip, {
          left: Math.max(clip.left, r.left),
          top: Math.max(clip.top, r.top),
          right: Math.min(clip.right, r.right),
          bottom: Math.min(clip.bottom, r.bottom),
        });
      }
      for (const r of range.getClientRects()) {
        const [left, top] = [Math.max(r.left, clip.left), Math.max(r.top, clip.top)];
        const [right, bottom] = [Math.min(r.right, clip.right), Math.min(r.bottom, clip.bottom)];
        if (right - left > 2 && bottom - top > 2)
          pieces.push({ text, rect: new DOMRect(left, top, right - left, bottom - top), in: e, node: n });
      }
      const cut = getComputedStyle(e);
      if (cut.textOverflow === 'ellipsis' && e.scrollWidth > e.clientWidth + 1 && !e.closest('[title]'))
        out.push(`cut off: ${text.slice(0, 60)}`);
    }
    // a dialog, or a bar that stays, lies over what it covers on purpose
    const layer = (e: Element) => {
      for (let a: Element | null = e; a; a = a.parentElement) {
        const p = getComputedStyle(a).position;
        if (p === 'fixed' || p === 'sticky') return a;
      }
      return document.body;
    };
    for (let i = 0; i < pieces.length; i++)
      for (let j = i + 1; j < pieces.length; j++) {
        const [a, b] = [pieces[i]!, pieces[j]!];
        const across = Math.min(a.rect.right, b.rect.right) - Math.max(a.rect.left, b.rect.left);
        const down = Math.min(a.rect.bottom, b.rect.bottom) - Math.max(a.rect.top, b.rect.top);
        // lines of one paragraph touch by their leading
        if (a.node !== b.node && across > 2 && down > Math.min(a.rect.height, b.rect.height) * 0.45 && layer(a.in) === layer(b.in))
          out.push(`“${a.text.slice(0, 40)}” over “${b.text.slice(0, 40)}”`);
      }
    return [...new Set(out)];
  });

async function look(page: Page, path: string): Promise<void> {
  await page.evaluate((p: string) => {
    history.pushState({}, '', p);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);
  await page.waitForFunction(
    (p: string) =>
      location.pathname + location.search === p && !!document.querySelector('main h1, main h2, main h3, [data-paper] h1, main p'),
    { polling: 60 },
    path,
  );
  // until what it says stands still
  for (let before = ''; ;) {
    const now = await page.evaluate(() => document.body.innerText);
    if (now === before) return;
    before = now;
    await new Promise((r) => setTimeout(r, 150));
  }
}

const inUnits = (page: Page, units: string): Promise<number> =>
  page.evaluate(async (value: string) => {
    const { versions } = (await (await fetch('/api/settings')).json()) as { versions: Record<string, number> };
    const changes = [{ field: 'units', value, version: versions.units ?? 0 }];
    const r = await fetch('/api/settings', {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ changes }),
    });
    return r.status;
  }, units);

/** The floor, with an owner and an installer of the longest names that are taken. */
async function ordersOf(page: Page): Promise<{ id: string; name: string }[]> {
  const { orders } = await read<{ orders: { id: string; version: number; summary: { unitName: string } }[] }>(page, '/api/floor');
  const list = orders.map((o) => ({ id: o.id, name: o.summary.unitName, version: o.version }));
  await page.evaluate(async ({ id, version }) => {
    const owner = 'Wilhelmina Featherstonehaugh-Cholmondeley of the Skerry Point Lantern Week Trust';
    await fetch(`/api/orders/${id}/events`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'If-Match': `"${version}"`, 'Idempotency-Key': crypto.randomUUID() },
      body: JSON.stringify({ type: 'arrive.changed', patch: { owner: owner.slice(0, 80) } }),
    });
  }, list[0]!);
  return list;
}

describe.each([
  ['at the desk of an imperial shop', { width: 1280, height: 800 }, 'imperial'],
  ['on the tablet of a metric shop', TABLET, 'metric'],
] as const)('%s', (_name, size, units) => {
  it('no words lie over others or are cut off, and no figure is in another system of units than the shop’s', async () => {
    const page = await room.person('ines', size);
    const orders = await ordersOf(page);
    expect(await inUnits(page, units)).toBe(200);
    await page.reload();
    await page.waitForSelector('nav[aria-label=Places]');
    const found: string[] = [];
    const see = async (path: string, where: string) => {
      await look(page, path);
      found.push(...(await laidBadly(page)).map((f) => `${where}: ${f}`));
      await page.$$eval('main details', (list) => list.forEach((d) => (d.open = true)));
      found.push(...inOtherUnits(await page.evaluate(() => document.body.innerText), units).map((f) => `${where}: ${f}`));
    };
    for (const o of orders) for (const v of VIEWS) await see(`/orders/${o.id}/${v}`, `${o.name} ${v}`);
    for (const p of PLACES) await see(p, p);
    expect([...new Set(found)]).toEqual([]);
  });
});
