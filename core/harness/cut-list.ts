import type { Harness, HarnessNode, HarnessWire } from '#model/harness';
import type { UnitModel } from '#model/unit-model';
import { hazardsAlong, PROTECTION } from '../circuit/route';
import { thinInThick } from '../wire-rules/terminal-size';
import { crimpPull } from '../wire/choose';
import { joinedWires, type EndWork } from '../wiring/box-work';
import type { CutSides } from '../wiring/factory-cuts';
import { planCutsKeeping, type CutPlan, type Length } from './cut';

/** Bared at each end by gauge, millimetres: [thinnest gauge it holds for, mm]. Common practice, no source. */
const STRIP: readonly (readonly [number, number])[] = [
  [16, 6],
  [10, 8],
  [6, 11],
  [-9, 14],
];
const stripMm = (awg: number): number => STRIP.find(([g]) => awg >= g)![1];

/** One piece of wire to cut. */
export interface CutRow {
  wire: string;
  /** short name on its label */
  label: string;
  circuit: string | null;
  awg: number | null;
  colour: string;
  lengthM: number | null;
  from: string;
  to: string;
  ends: readonly [string, string];
  stripMm: number | null;
  /** what must be on it before its ends are closed, in order */
  slideOn: string[];
  signal: boolean;
  /** what the way asks for */
  protect: string[];
}

const slideFor = (end: string, awg: number | null): string[] => {
  if (/plug|sealed/.test(end)) return ['seal'];
  if (/ring/.test(end)) return (awg ?? 18) <= 8 ? ['boot', 'heat-shrink'] : ['heat-shrink'];
  if (/blade/.test(end)) return ['sleeve'];
  return ['heat-shrink'];
};

/** Every added wire of a harness that is cut off the shelf as a piece, circuit by circuit, with a label each. */
export function cutRows(h: Harness, model: UnitModel): CutRow[] {
  const node = new Map(h.nodes.map((n) => [n.id, n]));
  const wires = h.elements.filter((e): e is HarnessWire => e.kind === 'wire' && !e.box);
  const order = [...new Set(wires.map((w) => w.circuit))];
  return [...wires]
    .sort((a, b) => order.indexOf(a.circuit) - order.indexOf(b.circuit))
    .map((w, i) => {
      const hazards = hazardsAlong(model, w.places);
      return {
        wire: w.id,
        label: `W${String(i + 1).padStart(2, '0')}`,
        circuit: w.circuit,
        awg: w.awg,
        colour: w.colour,
        lengthM: w.lengthM,
        from: node.get(w.from)!.label,
        to: node.get(w.to)!.label,
        ends: w.ends,
        stripMm: w.awg === null ? null : stripMm(w.awg),
        slideOn: [
          ...new Set([...(hazards.includes('sharp') ? ['grommet'] : []), ...slideFor(w.ends[0], w.awg), ...slideFor(w.ends[1], w.awg)]),
        ],
        signal: w.signal,
        protect: hazards.map((z) => PROTECTION[z]),
      };
    });
}

/**
 * Takes the cuts from what is on hand; wires without a gauge or a length are left out.
 * @param kept the piece by wire, where it was laid out with the wire of other orders
 */
export function cutPlan(rows: readonly CutRow[], stock: readonly Length[], kept?: ReadonlyMap<string, string>): CutPlan {
  return planCutsKeeping(
    stock,
    rows.flatMap((r) =>
      r.awg === null || r.lengthM === null || r.lengthM <= 0 ? [] : [{ id: r.wire, awg: r.awg, colour: r.colour, lengthM: r.lengthM }],
    ),
    kept,
  );
}

/** A joint between wires, or of a wire to what the unit came with. */
export interface SpliceRow {
  at: string;
  place: string | null;
  joint: string;
  /** what comes in from the side of power, colours */
  from: string[];
  to: string[];
  /** tug test of its thinnest wire */
  pull: { newtons: number; lbf: number } | null;
  /** a thin wire in a thick terminal, in words */
  warning: string | null;
  circuit: string | null;
}

const UNIT_KINDS: readonly HarnessNode['kind'][] = ['unit-wire', 'point', 'splice', 'fused'];

/**
 * The splice sheet: kit colours against unit colours, the joint, its place, and the pull it must hold. Of ready harnesses only what
 * is really joined.
 */
export const spliceRows = (h: Harness, ends: readonly EndWork[], jointOf: (circuit: string | null) => string): SpliceRow[] => [
  ...shelfSplices(h, jointOf),
  ...ends.flatMap((e) => (e.how === 'join' ? endSplices(e, jointOf) : [])),
];

/** The joints of an end of a ready harness: both colours, and what a thin wire in a thick one wants. */
function endSplices(e: EndWork, jointOf: (circuit: string | null) => string): SpliceRow[] {
  const circuit = e.circuits[0] ?? null;
  return joinedWires(e).map((w) => ({
    at: `${e.name}: ${w.goes}`,
    place: e.place,
    joint: jointOf(circuit),
    from: [w.meets ?? 'the unit'],
    to: [w.colour],
    pull: crimpPull(w.thinner),
    warning: w.meetsAwg === null ? null : thinInThick([w.awg, w.meetsAwg]),
    circuit,
  }));
}

function shelfSplices(h: Harness, jointOf: (circuit: string | null) => string): SpliceRow[] {
  const wires = h.elements.filter((e): e is HarnessWire => e.kind === 'wire');
  const rows: SpliceRow[] = [];
  for (const n of h.nodes) {
    // what its maker joined, or plugs together, is no joint of the bench
    if (!UNIT_KINDS.includes(n.kind) || n.ready) continue;
    const into = wires.filter((w) => w.to === n.id);
    const out = wires.filter((w) => w.from === n.id);
    const fuse = h.elements.find(
      (e) => e.kind === 'fuse' && (n.kind === 'fused' ? e.to === n.id : e.from === n.id) && e.circuit !== null && !e.id.includes(':limit'),
    );
    // what a ready harness ends in is told by its ends
    const touching = [...into, ...out];
    const ready = touching.every((w) => w.box) && (fuse?.kind !== 'fuse' || fuse.box !== undefined);
    if (ready && (touching.length || fuse)) continue;
    if (n.kind !== 'splice' && !out.length && !(n.kind === 'point' && fuse)) continue;
    const circuit = into[0]?.circuit ?? out[0]?.circuit ?? fuse?.circuit ?? null;
    const gauges = [...into, ...out].flatMap((w) => w.awg ?? []);
    const unitColour = out.find((w) => w.unitColour)?.unitColour;
    const first = n.kind === 'splice' ? into.map((w) => w.colour) : [unitColour ?? (n.kind === 'fused' ? 'fuse holder' : 'the unit')];
    rows.push({
      at: n.label,
      place: n.place,
      joint: n.kind === 'point' ? 'ring or plug' : jointOf(circuit),
      from: first,
      to: out.length ? out.map((w) => w.colour) : ['fuse holder'],
      pull: gauges.length ? crimpPull(Math.max(...gauges)) : null,
      warning: thinInThick(gauges),
      circuit,
    });
  }
  return rows;
}

/** Leads that a device, a plug or a ready harness has and nothing is joined to: capped and tied back, as is a cut wire’s side that goes nowhere; and cavities that stay plugged. */
export const capRows = (
  h: Harness,
  ends: readonly EndWork[] = [],
  cuts: readonly CutSides[] = [],
): { lead: string; place: string | null }[] => [
  ...cuts.flatMap((c) =>
    [c.unit === null ? 'unit’s side' : null, c.other === null ? 'far side' : null].flatMap((side) =>
      side ? [{ lead: `${c.wire.name}, cut, ${side}: ${c.wire.colour}`, place: c.place }] : [],
    ),
  ),
  ...looseTerminals(h),
  ...ends.flatMap((e) => {
    const idle = e.wires.filter((w) => w.goes === 'capped' || w.goes === 'spare').map((w) => w.colour);
    const spare = e.end.kind === 'connector' ? e.end.cavities - e.wires.length : 0;
    const name = `${e.harness}, ${e.name}`;
    return [
      ...(idle.length ? [{ lead: `${name}: ${idle.join(', ')}`, place: e.place }] : []),
      ...(spare > 0
        ? [{ lead: `${name}: ${spare} spare ${spare === 1 ? 'cavity keeps its plug' : 'cavities keep their plugs'}`, place: e.place }]
        : []),
    ];
  }),
];

function looseTerminals(h: Harness): { lead: string; place: string | null }[] {
  const joined = new Set(h.elements.flatMap((e) => (e.kind === 'wire' || (e.kind === 'fuse' && e.circuit !== null) ? [e.from, e.to] : [])));
  // what a plug of a kit gives is taken where something is joined to its point
  const points = new Set(h.nodes.flatMap((n) => (n.kind === 'point' && joined.has(n.id) ? [n.id] : [])));
  for (const e of h.elements) if (e.kind === 'resistor' && points.has(e.to)) joined.add(e.from);
  /** A channel of a supply that nothing takes: its own limit is all that is joined to it. */
  const idle = (n: HarnessNode): boolean => {
    if (n.kind !== 'point' || n.of === null || n.of === 'unit') return false;
    const ends = h.elements.filter((e) => e.from === n.id || e.to === n.id);
    return ends.length === 1 && ends[0]!.kind === 'fuse' && ends[0]!.of === n.of;
  };
  return h.nodes.flatMap((n) =>
    idle(n) || (n.kind === 'terminal' && !joined.has(n.id) && h.nodes.some((m) => m.of === n.of && joined.has(m.id)))
      ? [{ lead: n.label, place: n.place }]
      : [],
  );
}
