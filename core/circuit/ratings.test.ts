import { describe, expect, it } from 'vitest';
import type { Kit } from '#model/kit';
import type { WireOverride } from '#model/order';
import { DEFAULT_SETTINGS, type Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { demoIds, looseOrder, looseIds } from '../../tests/demo-sheets';
import { scan } from '../harness/scan';
import { fitRule } from '../order/fit';
import { needsOf } from '../plan/needs';
import { planWiring } from '../wiring/plan';

function plan(
  model: string,
  kits: string[],
  {
    change = () => undefined,
    overrides = [],
    settings = {},
  }: Partial<{
    change: (kits: Kit[], model: UnitModel) => void;
    overrides: Partial<WireOverride>[];
    settings: Partial<Settings>;
  }> = {},
) {
  const { order, sheets } = looseOrder(model, kits);
  const copy = structuredClone(sheets);
  change(copy.kits as Kit[], copy.model);
  const set = { ...DEFAULT_SETTINGS, ...settings };
  const w = planWiring({ ...order, overrides: overrides.map((o) => ({ reason: '', at: '', by: 'tor', ...o }) as WireOverride) }, copy, set);
  const needs = needsOf(w.harness, copy.model, set);
  return { w, at: (id: string) => w.circuits.find((c) => c.id === id)!, needs };
}
/** The roof bar as a lamp of so many amperes on 12 V. */
const bar =
  (amps: number, dropPct = 5) =>
  (kits: Kit[]) => {
    const c = kits[0]!.circuits[0]!;
    kits[0]!.devices.find((d) => d.load)!.load!.watts = amps * 12;
    delete c.fuseMaxA;
    c.dropPct = dropPct;
  };

describe('what makes and breaks', () => {
  it('a lamp of 50 A is beyond a sealed relay’s 40 A (makers’ sheets, from memory): a contactor is planned, and is on the needs list', () => {
    const small = plan('drover-4', ['roof-bar'], { change: bar(20) });
    expect(small.at('roof-bar/bar').contactor!.rated.amps).toBe(40);
    expect(small.needs.some((n) => n.id === 'relay-12')).toBe(true);
    const large = plan('drover-4', ['roof-bar'], { change: bar(50) });
    const c = large.at('roof-bar/bar');
    expect(c.mode).toBe('relay');
    expect(c.contactor!.rated.amps).toBeGreaterThanOrEqual(50);
    expect(large.needs.some((n) => n.id === 'relay-12')).toBe(false);
    expect(large.needs.find((n) => n.kind === 'relay')!.name).toMatch(/contactor/);
  });
  it('what no contactor carries fails, and says to split it', () => {
    const c = plan('drover-4', ['roof-bar'], {
      change: bar(140),
      overrides: [{ circuit: 'roof-bar/bar', field: 'feed', value: 'battery-plus' }],
    }).at('roof-bar/bar');
    expect(c.verdict).toBe('fails');
    expect(c.problems.join()).toMatch(/no relay or contactor here switches 140 A/);
  });
  it('a switch for 12 V does not break a pack’s 48 V, and one of 20 A does not carry 30', () => {
    const on48 = plan('sandbar-21', ['docking-lamps'], {
      change: ([k], m) => {
        m.electrical.systemV = 48;
        m.electrical.source = { kind: 'none' };
        m.electrical.battery = { ...m.electrical.battery, count: 4 };
        for (const p of m.powerPoints) p.volts = 48;
        for (const c of k!.circuits) c.volts = 48;
        for (const d of k!.devices) if (d.load) d.load.volts = 48;
      },
    });
    expect(on48.w.circuits[0]!.problems.join()).toMatch(/is made for 16 V, 57.6 V stand across it/);
    expect(scan(on48.w.harness).findings.some((f) => f.kind === 'contact')).toBe(true);
    const strong = plan('sandbar-21', ['docking-lamps'], {
      change: ([k], m) => {
        for (const d of k!.devices) if (d.load) d.load.watts = 180;
        for (const p of m.powerPoints) p.fuseA = 100;
      },
    });
    expect(strong.w.circuits[0]!.problems.join()).toMatch(/is made for 20 A, 30 A go through it/);
    const told = plan('sandbar-21', ['docking-lamps'], {
      change: ([k]) => {
        for (const d of k!.devices) for (const p of d.inside) if (p.kind === 'contact') p.rated = { amps: 4, volts: 28 };
      },
    });
    expect(told.w.circuits[0]!.problems.join()).toMatch(/made for 4 A/);
  });
  it('nothing here closes more than it is rated for, as planned, in any state of the switches', () => {
    for (const [m, k] of [
      ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
      ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']],
    ] as const)
      expect(scan(plan(m, [...k]).w.harness).findings.filter((f) => f.kind === 'contact')).toEqual([]);
  });
});

describe('fuses of the plan', () => {
  it('are for the highest volts of their circuit on every demo unit: none of 32 V hangs on a pack (ISO 8820-3)', () => {
    let onPack = 0;
    for (const m of demoIds('models')) {
      const { sheets } = looseOrder(m, []);
      for (const k of looseIds()) {
        const { order, sheets: both } = looseOrder(m, [k]);
        if (!fitRule(both.kits[0]!, both.model, both.model.years.to, both.model.builds[0]!.id)?.fits) continue;
        for (const c of planWiring(order, both, DEFAULT_SETTINGS).circuits) {
          if (c.fuseA === null || c.feed === null) continue;
          const most = (c.feed.volts / sheets.model.electrical.systemV) * (sheets.model.electrical.wall?.volts ?? c.feed.volts * 1.2);
          if (c.feed.kind !== 'reducer-output' && c.feed.volts > 20) onPack++;
          if (c.feed.kind !== 'reducer-output') expect(c.fuseKind!.ratedV).toBeGreaterThanOrEqual(c.feed.volts > 20 ? most : 15);
          const e = planWiring(order, both, DEFAULT_SETTINGS).harness.elements.find((x) => x.id === `${c.id}#fuse`);
          expect(e).toMatchObject({ ratingA: c.fuseA, ratedV: c.fuseKind!.ratedV });
        }
      }
    }
    expect(onPack).toBeGreaterThan(0);
  });
  it('a pack that no fuse is made for fails in words, and nothing is chosen', () => {
    const c = plan('parkway-48', ['reducer-48'], {
      change: (_, m) => {
        m.electrical.wall!.volts = 84;
      },
    }).at('reducer-48/input');
    expect(c.verdict).toBe('fails');
    expect(c.fuseKind).toBeNull();
    expect(c.problems.join()).toMatch(/no blade or bolt-down fuse is made for 84 V/);
  });
});

describe('what lies together', () => {
  it('takes from what each wire may carry, from its fuse and from an override, as ABYC’s factors say', () => {
    const alone = plan('drover-4', ['roof-bar']).at('roof-bar/bar');
    const many = plan('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
    const c = many.at('roof-bar/bar');
    expect(alone.around.bundled).toBeLessThan(3);
    expect(c.around.bundled).toBeGreaterThanOrEqual(4);
    expect(c.awg).toBe(alone.awg);
    expect(c.ampacityA! / alone.ampacityA!).toBeCloseTo(0.6, 9);
    for (const x of many.w.circuits) if (x.fuseA !== null && x.ampacityA !== null) expect(x.fuseA).toBeLessThanOrEqual(x.ampacityA);
    const over = plan('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar'], {
      overrides: [{ circuit: 'roof-bar/bar', field: 'awg', value: 16 }],
    }).at('roof-bar/bar');
    // 25 A of the table times 0.6
    expect(over.ampacityA).toBeCloseTo(15, 9);
  });
  it('poorer insulation and thinner conductors on the shelf ask for a thicker wire', () => {
    const usual = plan('drover-4', ['roof-bar'], { change: bar(28, 20) }).at('roof-bar/bar');
    const poor = plan('drover-4', ['roof-bar'], { change: bar(28, 20), settings: { wireInsulationC: 60, wireStandard: 'sae' } }).at(
      'roof-bar/bar',
    );
    expect(poor.ampacityA!).toBeGreaterThanOrEqual(poor.fuseA!);
    expect(poor.awg!).toBeLessThan(usual.awg!);
  });
});

describe('boats', () => {
  it('have no wire thinner than 16 AWG but where it is short, on a panel (ABYC E-11, from memory)', () => {
    const thin = (length: number) =>
      plan('sandbar-21', ['docking-lamps'], {
        change: ([k]) => {
          for (const c of k!.circuits) Object.assign(c, { awgMin: 18, dropPct: 20 });
          for (const d of k!.devices) if (d.load) d.load.watts = 2;
        },
        overrides: [{ circuit: 'docking-lamps/dock', field: 'lengthM', value: length }],
      }).at('docking-lamps/dock').awg;
    expect([thin(5), thin(0.7)]).toEqual([16, 18]);
  });
});

describe('a tap of the pack, put by hand', () => {
  it('is sized, fused and led to ground, and says what it costs the tapped batteries', () => {
    const c = plan('greenway-36', ['cart-basic-lamps'], {
      overrides: [{ circuit: 'cart-basic-lamps/lamps', field: 'feed', value: 'tap-12' }],
    }).at('cart-basic-lamps/lamps');
    expect([c.awg, c.fuseA, c.lengthM].every((x) => x !== null)).toBe(true);
    expect(c.problems.join()).not.toMatch(/no way from feed to ground/);
    expect(c.problems.join()).toMatch(/of 6 batteries only: in every hour of use they fall/);
  });
});
