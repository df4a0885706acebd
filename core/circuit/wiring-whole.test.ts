import { describe, expect, it } from 'vitest';
import type { Kit } from '#model/kit';
import type { WireOverride } from '#model/order';
import { DEFAULT_SETTINGS } from '#model/settings';
import { looseOrder } from '../../tests/demo-sheets';
import { planWiring } from '../wiring/plan';

const plan = (model: string, kits: string[], overrides: Partial<WireOverride>[] = [], spoil: (k: Kit[]) => void = () => {}) => {
  const { order, sheets } = looseOrder(model, kits);
  const copy = structuredClone(sheets.kits);
  spoil(copy);
  const w = planWiring(
    { ...order, overrides: overrides.map((o) => ({ reason: '', at: '', by: 'tor', ...o }) as WireOverride) },
    { ...sheets, kits: copy },
    DEFAULT_SETTINGS,
  );
  return { ...w, at: (id: string) => w.circuits.find((c) => c.id === id)! };
};

describe('a circuit joined to others’ wires', () => {
  it('has no fuse of its own, names its guard, and its load is carried by the giver', () => {
    const alone = plan('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const both = plan('parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']);
    const mirrors = both.at('signal-mirrors/repeaters');
    expect(mirrors).toMatchObject({ fuseA: null, verdict: 'holds', candidates: [] });
    expect(mirrors.guardedBy).toMatch(/Column switch/);
    const [before, after] = [alone.at('cart-road-lamps/signals'), both.at('cart-road-lamps/signals')];
    expect(after.load.continuousA! - before.load.continuousA!).toBeCloseTo(4 / 12, 9);
    expect([before.fuseA, after.fuseA]).toEqual([3, 4]);
    expect(after.sum.some((l) => /Of it, joined: Mirror repeaters/.test(l.label))).toBe(true);
  });
  it('is refused where the unit’s wire has no room, or where its guard is above what its own wire may carry', () => {
    const { order, sheets } = looseOrder('drover-4', ['road-kit']);
    const full = structuredClone(sheets.model);
    Object.assign(
      full.factoryWires.find((w) => w.function === 'tail')!,
      { usedA: 7.9 },
    );
    expect(
      planWiring(order, { ...sheets, model: full }, DEFAULT_SETTINGS)
        .circuits.find((c) => c.id === 'road-kit/plate')!
        .problems.join(),
    ).toMatch(/tail-lamp wire: needs 0.25 A, 0.1 A free of its 10 A fuse/);
    const big = structuredClone(sheets.model);
    Object.assign(
      big.factoryWires.find((w) => w.function === 'tail')!,
      { fuseA: 30 },
    );
    expect(
      planWiring(order, { ...sheets, model: big }, DEFAULT_SETTINGS)
        .circuits.find((c) => c.id === 'road-kit/plate')!
        .problems.join(),
    ).toMatch(/the 30 A fuse of tail-lamp wire is above what this wire may carry/);
  });
  it('finds the unit’s own wire before another kit’s', () => {
    expect(plan('drover-4', ['road-kit']).at('road-kit/plate').feed).toMatchObject({ kind: 'factory-wire', name: 'tail-lamp wire' });
  });
});

describe('feeds together', () => {
  it('keep a point’s room for the whole, and say what the others leave', () => {
    const w = plan('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar', 'usb-socket']);
    expect(w.assignment).toMatchObject({ optimal: true });
    expect(w.assignment.bound).toBeCloseTo(w.assignment.cost, 9);
    const port = w.points.find((p) => p.id === 'port-3')!;
    const onPort = w.circuits.filter((c) => c.feed?.id === port.id);
    const used = onPort.reduce((s, c) => s + c.load.continuousA!, 0);
    expect(used).toBeLessThanOrEqual(port.fuseA! / 1.25);
    const other = w.circuits.find((c) => c.feed?.id !== port.id && c.candidates.some((k) => k.point.id === port.id))!;
    expect(other.candidates.find((k) => k.point.id === port.id)!.freeA).toBeCloseTo(8 - used, 9);
  });
  it('a feed set by hand takes its room first, and the others go round it', () => {
    const free = plan('drover-4', ['road-kit', 'usb-socket']);
    expect(free.at('road-kit/signals').feed!.id).toBe('port-3');
    const held = plan('drover-4', ['road-kit', 'usb-socket'], [{ circuit: 'road-kit/horn', field: 'feed', value: 'port-3' }]);
    expect(held.at('road-kit/horn').feed!.id).toBe('port-3');
    expect(held.at('road-kit/horn').chosen.feed).not.toBe('port-3');
    for (const [id, amps] of held.taken) {
      const p = held.points.find((x) => x.id === id)!;
      if (p.fuseA) expect(amps + p.usedA).toBeLessThanOrEqual(p.fuseA / 1.25 + 1e-9);
    }
  });
  it('a point too far for any wire is refused with the drop that the thickest would have', () => {
    const c = plan('drover-4', ['roof-bar'], [], ([k]) => {
      k!.devices.find((d) => d.id === 'bar')!.load!.watts = 400;
      k!.circuits[0]!.dropPct = 0.2;
    }).at('roof-bar/bar');
    expect(c.candidates.find((k) => k.point.id === 'battery-plus')!.reason).toMatch(/too far: even 2\/0 AWG drops/);
  });
  it('a wet place is told with the feed', () => {
    const c = plan('sandbar-21', ['nav-lights']).at('nav-lights/nav');
    expect(c.candidates.find((k) => k.accepted)!.reason).toMatch(/a wet place: sealed joints/);
  });
});

describe('fuses against bursts and switching on', () => {
  it('the winch’s fuse is the smallest that stands the pull, and its sum says how long', () => {
    const c = plan('drover-4', ['winch-32']).at('winch-32/power');
    // 100 A would stand the pull, but stalled it takes twice the rated amperes (common practice, no source)
    expect(c.fuseA).toBe(150);
    expect(c.sum.find((l) => /Fuse stands 150 A/.test(l.label))!.value).toBe('for good');
    const small = plan('drover-4', ['winch-32'], [{ circuit: 'winch-32/power', field: 'fuseA', value: 80 }]).at('winch-32/power');
    expect(c.sum.some((l) => /Fuse stands 300 A .*stalled/.test(l.label))).toBe(true);
    expect(c.ampacityA!).toBeGreaterThanOrEqual(300 * 0.5);
    expect(small.verdict).toBe('fails');
    expect(small.problems.join()).toMatch(/150 A \(Winch motor pulling\) may open the 80 A fuse after [\d.]+ s, 20 s are asked/);
  });
  it('a long pull asks for a larger fuse', () => {
    const pulls = (seconds: number) =>
      plan('drover-4', ['winch-32'], [], ([k]) => {
        const motor = k!.devices.find((d) => d.id === 'motor')!;
        motor.load!.burstSeconds = seconds;
        delete motor.winch;
      }).at('winch-32/power').fuseA!;
    expect(pulls(300)).toBeGreaterThan(pulls(20));
  });
  it('what a device takes as it is switched on is stood too', () => {
    const calm = plan('drover-2', ['overhead-audio'], [], ([k]) => delete k!.devices.find((d) => d.id === 'amp')!.load!.inrush).at(
      'overhead-audio/pod',
    );
    const rush = plan(
      'drover-2',
      ['overhead-audio'],
      [],
      ([k]) => (k!.devices.find((d) => d.id === 'amp')!.load!.inrush = { times: 3, seconds: 0.2 }),
    ).at('overhead-audio/pod');
    expect(rush.fuseA!).toBeGreaterThan(calm.fuseA!);
    expect(rush.sum.some((l) => /switching on/.test(l.label))).toBe(true);
  });
});

describe('what the hand changes', () => {
  it('another run changes route, length and drop, and is undone by going back', () => {
    const own = plan('drover-4', ['roof-bar']).at('roof-bar/bar');
    const led = plan('drover-4', ['roof-bar'], [{ circuit: 'roof-bar/bar', field: 'route', value: 'battery>bus-bar' }]).at('roof-bar/bar');
    expect(led.via).toBe('battery>bus-bar');
    expect(led.route!.places).toContain('battery');
    expect(led.lengthM!).toBeGreaterThan(own.lengthM!);
    expect(led.chosen.lengthM).toBeCloseTo(own.lengthM!, 9);
  });
  it('a measured length stretches every wire of the circuit alike', () => {
    const [own, twice] = [undefined, 6.92].map((m) =>
      plan('drover-4', ['roof-bar'], m ? [{ circuit: 'roof-bar/bar', field: 'lengthM', value: m }] : []),
    );
    expect(own!.at('roof-bar/bar').lengthM).toBeCloseTo(3.46, 2);
    const of = (w: typeof own) =>
      w!.harness.elements.flatMap((e) => (e.kind === 'wire' && e.circuit === 'roof-bar/bar' && !e.signal ? [e.lengthM!] : []));
    of(own).forEach((m, i) => expect(of(twice)[i]! / m).toBeCloseTo(2, 1));
  });
  it('a joint is kept to, and a tap that pierces is judged by its place and amperes', () => {
    const tap = (model: string, kits: string[], circuit: string) =>
      plan(model, kits, [{ circuit, field: 'joint', value: 'piercing-tap' }]).at(circuit);
    expect(tap('sandbar-21', ['nav-lights'], 'nav-lights/nav').problems.join()).toMatch(/wet place/);
    expect(tap('drover-4', ['roof-bar'], 'roof-bar/bar').problems.join()).toMatch(/not for 10 A/);
    expect(tap('lapwing-500', ['navigator'], 'navigator/feed')).toMatchObject({ joint: 'piercing-tap', verdict: 'holds' });
  });
  it('past hot parts a wire may carry less (ABYC E-11, engine space)', () => {
    const { order, sheets } = looseOrder('drover-4', ['roof-bar']);
    const model = structuredClone(sheets.model);
    for (const r of model.runs) if (r.to === 'roof-front') r.hazards = ['heat'];
    const hot = planWiring(order, { ...sheets, model }, DEFAULT_SETTINGS).circuits[0]!;
    expect(hot.sum.some((l) => l.label === 'Wire may carry, past hot parts')).toBe(true);
    expect(hot.ampacityA).toBeCloseTo(hot.awg === 14 ? 29.8 : hot.awg === 12 ? 38.3 : 51, 6);
  });
});
