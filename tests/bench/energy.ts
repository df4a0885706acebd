import { readFileSync } from 'node:fs';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { ChanceRun } from '#core/energy/chance';
import { compile } from '#core/energy/phases';
import { searchRemedies } from '#core/energy/remedies';
import { run } from '#core/energy/simulate';
import type { EnergyLoad, PowerSystem } from '#core/energy/system';
import { assess } from '#core/order/assess';
import { Phase, type OwnerDay } from '#model/day';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoOrder } from '../demo-sheets';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** A day of 12 phases with 20 loads on the largest demo unit, made from a seed. */
function bigDay(seed: number): { system: PowerSystem; day: OwnerDay } {
  const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
  const { system } = assess(order, sheets, DEFAULT_SETTINGS).power;
  const random = xoroshiro128plus(seed);
  const between = (a: number, b: number) => a + (b - a) * uniformFloat64(random);
  const pattern = system.loads.find((l) => !l.own)!;
  const more = Array.from({ length: Math.max(0, 20 - system.loads.length) }, (_, i): EnergyLoad => ({
    ...pattern,
    id: `more/l${i}`,
    name: `load ${i}`,
    kind: 'continuous',
    use: null,
    share: 1,
    watts: between(2, 20),
    law: i % 3 ? 'constant-power' : 'filament',
  }));
  const phases = Array.from({ length: 12 }, (_, i) =>
    Phase.parse({
      id: `p${i}`,
      name: `phase ${i}`,
      minutes: between(10, 90),
      rpm: i % 3 === 2 ? 0 : between(1200, 3500),
      tempC: between(0, 30),
      dark: i > 8,
    }),
  );
  return { system: { ...system, loads: [...system.loads, ...more] }, day: { id: 'big', name: 'Big day', phases } };
}

/** Simulated days against the same model in fixed one-second steps, many days, and the search for remedies. */
export function benchEnergy(print: (line: string) => void): void {
  const ratios: number[] = [];
  let worst = 0;
  for (let seed = 1; seed <= 7; seed++) {
    const { system, day } = bigDay(seed);
    const { segments, charge } = compile(system, day);
    const quick = () => run(segments, charge, system.join);
    for (let i = 0; i < 200; i++) quick();
    let t = performance.now();
    for (let i = 0; i < 400; i++) quick();
    const each = (performance.now() - t) / 400;
    t = performance.now();
    const fixed = run(segments, charge, system.join, { fixedHours: 1 / 3600 });
    ratios.push((performance.now() - t) / each);
    worst = Math.max(worst, Math.abs(fixed.charge[0]! - quick().charge[0]!) / system.cells[0]!.capacityAh);
  }
  print(
    `A day of 12 phases and 20 loads: ${median(ratios).toFixed(0)} times as fast as fixed one-second steps (20 asked; ${Math.min(...ratios).toFixed(0)} at the least of seven days), charges within ${(worst * 100).toFixed(4)} % (0.1 allowed).`,
  );
  const { system, day } = bigDay(1);
  const warm = new ChanceRun(system, day, DEFAULT_SETTINGS, 500, xoroshiro128plus(9));
  warm.step(500);
  const times = [1, 2, 3].map((seed) => {
    const t = performance.now();
    const c = new ChanceRun(system, day, DEFAULT_SETTINGS, 10_000, xoroshiro128plus(seed));
    c.step(10_000);
    c.result();
    return performance.now() - t;
  });
  print(
    `10,000 such days with every guess drawn anew: ${(median(times) / 1000).toFixed(2)} s, ${(median(times) / 1000).toFixed(2)} of the 1 s allowed.`,
  );
  const spare = demoIds('kits').map((id) => ({ ref: { id, revision: 1 }, kit: demoKit(id) }));
  const demo = JSON.parse(readFileSync('demo/orders.json', 'utf8')) as { floor: { model: string; kits: string[]; rest: number | null }[] };
  const searches = demo.floor.map((o) => {
    const { order, sheets } = demoOrder(o.model, o.kits, { restVolts: o.rest });
    const t = performance.now();
    const s = searchRemedies(order, sheets, DEFAULT_SETTINGS, spare, 'money');
    return { name: o.model, ms: performance.now() - t, tried: s.tried };
  });
  const slowest = searches.sort((a, b) => b.ms - a.ms)[0]!;
  print(
    `Search for remedies: slowest ${slowest.name}, ${slowest.tried} computed in ${(slowest.ms / 1000).toFixed(2)} s, ${(slowest.ms / 2000).toFixed(2)} of the 2 s allowed.`,
  );
}
