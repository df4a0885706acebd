import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';
import { planCuts, planCutsKeeping, type Length } from '#core/harness/cut';
import { seeded } from '../random-network';

// Reference program: HiGHS (npm package), a mixed-integer solver, on the same problem as a linear model.
const solver = await loadHighs();

function byMilp(stock: Length[], cuts: Length[]): { unmet: number; waste: number } {
  const x = cuts.flatMap((c, i) => stock.map((s, j) => ({ i, j, fits: s.lengthM >= c.lengthM, name: `x${i}_${j}` }))).filter((v) => v.fits);
  const per = (test: (v: (typeof x)[number]) => boolean, by: (v: (typeof x)[number]) => number) =>
    x.filter(test).map((v) => `${by(v)} ${v.name}`);
  const lines = [
    ...cuts.map(
      (_, i) =>
        `c${i}: ${[
          ...per(
            (v) => v.i === i,
            () => 1,
          ),
          `u${i}`,
        ].join(' + ')} = 1`,
    ),
    ...stock.flatMap((s, j) => {
      const used = per(
        (v) => v.j === j,
        (v) => cuts[v.i]!.lengthM,
      );
      return used.length ? [`s${j}: ${used.join(' + ')} - ${s.lengthM} y${j} <= 0`] : [];
    }),
  ];
  const goal = [
    ...cuts.map((_, i) => `100 u${i}`),
    ...stock.map((s, j) => `${s.lengthM} y${j}`),
    ...x.map((v) => `- ${cuts[v.i]!.lengthM} ${v.name}`),
  ];
  const model = `Minimize\n obj: ${goal.join(' + ').replaceAll('+ -', '-')}\nSubject To\n ${lines.join('\n ')}\nBinary\n ${[...cuts.map((_, i) => `u${i}`), ...stock.map((_, j) => `y${j}`), ...x.map((v) => v.name)].join(' ')}\nEnd\n`;
  const r = solver.solve(model, { mip_rel_gap: 0, mip_abs_gap: 1e-9 });
  if (r.Status !== 'Optimal') throw new Error(r.Status);
  const unmet = cuts.filter((_, i) => r.Columns[`u${i}`]!.Primal > 0.5).length;
  return { unmet, waste: r.ObjectiveValue - 100 * unmet };
}

/** A few spools, and lengths to be cut of them. */
function randomShelf(seed: number): { next: () => number; stock: Length[]; cuts: Length[] } {
  const next = seeded(seed);
  const of = (n: number, low: number, high: number, id: string): Length[] =>
    Array.from({ length: n }, (_, i) => ({
      id: `${id}${i}`,
      awg: 16,
      colour: 'RD',
      lengthM: Math.round((low + next() * (high - low)) * 100) / 100,
    }));
  const stock = of(2 + Math.floor(next() * 4), 1, 9, 's');
  return { next, stock, cuts: of(3 + Math.floor(next() * 6), 0.4, 4, 'c') };
}

describe('cutting against a mixed-integer solver', () => {
  it.each(Array.from({ length: 25 }, (_, i) => 4100 + i))('seed %i: as few unmet, as little wasted', (seed) => {
    const { stock, cuts } = randomShelf(seed);
    const ours = planCuts(stock, cuts);
    const theirs = byMilp(stock, cuts);
    expect(ours.optimal).toBe(true);
    expect(ours.unmet).toHaveLength(theirs.unmet);
    expect(ours.wasteM).toBeCloseTo(theirs.waste, 6);
    // and it is a plan that can be cut
    for (const s of stock) {
      const used = ours.assignments.filter((a) => a.stock === s.id).reduce((t, a) => t + cuts.find((c) => c.id === a.cut)!.lengthM, 0);
      expect(used).toBeLessThanOrEqual(s.lengthM + 1e-9);
    }
  });
});

describe('cutting', () => {
  const piece = (id: string, lengthM: number, colour = 'RD', awg = 16): Length => ({ id, awg, colour, lengthM });
  it('takes an offcut before a spool, and keeps colours and gauges apart', () => {
    const r = planCuts(
      [piece('spool', 30), piece('offcut', 2), piece('black', 30, 'BK'), piece('thick', 30, 'RD', 12)],
      [piece('a', 1.9), piece('b', 3, 'BK'), piece('c', 1, 'GN')],
    );
    expect(r.assignments).toEqual(
      expect.arrayContaining([
        { cut: 'a', stock: 'offcut' },
        { cut: 'b', stock: 'black' },
      ]),
    );
    expect(r.unmet).toEqual(['c']);
  });
  it('says so when it stops short of proof, and still gives a plan', () => {
    const next = seeded(9);
    const many = (n: number, id: string, from: number, to: number) =>
      Array.from({ length: n }, (_, i) => piece(`${id}${i}`, from + next() * (to - from)));
    const r = planCuts(many(14, 's', 3, 6), many(30, 'c', 0.5, 2.5));
    expect(r.assignments.length + r.unmet.length).toBe(30);
    if (!r.optimal) expect(r.boundM).toBeLessThanOrEqual(r.wasteM);
  });
  it.each([
    ['a length of nothing', [piece('a', 0)]],
    ['two of one name', [piece('a', 1), piece('a', 2)]],
  ])('refuses %s', (_, cuts) => {
    expect(() => planCuts([piece('s', 5)], cuts)).toThrow();
  });
});

describe('cuts that were laid out before', () => {
  it.each(Array.from({ length: 60 }, (_, i) => 7300 + i))(
    'seed %i: keep their pieces where those are long enough, and no piece is cut beyond its end',
    (seed) => {
      const { next, stock, cuts } = randomShelf(seed);
      const kept = new Map(cuts.filter(() => next() < 0.5).map((c) => [c.id, `s${Math.floor(next() * 6)}`]));
      const p = planCutsKeeping(stock, cuts, kept);
      expect(p.assignments.length + p.unmet.length).toBe(cuts.length);
      const left = new Map(stock.map((s) => [s.id, s.lengthM]));
      for (const a of p.assignments) left.set(a.stock, left.get(a.stock)! - cuts.find((c) => c.id === a.cut)!.lengthM);
      for (const m of left.values()) expect(m).toBeGreaterThan(-1e-6);
      const opened = [...new Set(p.assignments.map((a) => a.stock))];
      expect(p.wasteM).toBeCloseTo(
        opened.reduce((sum, id) => sum + left.get(id)!, 0),
        6,
      );
      expect(new Map(p.offcuts.map((o) => [o.stock, Number(o.lengthM.toFixed(6))]))).toEqual(
        new Map(opened.map((id) => [id, Math.max(0, Number(left.get(id)!.toFixed(6)))])),
      );
      // a kept cut moves only where its piece is gone or was too short for all that was laid on it
      const room = new Map(stock.map((s) => [s.id, s.lengthM]));
      for (const c of cuts) {
        const piece = kept.get(c.id);
        if (piece === undefined || !room.has(piece) || room.get(piece)! < c.lengthM - 1e-9) continue;
        room.set(piece, room.get(piece)! - c.lengthM);
        expect(p.assignments.find((a) => a.cut === c.id)!.stock).toBe(piece);
      }
      expect(planCutsKeeping(stock, cuts)).toEqual(planCuts(stock, cuts));
    },
  );
});
