import { describe, expect, it } from 'vitest';
import { seeded } from '../random';
import { shiftsOf } from './shifts';
import { Taken } from './taken';

describe('what is taken of somebody’s time', () => {
  const DAY = [
    [10, 30],
    [40, 60],
    [100, 130],
  ] as const;

  it('is one stretch where what follows goes on after it, over a break too', () => {
    const t = new Taken(9, shiftsOf(DAY, 0));
    t.add(10, 20);
    t.add(40, 50);
    expect(t.count).toBe(2);
    t.add(20, 30);
    expect([t.count, t.inTheWay(12, 13), t.inTheWayFrom(45, 70)]).toEqual([1, 50, 10]);
    t.remove(20, 30);
    expect([t.count, t.gap(12, 20), t.gap(12, 21), t.inTheWay(20, 40)]).toEqual([2, 20, 50, -1]);
  });

  it('is as a list of all its minutes has it, whatever is put in and taken out', () => {
    const random = seeded(5);
    const int = (a: number, b: number) => a + Math.floor(random() * (b - a + 1));
    const shifts = shiftsOf(DAY, 0);
    const works = (m: number) => DAY.some(([a, b]) => m >= a && m < b);
    const t = new Taken(60, shifts);
    const there: [number, number][] = [];
    const isTaken = (m: number) => there.some(([a, b]) => m >= a && m < b);
    for (let x = 0; x < 600; x++) {
      if (there.length && random() < 0.45) t.remove(...there.splice(int(0, there.length - 1), 1)[0]!);
      else {
        const [from, to] = [int(10, 129), int(10, 130)];
        const free = Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i).every((m) => !isTaken(m));
        // work begins and ends while it is done
        if (to <= from || !free || !works(from) || !works(to - 1)) continue;
        t.add(from, to);
        there.push([from, to]);
      }
      for (let m = 10; m < 130; m++) if (works(m)) expect(t.inTheWay(m, m + 1) >= 0, `${m} after ${x}`).toBe(isTaken(m));
      for (let k = 1; k < t.count; k++) expect(t.from[k]! > t.to[k - 1]!).toBe(true);
    }
  });
});
