import { judgePack } from '#core/lighting/judge';
import { sightOf } from '#core/lighting/occlusion';
import { searchPlace } from '#core/lighting/placing';
import { switchTable } from '#core/lighting/switching';
import { drawEnds } from '#core/drawing/kinds';
import { Simulator } from '#core/harness/simulate';
import { assess } from '#core/order/assess';
import { fitRule } from '#core/order/fit';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoModel, demoOrder, demoPack, packIds } from '../demo-sheets';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;
const timed = (n: number, work: () => void): number => {
  const list: number[] = [];
  for (let i = 0; i < n; i++) {
    const t = performance.now();
    work();
    list.push(performance.now() - t);
  }
  return median(list);
};

/** Every pack on the largest unit with every state of its switches and every ray; the same states through the whole network beside it. */
export function benchLamps(print: (line: string) => void): void {
  for (const model of ['drover-2', 'sandbar-21']) {
    const m = demoModel(model);
    const kits = demoIds('kits').filter((k) => fitRule(demoKit(k), m, m.years.to, m.builds[0]!.id)?.fits);
    const { order, sheets } = demoOrder(model, kits);
    const a = assess(order, sheets, DEFAULT_SETTINGS);
    const { given, lamps } = a.lamps;
    const { harness } = a.wiring;
    const packs = packIds().map(demoPack);
    const asked = lamps.filter((l) => given.table!.lamps.some((t) => t.id === l.id));
    let states = 0;
    const all = () => {
      const table = switchTable(harness, m, asked);
      states = table.states.length;
      for (const l of lamps) if (l.at) sightOf(l.at, m.obstacles, l.arcDeg ?? null);
      for (const p of packs) judgePack(p, { ...given, table });
    };
    all();
    const took = timed(15, all);
    const sim = new Simulator(harness);
    const has = new Set(harness.controls.map((c) => c.id));
    const network = timed(3, () => {
      for (const s of given.table!.states) {
        sim.reset();
        sim.show({ controls: Object.fromEntries(Object.entries(s.controls).filter(([c]) => has.has(c))), beat: s.beat });
      }
    });
    print(
      `Lamps of ${m.name} with ${kits.length} kits: all ${packs.length} packs, ${states} states of the switches and ${m.obstacles.length} obstacles in ${took.toFixed(1)} ms (100 ms allowed); the same states through the whole network ${(network / took).toFixed(1)} times as long.`,
    );
  }
  const { order, sheets } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps']);
  const a = assess({ ...order, packs: ['low-speed-vehicle', 'road-general'] }, sheets, DEFAULT_SETTINGS);
  const lamp = a.lamps.lamps.find((l) => l.id === 'cart-road-lamps/head-left')!;
  const faces = drawEnds(sheets.model).faces;
  let tried = 0;
  const search = timed(
    5,
    () =>
      (tried = searchPlace(
        a.lamps.packs.map((p) => p.pack),
        lamp,
        a.lamps.given,
        faces,
      ).tried),
  );
  print(`A lamp’s nearest legal place among ${tried}: ${search.toFixed(0)} ms.`);
}
