import { describe, expect, it } from 'vitest';
import { demoIds, demoModel } from '../../tests/demo-sheets';
import { panelZone, zoneName, zoneOf } from './zones';

describe('where one stands', () => {
  it('is a third of the unit by its length', () => {
    const m = demoModel('drover-4');
    expect([zoneOf(m, 'winch-mount'), zoneOf(m, 'battery'), zoneOf(m, 'rear-plate')]).toEqual(['front', 'middle', 'rear']);
    expect([zoneOf(m, null), zoneOf(m, 'not-there')]).toEqual(['middle', 'middle']);
  });
  it('a panel is taken off where most of what it hides is', () => {
    const m = demoModel('drover-4');
    const at = (id: string) =>
      panelZone(
        m,
        m.panels.find((p) => p.id === id)!,
      );
    expect([at('hood'), at('grille'), at('seats-front')]).toEqual(['front', 'front', 'middle']);
  });
  it('every panel of every unit has one, and on a boat it has a boat’s name', () => {
    for (const id of demoIds('models')) {
      const m = demoModel(id);
      for (const p of m.panels) expect(['front', 'middle', 'rear']).toContain(panelZone(m, p));
    }
    expect((['front', 'middle', 'rear', 'workbench'] as const).map((z) => zoneName(z, 'boat'))).toEqual([
      'bow',
      'amidships',
      'stern',
      'workbench',
    ]);
    expect(zoneName('front', 'motorcycle')).toBe('front');
  });
});
