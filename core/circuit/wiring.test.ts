import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { WireOverride } from '#model/order';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, looseKit, demoModel, looseOrder, looseIds } from '../../tests/demo-sheets';
import { FUSE_FACTOR } from '../wire/fuse';
import { fitRule } from '../order/fit';
import { freeAmps } from './feed';
import { route } from './route';
import { planWiring } from '../wiring/plan';
import { type PlannedCircuit } from '../wiring/planned';

const plan = (model: string, kits: string[], overrides: Partial<WireOverride>[] = [], facts: Record<string, number> = {}) => {
  const { order, sheets } = looseOrder(model, kits);
  return planWiring(
    { ...order, facts, overrides: overrides.map((o) => ({ reason: '', at: '', by: 'tor', ...o }) as WireOverride) },
    sheets,
    DEFAULT_SETTINGS,
  );
};
const circuit = (w: { circuits: PlannedCircuit[] }, id: string) => w.circuits.find((c) => c.id === id)!;

describe('feeds', () => {
  it('common practice, no source: grips of 60 W, 5 A, fit the 10 A plug and would blow the 2 A one', () => {
    const grips = circuit(plan('lapwing-500', ['heated-grips']), 'heated-grips/grips');
    expect(grips.load.continuousA).toBe(5);
    expect(grips.feed!.id).toBe('plug-10');
    expect(grips.candidates.find((c) => c.point.id === 'plug-2')).toMatchObject({
      accepted: false,
      reason: expect.stringMatching(/needs 5 A, 1.6 A free of its 2 A fuse/),
    });
  });
  it('8 V batteries cannot give 12 V, and the tap says what it makes', () => {
    const lamps = circuit(plan('parkway-48', ['cart-road-lamps']), 'cart-road-lamps/lamps');
    expect(lamps.feed).toBeNull();
    expect(lamps.verdict).toBe('fails');
    expect(lamps.candidates.find((c) => c.point.id === 'tap-16')!.reason).toMatch(/16 V, which shortens lamp life/);
    expect(lamps.candidates.find((c) => c.point.id === 'pack-ends')!.reason).toMatch(/48 V here, the kit is made for 12 V/);
  });
  it('a tap of two 6 V batteries is refused with its imbalance, and the reducer is chosen once it is there', () => {
    const without = circuit(plan('greenway-36', ['cart-basic-lamps']), 'cart-basic-lamps/lamps');
    expect(without.candidates.find((c) => c.point.id === 'tap-12')!.reason).toMatch(
      /2 of 6 batteries only: in every hour of use they fall 2.4 %/,
    );
    const w = plan('greenway-36', ['reducer-36', 'cart-basic-lamps']);
    expect(circuit(w, 'cart-basic-lamps/lamps').feed!.id).toBe('reducer-out');
    expect(circuit(w, 'reducer-36/input')).toMatchObject({ mode: 'relay', trigger: { id: 'key-wire' }, verdict: 'holds' });
  });
  it('a keyed circuit with no keyed room goes through a relay; one that must not is refused a constant feed', () => {
    const aux = circuit(plan('lapwing-500', ['aux-lamps']), 'aux-lamps/lamps');
    expect(aux).toMatchObject({ mode: 'relay', feed: { id: 'battery-plus' }, trigger: { id: 'tail-wire' } });
    const grips = circuit(plan('lapwing-500', ['heated-grips']), 'heated-grips/grips');
    expect(grips.candidates.find((c) => c.point.id === 'battery-plus')!.reason).toBe('live with the key off');
  });
  it('never takes more from a point than its fuse has room for, whatever is chosen', () => {
    const pairs = demoIds('models').map(
      (m) =>
        [m, looseIds().filter((k) => fitRule(looseKit(k), demoModel(m), demoModel(m).years.to, demoModel(m).builds[0]!.id)?.fits)] as const,
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...pairs).chain(([m, kits]) => fc.tuple(fc.constant(m), fc.shuffledSubarray([...kits]))),
        ([m, kits]) => {
          const w = plan(m, kits);
          for (const p of w.points) {
            const free = freeAmps(p, w.taken.get(p.id) ?? 0);
            if (free !== null && w.taken.has(p.id)) expect(free).toBeGreaterThanOrEqual(-1e-9);
          }
          for (const c of w.circuits)
            if (c.feed && c.fuseA !== null) expect(c.fuseA).toBeGreaterThanOrEqual(c.load.continuousA! * FUSE_FACTOR - 1e-9);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('sizing and overrides', () => {
  it('keeps every circuit of the demo units within drop, wire and fuse', () => {
    const w = plan('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
    expect(w.verdict).toBe('holds');
    for (const c of w.circuits) {
      expect(c.dropPct!).toBeLessThanOrEqual(c.circuit.dropPct);
      if (c.guardedBy) expect(c.fuseA).toBeNull();
      else expect(c.fuseA!).toBeLessThanOrEqual(c.ampacityA!);
      expect(c.sum.some((l) => l.kind === 'result')).toBe(true);
    }
  });
  it('a fuse put above the wire fails, and says that the wire would burn', () => {
    const c = circuit(plan('drover-4', ['roof-bar'], [{ circuit: 'roof-bar/bar', field: 'fuseA', value: 60 }]), 'roof-bar/bar');
    expect(c.verdict).toBe('fails');
    expect(c.problems.join()).toMatch(/60 A fuse is above what the wire may carry/);
    expect(c.chosen.fuseA).toBe(15);
  });
  it('a measured length changes gauge, drop and verdict; a thin wire by hand shows its drop', () => {
    const short = circuit(plan('drover-4', ['roof-bar'], [{ circuit: 'roof-bar/bar', field: 'lengthM', value: 0.5 }]), 'roof-bar/bar');
    const long = circuit(plan('drover-4', ['roof-bar'], [{ circuit: 'roof-bar/bar', field: 'lengthM', value: 12 }]), 'roof-bar/bar');
    expect(long.awg!).toBeLessThan(short.awg!);
    const thin = circuit(
      plan(
        'drover-4',
        ['roof-bar'],
        [
          { circuit: 'roof-bar/bar', field: 'lengthM', value: 12 },
          { circuit: 'roof-bar/bar', field: 'awg', value: 16 },
        ],
      ),
      'roof-bar/bar',
    );
    expect(thin.verdict).toBe('fails');
    expect(thin.problems.join()).toMatch(/drops/);
  });
  it('a small fuse by hand blows, a keyed circuit put straight on a constant feed is flagged', () => {
    const w = plan(
      'drover-4',
      ['roof-bar'],
      [
        { circuit: 'roof-bar/bar', field: 'fuseA', value: 5 },
        { circuit: 'roof-bar/bar', field: 'mode', value: 'direct' },
      ],
    );
    expect(circuit(w, 'roof-bar/bar').problems.join()).toMatch(/a 5 A fuse blows: 10 A flow.*|stays live with the key off/);
    expect(circuit(w, 'roof-bar/bar').verdict).toBe('fails');
  });
  it('an unknown draw makes the circuit not known and names the device; told, it is sized', () => {
    const { order, sheets } = looseOrder('lapwing-500', ['navigator']);
    const kit = structuredClone(sheets.kits[0]!);
    kit.devices[0]!.load!.watts = null;
    const at = (facts: Record<string, number>) =>
      planWiring({ ...order, facts }, { ...sheets, kits: [kit] }, DEFAULT_SETTINGS).circuits[0]!;
    expect(at({})).toMatchObject({ verdict: 'unknown', awg: null, load: { missing: [{ key: 'watts:navigator/navigator' }] } });
    expect(at({ 'watts:navigator/navigator': 15 })).toMatchObject({ verdict: 'holds', fuseA: 2 });
  });
});

describe('routes', () => {
  it('are the shortest way along the runs, the same there and back, and never shorter than straight', () => {
    for (const id of demoIds('models')) {
      const m = demoModel(id);
      for (const a of m.places)
        for (const b of m.places) {
          const r = route(m, a.id, b.id);
          const back = route(m, b.id, a.id);
          expect(r === null).toBe(back === null);
          if (r) expect(r.lengthMm).toBeCloseTo(back!.lengthMm, 6);
        }
    }
  });
  it('name the hazards on the way and are none to a place no run reaches', () => {
    const m = demoModel('lapwing-500');
    expect(route(m, 'battery', 'bars')!.hazards).toEqual(expect.arrayContaining(['heat', 'pinch', 'steering']));
    expect(route(m, 'battery', 'mirror-left')).toBeNull();
    expect(route(m, 'battery', 'nowhere')).toBeNull();
  });
});
