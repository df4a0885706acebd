import fc from 'fast-check';
import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';
import { planReturns, type ReturnEnd, type ReturnPlan } from './returns';

interface Case {
  places: string[];
  way: number[][];
  ends: ReturnEnd[];
  amps: number[];
  grounds: string[];
  jointWorth: number;
}

/** Places on a plane, with the distances along the axes between them; ends and grounds among them. */
const aCase = (most: { places: number; ends: number }) =>
  fc
    .record({
      at: fc.array(fc.record({ x: fc.integer({ min: 0, max: 12 }), y: fc.integer({ min: 0, max: 12 }) }), {
        minLength: 3,
        maxLength: most.places,
      }),
      ends: fc.array(fc.record({ place: fc.nat(), amps: fc.integer({ min: 1, max: 12 }) }), { minLength: 1, maxLength: most.ends }),
      grounds: fc.array(fc.nat(), { minLength: 1, maxLength: 2 }),
      jointWorth: fc.constantFrom(0, 0.5, 3),
    })
    .map(({ at, ends, grounds, jointWorth }): Case => {
      const places = at.map((_, i) => `p${i}`);
      const name = (i: number) => places[i % places.length]!;
      return {
        places,
        way: at.map((a) => at.map((b) => Math.abs(a.x - b.x) + Math.abs(a.y - b.y))),
        ends: ends.map((e, i) => ({ id: `e${i}`, place: name(e.place) })),
        amps: ends.map((e) => e.amps),
        grounds: [...new Set(grounds.map(name))],
        jointWorth,
      };
    });
const planOf = (c: Case, areaMm2: ReturnPlan['areaMm2']): ReturnPlan => ({
  places: c.places,
  wayM: (a, b) => c.way[c.places.indexOf(a)]![c.places.indexOf(b)]!,
  grounds: c.grounds,
  areaMm2,
  jointWorth: c.jointWorth,
});
/** Stocked areas: a thicker wire for more amperes, and not in proportion. */
const stepped = (c: Case) => (ends: readonly number[]) => {
  const amps = ends.reduce((s, i) => s + c.amps[i]!, 0);
  return amps <= 5 ? 0.8 : amps <= 12 ? 1.3 : amps <= 20 ? 3.3 : 5.3;
};

/** Every way of gathering: all trees of joints over all places, by trying them. */
function everyWay(c: Case, area: (ends: readonly number[]) => number): number {
  const d = (a: string, b: string) => c.way[c.places.indexOf(a)]![c.places.indexOf(b)]!;
  type Forest = { at: string; ends: number[] }[];
  let best = Infinity;
  const seen = new Map<string, number>();
  const go = (f: Forest, cost: number) => {
    if (cost >= best) return;
    const key = f.map((x) => `${x.at}:${x.ends.join()}`).sort().join('|'); // prettier-ignore
    if ((seen.get(key) ?? Infinity) <= cost) return;
    seen.set(key, cost);
    best = Math.min(best, cost + f.reduce((s, x) => s + Math.min(...c.grounds.map((g) => d(x.at, g))) * area(x.ends), 0));
    for (let i = 0; i < f.length; i++)
      for (let j = i + 1; j < f.length; j++)
        for (const p of c.places) {
          const both = { at: p, ends: [...f[i]!.ends, ...f[j]!.ends].sort() };
          const more = d(f[i]!.at, p) * area(f[i]!.ends) + d(f[j]!.at, p) * area(f[j]!.ends) + c.jointWorth;
          go([...f.filter((_, x) => x !== i && x !== j), both], cost + more);
        }
  };
  go(
    c.ends.map((e, i) => ({ at: e.place, ends: [i] })),
    0,
  );
  return best;
}

/** Returns of one gauge as a mixed-integer program: wires counted on each way, each end's current followed home. */
function asProgram(c: Case): string {
  const arcs = c.places.flatMap((_, a) => c.places.flatMap((_, b) => (a === b ? [] : [[a, b] as const])));
  const ground = (p: number) => c.grounds.includes(c.places[p]!);
  const n = (a: number, b: number) => `n_${a}_${b}`;
  const f = (i: number, a: number, b: number) => `f_${i}_${a}_${b}`;
  const g = (p: number) => `g_${p}`;
  const rows: string[] = [];
  const spots = c.places.flatMap((_, p) => (ground(p) ? [p] : []));
  for (let p = 0; p < c.places.length; p++) {
    const here = c.ends.filter((e) => e.place === c.places[p]).length;
    const [into, out] = [arcs.filter(([, b]) => b === p), arcs.filter(([a]) => a === p)];
    // no more wires leave than come: joints only make them fewer
    rows.push(
      [...out.map(([a, b]) => `+ ${n(a, b)}`), ...into.map(([a, b]) => `- ${n(a, b)}`), ...(ground(p) ? [`+ ${g(p)}`] : [])].join(' ') +
        ` <= ${here}`,
    );
    c.ends.forEach((e, i) => {
      const mine = e.place === c.places[p] ? 1 : 0;
      rows.push(
        [
          ...out.map(([a, b]) => `+ ${f(i, a, b)}`),
          ...into.map(([a, b]) => `- ${f(i, a, b)}`),
          ...(ground(p) ? [`+ h_${i}_${p}`] : []),
        ].join(' ') + ` = ${mine}`,
      );
      if (ground(p)) rows.push(`h_${i}_${p} - ${g(p)} <= 0`);
    });
  }
  for (const [a, b] of arcs) c.ends.forEach((_, i) => rows.push(`${f(i, a, b)} - ${n(a, b)} <= 0`));
  const whole = [...arcs.map(([a, b]) => n(a, b)), ...spots.map(g)];
  const cost = [...arcs.map(([a, b]) => `+ ${c.way[a]![b]} ${n(a, b)}`), ...spots.map((p) => `- ${c.jointWorth} ${g(p)}`)].join(' ');
  return `Minimize\n obj: ${cost}\nSubject To\n${rows.map((r, i) => ` r${i}: ${r}`).join('\n')}\nGenerals\n ${whole.join(' ')}\nEnd\n`;
}

describe('returns that share a wire', () => {
  it('are as cheap as the best of every way of joining them', () => {
    fc.assert(
      fc.property(aCase({ places: 5, ends: 4 }), (c) => {
        expect(planReturns(c.ends, planOf(c, stepped(c))).cost).toBeCloseTo(everyWay(c, stepped(c)), 9);
      }),
      { numRuns: 120 },
    );
  });
  it('of one gauge are as cheap as a mixed-integer program finds them', async () => {
    const highs = await loadHighs();
    fc.assert(
      fc.property(aCase({ places: 7, ends: 5 }), (c) => {
        const theirs = highs.solve(asProgram(c));
        expect(theirs.Status).toBe('Optimal');
        const { cost, trees } = planReturns(
          c.ends,
          planOf(c, () => 1),
        );
        expect(cost).toBeCloseTo(theirs.ObjectiveValue + c.jointWorth * c.ends.length, 6);
        expect(trees.length).toBeGreaterThan(0);
      }),
      { numRuns: 60 },
    );
  });
  it('bring every end home once, joined where at least two meet, and cost what their wires and joints cost', () => {
    fc.assert(
      fc.property(aCase({ places: 9, ends: 8 }), (c) => {
        const area = stepped(c);
        const { trees, cost } = planReturns(c.ends, planOf(c, area));
        const d = (a: string, b: string) => c.way[c.places.indexOf(a)]![c.places.indexOf(b)]!;
        const home: number[] = [];
        let sum = 0;
        const walk = (x: (typeof trees)[number]['root'], to: string): number[] => {
          const at = typeof x === 'number' ? c.ends[x]!.place : x.place;
          const ends = typeof x === 'number' ? [x] : x.from.flatMap((y) => walk(y, x.place));
          if (typeof x === 'number') home.push(x);
          else {
            expect(x.from.length).toBeGreaterThan(1);
            expect([...ends].sort()).toEqual([...x.ends].sort());
            sum += (x.from.length - 1) * c.jointWorth;
          }
          sum += d(at, to) * area(ends);
          return ends;
        };
        for (const t of trees) {
          expect(c.grounds).toContain(t.ground);
          walk(t.root, t.ground);
        }
        expect(home.sort()).toEqual(c.ends.map((_, i) => i));
        expect(sum).toBeCloseTo(cost, 9);
      }),
      { numRuns: 60 },
    );
  });
  it('leave out an end that no way leads home for, and refuse more ends than are settled together', () => {
    const q: ReturnPlan = {
      places: ['a', 'b', 'far'],
      wayM: (x, y) => (x === 'far' || y === 'far' ? Infinity : 2),
      grounds: ['b'],
      areaMm2: () => 1,
      jointWorth: 0,
    };
    const r = planReturns(
      [
        { id: '1', place: 'far' },
        { id: '2', place: 'a' },
      ],
      q,
    );
    expect(r).toEqual({ trees: [{ ground: 'b', root: 1 }], cost: 2 });
    expect(() =>
      planReturns(
        Array.from({ length: 9 }, (_, i) => ({ id: `${i}`, place: 'a' })),
        q,
      ),
    ).toThrow(/at most 8/);
  });
});
