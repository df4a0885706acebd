import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { besideLimit, figure, parseQuantity, sayInUnits, showQuantity } from './quantity';

describe('reading what is typed', () => {
  it.each([
    ['3/4in', 'smallLength', 19.05],
    ['19 mm', 'smallLength', 19],
    ['1 1/2 in', 'smallLength', 38.1],
    ['2', 'smallLength', 50.8],
    ['9ft 2in', 'length', 2.794],
    ['9\' 2"', 'length', 2.794],
    ['2.8 m', 'length', 2.8],
    ['2,8m', 'length', 2.8],
    ['350mm', 'length', 0.35],
    ['10', 'length', 3.048],
    ['12.4', 'volts', 12.4],
    ['12.4 v', 'volts', 12.4],
    ['850 mV', 'volts', 0.85],
    ['15mA', 'amps', 0.015],
    ['35', 'force', 155.68775653],
    ['35 lb', 'force', 155.68775653],
    ['150 N', 'force', 150],
    ['-0.2', 'volts', -0.2],
  ] as const)('%s as %s', (typed, kind, si) => {
    expect(parseQuantity(typed, kind, 'imperial')).toBeCloseTo(si, 6);
  });
  it('takes a bare number in the shop’s units', () => {
    expect(parseQuantity('2', 'length', 'metric')).toBe(2);
    expect(parseQuantity('2', 'length', 'imperial')).toBeCloseTo(0.6096, 9);
  });
  it.each([
    ['', /type a figure/],
    ['abc', /not a figure/],
    ['12 bananas', /“bananas” is not a unit/],
    ['12 V', /not a unit for this/],
    ['1 2', /two figures/],
    ['1/0in', /not a figure/],
    ['Infinity', /not a figure/],
  ])('refuses “%s”', (typed, message) => {
    expect(() => parseQuantity(typed, 'length', 'imperial')).toThrow(message);
  });
  it('what is shown can be read back, to what is shown', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.03, max: 50, noNaN: true }), fc.constantFrom('imperial' as const, 'metric' as const), (m, system) => {
        expect(Math.abs(parseQuantity(showQuantity(m, 'length', system), 'length', system) - m)).toBeLessThan(
          system === 'imperial' ? 0.0128 : 0.006 * m + 1e-9,
        );
      }),
    );
  });
});

describe('showing figures', () => {
  it.each([
    [11.234, '11.2'],
    [0, '0'],
    [1234.5, '1,235'],
    [0.05678, '0.0568'],
    [250.4, '250'],
    [12, '12'],
  ])('%f as %s', (x, text) => expect(figure(x)).toBe(text));
  it.each([
    [2.794, 'length', 'imperial', '9 ft 2 in'],
    [0.1, 'length', 'imperial', '4 in'],
    [19.05, 'smallLength', 'imperial', '3/4 in'],
    [38.1, 'smallLength', 'imperial', '1 1/2 in'],
    [2.794, 'length', 'metric', '2.79 m'],
    [155.7, 'force', 'imperial', '35 lbf'],
  ] as const)('%f %s %s', (si, kind, system, text) => expect(showQuantity(si, kind, system)).toBe(text));
  it.each([
    [0.0704, 10.3, 0.1],
    [9.1999, 10.3, 9.2],
    [1.7712, 3.85, 1.77],
    [0.4, 20, 0.4],
    [20, 20, 20],
    // past it, or short of it, by less than is shown
    [10.04, 10, 10.04],
    [9.98, 10, 9.98],
  ])('%f beside a limit of %f as %f', (x, limit, shown) => expect(besideLimit(x, limit)).toBe(shown));
  it('a sentence’s millimetres and kilograms follow the shop, other figures stay', () => {
    const text = 'Left headlamp is 19 mm too low; 178 kg left, 85 a minute, 12 mm2';
    expect(sayInUnits(text, 'metric')).toBe(text);
    expect(sayInUnits(text, 'imperial')).toBe('Left headlamp is 3/4 in too low; 392 lb left, 85 a minute, 12 mm2');
    expect(sayInUnits('540.5 mm, at 1,372 mm', 'imperial')).toBe('21.3 in, at 1,372 mm');
    // as kept with all its figures, and as read
    expect(sayInUnits('Tug: 133.447 N, 2.7432 m away, in 5 min', 'imperial')).toBe('Tug: 30 lbf, 9 ft away, in 5 min');
    expect(sayInUnits('Tug: 133.447 N', 'metric')).toBe('Tug: 133 N');
    expect(sayInUnits('a cut-out of 165 × 110 mm', 'imperial')).toBe('a cut-out of 6 1/2 in × 4 5/16 in');
    expect(sayInUnits('40 km at 39 km/h and -10 °C', 'imperial')).toBe('24.85 mi at 24.23 mph and 14 °F');
  });
});
