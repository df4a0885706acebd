import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { sayRenewed, whatChanges } from './renewed';
import { withValue } from './values';

const { order, sheets } = demoOrder('drover-2', ['front-harness', 'roof-bar']);

describe('what another revision of a sheet would change on an order', () => {
  it('nothing, where it says the same', () => {
    expect(whatChanges(order, sheets, structuredClone(sheets), DEFAULT_SETTINGS)).toEqual([]);
  });
  it('by name, from what to what', () => {
    const weak = { ...sheets, model: withValue(sheets.model, '/electrical/source/curve', 15) };
    const list = whatChanges(order, sheets, weak, DEFAULT_SETTINGS);
    expect(list).toContainEqual({ station: 'power', name: 'At idle, everything on', from: 'holds', to: 'fails' });
    expect(list.map(sayRenewed)).toContain('At idle, everything on: holds, then fails');
    // the other way round it is the other way round
    expect(whatChanges(order, weak, sheets, DEFAULT_SETTINGS).map((c) => [c.name, c.to, c.from])).toEqual(
      list.map((c) => [c.name, c.from, c.to]),
    );
  });
});
