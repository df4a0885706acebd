import { describe, expect, it } from 'vitest';
import type { EventBody } from '../events/registry';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoKit, demoOrder } from '../../tests/demo-sheets';
import { assess } from './assess';
import { nameWords, wordsOf } from './search';
import { summarise } from './summary';

const VIN = '1M8GDM9AXKP042788';
const at = (model: string, kits: string[], more: Parameters<typeof demoOrder>[2] = {}, ...events: EventBody[]) => {
  const made = demoOrder(model, kits, { identity: VIN, ...more });
  const order = after(made.order, ...events);
  const sheets = { ...made.sheets, kits: order.kits.map((k) => demoKit(k.kit.id)) };
  return { order, summary: summarise(order, sheets, assess(order, sheets, DEFAULT_SETTINGS)) };
};

describe('where an order stands', () => {
  it.each([
    ['without volts at rest', 'drover-2', ['roof-bar'], { restVolts: null }, 'arrive', /volts at rest/],
    ['without kits', 'drover-2', [], {}, 'fit', /choose kits/],
    ['with a kit that needs another first', 'drover-2', ['road-kit'], {}, 'fit', /front accessory harness must come first/],
    ['with a source too weak', 'lapwing-500', ['heated-grips'], {}, 'power', /by 1.8 A at idle/],
    ['with lamps not known', 'drover-4', ['roof-bar'], {}, 'lamps', /to settle/],
    ['ready for a bay', 'drover-2', ['roof-bar'], {}, 'bench', /a bay/],
  ] as const)('%s', (_, model, kits, more, station, waits) => {
    const { summary } = at(model, [...kits], more);
    expect(summary.station).toBe(station);
    expect(summary.waitsFor).toMatch(waits);
  });
  it('a part that is short comes before all else it waits for', () => {
    const { summary } = at(
      'drover-2',
      ['roof-bar'],
      {},
      { type: 'box.counted', kit: 'roof-bar', item: 1, count: 1, label: 'clamp', took: [] },
    );
    expect(summary.waitsFor).toBe('parts: clamp');
  });
  it('work begun is at the bench, whatever else is owed', () => {
    const { summary } = at('lapwing-500', ['heated-grips'], {}, { type: 'step.started', step: 'safe/rest', title: 'x' });
    expect(summary.station).toBe('bench');
    expect(summary.waitsFor).toMatch(/\d+ steps to go/);
  });
  it('a wrong number keeps the arrival mark failing', () => {
    expect(at('drover-2', ['roof-bar'], { identity: '1M8GDM9A1KP042788' }).summary.stations.arrive).toEqual({
      verdict: 'fails',
      owed: 'number',
    });
  });
  it('is found by number, unit, owner, identity, kits, condition and bench', () => {
    const { order, summary } = at(
      'drover-2',
      ['roof-bar'],
      {},
      { type: 'bench.assigned', to: 'maud' },
      { type: 'arrive.changed', patch: { condition: 'dented' } },
    );
    const words = nameWords({ type: 'bench.assigned', to: 'maud' }, order.number, order.unit.model.id, order.condition, summary);
    for (const text of ['7', 'Aldermoor', 'Drover 2', 'Lio', VIN, 'Roof bar lamp', 'dented', 'maud'])
      expect(words).toEqual(expect.arrayContaining(wordsOf(text)));
    expect(nameWords({ type: 'timer.stopped' }, 7, 'drover-2', '', summary)).toEqual([]);
  });
});
