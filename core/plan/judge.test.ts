import { describe, expect, it } from 'vitest';
import { parseQuantity, showQuantity } from '../quantity/quantity';
import { READING_DIGITS } from '../quantity/reading-units';
import { judgeReading } from './judge';

describe('a reading beside its limits', () => {
  const band = (low: number | null, high: number | null, unit: 'N' | 'V' | 'mm' = 'V') => ({ low, high, unit, why: '' });
  it('what reads as equal to a limit passes it, whatever unit it was typed in', () => {
    for (const lbf of [5, 10, 15, 30, 55]) {
      const low = lbf * 4.4482216152605;
      const typed = parseQuantity(showQuantity(low, 'force', 'imperial', READING_DIGITS), 'force', 'imperial');
      expect(judgeReading(typed, band(low, null, 'N')), `${lbf} lbf`).toBe('holds');
      expect(judgeReading(parseQuantity(`${lbf - 0.1}`, 'force', 'imperial'), band(low, null, 'N'))).toBe('fails');
    }
    expect(judgeReading(30, band(null, 30))).toBe('holds');
    expect(judgeReading(30.1, band(null, 30))).toBe('fails');
  });
});
