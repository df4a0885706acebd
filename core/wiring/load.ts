import { madeIds, type Device, type Kit } from '#model/kit';
import type { Harness, HarnessElement, HarnessWire } from '#model/harness';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { dropOf, flowsOf, totalAmps, type Flow } from '../circuit/flows';
import { contactorFor } from '../wire-rules/contacts';
import { highestSystemVolts, highestVolts } from '../wire-rules/highest-volts';
import { deviceWatts } from '../circuit/load';
import { buildHarness, type CircuitChoice } from '../harness/build';
import { Memo } from '../memo';
import { overrideOf, type Assigned, type AssignedCircuit } from './assign';
import type { LaidBox } from './box-network';

/** The second stage: everything joined and laid along the runs, gauges and fuses of what is not given still open. */
export interface LaidWiring {
  assigned: Assigned;
  choices: CircuitChoice[];
  draft: Harness;
  boxes: LaidBox[];
}
/** The third: the way of every load's current, and what each element carries with everything on. */
export interface LoadedWiring extends LaidWiring {
  flows: readonly Flow[];
  total: ReadonlyMap<string, number>;
}

/** What switches a circuit from a trigger, off the shelf; null where nothing does, its box brings it, or nothing here can. */
export function contactorOf(c: AssignedCircuit, model: Sheets['model']): CircuitChoice['contactor'] {
  if (c.mode !== 'relay' || c.circuit.makes || c.box?.relay) return null;
  const part = contactorFor(c.load.peakA ?? 0, c.feed ? highestVolts(model, c.feed) : highestSystemVolts(model));
  return part && { part, coilV: c.trigger?.volts ?? c.circuit.volts };
}

/** What was laid lately on a unit: a length, gauge or fuse set by hand lays nothing anew. */
const laidOn = new WeakMap<Sheets['model'], Memo>();
/** As often as an order is asked for with and without what is set by hand, and beside one or two others on the same unit. */
const MOST_LAID = 6;

/** Lays everything that was assigned. */
export function layWiring(assigned: Assigned, order: Order, sheets: Sheets): LaidWiring {
  const { model, points } = assigned;
  const choices = assigned.circuits.map((c): CircuitChoice => ({
    id: c.id,
    kit: c.kit,
    circuit: c.circuit,
    feed: c.taps ? null : c.feed,
    trigger: c.trigger,
    mode: c.mode,
    via: overrideOf(c, 'route') as string | undefined,
    taps: c.taps,
    contactor: contactorOf(c, model),
    box: c.box,
    guarded: c.guarded,
  }));
  const watts = (kit: Kit, d: Device) => deviceWatts(order, kit, d);
  let memo = laidOn.get(model);
  if (!memo) laidOn.set(model, (memo = new Memo()));
  // a circuit and what its box brings for its feed are its kit's; the points are the unit's and the kits'
  const picked = choices.map(({ kit: _kit, circuit: _circuit, box: _box, ...c }) => c);
  const told = sheets.kits.map((kit) => kit.devices.map((d) => watts(kit, d)));
  const { harness, boxes } = memo.once(
    'laid',
    [...sheets.kits, JSON.stringify([picked, told])],
    () => buildHarness(model, points, sheets.kits, choices, watts),
    MOST_LAID,
  );
  return { assigned, choices, draft: harness, boxes };
}

/** The wire that a shop cuts from. */
export const stockedWire = (s: Settings): Pick<HarnessWire, 'insulationC' | 'standard'> => ({
  insulationC: s.wireInsulationC,
  standard: s.wireStandard,
});

/** Every load's way, with measured lengths in place of those reckoned along the runs, and shelf wire as the shop stocks it. */
export function loadWiring(laid: LaidWiring, settings: Settings): LoadedWiring {
  const { assigned, draft } = laid;
  const stocked = stockedWire(settings);
  const asStocked = draft.elements.map((e): HarnessElement => (e.kind === 'wire' && !e.box ? { ...e, ...stocked } : e));
  const first = flowsAt({ ...draft, elements: asStocked }, assigned);
  const measured = new Map(
    assigned.circuits.flatMap((c): [string, number][] => {
      const m = overrideOf(c, 'lengthM');
      return typeof m === 'number' ? [[c.id, m]] : [];
    }),
  );
  if (!measured.size) return { ...laid, draft: { ...draft, elements: asStocked }, flows: first, total: totalAmps(first) };
  const stretchOf = new Map([...measured].map(([id, m]) => [id, stretch(first, id, m)]));
  const elements = asStocked.map((e): HarnessElement => {
    const by = e.kind === 'wire' && !e.box && !e.signal && !e.shared && e.circuit !== null ? stretchOf.get(e.circuit) : undefined;
    return by && e.kind === 'wire' ? { ...e, lengthM: by(e.lengthM) } : e;
  });
  const flows = flowsAt({ ...draft, elements }, assigned);
  return { ...laid, draft: { ...draft, elements }, flows, total: totalAmps(flows) };
}

/** A measured length takes the place of the reckoned one: the circuit's wires are stretched to it alike. */
function stretch(flows: readonly Flow[], circuit: string, measuredM: number): (lengthM: number | null) => number | null {
  const drops = flows.filter((f) => f.circuit === circuit).map((f) => dropOf(f, new Map(), circuit, 18, null));
  if (drops.some((d) => d.outM === null) || !drops.length) return (m) => m ?? measuredM;
  const own = Math.max(...drops.map((d) => d.outM!));
  return own > 0 ? (m) => (m === null ? null : Number(((m * measuredM) / own).toFixed(3))) : (m) => m;
}

function flowsAt(h: Harness, { circuits, points }: Assigned): Flow[] {
  const makers = circuits.filter((c) => c.circuit.makes);
  return flowsOf(
    h,
    makers.map((c) => {
      const of = `${c.kit.id}/${c.circuit.devices[0]}`;
      return { id: `${of}:input`, of, circuit: c.id, from: `${of}.in`, to: `${of}.minus`, amps: c.load.peakA ?? 0 };
    }),
    // what a supply makes, and a tap of the pack, is as good as a source
    points.flatMap((p) => (p.kind === 'pack-tap' || makers.some((c) => madeIds(c.circuit.makes!).includes(p.id)) ? [`pp:${p.id}`] : [])),
  );
}
