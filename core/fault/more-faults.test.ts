import { describe, expect, it } from 'vitest';
import { bench, hunt, prove, UNITS, type Bench } from '../../tests/fault-hunt';
import type { Cause } from './causes';
import { FaultFinder } from './find';
import type { Evidence } from './sight';
import { NO_FAULTS, type Faults } from '../harness/simulate';

const drover = bench(...UNITS[0]!);
/** Plants a form of a cause, proves the unit until something shows, measures up to three times: what is named then. */
function named(b: Bench, cause: Cause, variant = 0) {
  const { faults } = cause.variants[variant]!;
  const evidence = prove(b, faults);
  return evidence && hunt(b, evidence, faults).named;
}
const causes = (b: Bench, id: RegExp) => b.finder.causes.filter((c) => id.test(c.id));

describe('faults beyond the plain ones', () => {
  it('leads that touch plus are found, most of those that show', () => {
    const found = causes(drover, /^fed:/).flatMap((c) => {
      const n = named(drover, c);
      return n === null ? [] : [n === c.id];
    });
    expect(found.length).toBeGreaterThan(3);
    expect(found.filter(Boolean).length / found.length).toBeGreaterThan(0.6);
  });
  it('a worn source shows where the unit charges, a flat battery at rest', () => {
    const [source] = causes(drover, /^weak:unit:source/);
    expect(named(drover, source!, 1)).toBe(source!.id);
    const [battery] = causes(drover, /^flat:battery/);
    expect(named(drover, battery!, 1)).toBe(battery!.id);
  });
  it('a diode that is open passes nothing, one that is shorted all but a joint’s volts; both are inside of one thing to change', () => {
    const h = structuredClone(drover.harness);
    const lead = h.elements.find((e) => e.kind === 'wire' && e.to === 'roof-bar/bar.plus')!;
    h.nodes.push({ ...h.nodes.find((n) => n.id === 'roof-bar/bar.plus')!, id: 'roof-bar/bar.anode', label: 'before its diode' });
    lead.to = 'roof-bar/bar.anode';
    const part = { id: 'roof-bar/bar:diode-9', name: 'Light bar', of: 'roof-bar/bar', circuit: 'roof-bar/bar' };
    h.elements.push({ ...part, kind: 'diode', from: 'roof-bar/bar.anode', to: 'roof-bar/bar.plus', volts: 0.7 });
    const finder = new FaultFinder(h);
    const cause = finder.causes.find((c) => c.id === 'dead:roof-bar/bar')!;
    const form = (says: RegExp) => cause.variants.find((v) => says.test(v.says ?? ''))!.faults;
    const state = drover.asked.find((q) => q.id.startsWith('roof-bar/lit'))!.sight.state;
    const across = { state, look: { kind: 'volts' as const, plus: 'roof-bar/bar.anode', minus: 'roof-bar/bar.plus' } };
    expect(finder.healthy(across)).toBeCloseTo(0.7, 1);
    expect(finder.foretell(across, form(/diode is open/))).toBeGreaterThan(10);
    expect(finder.foretell(across, form(/diode is shorted/))).toBeLessThan(0.3);
  });
  it('a joint of 3 mΩ in a winch’s cable takes more than 0.3 V of 12 where 150 A flow', () => {
    const cause = causes(drover, /^corroded:winch-32\/battery-red/)[0]!;
    const least = Math.min(...cause.variants.flatMap((v) => Object.values(v.faults.corroded)));
    expect(least).toBeCloseTo(0.003, 9);
    const cable = drover.harness.elements.find((e) => e.id === cause.id.slice('corroded:'.length))!;
    const pulling = {
      state: { controls: { 'unit#key': 'run', 'winch-32/dash-switch#winch': 'in' }, beat: true },
      look: { kind: 'volts' as const, plus: cable.from, minus: cable.to },
    };
    const sound = drover.finder.healthy(pulling)!;
    expect(drover.finder.foretell(pulling, { ...NO_FAULTS, corroded: { [cable.id]: 0.003 } })! - sound).toBeGreaterThan(0.3);
  });
  it('a fuse of another rating than planned opens, and is the cause that its place is', () => {
    const c = causes(drover, /^blown:roof-bar\/bar#fuse/)[0]!;
    expect(c.variants[1]!.faults.fuses).toEqual({ 'roof-bar/bar#fuse': 15 * 0.3 });
    expect(named(drover, c, 1)).toBe(c.id);
  });
  it('what comes and goes is called loose: dark once, lit the next time, the switches alike', () => {
    const [c] = causes(drover, /^open:roof-bar\/relay:lamp/);
    const q = drover.asked.find((x) => x.id.startsWith('roof-bar/lit'))!;
    const read = (id: string, value: number): Evidence => ({ id, sight: q.sight, value, failing: value === 0 });
    const { causes: found, sound } = drover.finder.find([read('a', 0), read('b', 1), read('c', 0), read('d', 1)]);
    expect(found[0]!.says).toMatch(/^Loose/);
    expect(sound).toBeLessThan(0.2);
    expect(found.some((x) => x.cause.id === c!.id && /^Loose/.test(x.says))).toBe(true);
  });
  it('two faults at once, as a last resort: two fuses blown are named as two', () => {
    const faults: Faults = { ...NO_FAULTS, blown: ['road-kit/horn#fuse', 'roof-bar/bar#fuse'] };
    const evidence = drover.asked.flatMap((q): Evidence[] => {
      const value = drover.finder.foretell(q.sight, faults);
      const sound = drover.finder.healthy(q.sight);
      return value === null ? [] : [{ id: q.id, sight: q.sight, value, failing: value !== sound && Math.abs(value - sound!) > 0.5 }];
    });
    const best = drover.finder.find(evidence).causes[0]!;
    expect(best.cause.kind).toBe('two');
    expect(best.against).toEqual([]);
    expect(best.says).toMatch(/Two at once/);
    // with one fault nobody speaks of two
    const one = prove(drover, { ...NO_FAULTS, blown: ['road-kit/horn#fuse'] })!;
    expect(drover.finder.find(one).causes.some((x) => x.cause.kind === 'two')).toBe(false);
  });
  it('“none of these” has its share: large where nothing explains what was read, small where something does', () => {
    const odd = drover.asked
      .filter((q) => q.sight.look.kind === 'volts')
      .slice(0, 5)
      .map((q, i): Evidence => ({ id: q.id, sight: q.sight, value: 3 + i * 1.3, failing: true }));
    const lost = drover.finder.find(odd);
    expect(lost.none).toBeGreaterThan(0.3);
    const known = drover.finder.find(prove(drover, { ...NO_FAULTS, blown: ['road-kit/horn#fuse'] })!);
    expect(known.none).toBeLessThan(0.05);
    for (const d of [lost, known]) expect(d.causes.reduce((s, c) => s + c.share, d.sound + d.none)).toBeLessThan(1.0001);
  });
});
