import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Order } from '#model/order';
import { assessed, demoOrder } from '../../tests/demo-sheets';
import { canonical } from '../canonical';
import { applyEvent, replay, type Happened } from './apply';
import { decide } from './decide';
import type { OrderCommand } from './registry';
import { lastOf } from './undo';

/** An order on which several people ask for things, a minute apart. */
function floor() {
  const { order: first, sheets } = demoOrder('drover-4', ['front-harness', 'roof-bar']);
  // what was done to make the order is not theirs to take back
  let order: Order = { ...first, undo: {} };
  const begun = order;
  const happened: Happened[] = [];
  const ask = (command: OrderCommand, by = 'tor') => {
    const body = decide(command, order, {
      role: 'lead',
      sheets,
      settings: DEFAULT_SETTINGS,
      assessment: assessed(order, sheets),
      by,
      known: { people: ['tor', 'maud'], hasPhoto: () => true, kit: () => null },
    });
    const doneAt = new Date(Date.UTC(2026, 2, 2, 9, order.version)).toISOString();
    const event = { seq: order.version + 1, doneAt, by, body };
    happened.push(event);
    order = applyEvent(order, order.id, event);
    return body;
  };
  const undo = (by = 'tor') => ask({ type: 'action.undone', says: lastOf(order, by)?.says ?? 'nothing' }, by);
  /** all that an order is but for what is of the record itself */
  const state = () => canonical({ ...order, version: 0, lastDone: {}, undo: {} });
  return { ask, undo, state, now: () => order, first: begun, happened };
}

const finding = (text: string): OrderCommand => ({ type: 'finding.added', text });

describe('the last action of a person', () => {
  it('is taken back, one after another, and what others did since stays', () => {
    const f = floor();
    const before = f.state();
    f.ask({ type: 'bench.assigned', to: 'maud' });
    const assigned = f.state();
    f.ask(finding('mine'));
    f.ask(finding('hers'), 'maud');
    expect(f.undo()).toMatchObject({ says: 'Finding: mine' });
    expect(f.now().findings.map((x) => x.text)).toEqual(['hers']);
    f.undo('maud');
    expect(f.state()).toBe(assigned);
    f.undo();
    expect(f.state()).toBe(before);
    expect(() => f.undo()).toThrow(/nothing of yours/);
  });
  it('a step that is taken back runs its clock on, and a kit comes back with its count and what was put in by hand', () => {
    const f = floor();
    f.ask({ type: 'step.started', step: 'safe/rest' });
    f.ask({ type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: 12.7, go: true });
    expect(f.now().steps['safe/rest']!.status).toBe('done');
    f.undo();
    expect(f.now().steps['safe/rest']).toBeUndefined();
    expect(f.now().clocks).toMatchObject([{ step: 'safe/rest', by: 'tor' }]);
    f.ask({ type: 'box.counted', kit: 'roof-bar', item: 0, count: 1 });
    const had = f.state();
    f.ask({ type: 'kit.removed', kit: 'roof-bar' });
    f.undo();
    expect(f.state()).toBe(had);
  });
  it('is refused once somebody changed the same, or where another than was seen is the last', () => {
    const f = floor();
    f.ask({ type: 'bench.assigned', to: 'maud' });
    f.ask({ type: 'bench.assigned', to: 'tor' }, 'maud');
    expect(() => f.undo()).toThrow(/changed since/);
    expect(() => f.ask({ type: 'action.undone', says: 'Finding: x' })).toThrow(/The last thing you did here is “On the bench of maud”/);
  });
  it('ends where the order is cancelled, which takes nothing more until it is reopened', () => {
    const f = floor();
    f.ask(finding('x'));
    f.ask({ type: 'order.cancelled', reason: 'taken in by mistake' });
    expect(() => f.ask(finding('y'))).toThrow(/cancelled. Reopen it/);
    expect(() => f.undo()).toThrow(/cancelled/);
    f.ask({ type: 'order.reopened' });
    expect(() => f.ask({ type: 'order.reopened' })).toThrow(/is open/);
    expect(() => f.undo()).toThrow(/nothing of yours/);
    f.ask(finding('y'));
    expect(f.now()).toMatchObject({ status: 'open', cancelled: null });
  });
  it('whatever two people did, taking all of one’s back leaves the other’s, and the record gives the same state again', () => {
    const command = fc.constantFrom<OrderCommand>(
      finding('a'),
      finding('b'),
      { type: 'step.started', step: 'safe/rest' },
      { type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: 12.7 },
      { type: 'fitted.added', item: { id: 'radio', name: 'Radio', watts: 20, duty: 1, via: 'tap', place: null } as never },
      { type: 'fact.told', key: 'battery.age', value: 2, label: 'age' } as never,
      { type: 'photo.taken', photo: 'a'.repeat(64), note: '' },
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(command, fc.boolean()), { maxLength: 8 }), (asked) => {
        const f = floor();
        const alone = floor();
        for (const [c, mine] of asked) {
          const attempt = (x: ReturnType<typeof floor>, by: string) => {
            try {
              x.ask(c, by);
            } catch {
              // refused: nothing was recorded
            }
          };
          attempt(f, mine ? 'tor' : 'maud');
          if (!mine) attempt(alone, 'maud');
        }
        let refused = false;
        while (!refused && lastOf(f.now(), 'tor')) {
          try {
            f.undo();
          } catch {
            refused = true;
          }
        }
        const kept = (o: Order) => o.findings.filter((x) => x.by === 'maud').length + o.photos.filter((x) => x.by === 'maud').length;
        expect(kept(f.now())).toBe(kept(alone.now()));
        expect(canonical(f.happened.reduce<Order>((o, e) => applyEvent(o, o.id, e), f.first))).toBe(canonical(f.now()));
        // a state that was kept as JSON between two events becomes the same
        const stored = (o: Order) => JSON.parse(canonical(o)) as Order;
        expect(canonical(f.happened.reduce<Order>((o, e) => stored(applyEvent(o, o.id, e)), stored(f.first)))).toBe(canonical(f.now()));
      }),
      { numRuns: 40 },
    );
  });
});

it('a history can be replayed from nothing but its events', () => {
  const opening = { type: 'order.opened' as const, number: 1, opening: { owner: 'x' } as never };
  expect(replay('o', [{ seq: 1, doneAt: '2026-03-02T08:00:00.000Z', by: 'tor', body: opening }]).undo).toEqual({});
});
