import { describe, expect, it } from 'vitest';
import { assignFeeds, UNFED, type Wanting } from './assign';

const want = (id: string, amps: number, ...options: [string, number][]): Wanting => ({
  id,
  amps,
  options: options.map(([point, cost]) => ({ point, cost, mode: 'direct' })),
});

describe('feeds for all circuits together', () => {
  it('gives up one circuit’s best so that the whole is better', () => {
    // one by one, the heavier takes the stud and leaves the lighter none
    const a = assignFeeds([want('bar', 8, ['stud', 1], ['post', 2]), want('horn', 5, ['stud', 3])], new Map([['stud', 10]]));
    expect(a.chosen.get('bar')!.point).toBe('post');
    expect(a.chosen.get('horn')!.point).toBe('stud');
    expect(a).toMatchObject({ optimal: true, cost: 5, bound: 5 });
  });
  it('leaves a circuit without a feed only when nothing has room', () => {
    const a = assignFeeds([want('a', 6, ['p', 1]), want('b', 6, ['p', 1])], new Map([['p', 10]]));
    expect([...a.chosen.values()].filter((x) => x === null)).toHaveLength(1);
    expect(a.cost).toBe(UNFED + 1);
  });
  it('a point without a limit takes any number', () => {
    const all = Array.from({ length: 9 }, (_, i) => want(`c${i}`, 50, ['post', i]));
    expect(assignFeeds(all, new Map()).cost).toBe(36);
  });
  it('answers nothing for nothing, and no feed for a circuit without options', () => {
    expect(assignFeeds([], new Map())).toMatchObject({ cost: 0, optimal: true });
    expect(assignFeeds([want('lost', 1)], new Map()).chosen.get('lost')).toBeNull();
  });
  it('says its bound where there are too many to prove', () => {
    const many = Array.from({ length: 40 }, (_, i) =>
      want(
        `c${i}`,
        3 + (i % 7) * 0.91,
        ...Array.from({ length: 9 }, (_, k): [string, number] => [`p${k}`, ((i * 7 + k * 13) % 11) + 1 + k * 0.01]),
      ),
    );
    const room = new Map(Array.from({ length: 9 }, (_, k) => [`p${k}`, 19 + k] as const));
    const a = assignFeeds(many, room);
    expect(a.bound).toBeLessThanOrEqual(a.cost);
    expect(a.chosen.size).toBe(40);
    for (const [p, free] of room) {
      const used = many.filter((c) => a.chosen.get(c.id)?.point === p).reduce((s, c) => s + c.amps, 0);
      expect(used).toBeLessThanOrEqual(free + 1e-9);
    }
  });
});
