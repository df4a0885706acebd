import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkIdentity } from '#core/identity/check';
import { checkHin } from '#core/identity/hin';
import { modelYear } from '#core/identity/model-year';
import { checkVin } from '#core/identity/vin';

describe('identity numbers', () => {
  it('49 CFR 565: the published example passes', () => {
    expect(checkVin('1M8GDM9AXKP042788')).toEqual({ valid: true, checked: true, expected: 'X', found: 'X', problems: [] });
  });
  it('49 CFR 565.15: the tenth character names the model year, where the years of the model tell which round of thirty', () => {
    const of = (vin: string, from: number, to: number) => modelYear('vin', vin, { from, to });
    expect([of('1M8GDM9AXKP042788', 2015, 2026), of('1M8GDM9AXKP042788', 1985, 1995)]).toEqual([2019, 1989]);
    expect([of('1M8GDM9AXKP042788', 2020, 2026), of('1M8GDM9AXKP042788', 1985, 2026), of('1M8GDM9', 2015, 2026)]).toEqual([
      null,
      null,
      null,
    ]);
    expect([of('1M8GDM9A_1P042788', 1995, 2005), of('1M8GDM9A_YP042788', 1995, 2005)]).toEqual([2001, 2000]);
  });
  it('33 CFR 181.25: the last two of a hull number are its model year', () => {
    expect(modelYear('hin', 'ABC12345D424', { from: 2020, to: 2026 })).toBe(2024);
    expect(modelYear('hin', 'US-ABC12345D498', { from: 1990, to: 2026 })).toBe(1998);
    expect(modelYear('maker', 'SN-24', { from: 2020, to: 2026 })).toBeNull();
  });
  it('49 CFR 565: seventeen ones pass', () => {
    expect(checkVin('1'.repeat(17)).valid).toBe(true);
  });
  it('any single wrong digit of the example is caught but where its weight is 11 or none', () => {
    const good = '1M8GDM9AXKP042788';
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 16 }), fc.constantFrom(...'0123456789'), (i, d) => {
        if (i === 8 || !/\d/.test(good[i]!) || good[i] === d) return;
        expect(checkVin(good.slice(0, i) + d + good.slice(i + 1)).valid).toBe(false);
      }),
    );
  });
  it('says how many characters stand there while it is typed, and which letter cannot be', () => {
    expect(checkVin('1M8GDM9').problems[0]).toBe('7 of 17 characters');
    expect(checkVin('1M8GDM9AXKPO42788').problems[0]).toMatch(/“O” in position 12.*is it 0/);
    expect(checkVin('1M8GDM9A1KP042788')).toMatchObject({ valid: false, expected: 'X', found: '1' });
  });
  it('ISO 3779: outside North America no check character is asked for, and one that differs says nothing', () => {
    expect(checkVin('WXX123456AB123456')).toMatchObject({ valid: true, checked: false });
    expect(checkVin('WXX12345')).toMatchObject({ valid: false });
    expect(checkIdentity('vin', 'WXX123456AB123456')).toMatchObject({
      verdict: 'unknown',
      says: expect.stringMatching(/accepted, not checked/),
    });
  });
  it('49 CFR 565: 0, U and Z are no model year, and the tail of a number is digits', () => {
    for (const year of ['0', 'U', 'Z']) expect(checkVin(`1M8GDM9AX${year}P042788`).problems.join()).toMatch(/position 10 is no model year/);
    expect(checkVin('1M8GDM9AXKP04278B').problems.join()).toMatch(/last four are digits/);
  });
  it('33 CFR 181: the two shapes from before August 1984 pass', () => {
    for (const hin of ['ABC12345M78D', 'ABC123450374']) expect(checkHin(hin)).toEqual({ valid: true, problems: [] });
    for (const hin of ['ABC12345M7XD', 'ABC123451374', 'ABC12345M78M']) expect(checkHin(hin).valid).toBe(false);
  });
  it('a number of another length is kept as the one that the unit carries, not known and with what will ask for it', () => {
    expect(checkIdentity('vin', 'FRAME-0042')).toMatchObject({
      verdict: 'unknown',
      says: expect.stringMatching(/not checked.*asks for a VIN/),
    });
    expect(checkIdentity('hin', 'SKIFF 17')).toMatchObject({ verdict: 'unknown', says: expect.stringMatching(/asks for a HIN/) });
    expect(checkIdentity('vin', '1M8GDM9A1KP042788').verdict).toBe('fails');
  });
  it('33 CFR 181: the published shape passes, with or without its country', () => {
    expect(checkHin('ABC12345D404')).toEqual({ valid: true, problems: [] });
    expect(checkHin('US-ABC12345D404').valid).toBe(true);
  });
  it('33 CFR 181: a wrong month, a short number and a digit in the maker’s code are named', () => {
    expect(checkHin('ABC12345M404').problems[0]).toMatch(/month letter/);
    expect(checkHin('ABC1234').problems[0]).toBe('7 of 12 characters');
    expect(checkHin('A1C12345D404').problems[0]).toMatch(/position 2/);
  });
});
