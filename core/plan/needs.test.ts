import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { planWiring } from '../circuit/wiring';
import { needsOf, shortNeeds } from './needs';

const at = (settings: Partial<typeof DEFAULT_SETTINGS> = {}) => {
  const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
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
  it('nothing in stock: all wire is short, and says which circuits wait; what nobody counted is not called short', () => {
    const { needs } = at({ stock: [], shelf: [] });
    for (const n of needs) {
      if (n.kind === 'wire') expect(n.short).toBeCloseTo(n.need, 1);
      else expect(n.short).toBeNull();
    }
    expect(shortNeeds(needs).every((n) => n.kind === 'wire' && n.circuits.length > 0)).toBe(true);
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
    expect(needs.find((n) => n.id === 'relay-12')!.short).toBe(0);
  });
});
