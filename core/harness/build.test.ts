import { describe, expect, it } from 'vitest';
import { Harness, HarnessFile, type HarnessWire } from '#model/harness';
import type { Kit } from '#model/kit';
import { DEFAULT_SETTINGS } from '#model/settings';
import { looseOrder, looseIds } from '../../tests/demo-sheets';
import { route } from '../circuit/route';
import { allowable } from '../wire-rules/allowable';
import { wireResistance } from '../wire/resistance';
import { planWiring } from '../wiring/plan';
import { END_M, SLACK } from './builder';
import { fitRule } from '../order/fit';
import { demoIds, looseKit, demoModel } from '../../tests/demo-sheets';
import { scan } from './scan';

const spoiled = (model: string, kits: string[], spoil: (kits: Kit[]) => void) => {
  const { order, sheets } = looseOrder(model, kits);
  const copy = structuredClone(sheets.kits);
  spoil(copy);
  return planWiring(order, { ...sheets, kits: copy }, DEFAULT_SETTINGS);
};
/** Orders whose wire comes off the shelf. */
const LOOSE: [string, string[]][] = [
  ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
  ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio']],
  ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket']],
  ['greenway-36', ['reducer-36', 'cart-basic-lamps', 'bed-lamp', 'reverse-lamp']],
];
const said = (w: ReturnType<typeof planWiring>) => w.harness.problems.map((p) => p.text).join('; ');

describe('a harness', () => {
  it.each(demoIds('models'))('of every kit that fits %s can be saved and read back', (id) => {
    const m = demoModel(id);
    const kits = looseIds().filter((k) => fitRule(looseKit(k), m, m.years.to, m.builds[0]!.id)?.fits);
    const { order, sheets } = looseOrder(id, kits);
    const { harness } = planWiring(order, sheets, DEFAULT_SETTINGS);
    const file = JSON.parse(JSON.stringify({ kadro: 'harness', format: 1, harness }));
    expect(HarnessFile.parse(file).harness).toEqual(harness);
  });
  it.each(LOOSE)('brings neighbours home on one wire that carries all of them, with less copper than each alone: %s', (id, kits) => {
    const { order, sheets } = looseOrder(id, kits);
    const { harness, amps } = planWiring(order, sheets, DEFAULT_SETTINGS);
    const kindOf = new Map(harness.nodes.map((n) => [n.id, n.kind]));
    const { model } = sheets;
    const copper = (awg: number, m: number) => wireResistance(awg, 1).areaMm2 * m;
    const wires = harness.elements.filter((e): e is HarnessWire => e.kind === 'wire' && !e.signal && !e.box);
    const next = (n: string) => wires.find((w) => w.from === n);
    const ends = wires.filter((w) => kindOf.get(w.from) === 'terminal' && kindOf.get(w.to) === 'splice' && goesHome(w.to));
    function goesHome(n: string): boolean {
      const w = next(n);
      return !!w && wires.filter((x) => x.from === n).length === 1 && (kindOf.get(w.to) === 'ground' || goesHome(w.to));
    }
    const joined = new Set<HarnessWire>();
    let alone = 0;
    for (const w of ends) {
      const from = w.places[0]!;
      const ways = harness.nodes.flatMap((n) => (n.kind === 'ground' && n.place && !n.ready ? [route(model, n.place, from)] : []));
      const m = Math.min(...ways.map((r) => (r ? (r.lengthMm * SLACK + r.slackMm) / 1000 : Infinity)));
      alone += copper(w.awg!, m + 2 * END_M);
      for (let x: HarnessWire | undefined = w; x; x = next(x.to)) joined.add(x);
    }
    const together = [...joined].reduce((s, w) => s + copper(w.awg!, w.lengthM!), 0);
    expect(together).toBeLessThanOrEqual(alone);
    for (const w of joined) {
      expect(allowable({ awg: w.awg! }, { hot: w.hot, bundled: w.bundled })).toBeGreaterThanOrEqual(amps.get(w.id)!);
      // no thinner than what comes into it
      for (const x of joined) if (x.to === w.from) expect(w.awg!).toBeLessThanOrEqual(x.awg!);
    }
    if (id === 'sandbar-21') expect(ends.map((w) => w.from)).toContain('nav-lights/port.minus');
    if (id === 'parkway-48') expect([...joined].some((w) => w.shared)).toBe(true);
  });
  it('gives every wire a circuit, a gauge, a length and two ends on the unit', () => {
    const { order, sheets } = looseOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
    const { harness } = planWiring(order, sheets, DEFAULT_SETTINGS);
    for (const e of harness.elements) {
      if (e.kind !== 'wire') continue;
      expect(e.circuit, e.id).not.toBeNull();
      expect(e.awg, e.id).not.toBeNull();
      expect(e.lengthM, e.id).toBeGreaterThanOrEqual(0.2);
      expect(e.places.length).toBeGreaterThan(0);
    }
  });
  it('splices where ways part, never a wire twice along one way', () => {
    const { order, sheets } = looseOrder('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const { harness } = planWiring(order, sheets, DEFAULT_SETTINGS);
    const splices = harness.nodes.filter((n) => n.kind === 'splice');
    expect(splices.length).toBeGreaterThan(3);
    for (const s of splices) {
      const joins = harness.elements.filter((e) => e.kind === 'wire' && (e.from === s.id || e.to === s.id));
      expect(joins.length).toBeGreaterThanOrEqual(3);
      expect(new Set(joins.map((j) => (j.kind === 'wire' ? j.colour : '')))).toHaveProperty('size', 1);
    }
  });
});

describe('what is wrong with a description is named, and the rest computes', () => {
  it('a lead without a partner', () => {
    const w = spoiled('drover-4', ['road-kit'], ([k]) => (k!.leads.find((l) => l.from === 'switch.left')!.to = 'module.ask-nothing'));
    expect(said(w)).toMatch(/GN\/WH lead has no partner/);
    expect(w.circuits.find((c) => c.id === 'road-kit/horn')!.verdict).toBe('holds');
  });
  it('a wire that neither unit nor kit has', () => {
    const w = spoiled('greenway-36', ['reducer-36', 'signal-mirrors'], () => {});
    expect(w.circuits.find((c) => c.id === 'signal-mirrors/repeaters')!.problems.join()).toMatch(/nothing here has a left-signal wire/);
    expect(said(w)).toMatch(/asks for a left-signal wire/);
    expect(w.circuits.find((c) => c.id === 'reducer-36/input')!.verdict).toBe('holds');
  });
  it('a device joined to nothing', () => {
    const w = spoiled('drover-4', ['road-kit'], ([k]) => (k!.leads = k!.leads.filter((l) => l.to !== 'rear-left.plus')));
    expect(said(w)).toMatch(/Rear left signal: joined to nothing/);
    expect(w.harness.problems.find((p) => /Rear left/.test(p.text))).toMatchObject({
      place: 'rear-left-signal',
      circuit: 'road-kit/signals',
    });
  });
  it('a switch with no position, and one that asks for a switch that is not there', () => {
    const none = spoiled('drover-4', ['roof-bar'], ([k]) => (k!.devices.find((d) => d.id === 'switch')!.controls[0]!.positions = []));
    expect(said(none)).toMatch(/Rocker switch: the switch “.+” has no position/);
    expect(() => scan(none.harness)).not.toThrow();
    const lost = spoiled('drover-4', ['roof-bar'], ([k]) => (k!.devices.find((d) => d.id === 'switch')!.controls = []));
    expect(said(lost)).toMatch(/asks for a switch “on”, which is not there/);
  });
  it('a run without a length, a place no run reaches, a place that the unit does not have', () => {
    const { order, sheets } = looseOrder('drover-4', ['roof-bar']);
    const model = structuredClone(sheets.model);
    const pillar = model.places.find((p) => p.id === 'pillar')!;
    Object.assign(pillar, { ...model.places.find((p) => p.id === 'dash')!, id: 'pillar', name: 'pillar' });
    expect(said(planWiring(order, { ...sheets, model }, DEFAULT_SETTINGS))).toMatch(/the run from .+ to .+ has no length: measure it/);
    const cut = structuredClone(sheets.model);
    cut.runs = cut.runs.filter((r) => r.to !== 'roof-front');
    expect(said(planWiring(order, { ...sheets, model: cut }, DEFAULT_SETTINGS))).toMatch(/no feed/);
    const gone = structuredClone(sheets.model);
    gone.places = gone.places.filter((p) => p.id !== 'roof-front');
    gone.runs = gone.runs.filter((r) => r.to !== 'roof-front');
    const w = planWiring(order, { ...sheets, model: gone }, DEFAULT_SETTINGS);
    expect(w.circuits[0]!.problems.join()).toMatch(/no place “roof-front”/);
    expect(said(w)).toMatch(/no place “roof-front”/);
  });
});

describe('a file of a harness', () => {
  const { order, sheets } = looseOrder('lapwing-500', ['aux-lamps']);
  const good = planWiring(order, sheets, DEFAULT_SETTINGS).harness;
  const bad = (change: (h: Harness) => void) => {
    const h = structuredClone(good);
    change(h);
    return (
      Harness.safeParse(h)
        .error?.issues.map((i) => i.message)
        .join() ?? 'no error'
    );
  };
  it.each([
    ['an end that is no node', (h: Harness) => (h.elements[0]!.to = 'nowhere'), /“nowhere”, which is not a node/],
    ['one name twice', (h: Harness) => void h.elements.push(h.elements[0]!), /is there twice/],
    ['both ends at one point', (h: Harness) => (h.elements[0]!.to = h.elements[0]!.from), /the same point/],
    ['no negative post', (h: Harness) => (h.nodes = h.nodes.filter((n) => n.id !== 'bat-')), /needs the node “bat-”/],
    [
      'a coil that is not here',
      (h: Harness) => void h.elements.forEach((e) => e.kind === 'contact' && (e.when = [{ coil: 'none', pulled: true }])),
      /asks for coil “none”/,
    ],
    [
      'a position that the switch does not have',
      (h: Harness) => void h.elements.forEach((e) => e.kind === 'contact' && (e.when = [{ control: 'unit#key', in: ['far'] }])),
      /position “far”/,
    ],
    [
      'a switch that is not here',
      (h: Harness) => void h.elements.forEach((e) => e.kind === 'contact' && (e.when = [{ control: 'none', in: ['x'] }])),
      /the switch “none”/,
    ],
  ] as [string, (h: Harness) => void, RegExp][])('refuses %s', (_, change, message) => expect(bad(change)).toMatch(message));
});
