import { describe, expect, it } from 'vitest';
import { ImpossibleInput } from '../errors';
import { bankOhms, cellAt, cellOf, givingOhms, ohmsFromCca, restVolts, shareAt, takingOhms, usableShare } from './cell';

const bank = { chemistry: 'agm' as const, count: 1, voltsEach: 12, capacityAh: 30, ratedHours: 20, peukert: 1.1 };

describe('a battery as a cell', () => {
  it('a cranking rating gives back 7.2 V at its amperes and −18 °C (SAE J537, from memory)', () => {
    const cell = cellOf({ ...bank, cca: 400 }, 0);
    const cold = cellAt(cell, -18);
    expect(restVolts(cold, 1) - 400 * cold.ohms).toBeCloseTo(7.2, 6);
    expect(ohmsFromCca('agm', 800)).toBeCloseTo(ohmsFromCca('agm', 400) / 2, 12);
  });
  it('takes what the sheet says first, then the cranking rating, then kind and capacity', () => {
    expect(bankOhms({ ...bank, innerOhms: 0.05, cca: 300 })).toBe(0.05);
    expect(bankOhms({ ...bank, cca: 300 })).toBe(ohmsFromCca('agm', 300));
    expect(bankOhms(bank)).toBeCloseTo(0.22 / 30, 12);
    expect(bankOhms({ ...bank, count: 6, voltsEach: 8 })).toBeCloseTo((0.22 / 30) * 4, 12);
  });
  it('a battery of no capacity is named', () => {
    expect(() => cellOf({ ...bank, capacityAh: 0 }, 0)).toThrow(ImpossibleInput);
    expect(() => cellOf({ ...bank, capacityAh: 0 }, 0)).toThrow(/no capacity/);
  });
  it('cold locks charge in and raises resistance; age takes capacity', () => {
    const cell = cellOf(bank, 0);
    expect(usableShare(cell, 25)).toBe(1);
    expect(cellAt(cell, -18).floorAh).toBeCloseTo(30 * (1 - usableShare(cell, -18)), 9);
    expect(cellAt(cell, -18).ohms).toBeGreaterThan(1.5 * cellAt(cell, 25).ohms);
    const old = cellOf(bank, 0, 5);
    expect(old.capacityAh).toBeCloseTo(21, 9);
    expect(old.ohms).toBeCloseTo(cell.ohms * 1.5, 12);
    expect(cellOf(bank, 0, 100).capacityAh).toBeCloseTo(9, 9);
  });
  it('rest volts follow the table (BCI, flooded) and scale with the bank', () => {
    const flooded = cellAt(cellOf({ ...bank, chemistry: 'flooded' }, 0), 25);
    for (const [share, volts] of [
      [1, 12.65],
      [0.75, 12.45],
      [0.5, 12.24],
      [0.25, 12.06],
      [0, 11.89],
      [0.875, 12.55],
    ] as const)
      expect(restVolts(flooded, share)).toBeCloseTo(volts, 9);
    const pack = cellAt(cellOf({ ...bank, chemistry: 'flooded', count: 6, voltsEach: 8 }, 0), 25);
    expect(restVolts(pack, 1)).toBeCloseTo(12.65 * 4, 9);
    expect(shareAt(flooded, 15)).toBe(0.5);
    expect(shareAt(flooded, -1)).toBe(0);
    expect(shareAt(flooded, 99)).toBe(1);
  });
  it('takes less as less is missing, and an LFP battery nothing below freezing', () => {
    const c = cellAt(cellOf(bank, 0), 25);
    const taking = (share: number) => takingOhms(c, share, givingOhms(c, share));
    expect(taking(0.9)).toBeGreaterThan(taking(0.5));
    expect(taking(1)).toBeGreaterThan(1e3);
    expect(givingOhms(c, 0)).toBeCloseTo(c.ohms * 1.8, 12);
    // the ampere-hour rule: what is taken at the overvoltage of its kind is the missing charge, 1.6 times an hour for AGM
    expect(1.6 / (taking(0.5) - givingOhms(c, 0.5))).toBeCloseTo(1.6 * 15, 6);
    expect(takingOhms(cellAt(cellOf({ ...bank, chemistry: 'lfp' }, 0), -5), 0.5, 0.01)).toBe(Infinity);
  });
});
