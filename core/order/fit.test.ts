import { describe, expect, it } from 'vitest';
import type { Fit } from '#model/kit';
import { Fit as FitShape } from '#model/kit';
import { demoIds, demoKit, demoModel, demoOrder } from '../../tests/demo-sheets';
import { fitRule, judgeFit } from './fit';

const rule = (f: Partial<Fit>) => FitShape.parse(f);
const kit = (...fits: Partial<Fit>[]) => ({ ...demoKit('roof-bar'), fits: fits.map(rule) });
const model = demoModel('drover-4');

describe('rules of fit', () => {
  it('the first that speaks of this unit decides', () => {
    const k = kit({ models: ['drover-4'], builds: ['b'], fits: false, note: 'moved' }, { models: ['drover-4'], mount: 'two clamps' });
    expect(fitRule(k, model, 2025, 'b')).toMatchObject({ fits: false });
    expect(fitRule(k, model, 2025, 'a')).toMatchObject({ fits: true, mount: 'two clamps' });
  });
  it.each([
    [2022, null],
    [2023, true],
    [2025, true],
    [2026, null],
  ])('by year: %i', (year, found) => {
    expect(fitRule(kit({ models: ['drover-4'], years: { from: 2023, to: 2025 } }), model, year, 'a')?.fits ?? null).toBe(found);
  });
  it('by kind of unit, and an empty rule fits all', () => {
    expect(fitRule(kit({ kinds: ['boat'] }), model, 2025, 'a')).toBeNull();
    expect(fitRule(kit({ kinds: ['side-by-side'] }), model, 2025, 'a')).not.toBeNull();
    expect(fitRule(kit({}), demoModel('sandbar-21'), 2020, 'open')).not.toBeNull();
  });
  it('a kit whose place the unit lacks does not fit, whatever its maker says', () => {
    const { order, sheets } = demoOrder('skarn-600', []);
    expect(judgeFit(kit({}), order, sheets.model)).toMatchObject({
      verdict: 'fails',
      says: expect.stringMatching(/no place “roof-front”/),
    });
  });
  it('every demo kit fits some demo unit, and every place it names is there', () => {
    for (const id of demoIds('kits')) {
      const k = demoKit(id);
      const fitting = demoIds('models')
        .flatMap((m) => demoModel(m).builds.map((b) => [demoModel(m), b.id] as const))
        .filter(([m, b]) => fitRule(k, m, m.years.to, b)?.fits);
      expect(fitting.length, id).toBeGreaterThan(0);
      for (const [m] of fitting)
        for (const d of [...k.devices, ...k.steps])
          expect(
            m.places.map((p) => p.id),
            `${id} on ${m.id}`,
          ).toContain(d.place);
    }
  });
});

describe('what must come first', () => {
  it('any one of a list will do, and only for the kinds it is said of', () => {
    const { order, sheets } = demoOrder('drover-4', ['usb-socket']);
    expect(judgeFit(sheets.kits[0]!, order, sheets.model).needs).toEqual([]);
    const cart = demoOrder('greenway-36', ['usb-socket']);
    expect(judgeFit(cart.sheets.kits[0]!, cart.order, cart.sheets.model).needs).toHaveLength(1);
    const fed = demoOrder('greenway-36', ['reducer-36', 'usb-socket']);
    expect(judgeFit(fed.sheets.kits[1]!, fed.order, fed.sheets.model).verdict).toBe('holds');
  });
});
