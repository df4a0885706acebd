import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { planWiring } from '#core/wiring/plan';
import { scan } from '#core/harness/scan';
import { Simulator } from '#core/harness/simulate';
import type { Element } from '#core/network/element';
import { Network } from '#core/network/solve';
import type { Order } from '#model/order';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { after, demoOrder } from '../demo-sheets';
import { seeded } from '../random-network';
import { card } from '../reference/ngspice';

const GROUND = '0';
const NODES = 60;

/** A harness of 60 points: a tree of wires from a battery, with a constant-power lamp or a heater at every end. */
export function treeHarness(seed: number): Element[] {
  const random = seeded(seed);
  const out: Element[] = [{ kind: 'V', id: 'bat', from: 'n0', to: GROUND, volts: 12.7, ohms: 0.01 }];
  const children = new Map<number, number>();
  for (let i = 1; i < NODES; i++) {
    const parent = Math.floor(random() * Math.min(i, 12) + Math.max(0, i - 12));
    children.set(parent, (children.get(parent) ?? 0) + 1);
    out.push({ kind: 'R', id: `w${i}`, from: `n${parent}`, to: `n${i}`, ohms: 0.004 + 0.03 * random() });
  }
  for (let i = 1; i < NODES; i++) {
    if (children.get(i)) continue;
    if (random() < 0.6)
      out.push({
        kind: 'load',
        id: `p${i}`,
        law: 'constant-power',
        from: `n${i}`,
        to: GROUND,
        watts: 3 + 12 * random(),
        volts: 1,
        minVolts: 8,
      });
    else out.push({ kind: 'R', id: `r${i}`, from: `n${i}`, to: GROUND, ohms: 10 + 40 * random() });
  }
  return out;
}

/** Seconds of one ngspice run that sweeps the battery over so many points. */
function ngspiceSweep(elements: readonly Element[], points: number): number {
  const dir = mkdtempSync(join(tmpdir(), 'kadro-bench-'));
  try {
    const step = 3 / (points - 1);
    writeFileSync(
      join(dir, 'sweep.cir'),
      `sweep\n${elements.map((e) => card(e, GROUND)).join('\n')}\n.options reltol=1e-6\n.dc Vbat 11 ${11 + step * (points - 1) + step / 4} ${step}\n.save v(xn59)\n.end\n`,
    );
    const t = performance.now();
    execFileSync('ngspice', ['-b', '-r', 'out.raw', 'sweep.cir'], { cwd: dir, stdio: 'ignore', timeout: 240_000 });
    return (performance.now() - t) / 1000;
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
}

function kadroSweep(elements: readonly Element[], points: number): { seconds: number; last: number } {
  const net = new Network(elements, GROUND);
  const bat = net.element('bat') as Extract<Element, { kind: 'V' }>;
  net.solve();
  const t = performance.now();
  let last = 0;
  for (let i = 0; i < points; i++) {
    bat.volts = 11 + (3 * i) / (points - 1);
    net.resolve();
    last = net.voltsAt('n59');
  }
  return { seconds: (performance.now() - t) / 1000, last };
}

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** Solver against ngspice's DC sweep on the same harness, turn about; and what a change on the Wire station computes. */
export function benchWiring(say: (line: string) => void): void {
  const elements = treeHarness(60);
  const [few, many] = [2_000, 22_000];
  kadroSweep(elements, 20_000);
  const ratios: number[] = [];
  const rates: [number[], number[]] = [[], []];
  for (let i = 0; i < 5; i++) {
    // the same run twice as long takes its own start out of the figure
    const theirs = (ngspiceSweep(elements, many) - ngspiceSweep(elements, few)) / (many - few);
    const ours = kadroSweep(elements, many).seconds / many;
    ratios.push(theirs / ours);
    rates[0].push(1 / ours);
    rates[1].push(1 / theirs);
  }
  say(
    `Solver on a tree of ${NODES} points: ${Math.round(median(rates[0]))} operating points a second, ngspice's DC sweep ${Math.round(median(rates[1]))}: ${median(ratios).toFixed(1)} times as many (at least 8 asked), median of ${ratios.length} turns.`,
  );

  for (const [name, { order, sheets }] of [
    ['the largest demo order', demoOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar'])],
    [
      'six kits with three harnesses',
      demoOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar', 'power-manager', 'reverse-lamp']),
    ],
    ['the largest that the demo’s boxes come to', largest()],
  ] as const)
    benchOrder(say, name, order, sheets);
}

/** Every kit that goes on one unit, and those of no plug of its own once more: some 120 pieces of wire. */
export function largest(): ReturnType<typeof demoOrder> {
  const { order, sheets } = demoOrder('drover-4', [
    'front-harness',
    'road-kit',
    'winch-32',
    'roof-bar',
    'power-manager',
    'bed-lamp',
    'reverse-lamp',
    'rear-lamp-signals',
  ]);
  const twice = ['rear-lamp-signals', 'roof-bar', 'winch-32'];
  const again = sheets.kits.filter((k) => twice.includes(k.id)).map((k) => ({ ...k, id: `${k.id}-again` }));
  return {
    order: { ...order, kits: [...order.kits, ...again.map((k) => ({ kit: { id: k.id, revision: 1 }, box: {} }))] },
    sheets: { ...sheets, kits: [...sheets.kits, ...again] },
  };
}

function benchOrder(say: (line: string) => void, name: string, order: Order, sheets: Sheets): void {
  const plain = planWiring(order, sheets, DEFAULT_SETTINGS);
  const wires = plain.harness.elements.filter((e) => e.kind === 'wire').length;
  // every change is another one, so that nothing is answered from memory: a length, which lays nothing anew, …
  const typed = (i: number) =>
    planWiring(
      after(order, { type: 'wire.overridden', circuit: 'roof-bar/bar', field: 'lengthM', value: 3 + (i % 40) / 10, reason: '' }),
      sheets,
      DEFAULT_SETTINGS,
      () => plain,
    );
  // … and another box, which lays everything
  const laid = () => planWiring(order, { ...sheets, kits: sheets.kits.map((k) => (k.id === 'roof-bar' ? { ...k } : k)) }, DEFAULT_SETTINGS);
  const took = (plan: (i: number) => ReturnType<typeof planWiring>): string => {
    const times: number[] = [];
    for (let i = 0; i < 160; i++) {
      const t = performance.now();
      const w = plan(i);
      const state = { controls: { 'unit#key': 'run', 'unit#engine': 'idle', 'roof-bar/switch#on': 'on' }, beat: true };
      const sim = new Simulator(w.harness);
      sim.show(state);
      sim.reset();
      sim.show({ ...state, beat: false });
      if (i >= 40) times.push(performance.now() - t);
    }
    const sorted = [...times].sort((x, y) => x - y);
    return `${median(times).toFixed(1)} ms at the median, ${sorted[Math.floor(sorted.length * 0.95)]!.toFixed(1)} ms at the 95th percentile`;
  };
  say(
    `A change on the Wire station of ${name}, ${sheets.kits.length} kits and ${wires} pieces of wire: a length typed is planned and shown in ${took(typed)}, another box in ${took(laid)} (50 allowed).`,
  );
  const { harness } = planWiring(order, sheets, DEFAULT_SETTINGS);
  const turns = [1, 2, 3].map(() => {
    const t = performance.now();
    const { states, of } = scan(harness);
    return { states, of, s: (performance.now() - t) / 1000 };
  });
  say(
    `Every state of its switches: ${turns[0]!.states} of ${turns[0]!.of} in ${median(turns.map((x) => x.s)).toFixed(2)} s of one thread, median of 3 turns (1 asked).`,
  );
}
