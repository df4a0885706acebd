import { describe, expect, it } from 'vitest';
import type { PowerChange } from '#model/power-change';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { otherWays } from './other-ways';
import { tookAt, withTaken } from '../events/take-stock';
import { quotable } from '../money/order-quote';
import { changeParts } from './change-steps';
import { needsOf } from './needs';
import { CHARGING_STEP } from './steps';

const with_ = (model: string, kits: string[], ...changes: PowerChange[]) => {
  const { order, sheets } = demoOrder(model, kits);
  const agreed = after(order, ...changes.map((change) => ({ type: 'power.changed' as const, change, label: 'agreed' })));
  const a = assess(agreed, sheets, DEFAULT_SETTINGS);
  const steps = a.work!.steps;
  const at = (id: string) => {
    const i = steps.findIndex((s) => s.id === id);
    expect(i, id).toBeGreaterThanOrEqual(0);
    return i;
  };
  const parts = changeParts(agreed, a.sheets, DEFAULT_SETTINGS);
  return { order: agreed, sheets, a, steps, at, mine: steps.filter((s) => s.id.startsWith('change/')), parts };
};

describe('the work of what was agreed so that the unit carries its loads', () => {
  it('is none where nothing was agreed', () => {
    expect(with_('lapwing-500', ['heated-grips'])).toMatchObject({ mine: [], parts: [] });
  });

  it('raises the idle before the charging volts are read, and takes nothing from the shelf', () => {
    const { at, mine, steps, parts } = with_('lapwing-500', ['heated-grips'], { kind: 'idle', rpm: 1400 });
    expect(mine.map((s) => s.title)).toEqual(['Idle to 1400 rpm']);
    expect(at('change/idle')).toBeLessThan(at(CHARGING_STEP));
    expect(at('change/idle')).toBeGreaterThan(steps.findIndex((s) => s.stage === 'power-up'));
    expect(parts).toEqual([]);
  });

  it('sheds what one kit sheds together with one relay, wired with the power off and proved with the engine running', () => {
    const { at, mine, steps, parts } = with_(
      'lapwing-500',
      ['heated-grips'],
      { kind: 'shed', load: 'heated-grips/grip-left', belowRpm: 1700 },
      { kind: 'shed', load: 'heated-grips/grip-right', belowRpm: 1700 },
    );
    expect(mine.map((s) => s.id)).toEqual(['change/shed/heated-grips', 'change/shed/heated-grips/prove']);
    const off = steps.findIndex((s) => s.id.startsWith('safe/negative'));
    const on = steps.findIndex((s) => s.id.startsWith('power/on'));
    expect(at('change/shed/heated-grips')).toBeGreaterThan(off);
    expect(at('change/shed/heated-grips')).toBeLessThan(on);
    expect(at('change/shed/heated-grips/prove')).toBeGreaterThan(on);
    expect(mine[1]!.readings.map((r) => r.label)).toEqual(['Off at idle', 'On above 1700 rpm', 'Off again at idle']);
    // the fuse that the step names is on the list of what is taken
    expect(parts.map((p) => [p.id, p.price])).toEqual([
      ['relay-12', DEFAULT_SETTINGS.relayPrice],
      ['fuse-blade-1', undefined],
    ]);
    expect(mine[0]!.text).toContain('1 A blade fuse (32 V)');
  });

  it('puts LED and a stronger source in with the minutes and the price of their sheets', () => {
    const { mine, parts, sheets } = with_(
      'lapwing-500',
      ['heated-grips'],
      { kind: 'led', load: 'own/headlamp', watts: 26 },
      {
        kind: 'source',
        upgrade: 'high-output',
        name: 'High-output stator',
        curve: [
          [0, 0],
          [1, 1],
        ],
      },
    );
    const led = sheets.model.electrical.ownLoads.find((l) => l.id === 'headlamp')!.led!;
    const [source] = sheets.model.electrical.sourceUpgrades;
    const minutes = (start: string) => mine.filter((s) => s.id.startsWith(start)).reduce((n, s) => n + s.minutes, 0);
    expect(minutes('change/led')).toBe(led.minutes);
    expect(minutes('change/source')).toBe(source!.minutes);
    expect(parts.map((p) => p.price)).toEqual([led.cost, source!.cost]);
    expect(mine.find((s) => s.id.startsWith('change/led'))!.cautions.join()).toMatch(/not be legal on the road/);
  });

  it('fits, joins and proves a second battery, and hand-over waits for the proof', () => {
    const { a, at, mine, parts, order, sheets } = with_('drover-4', ['road-kit', 'roof-bar'], {
      kind: 'second-battery',
      capacityAh: 35,
      chemistry: 'agm',
      join: 'isolator',
    });
    expect(mine.map((s) => s.stage)).toEqual(['mount', 'wire', 'prove']);
    expect(mine.reduce((n, s) => n + s.minutes, 0)).toBe(70);
    expect(at(mine[2]!.id)).toBeGreaterThan(at(mine[1]!.id));
    const [rest, charging] = mine[2]!.readings;
    expect(rest!.expected.low).toBeGreaterThan(11.9);
    expect(rest!.expected.high).toBeLessThan(13.2);
    expect(charging!.expected.low).toBeGreaterThan(rest!.expected.high!);
    expect(a.proofs.some((p) => p.step.id === 'change/second-battery/prove')).toBe(true);
    // bought once, and counted on the shelf with the rest
    expect(parts.map((p) => [p.id, p.price])).toEqual([
      ['battery-agm-35', 35 * DEFAULT_SETTINGS.batteryPerAh],
      ['battery-isolator', DEFAULT_SETTINGS.isolatorPrice],
      ['fuse-bolt-80', undefined],
      ['fuse-bolt-80', undefined],
    ]);
    expect(mine.map((s) => s.text).join()).toContain('80 A bolt-down fuse (32 V)');
    const needs = needsOf(a.wiring.harness, a.sheets.model, { stock: [], shelf: [{ id: 'battery-agm-35', have: 0 }] }, parts);
    expect(needs.slice(0, 2).map((n) => [n.id, n.need, n.short])).toEqual([
      ['battery-isolator', 1, null],
      ['battery-agm-35', 1, 1],
    ]);
    // once for the unit, not once for every kit that is done by itself
    const unchanged = { ...order, changes: [] };
    const apart = (o: typeof order, x: typeof a) => otherWays(o, x.work!, x, DEFAULT_SETTINGS).apart.minutes;
    expect(apart(order, a) - apart(unchanged, assess(unchanged, sheets, DEFAULT_SETTINGS))).toBeLessThan(70 + 10);
  });

  it('what is fitted is off the shelf once, at its own step, and needed no more', () => {
    const { a, order, sheets } = with_('drover-4', ['road-kit'], {
      kind: 'second-battery',
      capacityAh: 35,
      chemistry: 'agm',
      join: 'isolator',
    });
    const shelf = [
      { id: 'battery-agm-35', have: 2 },
      { id: 'battery-isolator', have: 0 },
      { id: 'fuse-bolt-80', have: 5 },
    ];
    const settings = { ...DEFAULT_SETTINGS, shelf };
    const context = (o: typeof order) => ({
      by: 'tor',
      role: 'lead' as const,
      sheets,
      settings,
      known: {},
      assessment: assess(o, sheets, settings),
    });
    const take = (o: typeof order, id: string) =>
      tookAt(
        a.steps.find((s) => s.id === id)!,
        o,
        context(o),
      );
    expect(take(order, 'change/second-battery/fit')).toEqual([{ of: 'shelf', id: 'battery-agm-35', pieces: 1 }]);
    // both fuses of the cable; of what is not there, none
    expect(take(order, 'change/second-battery/wire')).toEqual([{ of: 'shelf', id: 'fuse-bolt-80', pieces: 2 }]);
    const fitted = withTaken(order, 'change/second-battery/fit', take(order, 'change/second-battery/fit'));
    expect(take(fitted, 'change/second-battery/fit')).toEqual([]);
    const needed = (o: typeof order) => context(o).assessment.needs.map((n) => n.id);
    expect(needed(order)).toContain('battery-agm-35');
    expect(needed(fitted)).not.toContain('battery-agm-35');
    expect(needed(fitted)).toContain('battery-isolator');
    // what it cost is in the price all the same
    expect(needed(quotable(fitted))).toContain('battery-agm-35');
  });

  it('takes the bigger reducer instead of the one in the box, and sets what is turned down', () => {
    const { mine, parts } = with_(
      'parkway-48',
      ['reducer-48', 'cart-basic-lamps'],
      { kind: 'reducer', makes: 'reducer-out', ratedA: 30 },
      { kind: 'setting', load: 'cart-basic-lamps/head-left', share: 0.5 },
      { kind: 'setting', load: 'cart-basic-lamps/head-right', share: 0.5 },
    );
    expect(mine.map((s) => [s.id, s.stage, s.kit])).toEqual([
      ['change/reducer/reducer-out', 'mount', 'reducer-48'],
      ['change/setting/cart-basic-lamps', 'prove', 'cart-basic-lamps'],
    ]);
    expect(mine[0]!.readings[0]!.label).toBe('Its label says 30 A');
    expect(mine[1]!.readings.map((r) => r.label)).toEqual(['Left headlamp at 50 %', 'Right headlamp at 50 %']);
    expect(parts).toEqual([
      {
        step: 'change/reducer/reducer-out',
        kind: 'part',
        id: 'reducer-30a',
        name: 'reducer of 30 A',
        price: 30 * DEFAULT_SETTINGS.reducerPerA,
      },
    ]);
  });
});
