import { describe, expect, it } from 'vitest';
import type { Harness, HarnessElement } from '#model/harness';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { planWiring } from '../wiring/plan';
import { countStates, mergeScans, reachable, sayState, scan } from './scan';
import { NO_FAULTS } from './simulate';

const plan = (model: string, kits: string[]): Harness => {
  const { order, sheets } = demoOrder(model, kits);
  // a harness is frozen; what is tried on it here is tried on a copy
  return structuredClone(planWiring(order, sheets, DEFAULT_SETTINGS).harness);
};

describe('states', () => {
  it('are all that a hand can reach: the engine runs with the key on only', () => {
    const h = plan('lapwing-500', ['aux-lamps']);
    const all = [...reachable(h)];
    expect(all).toHaveLength(countStates(h));
    expect(new Set(all.map((s) => JSON.stringify(s))).size).toBe(all.length);
    for (const s of all) if (s.controls['unit#engine'] !== 'off') expect(s.controls['unit#key']).toBe('run');
    expect(all).toHaveLength((2 + 3) * 2);
  });
  it('are said by what differs from rest', () => {
    const h = plan('lapwing-500', ['aux-lamps']);
    expect(sayState(h, { controls: {}, beat: true })).toBe('everything off');
    expect(sayState(h, { controls: { 'unit#key': 'run', 'aux-lamps/switch#on': 'on' }, beat: true })).toBe(
      'key run, auxiliary lamp switch on',
    );
  });
});

describe('what a scan finds', () => {
  it.each([
    ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
    ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket']],
    ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
    ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio']],
    ['skarn-600', ['navigator']],
    ['tern-300', ['aux-lamps', 'power-manager', 'navigator']],
  ] as [string, string[]][])('nothing on %s as Kadro plans it, in any state', (model, kits) => {
    const s = scan(plan(model, kits));
    expect(s.findings).toEqual([]);
    expect(s).toMatchObject({ complete: true, states: s.of });
  });
  it.each([
    ['drover-4', ['bed-lamp', 'winch-32', 'roof-bar']],
    ['parkway-48', ['reducer-48', 'cart-road-lamps']],
  ] as [string, string[]][])('as much in parts as in one: %s', (model, kits) => {
    const h = plan(model, kits);
    // something is wrong in it
    for (const e of h.elements) if (e.kind === 'wire' && e.awg !== null && !e.signal) e.awg = 24;
    const one = scan(h);
    const parts = mergeScans([0, 1, 2].map((nth) => scan(h, NO_FAULTS, { part: { nth, of: 3 } })));
    expect(one.findings.length).toBeGreaterThan(0);
    // the last digits of a figure depend on the state before it
    const plain = (s: typeof one) => ({
      ...s,
      rounds: 0,
      panel: s.panel.map((r) => r.powered.map((p) => `${p.id} ${p.volts.toFixed(6)}`)),
      parked: s.parked.amps.toFixed(9),
      findings: s.findings.map((f) => `${f.kind} ${f.at} ${f.states} ${f.grade.toFixed(6)}`).sort(),
    });
    expect(plain(parts)).toEqual(plain(one));
  });
  it('a back-feed: a lamp with two feeds and no diode lights the tail lamps through its own switch', () => {
    const h = plan('drover-4', ['bed-lamp']);
    const s = scan(h);
    const f = s.findings.find((x) => x.kind === 'back-feed')!;
    expect(f.at).toBe('wire:tail>bed-lamp/strip.plus');
    expect(f.state.controls).toMatchObject({ 'bed-lamp/switch#on': 'on' });
    expect(f.state.controls['unit#lights'] ?? 'off').toBe('off');
    expect(f.text).toMatch(/run backwards/);
    expect(f.place).toBe('rear-frame');
  });
  it('and none with a diode in that lead', () => {
    const h = plan('drover-4', ['bed-lamp']);
    const lead = h.elements.find((e) => e.id === 'wire:tail>bed-lamp/strip.plus')!;
    lead.to = 'bed-lamp/strip.diode';
    h.nodes.push({ id: 'bed-lamp/strip.diode', label: 'diode', place: null, kind: 'inner', of: null });
    h.elements.push({
      kind: 'diode',
      id: 'd',
      name: 'diode',
      from: 'bed-lamp/strip.diode',
      to: 'bed-lamp/strip.plus',
      of: null,
      circuit: null,
      volts: 0.6,
    });
    expect(scan(h).findings).toEqual([]);
  });
  it('a keyed circuit on a constant feed is alive with the key off', () => {
    const { order, sheets } = demoOrder('drover-4', ['usb-socket']);
    const by = { circuit: 'usb-socket/usb', reason: '', at: '', by: 'ines' };
    const h = planWiring(
      {
        ...order,
        overrides: [
          { ...by, field: 'feed', value: 'bus-constant' },
          { ...by, field: 'mode', value: 'direct' },
        ],
      },
      sheets,
      DEFAULT_SETTINGS,
    ).harness;
    expect(scan(h).findings.map((f) => f.kind)).toContain('alive');
  });
  it('too few volts through a corroded ground, worst state first', () => {
    const h = plan('drover-4', ['roof-bar']);
    const ground = h.elements.find((e) => e.kind === 'wire' && e.from === 'roof-bar/bar.minus')!.id;
    const s = scan(h, { ...NO_FAULTS, corroded: { [ground]: 0.35 } });
    expect(s.findings[0]).toMatchObject({ kind: 'low-volts', at: 'roof-bar/bar:load-0' });
    expect(s.findings[0]!.state.controls['unit#engine']).toBe('off');
  });
  it('a fuse that opens, named with its amperes and how soon', () => {
    const h = plan('drover-4', ['roof-bar']);
    for (const e of h.elements) if (e.id === 'roof-bar/bar#fuse' && e.kind === 'fuse') e.ratingA = 5;
    expect(scan(h).findings.find((f) => f.kind === 'blown')!.text).toMatch(/Roof bar lamp, fuse opens: 1\d(\.\d)? A, as soon as/);
  });
  it('a wire that carries more than it may, behind a fuse that lets it; a winch’s burst counts for its share', () => {
    const h = plan('drover-4', ['roof-bar', 'winch-32']);
    for (const e of h.elements) {
      if (e.kind === 'load' && e.of === 'roof-bar/bar') e.watts = 520;
      if (e.kind === 'fuse' && e.id === 'roof-bar/bar#fuse') e.ratingA = 100;
    }
    const over = scan(h).findings.filter((f) => f.kind === 'overload');
    expect(over.some((f) => f.circuit === 'roof-bar/bar' && /may carry 45 A/.test(f.text))).toBe(true);
    expect(over.some((f) => f.circuit === 'winch-32/power')).toBe(false);
  });
  it('a short that nothing stops, and a loop of batteries', () => {
    const h = plan('drover-4', ['roof-bar']);
    const wire = (from: string, to: string, id: string): HarnessElement => ({
      ...(h.elements.find((e) => e.kind === 'wire')! as Extract<HarnessElement, { kind: 'wire' }>),
      id,
      name: id,
      from,
      to,
      awg: 16,
      lengthM: 1,
      circuit: null,
    });
    h.elements.push(wire('pp:battery-plus', 'gnd:battery', 'pinched lead'));
    const s = scan(h);
    expect(s.findings.some((f) => f.kind === 'short' && f.at === 'pinched lead')).toBe(true);
    const two = plan('drover-4', ['roof-bar']);
    two.elements.push({
      kind: 'battery',
      id: 'second',
      name: 'second battery',
      from: 'bat+',
      to: 'bat-',
      volts: 25.4,
      ohms: 0.01,
      chargeOhms: 0.01,
      of: null,
      circuit: null,
    });
    expect(scan(two).findings.some((f) => f.kind === 'battery-loop')).toBe(true);
  });
  it('stops when it is told to, and says that it is not complete', () => {
    const s = scan(plan('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']), NO_FAULTS, { progress: () => false });
    expect(s.complete).toBe(false);
    expect(s.states).toBeLessThan(s.of);
  });
});

describe('the table of switches', () => {
  const s = scan(plan('sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio']));
  const at = (control: string, position: string) =>
    s.panel.find((r) => r.control === control && r.position === position)!.powered.map((p) => p.name);
  it('bow and all-round under way, all-round alone at anchor, nothing with the key off', () => {
    expect(at('Navigation switch', 'under way')).toEqual(
      expect.arrayContaining(['Port sidelight', 'Starboard sidelight', 'All-round white']),
    );
    expect(at('Navigation switch', 'at anchor')).toContain('All-round white');
    expect(at('Navigation switch', 'at anchor')).not.toContain('Port sidelight');
    expect(at('', 'key off')).toEqual([]);
  });
  it('what stays alive with all off is what stands by and the unit itself', () => {
    expect(s.parked.alive.map((a) => a.name)).toEqual(['the unit itself, parked', 'Amplifier and speakers, standing by']);
    expect(s.parked.amps * 1000).toBeCloseTo(12.7, 1);
  });
});
