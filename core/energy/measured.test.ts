import { describe, expect, it } from 'vitest';
import type { OrderCommand } from '../events/registry';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { measuredSource, SOURCE_FACTS } from './measured';
import { withCommands } from './remedies';
import { sourceAmps } from './source';

const told = (facts: Record<string, number>, volts?: number) => {
  const made = demoOrder('drover-4', ['road-kit', 'front-harness', 'roof-bar']);
  const commands = Object.entries(facts).map(([key, value]): OrderCommand => ({ type: 'fact.told', key, value, label: key }));
  const { order, sheets } = withCommands(made.order, made.sheets, commands, []);
  if (volts !== undefined)
    order.steps['prove/charging'] = {
      status: 'todo',
      seconds: 0,
      readings: {
        volts: {
          value: volts,
          expected: { low: null, high: null, unit: 'V', why: '' },
          verdict: 'holds',
          origin: { how: 'typed' },
          at: '',
          by: 'tor',
        },
      },
    };
  return { order, sheets, power: assess(order, sheets, DEFAULT_SETTINGS).power };
};
const idle = (x: ReturnType<typeof told>) => x.power.checks.find((c) => c.id === 'idle')!;

describe('what the bench measured', () => {
  it('replaces the sheet’s amperes and judges anew', () => {
    const sheet = told({});
    expect(sheet.power.measured).toEqual([]);
    const weak = told({ [SOURCE_FACTS.idle]: 18 });
    expect(idle(weak).margin.limit!).toBeCloseTo(idle(sheet).margin.limit! - 6, 6);
    expect(idle(weak).verdict).toBe('fails');
    expect(weak.power.measured[0]).toMatch(/18 A at 1200 rpm measured, 24 A on the sheet/);
    expect(weak.power.system.sourceMeasured).toBe(true);
  });
  it('scales the curve between idle and working speed', () => {
    const { order, sheets } = told({ [SOURCE_FACTS.idle]: 18, [SOURCE_FACTS.working]: 50 });
    const s = measuredSource(order, sheets.model)!.source;
    expect(sourceAmps(s, 1200)).toBeCloseTo(18, 9);
    expect(sourceAmps(s, 3500)).toBeCloseTo(50, 9);
    const sheet = sheets.model.electrical.source as typeof s;
    const middle = sourceAmps(s, 2000) / sourceAmps(sheet, 2000);
    expect(middle).toBeGreaterThan(0.75);
    expect(middle).toBeLessThan(1);
    s.curve.forEach((c, i) => i && expect(c[1]).toBeGreaterThanOrEqual(s.curve[i - 1]![1]));
  });
  it('takes volts at the battery for the regulator’s only where the source still holds them', () => {
    expect(told({}, 14.0).power.system.source!.regulatedV).toBe(14.0);
    expect(told({}, 12.9).power.system.source!.regulatedV).toBe(14.2);
    expect(told({}, 16).power.system.source!.regulatedV).toBe(14.2);
  });
  it('at the regulator’s volts fewer amperes are no news: no more was asked', () => {
    expect(told({ [SOURCE_FACTS.idle]: 18, [SOURCE_FACTS.volts]: 14.2 }).power.measured).toEqual([]);
    expect(told({ [SOURCE_FACTS.idle]: 18, [SOURCE_FACTS.volts]: 12.8 }).power.measured).toHaveLength(1);
    expect(told({ [SOURCE_FACTS.idle]: 27, [SOURCE_FACTS.volts]: 14.2 }).power.measured).toHaveLength(1);
  });
  it('does not move the band that the reading itself is judged by', () => {
    const band = (x: ReturnType<typeof told>) =>
      assess(x.order, x.sheets, DEFAULT_SETTINGS)
        .steps.find((s) => s.id === 'prove/charging')!
        .readings.map((r) => [r.expected.low, r.expected.high]);
    expect(band(told({}, 13.9))).toEqual(band(told({})));
  });
});
