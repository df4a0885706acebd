import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { Wiring } from '../wiring/planned';
import type { EndWork } from '../wiring/box-work';
import { kitPlugs, pinTable, terminalTables, type PlugTable, type TerminalTable } from '../harness/terminals';
import { holeSheets, type HoleSheet } from '../lighting/hole-sheet';
import { mountedAt } from './kit-steps';
import type { PlannedStep } from './planned';
import { wrenchFor } from './wire-steps';

/** A stud with what is put onto it at a step, from the nut down: the thickest lies lowest. Common practice, no source. */
export interface StudFace {
  name: string;
  studMm: number;
  /** what its nut is tightened with */
  wrench: string;
  rings: { end: string; colour: string; awg: number }[];
}

/** A template with all that are mounted by it. */
export interface TemplateFace {
  sheet: HoleSheet;
  names: string[];
}

/** What is held in hand at a step, as it looks: plugs, relays or switches whose terminals are filled, studs, templates. */
export interface StepFaces {
  plugs: PlugTable[];
  tables: TerminalTable[];
  studs: StudFace[];
  templates: TemplateFace[];
}

const NOTHING: StepFaces = { plugs: [], tables: [], studs: [], templates: [] };

/** What matters at a wiring step: the feed’s plug, the studs, and what of its circuit has more terminals than plus and minus. */
function atWiring(step: PlannedStep, wiring: Pick<Wiring, 'harness' | 'circuits'>, ends: readonly EndWork[]): StepFaces {
  const { harness, circuits } = wiring;
  const circuit = circuits.find((c) => c.id === step.circuit);
  if (!circuit) return NOTHING;
  const own = new Set([
    `${circuit.id}#relay`,
    ...circuit.circuit.devices.map((d) => `${circuit.kit.id}/${d}`),
    ...(circuit.circuit.switch ? [`${circuit.kit.id}/${circuit.circuit.switch.device}`] : []),
  ]);
  const feed = circuit.feed && pinTable(circuit.feed);
  const plugs = kitPlugs(harness).filter((p) => own.has(p.id));
  return {
    ...NOTHING,
    plugs: [...(feed ? [feed] : []), ...plugs],
    tables: terminalTables(harness).filter((t) => own.has(t.id) && !plugs.some((p) => p.id === t.id)),
    studs: studsOf(ends.filter((e) => e.circuits[0] === circuit.id)),
  };
}

function studsOf(ends: readonly EndWork[]): StudFace[] {
  const studs = new Map<string, StudFace>();
  for (const e of ends) {
    if (e.how !== 'screw' || (e.end.kind !== 'ring' && e.end.kind !== 'spade')) continue;
    const key = `${e.into}/${e.end.studMm}`;
    const stud = studs.get(key) ?? { name: e.into, studMm: e.end.studMm, wrench: wrenchFor(e.end.studMm), rings: [] };
    stud.rings.push(...e.wires.map((w) => ({ end: e.name, colour: w.colour, awg: w.awg })));
    studs.set(key, stud);
  }
  for (const s of studs.values()) s.rings.sort((a, b) => b.awg - a.awg);
  return [...studs.values()];
}

/** The templates of what a step mounts, each shape once. */
function templatesOf(step: PlannedStep, order: Order, sheets: Sheets): TemplateFace[] {
  const kit = sheets.kits.find((k) => k.id === step.kit);
  if (!kit || step.stage !== 'mount') return [];
  const mine = mountedAt(kit, step.id);
  const faces = new Map<string, TemplateFace>();
  for (const sheet of holeSheets(order, sheets)) {
    if (sheet.kit !== kit.id || !mine.has(sheet.device)) continue;
    const key = JSON.stringify([sheet.mirrored, sheet.trace, sheet.bezel, sheet.holes]);
    const face = faces.get(key) ?? { sheet, names: [] };
    face.names.push(sheet.name);
    faces.set(key, face);
  }
  return [...faces.values()];
}

/** What is held in hand at a step, as it looks; empty for most. */
export function stepFaces(
  step: PlannedStep,
  wiring: Pick<Wiring, 'harness' | 'circuits'>,
  ends: readonly EndWork[],
  order: Order,
  sheets: Sheets,
): StepFaces {
  if (step.stage === 'wire') return atWiring(step, wiring, ends);
  const templates = templatesOf(step, order, sheets);
  return templates.length ? { ...NOTHING, templates } : NOTHING;
}
