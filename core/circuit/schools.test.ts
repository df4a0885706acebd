import { describe, expect, it } from 'vitest';
import type { WireOverride } from '#model/order';
import { DEFAULT_SETTINGS } from '#model/settings';
import { looseOrder } from '../../tests/demo-sheets';
import { comparePlug, compareSchools } from './schools';
import { planWiring } from '../wiring/plan';

const plan = (model: string, kits: string[], overrides: Partial<WireOverride>[] = []) => {
  const { order, sheets } = looseOrder(model, kits);
  return planWiring(
    { ...order, overrides: overrides.map((o) => ({ reason: '', at: '', by: 'tor', ...o }) as WireOverride) },
    sheets,
    DEFAULT_SETTINGS,
  );
};
const rows = (model: string, kits: string[], id: string, overrides: Partial<WireOverride>[] = []) => {
  const w = plan(model, kits, overrides);
  return Object.fromEntries(
    compareSchools(
      w.circuits.find((c) => c.id === id)!,
      w,
    ).map((r) => [r.school, r]),
  );
};

describe('the schools, side by side', () => {
  it('a navigator: keyed chosen, constant with a plug possible and it stands by, a manager not on the order', () => {
    const r = rows('lapwing-500', ['navigator'], 'navigator/feed');
    expect(r.keyed).toMatchObject({ chosen: true, possible: true, parkedMa: 0 });
    expect(r.plug).toMatchObject({ chosen: false, possible: true, parkedMa: 12 });
    expect(r.manager).toMatchObject({ possible: false, point: null, reason: expect.stringMatching(/choose its kit/) });
  });
  it('with a power manager on the order, a channel has its room and its own standing draw', () => {
    const r = rows('lapwing-500', ['power-manager', 'navigator'], 'navigator/feed');
    expect(r.manager).toMatchObject({ possible: true, parkedMa: 0.2, freeA: 10 });
  });
  it('a lamp that must have a relay is refused a keyed feed, and the relay’s coil is told', () => {
    const r = rows('lapwing-500', ['aux-lamps'], 'aux-lamps/lamps');
    expect(r.relay).toMatchObject({ chosen: true, possible: true });
    expect(r.relay!.ownA).toBeCloseTo(0.133, 3);
    expect(r.keyed).toMatchObject({ possible: false });
  });
  it('grips that may have no relay; on constant they need their plug pulled', () => {
    const r = rows('lapwing-500', ['heated-grips'], 'heated-grips/grips');
    expect(r.relay).toMatchObject({ possible: false, reason: expect.stringMatching(/forbids/) });
    expect(r.plug!.reason).toMatch(/until somebody pulls it/);
  });
  it('a plug by hand is taken, is tight for a keyed circuit, and puts a plug in the harness', () => {
    const w = plan(
      'lapwing-500',
      ['heated-grips'],
      [
        { circuit: 'heated-grips/grips', field: 'feed', value: 'battery-plus' },
        { circuit: 'heated-grips/grips', field: 'mode', value: 'plug' },
      ],
    );
    const c = w.circuits[0]!;
    expect(c.problems.join()).toMatch(/until its plug is pulled/);
    expect(w.harness.controls.map((k) => k.id)).toContain('heated-grips/grips#plug');
  });
  it('the factory plug kept or cut, where there is one', () => {
    const w = plan('lapwing-500', ['heated-grips', 'aux-lamps']);
    const [grips, aux] = [w.circuits.find((c) => c.id === 'heated-grips/grips')!, w.circuits.find((c) => c.id === 'aux-lamps/lamps')!];
    expect(comparePlug(grips)!.map((p) => p.chosen)).toEqual([true, false]);
    expect(comparePlug(aux)).toBeNull();
    const cut = plan('lapwing-500', ['heated-grips'], [{ circuit: 'heated-grips/grips', field: 'joint', value: 'crimp-shrink' }])
      .circuits[0]!;
    expect(comparePlug(cut)!.map((p) => p.chosen)).toEqual([false, true]);
  });
});
