import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { ImpossibleInput } from '../errors';
import { drivingRange, RETURN_RATIO, tapMonth, tappedOn } from './cart';

describe('range', () => {
  const { order, sheets } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps']);
  const { system, days } = assess(order, sheets, DEFAULT_SETTINGS).power;
  it('is energy over energy per kilometre, and less by what is added', () => {
    const r = drivingRange(system, days[0]!.day, 0.2)!;
    expect(r.usableWh).toBeCloseTo(150 * 48 * 0.8, 9);
    expect(r.withKm).toBeLessThan(r.plainKm);
    expect(r.lostPct).toBeCloseTo((100 * r.lostKm) / r.plainKm, 9);
    const own = 45;
    const kmh = 24 / 5.5;
    expect(r.plainKm).toBeCloseTo(r.usableWh / (105 + own / kmh), 6);
    expect(r.withKm).toBeCloseTo(r.usableWh / (105 + (own + r.addedW) / kmh), 6);
  });
  it('loses nothing where nothing is added', () => {
    const bare = demoOrder('parkway-48', []);
    const p = assess(bare.order, bare.sheets, DEFAULT_SETTINGS).power;
    expect(drivingRange(p.system, p.days[0]!.day, 0.2)!.lostKm).toBe(0);
  });
});

describe('tapping a pack', () => {
  it('takes what is added at the tap’s volts, from the batteries that it spans; nothing where nothing is added', () => {
    const { order, sheets } = demoOrder('greenway-36', ['cart-basic-lamps']);
    const p = assess(order, sheets, DEFAULT_SETTINGS).power;
    const day = p.days[0]!.day;
    const t = tappedOn(p.system, day, sheets.model, 0.2)!;
    expect([t.tapV, t.batteries]).toEqual([12, 2]);
    // the lamps are on for an hour and a half in the dark: 2 × 27 W and 2 × 3 W
    expect(t.tapAh).toBeCloseTo((60 * 1.5) / 12, 9);
    expect(t.driveAh).toBeCloseTo((95 * 24) / 36, 9);
    expect(t.month).toEqual(tapMonth(210, t.driveAh, t.tapAh, 0.2));
    const bare = demoOrder('greenway-36', []);
    expect(tappedOn(assess(bare.order, bare.sheets, DEFAULT_SETTINGS).power.system, day, sheets.model, 0.2)).toBeNull();
  });
  it('falls behind by what the charger’s surplus does not make up, day by day', () => {
    const m = tapMonth(200, 60, 8, 0.2);
    // what is not put back: the tap less the surplus of 5 % of the driving
    const lack = 8 - (RETURN_RATIO - 1) * 60;
    expect(m.days[0]).toEqual({ day: 1, tapped: 132 / 200, rest: 140 / 200 });
    expect(m.days[9]!.rest).toBeCloseTo(140 / 200, 12);
    expect(m.days[9]!.tapped).toBeCloseTo((132 - 9 * lack) / 200, 9);
    expect(m.underOn).toBe(1 + Math.floor((132 - 40) / lack) + 1);
    expect(m.lackAh).toBeGreaterThan(100);
  });
  it('a small tap is made up by the surplus', () => {
    const m = tapMonth(200, 60, 2.5, 0.2);
    expect(m.underOn).toBeNull();
    expect(m.lackAh).toBe(0);
    expect(m.days[29]!.tapped).toBeCloseTo((200 - 62.5) / 200, 9);
  });
  it('standing without driving, nothing is put back', () => {
    const m = tapMonth(200, 0, 10, 0.2);
    expect(m.underOn).toBe(17);
    expect(m.days[29]!.tapped).toBe(0);
    expect(() => tapMonth(200, -1, 2, 0.2)).toThrow(ImpossibleInput);
  });
});
