import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { decide } from '../events/decide';
import { RANK } from '../verdict';
import { searchRemedies, withCommands } from './remedies';

const SPARE = demoIds('kits').map((id) => ({ ref: { id, revision: 1 }, kit: demoKit(id) }));
const ORDERS: [string, string[], number | undefined][] = [
  ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator'], undefined],
  ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar'], undefined],
  ['greenway-36', ['cart-basic-lamps'], 37.2],
  ['drover-2', ['overhead-audio'], 12.72],
  ['skarn-600', ['navigator'], 12.82],
];

describe('make it hold', () => {
  it.each(ORDERS)('%s with %j: each remedy, taken through the ordinary door, gives the verdict it promised', (model, kits, restVolts) => {
    const { order, sheets } = demoOrder(model, kits, restVolts === undefined ? {} : { restVolts });
    const before = assess(order, sheets, DEFAULT_SETTINGS);
    const search = searchRemedies(order, sheets, DEFAULT_SETTINGS, SPARE, 'money');
    expect(search.before.says).toBe(before.power.says);
    expect(search.found.length).toBeGreaterThan(0);
    for (const r of search.found) {
      expect(RANK[r.after.verdict]).toBeLessThan(RANK[before.power.verdict]);
      let now = { order, sheets };
      for (const c of r.commands) {
        const a = assess(now.order, now.sheets, DEFAULT_SETTINGS);
        const kit = c.type === 'kit.added' ? SPARE.find((s) => s.kit.id === c.kit)! : null;
        // refuses what may not be
        decide(c, now.order, {
          role: 'installer',
          sheets: now.sheets,
          settings: DEFAULT_SETTINGS,
          assessment: a,
          by: 'tor',
          known: { kit: () => kit, people: [], hasPhoto: () => true, seal: () => '' },
        });
        now = withCommands(now.order, now.sheets, [c], kit ? [kit] : []);
      }
      const after = assess(now.order, now.sheets, DEFAULT_SETTINGS).power;
      expect(after.verdict).toBe(r.after.verdict);
      expect(after.says).toBe(r.after.says);
    }
  });
  it('comes cheapest first by what is asked, those that hold before those that are tight', () => {
    const { order, sheets } = demoOrder(...(ORDERS[0]!.slice(0, 2) as [string, string[]]));
    for (const by of ['money', 'minutes', 'watts'] as const) {
      const { found } = searchRemedies(order, sheets, DEFAULT_SETTINGS, SPARE, by);
      for (let i = 1; i < found.length; i++) {
        const [a, b] = [found[i - 1]!, found[i]!];
        expect(RANK[a.after.verdict]).toBeLessThanOrEqual(RANK[b.after.verdict]);
        if (a.after.verdict === b.after.verdict) expect(a[by]).toBeLessThanOrEqual(b[by] + 2);
      }
    }
  });
  it('finds nothing to do where it holds', () => {
    const { order, sheets } = demoOrder('tern-300', []);
    expect(searchRemedies(order, sheets, DEFAULT_SETTINGS, SPARE, 'money')).toMatchObject({ found: [], tried: 0 });
  });
  it('takes out of reach what may not be: an idle above the maker’s, an LED that nobody sells, a stranger’s source', () => {
    const { order, sheets } = demoOrder('lapwing-500', ['heated-grips']);
    const a = assess(order, sheets, DEFAULT_SETTINGS);
    const c = {
      role: 'installer' as const,
      sheets,
      settings: DEFAULT_SETTINGS,
      assessment: a,
      by: 'tor',
      known: { kit: () => null, people: [], hasPhoto: () => true, seal: () => '' },
    };
    const change = (x: Parameters<typeof decide>[0]) => () => decide(x, order, c);
    expect(change({ type: 'power.changed', change: { kind: 'idle', rpm: 2500 }, label: 'x' })).toThrow(/from 1300 to 1450 rpm/);
    expect(change({ type: 'power.changed', change: { kind: 'led', load: 'heated-grips/grip-left', watts: 3 }, label: 'x' })).toThrow(
      /No LED/,
    );
    expect(change({ type: 'power.changed', change: { kind: 'setting', load: 'own/engine', share: 0.5 }, label: 'x' })).toThrow(
      /unit itself/,
    );
    expect(
      change({
        type: 'power.changed',
        change: {
          kind: 'source',
          upgrade: 'huge',
          name: 'n',
          curve: [
            [0, 0],
            [1, 900],
          ],
        },
        label: 'x',
      }),
    ).toThrow(/No such source/);
    expect(change({ type: 'power.changed', change: { kind: 'setting', load: 'roof-bar/bar', share: 0.5 }, label: 'x' })).toThrow(
      /not on this order/,
    );
    expect(change({ type: 'power.restored', key: 'idle', label: 'x' })).toThrow(/not agreed/);
    expect(change({ type: 'day.dropped', id: 'commute' })).toThrow(/no such day/);
    // what a source gives is the sheet's, whatever was sent
    const d = change({
      type: 'power.changed',
      change: {
        kind: 'source',
        upgrade: 'high-output',
        name: 'n',
        curve: [
          [0, 0],
          [1, 900],
        ],
      },
      label: 'x',
    })();
    expect(d).toMatchObject({ change: { name: 'High-output stator', curve: sheets.model.electrical.sourceUpgrades[0]!.curve } });
  });
});
