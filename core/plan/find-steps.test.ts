import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pairsOf } from '#model/box';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoModel, demoOrder } from '../../tests/demo-sheets';
import { fitRule } from '../order/fit';
import { assess } from '../order/assess';
import { powerOffSteps, powerOnSteps } from './steps';

const fitting = (model: string): string[] => {
  const m = demoModel(model);
  return demoIds('kits').filter((k) => fitRule(demoKit(k), m, m.years.to, m.builds[0]!.id)?.fits);
};
/** Some of the kits that fit a unit. */
const anOrder = fc
  .constantFrom(...demoIds('models').filter((m) => fitting(m).length))
  .chain((model) => fc.record({ model: fc.constant(model), kits: fc.shuffledSubarray(fitting(model), { minLength: 1 }) }));

describe('what is joined or cut is found first', () => {
  it('with power on, and power is off from then until it is joined, on every unit with any kits', () => {
    fc.assert(
      fc.property(anOrder, ({ model, kits }) => {
        const { order, sheets } = demoOrder(model, kits);
        const { steps, wiring, sheets: judged } = assess(order, sheets, DEFAULT_SETTINGS);
        const at = (id: string) => steps.findIndex((s) => s.id === id);
        const [off, on] = [powerOffSteps(sheets.model).at(-1)!.id, powerOnSteps(sheets.model).at(-1)!.id];
        /** whether power is off as a step begins */
        const dark = (i: number) => {
          const before = steps.slice(0, i).map((s) => s.id.replace(/\/\d+$/, ''));
          return before.filter((id) => id === off).length > before.filter((id) => id === on).length;
        };
        for (const [i, s] of steps.entries()) {
          if (s.stage === 'find') expect(dark(i), s.id).toBe(false);
          if (s.stage !== 'wire') continue;
          expect(dark(i), s.id).toBe(true);
          for (const before of s.after) {
            const x = steps[at(before)];
            if (x && x.stage !== 'prove') expect(at(before), `${before} before ${s.id}`).toBeLessThan(i);
          }
        }
        // every wire of the unit that is tapped, every feed of it that is no post, was found, once
        for (const c of wiring.circuits) {
          const joined = at(`wire/${c.id}`);
          if (joined < 0) continue;
          for (const p of [c.feed, c.trigger])
            if (
              p &&
              sheets.model.powerPoints.some((x) => x.id === p.id) &&
              p.kind !== 'battery-post' &&
              p.kind !== 'pack-tap' &&
              p.kind !== 'reducer-output'
            ) {
              expect(steps[at(`feed/${p.id}`)]!.stage).toBe('find');
              expect(at(`feed/${p.id}`)).toBeLessThan(joined);
            }
          const asked = c.kit.joins.flatMap((j) => pairsOf(j).flatMap(([, t]) => (t.startsWith('wire:') ? [t.slice(5)] : [])));
          for (const w of judged.model.factoryWires.filter((x) => asked.includes(x.function) && !x.connector))
            expect(
              steps.some((s, i) => (s.id === `find/${w.id}` || s.id.startsWith(`find/${w.id}/`)) && i < joined),
              w.id,
            ).toBe(true);
        }
        expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length);
      }),
      { numRuns: 40 },
    );
  });
  it('costs no change of power: it comes off once', () => {
    for (const [model, kits] of [
      ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
      ['drover-2', ['rear-lamp-signals', 'roof-bar']],
      ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
    ] as [string, string[]][]) {
      const { order, sheets } = demoOrder(model, kits);
      const { steps, work } = assess(order, sheets, DEFAULT_SETTINGS);
      expect(steps.filter((s) => s.id.startsWith('safe/negative'))).toHaveLength(1);
      expect(work!.optimal, model).toBe(true);
    }
  });
  it('a signal wire is found by its flashing, a plug by its shape', () => {
    const { order, sheets } = demoOrder('lapwing-500', ['data-power-manager']);
    expect(assess(order, sheets, DEFAULT_SETTINGS).steps.some((s) => s.id.startsWith('find/'))).toBe(false);
    const mirrors = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']);
    const wires = sheetsWith(mirrors.sheets);
    const found = assess(mirrors.order, wires, DEFAULT_SETTINGS).steps.filter((s) => s.id.startsWith('find/'));
    expect(found.map((s) => s.readings[0]!.label)).toContain('Dead; flashes with key run, signals left; dead again');
  });
});

/** A cart that left the factory with a flashing wire. */
function sheetsWith<T extends { model: ReturnType<typeof demoModel> }>(sheets: T): T {
  const wire = (side: 'left' | 'right') => ({
    id: `turn-${side}`,
    name: `${side}-signal wire`,
    function: `turn-${side}` as const,
    colour: 'GN',
    place: 'dash',
    volts: 12,
    usedA: 0,
    live: ['key:run', `turn:${side}`, 'beat'],
  });
  const factoryWires = [...sheets.model.factoryWires, wire('left'), wire('right')];
  return { ...sheets, model: { ...sheets.model, factoryWires } };
}
