import { wayDoubt } from '../known/doubt';
import type { Harness } from '#model/harness';
import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { ownFuse } from '../circuit/flows';
import { PROTECTION } from '../circuit/route';
import { round } from '../sum';
import { fuseWithinMm, sayFusePlace } from '../wire-rules/fuse-place';
import { thinInThick } from '../wire-rules/terminal-size';
import { crimpPull } from '../wire/choose';
import { awgName } from '../wire/resistance';
import { joinedWires, sayEndWork, type EndWork } from '../wiring/box-work';
import type { PlannedCircuit, Wiring } from '../wiring/planned';
import { step, yes, type PlannedStep } from './planned';
import { mountStepOf } from './kit-steps';
import { sayCircuit } from './say-wiring';
import { wireStepOf } from './used';

/** Leads of a circuit's devices that are too thin for the terminals of its wire. */
function thinLeads(c: PlannedCircuit): string[] {
  const { awg } = c;
  if (awg === null) return [];
  const devices = c.circuit.devices.map((d) => c.kit.devices.find((x) => x.id === d)!);
  const says = devices.flatMap((d) => d.terminals.flatMap((t) => (t.awg === undefined ? [] : (thinInThick([awg, t.awg]) ?? []))));
  return [...new Set(says)];
}

/** The reading by which it is said that the crimps of a circuit were pulled by hand. */
const TUGGED = 'tugged';
/** The reading by which a fuse's place is confirmed. */
export const FUSE_PLACE = 'fuse-place';

/** Minutes that ends of a box take, by how they are dealt with, and its laying. Common practice, no source. */
const END_MINUTES = { plug: 1, screw: 2, push: 0.5, join: 3, extend: 6, cap: 0.5, spare: 0.5 } as const;
const LAY_MINUTES = 2;
const LAY_MINUTES_PER_M = 1.5;
/** What each kind of hazard on the way asks for: a sleeve, a grommet, a loop. */
const HAZARD_MINUTES = 1;
/** Minutes of a circuit's wire off the shelf. Common practice, no source. */
const SHELF_MINUTES = 6;

const minutesOfEnds = (ends: readonly EndWork[]): number => ends.reduce((n, e) => n + END_MINUTES[e.how], 0);

/** Nuts by their thread, across flats, millimetres. From memory (ISO 4032; M10 as ISO 272 has it). */
const ACROSS_FLATS: Record<number, number> = { 4: 7, 5: 8, 6: 10, 8: 13, 10: 16, 12: 18 };
/** What a nut on a thread of so many millimetres is tightened with. */
export const wrenchFor = (thread: number): string => `${ACROSS_FLATS[thread] ? `${ACROSS_FLATS[thread]} mm` : `M${thread}`} wrench`;
/** What the rings and spades of these ends are tightened with; null where nothing is screwed. */
function wrenches(ends: readonly EndWork[]): string | null {
  const studs = ends.flatMap((e) => (e.how === 'screw' && (e.end.kind === 'ring' || e.end.kind === 'spade') ? [e.end.studMm] : []));
  const sizes = [...new Set(studs)].sort((a, b) => a - b).map(wrenchFor);
  return sizes.length ? sizes.join(', ') : null;
}

/** Whether a circuit leaves anything to be done by itself: all of one may go on with the ends of another. */
export const isWork = (c: PlannedCircuit, h: Harness, all: readonly EndWork[]): boolean =>
  c.wireFrom === 'shelf' ||
  all.some((e) => e.circuits[0] === c.id) ||
  h.elements.some((e) => e.circuit === c.id && ((e.kind === 'wire' && !e.box) || (e.kind === 'fuse' && e.id === ownFuse(c.id) && !e.box)));

/** The wiring of one circuit as a step: what its box brings is plugged and screwed on, what it does not is cut and joined. */
export function wireStep(c: PlannedCircuit, wiring: Wiring, model: UnitModel, all: readonly EndWork[]): PlannedStep {
  const { harness } = wiring;
  const ends = all.filter((e) => e.circuits[0] === c.id);
  const shelf = harness.elements.filter((e) => e.kind === 'wire' && e.circuit === c.id && !e.box);
  const leads = wiring.boxes.filter((b) => b.kit === c.kit.id && b.laid && isLead(b) && ends.some((e) => e.of.harness === b.harness.id));
  const leadsM = leads.reduce((s, b) => s + b.harness.legs[0]!.lengthMm / 1000, 0);
  const hazards = [...new Set(leads.flatMap((b) => b.laid!.legs.flatMap((l) => l.hazards)))];
  const crimps = shelf.length > 0 || ends.some((e) => e.how === 'join' || e.how === 'extend');
  // what is crimped is pulled, the thinnest of it as the rest
  const crimped = [
    ...shelf.flatMap((e) => (e.kind === 'wire' && !e.signal ? (e.awg ?? []) : [])),
    ...ends.flatMap((e) => (e.how === 'join' || e.how === 'extend' ? joinedWires(e).map((w) => w.thinner) : [])),
  ];
  const kinds = new Map(harness.nodes.map((n) => [n.id, n.kind]));
  const onUnit = harness.elements.some(
    (e) => e.kind === 'wire' && e.circuit === c.id && [e.from, e.to].some((n) => kinds.get(n) === 'unit-wire'),
  );
  const thinnest = Math.max(...crimped);
  const pull = crimped.length ? crimpPull(thinnest) : null;
  const doubt = shelf.length && c.route ? wayDoubt(model, c.route.places) : null;
  return step({
    id: wireStepOf(c.id),
    stage: 'wire',
    kit: c.kit.id,
    circuit: c.id,
    title: crimps ? `Wire ${c.circuit.name}` : `Plug in ${c.circuit.name}`,
    text: [
      sayCircuit(c, harness, model, ends),
      ...(doubt ? [`Its way is only assumed, ${doubt[0].toFixed(1)} m to ${doubt[1].toFixed(1)} m: tape it before it is cut.`] : []),
      ...(hazards.length ? [`On its way: ${hazards.map((z) => `${z}: ${PROTECTION[z]}`).join('; ')}.`] : []),
    ].join('\n'),
    place: c.feed?.place ?? null,
    reach: [
      ...new Set([
        ...c.circuit.devices.map((d) => c.kit.devices.find((x) => x.id === d)!.place),
        ...(c.trigger ? [c.trigger.place] : []),
        ...ends.flatMap((e) => e.place ?? []),
      ]),
    ],
    way: [...new Set([...(shelf.length ? (c.route?.places ?? []) : []), ...leads.flatMap((b) => b.laid!.legs.flatMap((l) => l.places))])],
    tool: crimps ? 'cutter, stripper, crimper' : wrenches(ends),
    slideOnFirst:
      !crimps || c.joint === 'factory-plug' ? [] : ['heat-shrink', ...(c.circuit.terminal === 'ring' && shelf.length ? ['boot'] : [])],
    cautions: [`Never across steering or brake parts${crimps ? '; heat gun away from fuel' : ''}`, ...(crimps ? thinLeads(c) : [])],
    minutes: Math.max(
      1,
      Math.round(
        (shelf.length && !ends.length ? SHELF_MINUTES : shelf.length ? 3 : 0) +
          minutesOfEnds(ends) +
          LAY_MINUTES_PER_M * leadsM +
          HAZARD_MINUTES * hazards.length,
      ),
    ),
    readings: [
      ...(onUnit ? [yes('marked', 'Joined to the wire that was found and marked, and no other')] : []),
      ...(pull && crimps
        ? [
            // by hand, as it is done at a bench; by figures for who has a gauge
            yes(TUGGED, 'Each crimp held a tug by hand', `as hard as ${round(pull.newtons)} N pulls`),
            {
              id: 'tug',
              label: 'Tug test of each crimp, by gauge',
              optional: true,
              expected: {
                low: pull.newtons,
                high: null,
                unit: 'N' as const,
                why: `on ${awgName(thinnest)} AWG (ABYC E-11)`,
              },
            },
          ]
        : []),
      ...(!crimps ? [yes('seated', 'Each plug clicked, each nut tight')] : []),
      ...(c.fuseFrom === 'shelf' && c.feed ? [yes(FUSE_PLACE, `Fuse ${sayFusePlace(c.feed.name, fuseWithinMm(c.feed.kind))}`)] : []),
    ],
  });
}

/** The step that lays a ready harness. */
export const layStepOf = (kit: string, harness: string): string => `lay/${kit}/${harness}`;
/** Steps that lay what the ends of a circuit hang on. */
export const laidBefore = (c: PlannedCircuit, all: readonly EndWork[]): string[] => [
  ...new Set(all.filter((e) => e.circuits[0] === c.id).map((e) => layStepOf(e.kit.id, e.of.harness))),
];

/** Steps that mount what other kits bring and this circuit is joined to. */
export function metBefore(c: PlannedCircuit, { harness }: Wiring, kits: readonly Kit[]): string[] {
  const of = new Map(harness.nodes.map((n) => [n.id, n.of]));
  const met = new Set(harness.elements.flatMap((e) => (e.kind === 'wire' && e.circuit === c.id ? [of.get(e.from), of.get(e.to)] : [])));
  return kits
    .filter((k) => k.id !== c.kit.id)
    .flatMap((k) => k.devices.flatMap((d) => (met.has(`${k.id}/${d.id}`) && !d.uses ? [mountStepOf(k, d)] : [])));
}

/** A single lead is laid as it is joined. */
export const isLead = (b: Wiring['boxes'][number]): boolean => b.harness.legs.length === 1;

/** Laying each ready harness of a kit along the unit, before anything of it is joined. */
export function laySteps(kit: Kit, wiring: Wiring, model: UnitModel, all: readonly EndWork[]): PlannedStep[] {
  const name = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  return wiring.boxes.flatMap((box) => {
    if (box.kit !== kit.id || !box.laid || isLead(box)) return [];
    const ends = all.filter((e) => e.kit.id === kit.id && e.of.harness === box.harness.id);
    const joined = ends.filter((e) => e.place);
    const lengthM = box.harness.legs.reduce((s, l) => s + l.lengthMm, 0) / 1000;
    const hazards = [...new Set(box.laid.legs.flatMap((l) => l.hazards))];
    // what belongs to no circuit is seen to as it is laid
    const loose = ends.filter((e) => !e.circuits.length);
    return [
      step({
        id: layStepOf(kit.id, box.harness.id),
        stage: 'wire',
        kit: kit.id,
        title: `Lay the ${box.harness.name}`,
        text: [
          ...joined.map((e) => `${e.name}: ${e.leg ? `to ${name(e.place!)}` : `at ${name(e.place!)}`}.`),
          ...loose.map((e) => sayEndWork(e)),
          ...(hazards.length ? [`On its way: ${hazards.map((z) => `${z}: ${PROTECTION[z]}`).join('; ')}.`] : []),
          'Nothing tied tight until every end is on.',
        ].join('\n'),
        place: joined[0]?.place ?? null,
        reach: [...new Set(joined.flatMap((e) => e.place ?? []))],
        way: [...new Set(box.laid.legs.flatMap((l) => l.places))],
        cautions: ['Never across steering or brake parts'],
        minutes: Math.round(LAY_MINUTES + LAY_MINUTES_PER_M * lengthM + HAZARD_MINUTES * hazards.length + minutesOfEnds(loose)),
      }),
    ];
  });
}
