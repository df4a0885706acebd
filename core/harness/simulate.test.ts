import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Harness, HarnessElement } from '#model/harness';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { planWiring } from '../wiring/plan';
import { reachable } from './scan';
import { AT_REST, NO_FAULTS, Simulator, type Faults, type Meter } from './simulate';

const plan = (model: string, kits: string[]): Harness => {
  const { order, sheets } = demoOrder(model, kits);
  // a harness is frozen; what is tried on it here is tried on a copy
  return structuredClone(planWiring(order, sheets, DEFAULT_SETTINGS).harness);
};
const DROVER = () => plan('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
const RUN = { 'unit#key': 'run' };
const IDLE = { ...RUN, 'unit#engine': 'idle' };
const show = (h: Harness, controls: Record<string, string> = {}, faults: Faults = NO_FAULTS, beat = true, meter: Meter | null = null) =>
  new Simulator(h, faults, meter).show({ controls, beat });
const volts = (h: Harness, s: ReturnType<typeof show>, device: string) => s.volts.get(`${device}.plus`)! - s.volts.get(`${device}.minus`)!;
const wire = (h: Harness, from: string, to: string) => h.elements.find((e) => e.kind === 'wire' && e.from === from && e.to === to)!.id;

describe('trade facts (common practice, no source)', () => {
  it('a reducer reads about 7.4 V with its trigger lead unconnected, about 11.9 V once it is', () => {
    const h = plan('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const meter: Meter = { mode: 'volts', plus: 'pp:reducer-out', minus: 'reducer-48/reducer.minus' };
    const trigger = wire(h, 'pp:key-wire', 'reducer-48/reducer.trigger');
    expect(show(h, RUN, { ...NO_FAULTS, open: [trigger] }, true, meter).meter!).toBeCloseTo(7.4, 1);
    const lampsOn = { ...RUN, 'cart-road-lamps/column#lamps': 'on' };
    const on = show(h, lampsOn, NO_FAULTS, true, meter);
    expect(on.meter!).toBeGreaterThan(11.8);
    expect(on.meter!).toBeLessThan(12.05);
    expect([...on.supplies.values()]).toEqual(['awake']);
  });
  it('a 48 V pack: some 48 V on the key wire with the key on, none with it off', () => {
    const h = plan('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const meter: Meter = { mode: 'volts', plus: 'pp:key-wire', minus: 'gnd:pack' };
    expect(show(h, RUN, NO_FAULTS, true, meter).meter!).toBeGreaterThan(46);
    expect(Math.abs(show(h, {}, NO_FAULTS, true, meter).meter!)).toBeLessThan(0.05);
  });
  it('heated grips on the 10 A plug hold; on the 2 A one its fuse blows', () => {
    const { order, sheets } = demoOrder('lapwing-500', ['heated-grips']);
    const on = { ...RUN, 'heated-grips/controller#heat': 'high' };
    const good = show(planWiring(order, sheets, DEFAULT_SETTINGS).harness, on);
    expect(good.blown).toEqual([]);
    const wrong = planWiring(
      { ...order, overrides: [{ circuit: 'heated-grips/grips', field: 'feed', value: 'plug-2', reason: '', at: '', by: 'ines' }] },
      sheets,
      DEFAULT_SETTINGS,
    ).harness;
    const s = show(wrong, on);
    expect(s.blown[0]!.id).toBe('pp:plug-2:fuse');
    expect(s.blown[0]!.amps).toBeCloseTo(5, 0);
    expect(volts(wrong, s, 'heated-grips/grip-left')).toBeLessThan(0.1);
  });
});

describe('switching on', () => {
  it('nothing runs with the key off; the relay pulls in with key and switch, and only then is the roof bar lit', () => {
    const h = DROVER();
    const off = show(h);
    expect(off.pulled.size).toBe(0);
    expect(volts(h, off, 'roof-bar/bar')).toBeLessThan(0.05);
    expect(show(h, { 'roof-bar/switch#on': 'on' }).pulled.size).toBe(0);
    const on = show(h, { ...IDLE, 'roof-bar/switch#on': 'on' });
    expect([...on.pulled]).toEqual(['roof-bar/bar#relay@coil']);
    expect(volts(h, on, 'roof-bar/bar')).toBeGreaterThan(11.5);
    expect(on.amps.get('roof-bar/bar#fuse')!).toBeGreaterThan(9);
  });
  it('left is left on the beat and dark between beats; hazard is both', () => {
    const h = DROVER();
    const left = { ...IDLE, 'road-kit/switch#turn': 'left' };
    const lit = (s: ReturnType<typeof show>) =>
      ['front-left', 'rear-left', 'front-right', 'rear-right'].filter((d) => volts(h, s, `road-kit/${d}`) > 8);
    expect(lit(show(h, left))).toEqual(['front-left', 'rear-left']);
    expect(lit(show(h, left, NO_FAULTS, false))).toEqual([]);
    expect(lit(show(h, { ...IDLE, 'road-kit/switch#hazard': 'on' }))).toHaveLength(4);
  });
  it('a lamp on the reverse wire is lit in reverse only, and only with the key on', () => {
    const h = plan('drover-4', ['reverse-lamp']);
    expect(h.controls.map((c) => c.id)).toContain('unit#gear');
    const at = (gear: string, key = 'run') => volts(h, show(h, { 'unit#key': key, 'unit#gear': gear }), 'reverse-lamp/lamp');
    expect(at('reverse')).toBeGreaterThan(11.5);
    expect(at('forward')).toBeLessThan(0.05);
    expect(at('reverse', 'off')).toBeLessThan(0.05);
  });
  it('the winch turns one way and the other, and its fuse stands the pull', () => {
    const h = DROVER();
    const at = (w: string) => {
      const s = show(h, { ...IDLE, 'winch-32/dash-switch#winch': w });
      expect(s.blown).toEqual([]);
      return s.volts.get('winch-32/motor.a')! - s.volts.get('winch-32/motor.b')!;
    };
    expect(at('in')).toBeGreaterThan(8);
    expect(at('out')).toBeLessThan(-8);
    expect(Math.abs(at('rest'))).toBeLessThan(0.05);
  });
  it('the source gives at most what it can at idle, and the battery the rest', () => {
    const h = DROVER();
    const idle = show(h, { ...IDLE, 'winch-32/dash-switch#winch': 'in' });
    expect(-idle.amps.get('unit:source')!).toBeCloseTo(24, 3);
    const light = show(h, IDLE);
    expect(light.volts.get('bat+')!).toBeGreaterThan(13.8);
    expect(show(h, RUN).volts.get('bat+')!).toBeLessThan(12.8);
  });
  it('a supply that is asked for more than its limit gives the limit and lets its volts fall', () => {
    const h = plan('greenway-36', ['reducer-36', 'cart-basic-lamps']);
    for (const e of h.elements) if (e.kind === 'load' && !e.own) e.watts = e.watts! * 4;
    for (const e of h.elements) if (e.kind === 'fuse') e.ratingA = 100;
    const s = show(h, { ...RUN, 'cart-basic-lamps/switch#on': 'on' });
    expect([...s.supplies.values()]).toEqual(['at its limit']);
    const supply = h.elements.find((e) => e.kind === 'supply')!;
    expect(s.amps.get(`${supply.id}:out`)!).toBeLessThan(10.3);
  });
  it('a supply under its cut-off gives nothing', () => {
    const h = plan('greenway-36', ['reducer-36', 'cart-basic-lamps']);
    for (const e of h.elements) if (e.kind === 'battery') e.volts *= 0.75;
    const s = show(h, { ...RUN, 'cart-basic-lamps/switch#on': 'on' });
    expect([...s.supplies.values()]).toEqual(['cut off']);
    expect(volts(h, s, 'cart-basic-lamps/head-left')).toBeLessThan(0.1);
  });
});

describe('faults', () => {
  it('a pulled fuse, an open joint and an unconnected trigger leave it dark', () => {
    const h = DROVER();
    const on = { ...IDLE, 'roof-bar/switch#on': 'on' };
    const trigger = wire(h, 'roof-bar/switch.out', 'roof-bar/bar#86');
    for (const f of [
      { ...NO_FAULTS, blown: ['roof-bar/bar#fuse'] },
      { ...NO_FAULTS, open: [wire(h, 'roof-bar/bar#87', 'roof-bar/bar.plus')] },
      { ...NO_FAULTS, open: [trigger] },
    ])
      expect(volts(h, show(h, on, f), 'roof-bar/bar')).toBeLessThan(0.1);
    expect(show(h, on, { ...NO_FAULTS, open: [trigger] }).pulled.size).toBe(0);
  });
  it('a corroded ground takes volts from the device', () => {
    const h = DROVER();
    const on = { ...IDLE, 'roof-bar/switch#on': 'on' };
    const ground = h.elements.find((e) => e.kind === 'wire' && e.from === 'roof-bar/bar.minus')!.id;
    expect(volts(h, show(h, on, { ...NO_FAULTS, corroded: { [ground]: 0.2 } }), 'roof-bar/bar')).toBeLessThan(
      volts(h, show(h, on), 'roof-bar/bar') - 1.5,
    );
  });
  it('changed-over leads light the other side', () => {
    const h = DROVER();
    const f = {
      ...NO_FAULTS,
      swapped: [
        [wire(h, 'road-kit/switch.left', 'road-kit/module.ask-left'), wire(h, 'road-kit/switch.right', 'road-kit/module.ask-right')],
      ] as [string, string][],
    };
    const s = show(h, { ...IDLE, 'road-kit/switch#turn': 'left' }, f);
    expect(volts(h, s, 'road-kit/front-left')).toBeLessThan(1);
    expect(volts(h, s, 'road-kit/front-right')).toBeGreaterThan(8);
    expect(() => new Simulator(h, { ...NO_FAULTS, swapped: [['nothing', 'else']] })).toThrow(/cannot be changed over/);
  });
  it('a lead pinched to ground blows its fuse, and the rest still computes', () => {
    const h = DROVER();
    h.elements.push({
      kind: 'resistor',
      id: 'pinch',
      name: 'pinch',
      from: 'road-kit/horn.plus',
      to: 'gnd:bus',
      of: null,
      circuit: null,
      ohms: 0.01,
    });
    const s = show(h, { ...IDLE, 'road-kit/button#horn': 'down', 'roof-bar/switch#on': 'on' });
    expect(s.blown.map((b) => b.id)).toContain('road-kit/horn#fuse');
    expect(volts(h, s, 'roof-bar/bar')).toBeGreaterThan(11);
  });
  it('a relay whose load takes its own volts away chatters, and says so', () => {
    const base = { of: null, circuit: null };
    const e = (x: Partial<HarnessElement>): HarnessElement => ({ name: 'x', ...base, ...x }) as HarnessElement;
    const h: Harness = {
      unit: 'u',
      keyed: [],
      problems: [],
      nodes: ['bat+', 'bat-', 'feed', 'out'].map((id) => ({ id, label: id, place: null, kind: 'point', of: null })),
      controls: [],
      elements: [
        e({ kind: 'battery', id: 'b', from: 'bat+', to: 'bat-', volts: 12.7, ohms: 0.01, chargeOhms: 0.5 }),
        e({ kind: 'resistor', id: 'thin', from: 'bat+', to: 'feed', ohms: 1 }),
        e({ kind: 'coil', id: 'c', from: 'feed', to: 'bat-', ohms: 90, pullInV: 8, dropOutV: 4 }),
        e({ kind: 'contact', id: 'k', from: 'feed', to: 'out', when: [{ coil: 'c', pulled: true }], ohms: 0.01 }),
        e({ kind: 'resistor', id: 'heavy', from: 'out', to: 'bat-', ohms: 0.3 }),
      ],
    };
    expect(show(h).chatter).toEqual(['c']);
  });
});

describe('the two probes', () => {
  const h = DROVER();
  const meter = (mode: Meter['mode'], plus: string, minus: string): Meter => ({ mode, plus, minus });
  it('volts are the difference of what both points show', () => {
    const s = show(h, IDLE, NO_FAULTS, true, meter('volts', 'pp:bus-keyed', 'gnd:bus'));
    expect(s.meter!).toBeCloseTo(s.volts.get('pp:bus-keyed')! - s.volts.get('gnd:bus')!, 9);
    expect(s.meter!).toBeGreaterThan(13.5);
  });
  it('a point joined to nothing reads next to nothing, not the battery', () => {
    const dead = show(h, {}, NO_FAULTS, true, meter('volts', 'roof-bar/bar.plus', 'gnd:bus')).meter!;
    expect(Math.abs(dead)).toBeLessThan(0.01);
    // nor does the battery show against a lamp whose ground is open and whose feed is off
    const open = h.elements.find((e) => e.kind === 'wire' && e.from === 'roof-bar/bar.minus')!.id;
    const ghost = show(h, {}, { ...NO_FAULTS, open: [open] }, true, meter('volts', 'pp:battery-plus', 'roof-bar/bar.minus')).meter!;
    expect(Math.abs(ghost)).toBeLessThan(0.5);
  });
  it('amperes in series across a pulled fuse are what flows', () => {
    const on = { ...IDLE, 'roof-bar/switch#on': 'on' };
    const flows = show(h, on).amps.get('roof-bar/bar#fuse')!;
    const read = show(
      h,
      on,
      { ...NO_FAULTS, blown: ['roof-bar/bar#fuse'] },
      true,
      meter('amps', 'pp:bus-constant', 'roof-bar/bar#30'),
    ).meter!;
    expect(read).toBeCloseTo(flows, 1);
  });
  it('ohms: a closed way, an open one, a coil', () => {
    const w = h.elements.find((e) => e.kind === 'wire' && e.from === 'roof-bar/bar#87')!;
    expect(show(h, {}, NO_FAULTS, true, meter('ohms', w.from, w.to)).meter!).toBeLessThan(0.1);
    expect(show(h, {}, NO_FAULTS, true, meter('ohms', 'roof-bar/bar#30', 'roof-bar/bar#87')).meter!).toBeGreaterThan(1000);
    expect(show(h, {}, { ...NO_FAULTS, open: [w.id] }, true, meter('ohms', w.from, w.to)).meter).toBe(Infinity);
    expect(show(h, {}, NO_FAULTS, true, meter('ohms', 'roof-bar/bar#86', 'roof-bar/bar#85')).meter!).toBeCloseTo(
      1 / (1 / 90 + 1 / 2200),
      0,
    ); // the switch’s pilot lamp lies beside it
  });
  it('both probes on one point read nothing', () =>
    expect(show(h, IDLE, NO_FAULTS, true, meter('volts', 'bat+', 'bat+')).meter).toBeNull());
});

describe('laws', () => {
  it('Kirchhoff holds to 1e-9 and no wire makes power, in any state of any demo unit', () => {
    const all = [
      DROVER(),
      plan('parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket']),
      plan('lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']),
      plan('sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio']),
    ].map((h) => ({ h, states: [...reachable(h)] }));
    fc.assert(
      fc.property(fc.constantFrom(...all), fc.nat(), ({ h, states }, k) => {
        const s = new Simulator(h).show(states[k % states.length]!);
        expect(s.residualA).toBeLessThan(1e-9 * Math.max(1, ...[...s.amps.values()].map(Math.abs)));
        for (const e of h.elements)
          if (e.kind === 'wire') expect((s.volts.get(e.from)! - s.volts.get(e.to)!) * s.amps.get(e.id)!).toBeGreaterThanOrEqual(-1e-9);
      }),
      { numRuns: 120 },
    );
  });
  it('all at rest is the same however it came about', () => {
    const h = DROVER();
    const sim = new Simulator(h);
    sim.show({ controls: { ...IDLE, 'roof-bar/switch#on': 'on' }, beat: true });
    const back = sim.show(AT_REST);
    const fresh = new Simulator(h).show(AT_REST);
    for (const [n, v] of fresh.volts) expect(back.volts.get(n)!).toBeCloseTo(v, 6);
  });
});

describe('a reducer that is asleep', () => {
  it('gives nothing but its own leak: no device on its output draws a milliampere with everything off', () => {
    const { order, sheets } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket']);
    const { harness } = planWiring(order, sheets, DEFAULT_SETTINGS);
    const shown = new Simulator(harness).show(AT_REST);
    expect(shown.supplies.get('reducer-48/reducer:supply')).toBe('asleep');
    for (const e of harness.elements)
      if ((e.kind === 'load' && !e.own) || (e.kind === 'resistor' && e.of?.includes('/') && !e.of.startsWith('reducer-48')))
        expect(Math.abs(shown.amps.get(e.id) ?? 0)).toBeLessThan(2e-4);
  });
});
