// Checks the assignment of feeds against HiGHS, an open-source MILP solver.
import highsLoader from 'highs';
import { expect, it } from 'vitest';
import { assignFeeds, UNFED, type Wanting } from '#core/circuit/assign';
import { seeded } from '../random-network';

const SEED = 20261125;

it(`costs as little as HiGHS finds, on 60 random shops of feeds (seed ${SEED})`, async () => {
  const highs = await highsLoader();
  const random = seeded(SEED);
  for (let t = 0; t < 60; t++) {
    const points = Array.from({ length: 2 + Math.floor(random() * 5) }, (_, i) => ({
      id: `p${i}`,
      free: random() < 0.2 ? null : 4 + 16 * random(),
    }));
    const circuits: Wanting[] = Array.from({ length: 2 + Math.floor(random() * 8) }, (_, i) => ({
      id: `c${i}`,
      amps: 0.5 + 9 * random(),
      options: points
        .filter(() => random() < 0.7)
        .map((p) => ({ point: p.id, mode: 'direct', cost: Math.round(1000 * (1 + 12 * random())) / 1000 })),
    }));
    const x = (c: Wanting, p: string) => `x_${c.id}_${p}`;
    const cost = circuits.flatMap((c) => [`${UNFED} u_${c.id}`, ...c.options.map((o) => `${o.cost} ${x(c, o.point)}`)]).join(' + ');
    const once = circuits.map((c) => [`u_${c.id}`, ...c.options.map((o) => x(c, o.point))].join(' + ') + ' = 1');
    const rooms = points.flatMap((p) => {
      const on = circuits.filter((c) => c.options.some((o) => o.point === p.id));
      return p.free === null || !on.length ? [] : [`${on.map((c) => `${c.amps} ${x(c, p.id)}`).join(' + ')} <= ${p.free}`];
    });
    const names = circuits.flatMap((c) => [`u_${c.id}`, ...c.options.map((o) => x(c, o.point))]);
    const lp = `Minimize\n obj: ${cost}\nSubject To\n${[...once, ...rooms].map((l, i) => ` r${i}: ${l}`).join('\n')}\nBinary\n ${names.join(' ')}\nEnd`;
    const theirs = highs.solve(lp);
    const ours = assignFeeds(circuits, new Map(points.flatMap((p) => (p.free === null ? [] : [[p.id, p.free] as const]))));
    expect(ours.optimal).toBe(true);
    expect(ours.cost).toBeCloseTo(theirs.ObjectiveValue, 3);
  }
});
