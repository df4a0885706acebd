import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, looseOrder } from '../../tests/demo-sheets';
import { planWiring } from '../wiring/plan';
import { assess } from '../order/assess';
import { needsOf, shortNeeds } from './needs';

const at = (settings: Partial<typeof DEFAULT_SETTINGS> = {}) => {
  const { order, sheets } = looseOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
  const { harness } = planWiring(order, sheets, DEFAULT_SETTINGS);
  return { harness, needs: needsOf(harness, sheets.model, { ...DEFAULT_SETTINGS, ...settings }) };
};

describe('what the wiring of an order uses up', () => {
  it('every added metre, fuse and relay once', () => {
    const { harness, needs } = at();
    const metres = harness.elements.reduce((s, e) => s + (e.kind === 'wire' && e.awg !== null ? (e.lengthM ?? 0) : 0), 0);
    expect(needs.filter((n) => n.kind === 'wire').reduce((s, n) => s + n.need, 0)).toBeCloseTo(metres, 1);
    const fuses = harness.elements.filter((e) => e.kind === 'fuse' && e.of === null && e.circuit !== null).length;
    expect(needs.filter((n) => n.kind === 'fuse').reduce((s, n) => s + n.need, 0)).toBe(fuses);
    expect(needs.find((n) => n.id === 'relay-12')!.need).toBe(1);
    for (const n of needs) expect(n.need).toBeGreaterThan(0);
  });
  it('terminals by kind and gauge, whichever way of a plug they go to; nothing for what is bare', () => {
    const ends = at().needs.filter((n) => n.kind === 'end');
    expect(ends.map((n) => n.name)).toEqual(expect.arrayContaining(['blade, 22–18 AWG', 'ring, 22–18 AWG']));
    for (const n of ends) {
      expect(n.name).toMatch(/^(blade|female blade|ring|crimp|butt splice), [^,]+ AWG( and thicker)?$/);
      expect(Number.isInteger(n.need)).toBe(true);
    }
  });
  it('what nobody counted is not called short, wire no more than fuses', () => {
    const { needs } = at({ stock: [], shelf: [] });
    expect(needs.every((n) => n.short === null && n.have === null)).toBe(true);
    expect(shortNeeds(needs)).toEqual([]);
  });
  it('no wire of a gauge and colour in stock: it is short, and says which circuits wait', () => {
    const { needs } = at({ stock: [{ id: 'pink', awg: 18, colour: 'PK', lengthM: 30 }], shelf: [] });
    for (const n of needs) if (n.kind === 'wire') expect(n.short).toBeCloseTo(n.need, 1);
    expect(shortNeeds(needs).every((n) => n.kind === 'wire' && n.circuits.length > 0)).toBe(true);
  });
  it('what a short shelf holds up comes last at the bench, and waits no more once it is done', () => {
    const { order, sheets } = looseOrder('drover-4', ['front-harness', 'road-kit', 'roof-bar']);
    const settings = { ...DEFAULT_SETTINGS, shelf: [{ id: 'fuse-blade-15', have: 0 }] };
    const a = assess(order, sheets, settings);
    const short = shortNeeds(a.needs);
    expect(short.map((n) => n.id)).toEqual(['fuse-blade-15']);
    const wires = a.steps.filter((s) => s.stage === 'wire' && s.circuit);
    const waiting = wires.filter((s) => s.waits);
    expect(waiting.map((s) => s.circuit)).toEqual(short[0]!.circuits);
    expect(waiting[0]!.waits).toBe('1 × 15 A blade fuse (32 V) and holder');
    // behind all hand work of the kits that wait for nothing
    const last = a.steps.findIndex((s) => s.id === waiting[0]!.id);
    const others = a.steps.filter((s) => (s.stage === 'mount' || s.stage === 'wire') && s.kit !== waiting[0]!.kit);
    expect(others.length).toBeGreaterThan(4);
    expect(others.every((s) => a.steps.indexOf(s) < last)).toBe(true);
    const done = after(order, { type: 'step.skipped', step: waiting[0]!.id, title: 'x', reason: 'y', next: null });
    expect(assess(done, sheets, settings).steps.find((s) => s.id === waiting[0]!.id)!.waits).toBe('');
  });
  it('a shelf that holds less than is needed is short of the difference', () => {
    const fuse = at().needs.find((n) => n.kind === 'fuse')!;
    const { needs } = at({
      shelf: [
        { id: fuse.id, have: fuse.need - 1 },
        { id: 'relay-12', have: 9 },
      ],
    });
    expect(needs.find((n) => n.id === fuse.id)!.short).toBe(1);
    // what is there goes to the first that take it
    expect(needs.find((n) => n.id === fuse.id)!.circuits).toHaveLength(1);
    expect(needs.find((n) => n.id === 'relay-12')!.short).toBe(0);
  });
});
