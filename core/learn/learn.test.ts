import { describe, expect, it } from 'vitest';
import { nthTime, slopeOf } from './curve';
import { Learned, type Worked } from './learn';
import { judgePromise, together } from './pace';

describe('the experience curve', () => {
  // a trade fact, common practice, no source: a first job of an hour, the second of half an hour
  it('a first job of 60 minutes and a second of 30 is a slope of 0.5', () => {
    expect(slopeOf(60, 30, 2)).toBeCloseTo(0.5, 12);
    expect(nthTime(60, 0.5, 2)).toBeCloseTo(30, 12);
    expect(nthTime(60, 0.5, 4)).toBeCloseTo(15, 12);
  });
  // Wright's own figure: at 80 % the second takes 0.8, the fourth 0.64, the eighth 0.512, the hundredth 0.227 of the first
  it.each([
    [2, 0.8],
    [4, 0.64],
    [8, 0.512],
    [100, 0.22706],
  ])('at 0.8 the job %i takes %f of the first', (n, share) => expect(nthTime(1, 0.8, n)).toBeCloseTo(share, 5));
  it('each doubling takes the same share, whatever the first', () => {
    for (const b of [0.75, 0.85, 0.95]) for (const n of [1, 3, 10, 40]) expect(nthTime(7, b, 2 * n) / nthTime(7, b, n)).toBeCloseTo(b, 12);
  });
  it('says what cannot be', () => {
    expect(() => nthTime(60, 0, 2)).toThrow(/slope/);
    expect(() => nthTime(60, 0.8, 0)).toThrow(/from 1/);
    expect(() => slopeOf(0, 3, 2)).toThrow(/above zero/);
    expect(() => slopeOf(60, 30, 1)).toThrow(/later job/);
  });
});

const job = (w: Partial<Worked> & { order: number }): Worked => ({
  kit: 'roof-bar',
  model: 'drover-4',
  by: 'tor',
  planned: 60,
  spent: 60,
  nth: 1,
  skipped: 0,
  findings: 0,
  mended: 0,
  at: '2026-01-01T00:00:00.000Z',
  ...w,
});
/** Numbers that look normal and are the same in every run. */
function normal(seed: number) {
  let s = seed;
  const u = () => (s = (s * 16807) % 2147483647) / 2147483647;
  return () => Math.sqrt(-2 * Math.log(u())) * Math.cos(2 * Math.PI * u());
}
/** A shop whose truth is known: factors by kit and person, and a slope. */
function shop(
  n: number,
  seed: number,
  truth = {
    slope: 0.8,
    kit: { a: 1.3, b: 0.8 } as Record<string, number>,
    by: { tor: 0.9, maud: 1.1 } as Record<string, number>,
    spread: 0.15,
  },
) {
  const z = normal(seed);
  const nth = new Map<string, number>();
  return Array.from({ length: n }, (_, i) => {
    const kit = i % 2 ? 'a' : 'b';
    const by = i % 3 ? 'tor' : 'maud';
    const k = (nth.get(kit + by) ?? 0) + 1;
    nth.set(kit + by, k);
    const spent = 50 * truth.kit[kit]! * truth.by[by]! * nthTime(1, truth.slope, k) * Math.exp(truth.spread * z());
    return job({ order: i, kit, by, planned: 50, spent, nth: k });
  });
}

describe('minutes learned', () => {
  it('with nothing seen, the sheet is believed, with a wide band', () => {
    const p = new Learned([]).pace('roof-bar', 'drover-4', 'tor');
    expect(p.factor).toBeCloseTo(1, 6);
    expect(p.low).toBeLessThan(0.65);
    expect(p.high).toBeGreaterThan(1.5);
    expect([p.jobs, p.own]).toEqual([0, 0]);
  });
  it('one job moves it part of the way, many move it nearly all', () => {
    const slow = (n: number) => Array.from({ length: n }, (_, i) => job({ order: i, spent: 90 * nthTime(1, 0.85, i + 1), nth: i + 1 }));
    /** how far off the next one is foretold, as a logarithm: nothing learned is 0.4 */
    const off = (n: number) => {
      const p = new Learned(slow(n)).pace('roof-bar', 'drover-4', 'tor');
      return Math.abs(Math.log(p.factor / (1.5 * nthTime(1, 0.85, n + 1))));
    };
    expect(off(1)).toBeGreaterThan(0.05);
    expect(off(1)).toBeLessThan(0.35);
    expect(off(8)).toBeLessThan(off(1));
    expect(off(40)).toBeLessThan(0.05);
  });
  it('finds the truth of a shop from its jobs: slope, kits and people', () => {
    const jobs = shop(240, 11);
    const l = new Learned(jobs);
    expect(l.slope).toBeGreaterThan(0.76);
    expect(l.slope).toBeLessThan(0.84);
    expect(l.spread).toBeGreaterThan(0.12);
    expect(l.spread).toBeLessThan(0.18);
    const [a, b] = [l.pace('a', 'drover-4', 'tor'), l.pace('b', 'drover-4', 'tor')];
    expect(a.factor / b.factor).toBeGreaterThan(1.45);
    expect(a.factor / b.factor).toBeLessThan(1.85);
    expect(l.pace('a', 'drover-4', 'maud').factor).toBeGreaterThan(a.factor);
  });
  it('the band holds about eight of ten of the jobs that come after', () => {
    let held = 0;
    let of = 0;
    for (let seed = 1; seed <= 30; seed++) {
      const jobs = shop(41, seed * 97);
      const next = jobs.pop()!;
      const p = new Learned(jobs).pace(next.kit, next.model, next.by);
      const x = next.spent / next.planned;
      of++;
      if (x >= p.low && x <= p.high) held++;
    }
    expect(held / of).toBeGreaterThan(0.65);
    expect(held / of).toBeLessThanOrEqual(0.97);
  });
  it('anybody lies between those who do it, not beside them', () => {
    const l = new Learned(shop(120, 9));
    const [tor, maud, any] = ['tor', 'maud', null].map((by) => l.pace('a', 'drover-4', by).factor) as [number, number, number];
    expect(any).toBeGreaterThan(Math.min(tor, maud) * 0.95);
    expect(any).toBeLessThan(Math.max(tor, maud) * 1.05);
    // as slow as its jobs were of late, whoever did them
    const late = shop(120, 9)
      .slice(-20)
      .filter((w) => w.kit === 'a')
      .map((w) => w.spent / w.planned);
    expect(any).toBeGreaterThan(Math.min(...late));
    expect(any).toBeLessThan(Math.max(...late));
  });
  it('a kit never done by a person borrows from the kit and from the person', () => {
    const l = new Learned(shop(120, 5).filter((w) => !(w.kit === 'a' && w.by === 'maud')));
    const borrowed = l.pace('a', 'drover-4', 'maud');
    expect(borrowed.own).toBe(0);
    expect(borrowed.jobs).toBeGreaterThan(20);
    expect(borrowed.factor).toBeGreaterThan(l.pace('a', 'drover-4', 'tor').factor);
  });
  it('a job with a fault in it teaches less, and is told as far off with its reason', () => {
    const jobs = shop(60, 3);
    const odd = job({ order: 999, kit: 'a', by: 'tor', planned: 50, spent: 400, nth: 20, mended: 1, findings: 2 });
    const plain = new Learned([...jobs, { ...odd, mended: 0, findings: 0 }]).pace('a', 'drover-4', 'tor').factor;
    const l = new Learned([...jobs, odd]);
    expect(l.pace('a', 'drover-4', 'tor').factor).toBeLessThan(plain);
    const [far] = l.outliers([...jobs, odd]);
    expect(far!.worked.order).toBe(999);
    expect(far!.why).toBe('1 fault put right, 2 findings');
    const short = [...jobs, job({ order: 7, kit: 'a', planned: 50, spent: 3, nth: 20, skipped: 2 })];
    const quick = new Learned(short).outliers(short)[0]!;
    expect(quick.why).toBe('2 steps skipped');
  });
  it('one job at thrice its time, the only one on its model, lengthens the next by a third; several are believed', () => {
    const jobs = shop(40, 9);
    const far = job({ order: 998, kit: 'a', model: 'tern-300', by: 'tor', planned: 50, spent: 50 * 3, nth: 4 });
    const factor = (extra: Worked[]) => new Learned([...jobs, ...extra]).pace('a', 'tern-300', 'tor').factor;
    expect(factor([far]) / factor([])).toBeLessThan(1.36);
    const often = [1, 2, 3, 4, 5, 6].map((i) => ({ ...far, order: 998 + i, nth: 4 + i }));
    expect(factor(often) / factor([])).toBeGreaterThan(1.5);
  });
  it('kits together: the band is narrower than that of the sum of edges, and holds the middle', () => {
    const pace = { factor: 1.2, low: 0.8, high: 1.8, jobs: 3, own: 1 };
    const one = together([{ minutes: 100, pace }]);
    expect(one.minutes).toBeCloseTo(120, 0);
    expect(one.low).toBeCloseTo(80, 0);
    expect(one.high).toBeCloseTo(180, 0);
    const four = together(Array.from({ length: 4 }, () => ({ minutes: 25, pace })));
    expect(four.high - four.low).toBeLessThan(one.high - one.low);
    expect([200, 150, 100].map((until) => judgePromise(one, until))).toEqual(['holds', 'tight', 'fails']);
    expect(together([])).toEqual({ minutes: 0, low: 0, high: 0 });
  });
});
