import { describe, expect, it } from 'vitest';
import { Phase } from '#model/day';
import { DEFAULT_SETTINGS } from '#model/settings';
import { UnitModel } from '#model/unit-model';
import { demoModel, demoOrder } from '../../tests/demo-sheets';
import { runCalculation } from '../calc/registry';
import { assess } from '../order/assess';

const asked = (regulatedV: number, chemistry: string, tempC = 25) => ({
  batteries: [{ capacityAh: 30, chemistry, socStart: 0.9, tempC }],
  source: { curve: [[1000, 40]], regulatedV },
  loads: [{ id: 'lamp', watts: 10 }],
  phases: [{ name: 'ride', minutes: 60, rpm: 3000, on: ['lamp'] }],
});
const verdict = (q: object) => (runCalculation('energy.day', q) as { verdict: string }).verdict;

describe('charging volts', () => {
  it('a 57 V regulator on a 12 V battery is refused, in a sheet at its field and in a day', () => {
    const m = structuredClone(demoModel('drover-4'));
    if (m.electrical.source.kind !== 'none') m.electrical.source.regulatedV = 57;
    const read = UnitModel.safeParse(m);
    expect(read.error!.issues.map((i) => [i.path.join('.'), i.message])).toEqual([
      ['electrical.source.regulatedV', 'a regulator of 57 V on a battery of 12 V would boil or burn it'],
    ]);
    expect(() => runCalculation('energy.day', asked(57, 'agm'))).toThrow(/57 V on batteries of 12 V/);
  });
  it('AGM or lithium at 16 V fails, and never holds; 14.2 V holds', () => {
    for (const c of ['agm', 'lfp', 'flooded']) {
      expect(verdict(asked(16, c))).toBe('fails');
      expect(verdict(asked(14.2, c))).toBe('holds');
    }
    const { order, sheets } = demoOrder('drover-4', []);
    const high = structuredClone(sheets);
    if (high.model.electrical.source.kind !== 'none') high.model.electrical.source.regulatedV = 16;
    const check = assess(order, high, DEFAULT_SETTINGS).power.checks.find((c) => c.id === 'charging-volts')!;
    expect(check.verdict).toBe('fails');
    expect(check.says).toMatch(/holds 16 V.*stands 14.8 V/);
    expect(assess(order, sheets, DEFAULT_SETTINGS).power.checks.find((c) => c.id === 'charging-volts')!.verdict).toBe('holds');
  });
});

describe('a battery that freezes', () => {
  const overnight = (tempC: number, restVolts: number) => {
    const { order, sheets } = demoOrder('drover-4', [], { restVolts });
    const phases = [Phase.parse({ id: 'night', name: 'Night outside', minutes: 600, rpm: 0, tempC })];
    const told = { ...order, days: [{ id: 'winter', name: 'Winter', phases }] };
    return assess(told, sheets, DEFAULT_SETTINGS).power;
  };
  it('is said where it is parked and over night, by its charge (battery handbooks: half charged about −24 °C)', () => {
    const half = overnight(-26, 12.2);
    expect(half.days[0]!.verdict).toBe('fails');
    expect(half.days[0]!.says).toMatch(/freezes in “Night outside”/);
    expect(half.checks.find((c) => c.id === 'parked')!).toMatchObject({
      verdict: 'fails',
      says: expect.stringMatching(/−?-?26 °C the battery freezes/),
    });
    expect(overnight(-26, 12.85).days[0]!.says).not.toMatch(/freezes/);
    expect(overnight(0, 12.2).days[0]!.says).not.toMatch(/freezes/);
  });
});

describe('volts that say nothing', () => {
  it.each([
    [13.6, /on charge, or just off it/],
    [10.5, /dead cell/],
  ])('%f V at arrival is no charge, and the verdict fails in words', (restVolts, says) => {
    const { order, sheets } = demoOrder('drover-4', [], { restVolts });
    const { rest } = assess(order, sheets, DEFAULT_SETTINGS);
    expect(rest).toMatchObject({ verdict: 'fails', soc: null });
    expect(rest.says).toMatch(says);
  });
  it('a deep-cycle pack has its own table, and every figure from volts its band', () => {
    const { order, sheets } = demoOrder('parkway-48', [], { restVolts: 12.1 * 4 });
    const { rest } = assess(order, sheets, DEFAULT_SETTINGS);
    expect(rest.soc).toBeCloseTo(0.5, 2);
    expect(rest.sum.map((l) => l.label)).toEqual(expect.arrayContaining(['At the least', 'At the most']));
  });
});
