import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { hazardsAlong, PROTECTION, runLength } from '../circuit/route';
import { SUPPORT_MM } from '../wire-rules/fuse-place';
import type { PlannedCircuit, Wiring } from '../wiring/planned';
import { capital } from '../words';
import { step, yes, type PlannedStep } from './planned';

/** Everything that was laid, tied down once it has been proved. */
export const TIE_STEP = 'tie/all';
/** Everything once more, closed. */
export const LAST_RUN = 'close/last-run';
export const RIDE_STEP = 'close/ride';

/** Tools and hands to each hand's breadth of harness, minutes a metre of way. Common practice, no source. */
const TIE_MINUTES_PER_M = 0.8;
/** Ties stand at most so far apart (ABYC E-11, 18 in). */
const TIES_APART_MM = Math.floor(SUPPORT_MM);
/** Kinds that are steered by bars, not by a wheel. */
const BARS: readonly UnitModel['kind'][] = ['motorcycle', 'quad', 'snow-machine'];

/** Places that a wire lies at or passes. */
export const wiredPlaces = ({ harness }: Wiring): ReadonlySet<string> =>
  new Set(harness.elements.flatMap((e) => (e.kind === 'wire' && e.of === null ? e.places : [])));

/** The runs of the unit that anything was laid along. */
function runsUsed({ harness }: Wiring, model: UnitModel): UnitModel['runs'] {
  const pairs = new Set(
    harness.elements.flatMap((e) =>
      e.kind === 'wire' && e.of === null ? e.places.slice(1).map((to, i) => [e.places[i]!, to].sort().join(' ')) : [],
    ),
  );
  return model.runs.filter((r) => pairs.has([r.from, r.to].sort().join(' ')));
}

/** Whether anything that was added lies where steering moves. */
export const pastSteering = (wiring: Wiring, model: UnitModel): boolean =>
  wiring.harness.elements.some((e) => e.kind === 'wire' && hazardsAlong(model, e.places).includes('steering'));

/**
 * Tying down what was laid, once it has been proved and before anything closes; none where nothing was laid.
 * Common practice, no source, but for how far apart ties stand (see `SUPPORT_MM`).
 */
export function tieSteps(wiring: Wiring, model: UnitModel): PlannedStep[] {
  const runs = runsUsed(wiring, model);
  if (!runs.length) return [];
  const name = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  const lengthM = runs.reduce((s, r) => s + runLength(model, r) / 1000, 0);
  const hazards = [...new Set(runs.flatMap((r) => r.hazards))];
  const at = hazards.map((h) => {
    const r = runs.find((x) => x.hazards.includes(h))!;
    return `${capital(name(r.from))} to ${name(r.to)}: ${PROTECTION[h]}.`;
  });
  return [
    step({
      id: TIE_STEP,
      stage: 'tie',
      title: 'Tie down what was laid',
      text: [
        `Along the factory harness, a tie at most every ${TIES_APART_MM} mm and one at each branch, ends cut flush.`,
        ...at,
        'Never to a brake, fuel or throttle line, nor to the steering.',
      ].join('\n'),
      tool: 'ties, flush cutter',
      minutes: Math.max(2, Math.round(TIE_MINUTES_PER_M * lengthM)),
      readings: [
        yes('tied', 'Nothing rubs, pulls or can fall into what moves or is hot'),
        ...(model.kind === 'boat' ? [yes('hangs', 'Nothing hangs below deck or hull edge where a swimmer or a line is caught')] : []),
      ],
    }),
  ];
}

/** Steering turned both ways with everything tied, wherever anything that was added is turned or passed by it. */
export const steeringSteps = (wiring: Wiring, model: UnitModel, tied: boolean): PlannedStep[] =>
  model.kind === 'motorcycle' || pastSteering(wiring, model)
    ? [
        step({
          id: 'prove/bars',
          stage: 'prove',
          proof: true,
          minutes: 1,
          title: `${BARS.includes(model.kind) ? 'Bars' : 'Wheel'} lock to lock`,
          text: 'Slowly, both ways: nothing pulls, touches or opens a switch.',
          readings: [yes('free', 'Free lock to lock')],
          after: tied ? [TIE_STEP] : [],
        }),
      ]
    : [];

/** Whether a kit changes what a rider sees by, is seen by, or steers with. */
const touchesRoad = (kit: Kit): boolean => kit.devices.some((d) => d.equipment !== undefined || d.load?.use === 'heat');

/**
 * After closing: everything that was fitted once more, and, where the work touched controls or lamps of something that is
 * ridden or driven, a short way with it. Common practice, no source.
 * @param curing what is left to itself, in words: told where no ride waits for it
 */
export function lastSteps(
  kits: readonly Kit[],
  wiring: Wiring,
  model: UnitModel,
  loaded: readonly PlannedCircuit[],
  curing: readonly string[],
): PlannedStep[] {
  if (!loaded.length) return [];
  const ridden = model.kind !== 'boat' && (pastSteering(wiring, model) || kits.some(touchesRoad));
  const rides = BARS.includes(model.kind);
  return [
    step({
      id: LAST_RUN,
      stage: 'close',
      proof: true,
      title: 'Everything once more, closed',
      text: `Each by its own switch, on and off: ${loaded.map((c) => c.circuit.name).join(', ')}. Then key off: nothing stays on that should not.${
        ridden || !curing.length ? '' : ` Not used before: ${[...new Set(curing)].join('; ')}.`
      }`,
      minutes: Math.max(1, Math.round(loaded.length / 2)),
      readings: [yes('works', 'All of it works as it did open, and goes off')],
    }),
    ...(ridden
      ? [
          step({
            id: RIDE_STEP,
            stage: 'close',
            proof: true,
            title: rides ? 'Short test ride' : 'Short test drive',
            text: 'Brakes first, then both locks at walking pace, then over something uneven. Look at lamps and ties again.',
            minutes: 5,
            cautions: [`Closed ground, ${rides ? 'helmet on' : 'belts on where there are any'}, by whoever may`],
            readings: [yes('rides', 'Brakes and steers as before'), yes('holds', 'Lamps kept their aim; nothing rattles or came loose')],
          }),
        ]
      : []),
  ];
}
