import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoModel, demoOrder } from '../../tests/demo-sheets';
import { Simulator } from '../harness/simulate';
import { assess } from '../order/assess';
import { fitRule } from '../order/fit';

/** Every unit with every kit that fits it, and with the sets that the demo's orders have. */
const sets = demoIds('models').flatMap((m) => {
  const fits = demoIds('kits').filter((k) => fitRule(demoKit(k), demoModel(m), demoModel(m).years.to, demoModel(m).builds[0]!.id)?.fits);
  return [
    [m, fits],
    [m, fits.filter((k) => k !== 'power-manager' && k !== 'cart-basic-lamps')],
  ] as [string, string[]][];
});

describe('lamps in every state of the switches', () => {
  it.each(sets)('%s with %j: as the whole network with its volts answers, state by state', (model, kits) => {
    const { order, sheets } = demoOrder(model, kits);
    const a = assess(order, sheets, DEFAULT_SETTINGS);
    const { table, lamps } = a.lamps.given;
    const { harness } = a.wiring;
    const sim = new Simulator(harness);
    const has = new Set(harness.controls.map((c) => c.id));
    let compared = 0;
    const stride = Math.max(1, Math.floor(table!.states.length / 60));
    table!.states.forEach((s, i) => {
      if (i % stride) return;
      sim.reset();
      const shown = sim.show({ controls: Object.fromEntries(Object.entries(s.controls).filter(([c]) => has.has(c))), beat: s.beat });
      for (const l of lamps.filter((x) => x.from === 'kit' && table!.lamps.some((t) => t.id === x.id))) {
        const loads = harness.elements.filter((e) => e.kind === 'load' && !e.own && e.of === l.id);
        if (!loads.length) continue;
        const lit = loads.some((e) => e.kind === 'load' && Math.abs(shown.volts.get(e.from)! - shown.volts.get(e.to)!) > e.volts * 0.5);
        expect(table!.lit[i]!.has(l.id), `${l.name} with ${JSON.stringify(s)}`).toBe(lit);
        compared++;
      }
    });
    if (kits.some((k) => ['road-kit', 'cart-road-lamps', 'nav-lights'].includes(k))) expect(compared).toBeGreaterThan(20);
  });
});
