import { describe, expect, it } from 'vitest';
import { MessageText, messageSettings } from '#model/message';
import type { Order } from '#model/order';
import { DEFAULT_SETTINGS, type Settings } from '#model/settings';
import type { EventBody } from '../events/registry';
import { dueMessages, filled, type Moment } from './due';

const order = (more: Partial<Order> = {}): Order =>
  ({
    number: 1042,
    status: 'open',
    owner: 'Orla',
    phone: '555-0142',
    promisedAt: '2026-03-05T16:00:00.000Z',
    steps: { a: { status: 'done' } },
    money: { quotes: [{ revision: 2 }], extras: [{ id: 'posts' }] },
    ...more,
  }) as unknown as Order;
const at = (station: Moment['station'], more: Partial<Order> = {}): Moment => ({ order: order(more), station });
const on: Settings = {
  ...DEFAULT_SETTINGS,
  shop: 'Skerry Point',
  messages: Object.fromEntries(Object.entries(DEFAULT_SETTINGS.messages).map(([k, m]) => [k, { ...m, on: true }])) as Settings['messages'],
};
const due = (before: Moment | null, after: Moment, type: string, settings = on) =>
  dueMessages(before, after, { type, revision: 2 } as unknown as EventBody, settings, 'Drover 4').map((m) => [m.kind, m.ref]);

describe('what an owner is told', () => {
  it('is told of each thing by what it is, and of nothing that the shop does not tell', () => {
    expect(due(at('fit'), at('fit'), 'quote.made')).toEqual([['quote', '2']]);
    expect(due(at('fit'), at('fit'), 'quote.agreed')).toEqual([['agreed', '2']]);
    expect(due(at('bench'), at('bench'), 'extra.asked')).toEqual([['extra', 'posts']]);
    expect(due(at('fit'), at('fit'), 'quote.made', DEFAULT_SETTINGS)).toEqual([]);
    expect(due(null, at('fit'), 'order.opened')).toEqual([]);
  });
  it('a promise is told where it is put later, not earlier', () => {
    const [later, earlier] = ['2026-03-06T16:00:00.000Z', '2026-03-04T16:00:00.000Z'];
    expect(due(at('fit'), at('fit', { promisedAt: later }), 'arrive.changed')).toEqual([['late', later]]);
    expect(due(at('fit'), at('fit', { promisedAt: earlier }), 'arrive.changed')).toEqual([]);
  });
  it('ready is what has been worked on and waits for its owner; one with nothing to do is not', () => {
    expect(due(at('bench'), at('handover'), 'step.done')).toEqual([['ready', 'ready']]);
    expect(due(at('handover'), at('handover'), 'step.done')).toEqual([]);
    expect(due(at('arrive', { steps: {} }), at('handover', { steps: {} }), 'kit.removed')).toEqual([]);
    expect(due(at('bench'), at('handover', { status: 'cancelled' }), 'order.cancelled')).toEqual([]);
  });
  it('is in the shop’s words, with times by its clocks, and leaves the page’s address for who sends it', () => {
    const settings: Settings = { ...on, timeZone: 'America/Denver' };
    const text = (kind: 'late' | 'extra') =>
      dueMessages(
        at('bench'),
        at('bench', { promisedAt: '2026-03-06T16:00:00.000Z' }),
        { type: kind === 'extra' ? 'extra.asked' : 'arrive.changed' } as unknown as EventBody,
        settings,
        'Drover 4',
      ).find((m) => m.kind === kind)!.text;
    expect(text('late')).toContain('Fri 6 Mar, 09:00');
    expect(text('late')).toMatch(/^Skerry Point: Orla, your Drover 4/);
    expect(text('extra')).toContain('{page}');
    expect(filled('{page} {nothing}', { page: 'x' })).toBe('x {nothing}');
  });
});

describe('a text', () => {
  const says = (text: string) => MessageText.safeParse({ on: true, text }).error?.issues[0]!.message;
  it.each([
    ['Come and fetch it', undefined],
    ['{owner}: {unit}', undefined],
    ['', 'say something'],
    ['{price} to pay', /\{price\} is nothing that can be told: \{owner\}/],
    ['Dear {owner', 'a brace stands alone'],
    ['x'.repeat(481), 'at most 480 characters'],
  ])('“%s”', (text, message) => {
    const said = says(text);
    if (message instanceof RegExp) expect(said).toMatch(message);
    else expect(said).toBe(message);
  });
  it('an address is one of the web, without a stroke at its end', () => {
    const { publicAddress } = messageSettings;
    expect(publicAddress.parse('https://fit.example/')).toBe('https://fit.example');
    expect(publicAddress.safeParse('fit.example').success).toBe(false);
    expect(publicAddress.safeParse('javascript:alert(1)').success).toBe(false);
    expect(publicAddress.parse('')).toBe('');
  });
});
