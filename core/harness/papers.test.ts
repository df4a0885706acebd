import ELK from 'elkjs/lib/elk.bundled.js';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { looseOrder } from '../../tests/demo-sheets';
import { planWiring } from '../wiring/plan';
import { WIRE_OD_MM } from './bundle';
import { bundleRows } from './bundles';
import { capRows, cutPlan, cutRows, spliceRows } from './cut-list';
import { drawSchematic, schematicSvg } from './draw';
import { labels } from './labels';
import { layOut, WIDE } from './layout';
import { schematicOf } from './schematic';
import { kitPlugs, pinTable, terminalTables } from './terminals';

const of = (model: string, kits: string[]) => {
  const { order, sheets } = looseOrder(model, kits);
  return { ...planWiring(order, sheets, DEFAULT_SETTINGS), model: sheets.model };
};
const drover = of('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
const rows = cutRows(drover.harness, drover.model);
const row = (from: RegExp, to: RegExp) => rows.find((r) => from.test(r.from) && to.test(r.to))!;

describe('the cut list', () => {
  it('has every added wire once, with a label of its own', () => {
    const wires = drover.harness.elements.filter((e) => e.kind === 'wire');
    expect(rows).toHaveLength(wires.length);
    expect(new Set(rows.map((r) => r.label)).size).toBe(rows.length);
  });
  it('says what slides on first: a boot on a cable’s ring, a grommet where an edge is passed, a seal for a sealed plug', () => {
    expect(row(/Winch power, after its fuse/, /Contactor, battery stud/).slideOn).toEqual(['boot', 'heat-shrink']);
    expect(row(/relay 87/, /Roof bar lamp, plus/).slideOn[0]).toBe('grommet');
    expect(row(/Signal and hazard switch, left/, /left, from the switch/).slideOn).toContain('seal');
  });
  it('strips a thick wire more than a thin one (common practice, no source)', () => {
    expect(row(/Winch power/, /Contactor/).stripMm).toBe(14);
    expect(row(/relay 87/, /Roof bar/).stripMm).toBe(8);
    expect(row(/Signal and hazard switch, left/, /left, from the switch/).stripMm).toBe(6);
  });
  it('lays the cuts on what is on hand, longest first, and names what nothing is long enough for', () => {
    const stock = [
      { id: 'spool', awg: 18, colour: 'GN', lengthM: 30 },
      { id: 'short', awg: 18, colour: 'GY', lengthM: 0.4 },
    ];
    const plan = cutPlan(rows, stock);
    const green = rows.filter((r) => r.awg === 18 && r.colour === 'GN');
    expect(plan.assignments.filter((a) => a.stock === 'spool')).toHaveLength(green.length);
    expect(plan.unmet).toEqual(
      expect.arrayContaining(rows.filter((r) => r.colour === 'GY' && r.awg === 18 && r.lengthM! > 0.4).map((r) => r.wire)),
    );
  });
});

describe('joints', () => {
  const splices = spliceRows(drover.harness, [], () => 'crimp, adhesive shrink');
  it('pair the kit’s colour with the unit’s, with the pull that the thinnest wire must hold (ABYC E-11)', () => {
    const tail = splices.find((s) => s.at === 'tail-lamp wire')!;
    expect(tail).toMatchObject({ from: ['BN/WH'], to: ['BN'], pull: { lbf: 10 } });
    const winch = splices.find((s) => s.at === 'Winch power, after its fuse')!;
    expect(winch.pull!.lbf).toBe(70);
    expect(
      splices
        .filter((s) => /^splice at/.test(s.at))
        .every((s) => Math.min(s.from.length, s.to.length) === 1 && s.from.length + s.to.length > 2),
    ).toBe(true);
  });
  it('leads that nothing is joined to are capped', () => {
    const loose = of('drover-4', ['road-kit']);
    const elements = loose.harness.elements.filter((e) => !(e.kind === 'wire' && e.from === 'road-kit/switch.hazard'));
    expect(capRows({ ...loose.harness, elements }).map((c) => c.lead)).toEqual([
      'Signal module, hazard, from the switch',
      'Signal and hazard switch, hazard',
    ]);
    expect(capRows(drover.harness)).toEqual([]);
  });
});

describe('bundles', () => {
  const { amps } = drover;
  const bundles = bundleRows(drover.harness, drover.model, amps);
  it('hold every wire that runs there, at least as thick as the thickest and no thicker than all in a row', () => {
    for (const b of bundles) {
      const od = b.wires.map((id) => {
        const w = drover.harness.elements.find((e) => e.id === id)!;
        return w.kind === 'wire' ? WIRE_OD_MM[w.awg!]! : 0;
      });
      expect(b.bundleMm).toBeGreaterThanOrEqual(Math.max(...od) - 1e-9);
      expect(b.bundleMm).toBeLessThanOrEqual(od.reduce((s, x) => s + x, 0) + 1e-9);
      if (b.loomMm !== null) expect(b.loomMm).toBeGreaterThanOrEqual(b.bundleMm - 1e-9);
    }
  });
  it('are tied at most 18 in apart (ABYC E-11), and pass an edge through a grommet', () => {
    for (const b of bundles) expect(b.lengthMm / b.ties).toBeLessThanOrEqual(457.2);
    const edge = bundles.find((b) => b.hazards.includes('sharp'))!;
    expect(edge.holeMm!).toBeGreaterThan(edge.bundleMm);
    expect(bundles.find((b) => !b.hazards.length)!.holeMm).toBeNull();
  });
  it('name a wire that carries too much for so many together (ABYC bundling factors)', () => {
    const hot = new Map(amps);
    const crowded = bundles.reduce((a, b) => (b.wires.length > a.wires.length ? b : a));
    for (const id of crowded.wires) hot.set(id, 19);
    const again = bundleRows(drover.harness, drover.model, hot).find((b) => b.run === crowded.run)!;
    expect(again.warm.length).toBeGreaterThan(0);
    expect(again.warm[0]!.mayA).toBeLessThan(19);
  });
});

describe('tables of terminals', () => {
  it('a relay: 30 from the fuse, 87 to the lamp, 86 from the switch, 85 to ground', () => {
    const relay = terminalTables(drover.harness).find((t) => t.kind === 'relay')!;
    const at = (t: string) =>
      relay.rows
        .find((r) => r.terminal === t)!
        .wires.map((w) => w.goes)
        .join();
    expect(at('30')).toMatch(/fuse, from bus bar, constant stud/);
    expect(at('87')).toMatch(/Roof bar lamp, plus/);
    expect(at('86')).toMatch(/Rocker switch, out/);
    expect(at('85')).toMatch(/ground stud/);
  });
  it('a device whose name has a comma keeps it', () => {
    const boat = of('sandbar-21', ['docking-lamps']);
    expect(schematicOf(boat.harness).blocks.map((b) => b.title)).toContain('Docking lamp, starboard');
  });
  it('a plug is turned over between wire side and face', () => {
    const port = drover.points.find((p) => p.id === 'port-3')!;
    const t = pinTable(port)!;
    expect(t.wireSide.map((p) => p.pin)).toEqual(['1', '2']);
    expect(t.face.map((p) => p.pin)).toEqual(['2', '1']);
    expect(pinTable(drover.points.find((p) => p.id === 'battery-plus')!)).toBeNull();
    const module = kitPlugs(drover.harness).find((x) => x.name === 'Signal module')!;
    expect(module.wireSide.map((p) => `${p.pin} ${p.colour}`)).toEqual(['1 RD', '2 BK', '3 GN', '4 GY', '5 GN/WH', '6 GY/WH', '7 OG/WH']);
  });
});

type Rect = { x: number; y: number; width: number; height: number };

describe('the schematic', () => {
  const elk = new ELK();
  it.each([
    ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
    ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']],
    ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
    ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio']],
  ] as [string, string[]][])('of %s draws every wire between blocks that do not overlap, the same each time', async (m, kits) => {
    const { harness } = of(m, kits);
    const s = schematicOf(harness);
    const drawn = new Set(s.links.map((l) => l.element));
    for (const e of harness.elements) if (e.kind === 'wire') expect(drawn.has(e.id), e.id).toBe(true);
    const l = await layOut(s, elk);
    for (const [i, a] of l.blocks.entries())
      for (const b of l.blocks.slice(i + 1))
        expect(
          a.x + a.width <= b.x + 0.5 || b.x + b.width <= a.x + 0.5 || a.y + a.height <= b.y + 0.5 || b.y + b.height <= a.y + 0.5,
          `${a.id} on ${b.id}`,
        ).toBe(true);
    // what is drawn of every wire, whole or as two halves from flag to flag of the same number
    const flags = new Map(l.blocks.flatMap((b) => (b.kind === 'flag' ? [[b.id, b.title] as const] : [])));
    for (const { id } of s.links) {
      const halves = l.links.filter((k) => (k.of ?? k.id) === id);
      if (halves.length === 1) continue;
      expect(halves).toHaveLength(2);
      expect(flags.get(halves[0]!.to.block)).toMatch(/^\d+$/);
      expect(flags.get(halves[0]!.to.block)).toBe(flags.get(halves[1]!.from.block));
    }
    expect(new Set(flags.values()).size * 2).toBe(flags.size);
    for (const link of l.links) {
      expect(link.points.length).toBeGreaterThanOrEqual(2);
      const end = (x: { block: string; port: string }) => {
        const b = l.blocks.find((k) => k.id === x.block)!;
        return { x: b.x + b.at[x.port]!.x, y: b.y + b.at[x.port]!.y };
      };
      const [from, to] = [end(link.from), end(link.to)];
      expect(Math.hypot(link.points[0]!.x - from.x, link.points[0]!.y - from.y)).toBeLessThan(8);
      expect(Math.hypot(link.points.at(-1)!.x - to.x, link.points.at(-1)!.y - to.y)).toBeLessThan(8);
    }
    expect(await layOut(schematicOf(harness), elk)).toEqual(l);
    // nothing is past the right edge at 1280 by 800, at seven tenths of its size beside the drawing
    expect(l.width).toBeLessThanOrEqual(WIDE);
    expect(l.height).toBeLessThan(900);
    // beside a narrower drawing, shorter rows
    const narrow = await layOut(s, elk, 780);
    expect(narrow.width).toBeLessThanOrEqual(840);
    // no label on a block or on another label, and most wires have theirs
    const said = [...labels(l, (k) => [k.label].filter(Boolean), { char: 6.1, height: 11, off: 5 }).values()];
    const box = (x: { x: number; y: number; text: string }) => ({
      x: x.x - x.text.length * 3.05,
      y: x.y - 11,
      width: x.text.length * 6.1,
      height: 11,
    });
    const apart = (a: Rect, b: Rect) => a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;
    for (const [i, a] of said.entries())
      for (const b of [...l.blocks, ...said.slice(i + 1).map(box)]) expect(apart(box(a), b), a.text).toBe(true);
    expect(said.length).toBeGreaterThan(l.links.filter((k) => k.label).length * 0.4);
  });
  it('begins a circuit that nothing feeds yet, so that its devices are seen and the lack of a feed too', () => {
    const { harness } = of('greenway-36', ['cart-basic-lamps']);
    const start = schematicOf(harness).blocks.find((b) => b.title === 'no feed yet')!;
    expect(harness.problems.some((p) => p.node === start.id)).toBe(true);
  });
  it('as SVG is one well-formed picture with every text escaped', async () => {
    const { harness } = of('lapwing-500', ['aux-lamps']);
    harness.nodes.find((n) => n.id === 'pp:battery-plus')!.label = 'post <&"> +';
    const l = await layOut(schematicOf(harness), elk);
    const svg = schematicSvg(l, 'A & B');
    expect(svg).toContain('post &lt;&amp;&quot;&gt; +');
    expect(svg).toContain('<title>A &amp; B</title>');
    expect(svg.match(/<(rect|polyline|circle|text)/g)!.length).toBe(drawSchematic(l).length + 2);
    expect(svg.trim().endsWith('</svg>')).toBe(true);
  });
});
