import { describe, expect, it } from 'vitest';
import { parseQuantity } from './quantity';
import { unsay } from './spoken';

describe('spoken figures', () => {
  it.each([
    ['twelve point four volts', '12.4 volts'],
    ['twelve point oh five', '12.05'],
    ['minus one hundred and twenty', '-120'],
    ['one hundred twenty milliamps', '120 milliamps'],
    ['forty-eight point one', '48.1'],
    ['two thousand three hundred', '2300'],
    ['three eighths inch', '3/8 inch'],
    ['two and a half inches', '2 1/2 inches'],
    ['half an inch', '1/2 inch'],
    ['thirteen point twenty five', '13.25'],
    ['12.4', '12.4'],
    ['9 ft 2 in', '9 ft 2 in'],
  ])('%s is %s', (said, figure) => expect(unsay(said)).toBe(figure));

  it.each([
    ['fourteen point two volts', 'volts', 14.2],
    ['14.2 volts', 'volts', 14.2],
    ['minus zero point three volts', 'volts', -0.3],
    ['two hundred milliamps', 'amps', 0.2],
    ['eighty amps', 'amps', 80],
    ['four point seven kilohms', 'ohms', 4700],
    ['point five ohms', 'ohms', 0.5],
    ['ninety beats per minute', 'rate', 90],
    ['ninety per minute', 'rate', 90],
    ['twenty five millimetres', 'smallLength', 25],
    ['three quarters of an inch', 'smallLength', 19.05],
    ['one inch', 'smallLength', 25.4],
    ['ten pounds', 'force', 44.482216152605],
    ['forty newtons', 'force', 40],
  ] as const)('%s as %s', (said, kind, si) => expect(parseQuantity(said, kind, 'metric')).toBeCloseTo(si, 6));

  it('what is no figure is still refused, in the words that were said', () => {
    expect(() => parseQuantity('about right', 'volts', 'metric')).toThrow(/about right/);
    expect(() => parseQuantity('twelve amps', 'volts', 'metric')).toThrow(/not a unit/);
  });
});
