import { describe, expect, it } from 'vitest';
import type { Harness, HarnessElement, HarnessNode } from '#model/harness';
import { END_AS_M } from '../wire/wire-ohms';
import { wireResistance } from '../wire/resistance';
import { dropOf, flowsOf, totalAmps } from './flows';

const node = (id: string): HarnessNode => ({ id, label: id, place: null, kind: 'terminal', of: null });
const e = (x: Partial<HarnessElement> & { id: string; kind: HarnessElement['kind']; from: string; to: string }): HarnessElement =>
  ({ name: x.id, of: null, circuit: 'k/c', ...x }) as HarnessElement;
const wire = (id: string, from: string, to: string, lengthM: number | null, circuit = 'k/c'): HarnessElement =>
  e({
    id,
    kind: 'wire',
    from,
    to,
    awg: null,
    lengthM,
    colour: 'RD',
    unitColour: null,
    places: [],
    signal: false,
    bothWays: false,
    tempC: 20,
    ends: ['crimp', 'crimp'],
    circuit,
  });
const load = (id: string, from: string, to: string, watts: number): HarnessElement =>
  e({ id, kind: 'load', from, to, law: 'constant-power', watts, volts: 12, minVolts: 8, leastVolts: null, own: false });

/** Battery, the unit's wire to a stud, a fuse, a trunk to a splice, and a lamp at the end of each branch. */
function tree(): Harness {
  const elements = [
    e({ id: 'unit', kind: 'resistor', from: 'bat+', to: 'stud', ohms: 0.01, circuit: null }),
    e({ id: 'fuse', kind: 'fuse', from: 'stud', to: 'feed', ratingA: 10, family: 'blade', burstS: null }),
    wire('trunk', 'feed', 'splice', 3),
    wire('near', 'splice', 'a+', 1),
    wire('far', 'splice', 'b+', 2),
    load('a', 'a+', 'a-', 36),
    load('b', 'b+', 'b-', 24),
    wire('a-ground', 'a-', 'gnd', 0.5),
    wire('b-ground', 'b-', 'gnd', 1.5),
    e({ id: 'frame', kind: 'resistor', from: 'gnd', to: 'bat-', ohms: 0.005, circuit: null }),
  ];
  const ids = new Set(elements.flatMap((x) => [x.from, x.to]));
  return { unit: 'u', nodes: [...ids].map(node), elements, controls: [], keyed: [], problems: [] };
}

describe('ways of the current, all on', () => {
  const flows = flowsOf(tree(), [], []);
  const total = totalAmps(flows);
  it('lead from every load to the battery’s plus and back to its minus', () => {
    expect(flows.map((f) => [f.id, f.amps])).toEqual([
      ['a', 3],
      ['b', 2],
    ]);
    expect(flows[1]!.out.map((x) => x.id).sort()).toEqual(['far', 'fuse', 'trunk', 'unit']);
    expect(flows[1]!.back.map((x) => x.id).sort()).toEqual(['b-ground', 'frame']);
  });
  it('add up where they share a wire', () => {
    expect(total.get('trunk')).toBe(5);
    expect(total.get('far')).toBe(2);
    expect(total.get('unit')).toBe(5);
    expect(total.get('frame')).toBe(5);
  });
  it('the drop of the far lamp is what its trunk, its branch, its ground and the shared ways take, worked by hand', () => {
    const r = wireResistance(16, 1).ohms;
    const d = dropOf(flows[1]!, total, 'k/c', 16, 10);
    const e = 2 * END_AS_M;
    expect(d.ownV).toBeCloseTo(5 * (3 + e) * r + 2 * (2 + e) * r + 2 * (1.5 + e) * r, 9);
    // 5 A on a 10 A blade: half of the 90 mV that one drops at its rating
    expect(d.partsV).toBeCloseTo(0.045, 9);
    expect(d.sharedV).toBeCloseTo(5 * 0.01 + 5 * 0.005, 9);
    expect([d.outM, d.backM]).toEqual([5, 1.5]);
  });
  it('a gauge that a wire comes with stands; another circuit’s wire is shared', () => {
    const h = tree();
    for (const x of h.elements) if (x.kind === 'wire' && x.id === 'trunk') Object.assign(x, { awg: 12, circuit: 'k/other' });
    const f = flowsOf(h, [], []);
    const d = dropOf(f[1]!, totalAmps(f), 'k/c', 18, 10);
    expect(d.sharedV).toBeCloseTo(5 * wireResistance(12, 3 + 2 * END_AS_M).ohms + 5 * 0.015, 9);
    expect(d.ownV).toBeCloseTo(2 * (3.5 + 4 * END_AS_M) * wireResistance(18, 1).ohms, 9);
  });
  it('a length that nobody knows makes the length unknown, not zero', () => {
    const h = tree();
    for (const x of h.elements) if (x.kind === 'wire' && x.id === 'far') x.lengthM = null;
    const f = flowsOf(h, [], []);
    expect(dropOf(f[1]!, totalAmps(f), 'k/c', 18, 10).outM).toBeNull();
    expect(dropOf(f[0]!, totalAmps(f), 'k/c', 18, 10).outM).toBe(4);
  });
  it('a lamp whose ground is missing has no way, and a supply is taken at its full rating', () => {
    const h = tree();
    h.elements = h.elements.filter((x) => x.id !== 'b-ground');
    expect(flowsOf(h, [], []).map((f) => f.id)).toEqual(['a']);
    const input = { id: 's:input', of: 's', circuit: 'k/c', from: 'a+', to: 'a-', amps: 7 };
    expect(flowsOf(tree(), [input], []).at(-1)).toMatchObject({ id: 's:input', amps: 7 });
    // what a supply makes is as good as a battery
    expect(flowsOf(tree(), [], ['splice'])[1]!.out.map((x) => x.id)).toEqual(['far']);
  });
});
