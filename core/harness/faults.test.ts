import { describe, expect, it } from 'vitest';
import type { Harness } from '#model/harness';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { planWiring } from '../wiring/plan';
import { ownFuse } from '../circuit/flows';
import { powered } from './scan';
import { NO_FAULTS, Simulator, type SwitchState } from './simulate';

/** Each demo unit with everything that can be on at once switched on. */
const UNITS: [string, string[], Record<string, string>][] = [
  [
    'drover-4',
    ['front-harness', 'road-kit', 'winch-32', 'roof-bar'],
    {
      'unit#engine': 'working',
      'unit#lights': 'on',
      'road-kit/switch#hazard': 'on',
      'road-kit/button#horn': 'down',
      'roof-bar/switch#on': 'on',
    },
  ],
  [
    'parkway-48',
    ['reducer-48', 'cart-road-lamps', 'signal-mirrors'],
    { 'cart-road-lamps/column#lamps': 'on', 'cart-road-lamps/column#hazard': 'on', 'cart-road-lamps/brake#pedal': 'down' },
  ],
  [
    'lapwing-500',
    ['heated-grips', 'aux-lamps', 'navigator'],
    { 'unit#engine': 'working', 'heated-grips/controller#heat': 'high', 'aux-lamps/switch#on': 'on', 'navigator/navigator#power': 'on' },
  ],
  [
    'sandbar-21',
    ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn'],
    { 'unit#engine': 'working', 'nav-lights/switch#nav': 'run', 'docking-lamps/switch#on': 'on', 'boat-horn/button#horn': 'down' },
  ],
];
const of = (model: string, kits: string[]): Harness => {
  const { order, sheets } = demoOrder(model, kits);
  return planWiring(order, sheets, DEFAULT_SETTINGS).harness;
};

describe.each(UNITS)('%s with everything on', (model, kits, on) => {
  const h = of(model, kits);
  const state: SwitchState = { controls: { 'unit#key': 'run', ...on }, beat: true };
  const all = new Simulator(h).show(state);
  const works = new Set(powered(h, all).map((p) => p.id));

  it('works as a whole: no fuse opens, no relay chatters', () => {
    expect(works.size).toBeGreaterThan(3);
    expect(all.blown).toEqual([]);
    expect(all.chatter).toEqual([]);
  });
  it('an open power lead darkens something behind it and lights nothing that was dark', () => {
    for (const w of h.elements) {
      if (w.kind !== 'wire' || w.signal || (all.amps.get(w.id) ?? 0) < 0.05) continue;
      const broken = new Set(powered(h, new Simulator(h, { ...NO_FAULTS, open: [w.id] }).show(state)).map((p) => p.id));
      expect(
        [...works].some((id) => !broken.has(id)),
        w.name,
      ).toBe(true);
      for (const id of broken) expect(works.has(id), `${w.name} lights ${id}`).toBe(true);
    }
  });
  it('a pulled fuse darkens its own circuit’s loads and no other circuit’s', () => {
    for (const f of h.elements) {
      // one that guards a part of its circuit only, such as in one lamp's lead, leaves the rest
      if (f.kind !== 'fuse' || f.circuit === null || f.id !== ownFuse(f.circuit)) continue;
      const left = new Set(powered(h, new Simulator(h, { ...NO_FAULTS, blown: [f.id] }).show(state)).map((p) => p.id));
      // what a reducer feeds, or what is joined to this circuit, goes dark with it
      const feeds = h.elements.some((e) => (e.kind === 'supply' || e.kind === 'coil') && e.circuit === f.circuit);
      for (const e of h.elements) {
        if (e.kind !== 'load' || e.own || !works.has(e.id)) continue;
        if (e.circuit === f.circuit) expect(left.has(e.id), `${f.name} and ${e.name}`).toBe(false);
        else if (!feeds && !joined(h, e.circuit, f.circuit)) expect(left.has(e.id), `${f.name} and ${e.name}`).toBe(true);
      }
    }
  });
  it('corrosion never makes a device brighter, nor a fuse carry more of a heater’s current', () => {
    const wires = h.elements.filter((e) => e.kind === 'wire' && (all.amps.get(e.id) ?? 0) > 0.2).slice(0, 12);
    for (const w of wires) {
      const s = new Simulator(h, { ...NO_FAULTS, corroded: { [w.id]: 0.05 } }).show(state);
      for (const p of powered(h, s)) {
        const before = powered(h, all).find((x) => x.id === p.id);
        if (before && h.elements.find((e) => e.id === p.id)?.circuit === w.circuit)
          expect(p.volts).toBeLessThanOrEqual(before.volts + 0.02);
      }
    }
  });
});

/** Whether a circuit's wires begin at a terminal that the other circuit feeds. */
function joined(h: Harness, a: string | null, b: string | null): boolean {
  const touches = (c: string | null) => new Set(h.elements.flatMap((e) => (e.circuit === c ? [e.from, e.to] : [])));
  const [x, y] = [touches(a), touches(b)];
  return [...x].some((n) => y.has(n) && !n.startsWith('pp:') && !n.startsWith('gnd:') && n !== 'bat+' && n !== 'bat-');
}
