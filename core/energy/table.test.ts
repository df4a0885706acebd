import { describe, expect, it } from 'vitest';
import { along } from './table';

describe('a table', () => {
  const up = [
    [0, 10],
    [10, 20],
    [20, 0],
  ] as const;
  it.each([
    [-5, 10],
    [0, 10],
    [5, 15],
    [10, 20],
    [15, 10],
    [20, 0],
    [99, 0],
  ])('at %f answers %f, whichever way it is ordered', (x, y) => {
    expect(along(up, x)).toBeCloseTo(y, 12);
    expect(along([...up].reverse(), x)).toBeCloseTo(y, 12);
  });
});
