import type { PlanChoice, PlanPin } from '#model/work-plan';
import type { UnitModel } from '#model/unit-model';
import type { Wiring } from '../wiring/planned';
import { isChange } from './change-steps';
import { feedStepOf } from './find-steps';
import type { PlannedStep } from './planned';
import { allBefore } from './precedence';
import type { SequenceProblem, SequenceTask } from './sequence-problem';
import { ASLEEP_STEP, CHARGING_STEP, REST_STEP } from './steps';
import { panelZone, zoneOf } from './zones';

/** Minutes that the shop reckons with where sheets say none. Common practice, no source. */
export interface WorkTimes {
  /** from one zone of the unit to another, with tools */
  moveMinutes: number;
  /** to fish a wire under a panel that stays on */
  fishMinutes: number;
}

/** The order of the work as a problem whose tasks know their steps. */
export interface WorkProblem extends Omit<SequenceProblem, 'tasks'> {
  tasks: WorkTask[];
}

/** Panels that hide any of these places. */
export const panelsOver = (model: UnitModel, places: Iterable<string>): string[] => {
  const wanted = new Set(places);
  return model.panels.filter((p) => p.hides.some((h) => wanted.has(h))).map((p) => p.id);
};

/** Panels with all that must come off before them. */
export function behind(model: UnitModel, ids: Iterable<string>): Set<string> {
  const out = new Set<string>();
  const add = (id: string) => {
    if (out.has(id)) return;
    out.add(id);
    model.panels.find((p) => p.id === id)!.after.forEach(add);
  };
  [...ids].forEach(add);
  return out;
}

/** One step of the work as a task. */
export interface WorkTask extends SequenceTask {
  step: PlannedStep;
}

/**
 * The order of the work as a problem to be solved: what each step needs off and on, its power, and what comes before.
 * Job practice throughout (common practice, no source): mount and wire with the power off, prove with everything that the
 * kit needed still open, close last; what waits for a part comes after all that does not.
 * @param closed panels that are back on already: they come off again for what is behind them, not for a proof elsewhere
 * @param runs whether panels over the way of a wire come off or it is fished under them
 */
export function workProblem(
  model: UnitModel,
  steps: readonly PlannedStep[],
  wiring: Pick<Wiring, 'circuits' | 'points'>,
  times: WorkTimes,
  runs: 'fish' | 'off',
  pins: readonly PlanPin[] = [],
  closed: ReadonlySet<string> = new Set(),
): WorkProblem {
  const powered = wiring.circuits.length > 0 || steps.some((s) => s.stage === 'wire');
  const hands = steps.filter((s) => s.stage === 'mount' || s.stage === 'wire');
  const openOf = new Map<string, string[]>();
  const fished = new Map<string, number>();
  for (const s of hands) {
    const open = new Set(panelsOver(model, [...(s.place ? [s.place] : []), ...s.reach]));
    const over = panelsOver(model, s.way).filter((p) => !behind(model, open).has(p));
    if (runs === 'off') over.forEach((p) => open.add(p));
    else fished.set(s.id, over.length * times.fishMinutes);
    openOf.set(s.id, [...open]);
  }
  const ofKit = (kit: string | null, list: readonly PlannedStep[]) => list.filter((s) => s.kit === kit);
  const ids = (list: readonly PlannedStep[]) => list.map((s) => s.id);
  const kitOpen = (kit: string | null) => [...new Set(ofKit(kit, hands).flatMap((s) => openOf.get(s.id)!))];
  const inStage = (stage: PlannedStep['stage']) => steps.filter((s) => s.stage === stage);
  const wires = inStage('wire');
  const last = (list: readonly PlannedStep[], s: PlannedStep) => list[list.indexOf(s) - 1];
  /** what it names as done before it, as far as that is there */
  const found = (s: PlannedStep) => s.after.filter((id) => steps.some((x) => x.id === id));
  const takes = (x: PlannedStep) => x.id.startsWith('take/');
  const finds = inStage('find');
  /** whether taking something off uncovers a wire that must be found */
  const hides = (off: PlannedStep, find: PlannedStep) => takes(off) && off.place !== null && off.place === find.place;
  const waiting = hands.filter((s) => s.waits);
  /** proved once all is tied */
  const isTied = (s: PlannedStep) => s.after.some((id) => steps.some((x) => x.id === id && x.stage === 'tie'));
  /** what is left to itself before a step may be begun */
  const leftFor = (s: PlannedStep) => steps.filter((x) => x.holds.includes(s.id));
  /** read asleep */
  const sleeps = (s: PlannedStep) => leftFor(s).some((x) => x.id === ASLEEP_STEP);
  const everything = [
    ...new Set([
      ...[...openOf.values()].flat(),
      ...panelsOver(
        model,
        inStage('prove').flatMap((s) => s.place ?? []),
      ),
    ]),
  ];
  const tasks = steps.map((s): WorkTask => {
    const base = { id: s.id, minutes: s.minutes, zone: zoneOf(model, s.place) as string, step: s };
    const here = panelsOver(model, s.place ? [s.place] : []);
    const first = steps.some((x) => x.id === REST_STEP) && s.id !== REST_STEP ? [REST_STEP] : [];
    if (s.id === REST_STEP) return { ...base, open: here, power: 'on', after: [] };
    // a kit’s own steps of one stage keep the order in which its sheet has them
    const kin = ofKit(s.kit, inStage(s.stage)).filter((x) => x.circuit === null && s.circuit === null && x.id.startsWith(`${s.kit}/`));
    const before = kin.includes(s) ? last(kin, s) : undefined;
    const chain = before ? [before.id] : [];
    switch (s.stage) {
      case 'bench-test':
        return { ...base, zone: 'workbench', open: [], power: 'any', after: chain };
      case 'find':
        // what hides it is off before
        return { ...base, open: here, power: powered ? 'on' : 'any', after: [...first, ...ids(hands.filter((h) => hides(h, s)))] };
      case 'mount':
      case 'wire': {
        // what stood there is off before what takes its place goes on
        const off = takes(s)
          ? []
          : ids(ofKit(s.kit, hands).filter((x) => takes(x) && (x.place === s.place || s.reach.includes(x.place ?? ''))));
        // what a kit joins by its own sheet hangs on what was laid
        const laid =
          s.kit !== null && s.stage === 'wire' && s.id.startsWith(`${s.kit}/`)
            ? ids(ofKit(s.kit, wires).filter((x) => x.id.startsWith('lay/')))
            : [];
        const earlier =
          s.stage === 'wire' ? [...ids(ofKit(s.kit, inStage('mount'))), ...laid] : [...ids(ofKit(s.kit, inStage('bench-test'))), ...off];
        const rest = s.waits ? ids(hands.filter((h) => !h.waits && !waiting.some((w) => w.kit === h.kit))) : [];
        return {
          ...base,
          minutes: s.minutes + (fished.get(s.id) ?? 0),
          open: openOf.get(s.id)!,
          power: powered && !finds.some((f) => hides(s, f)) ? 'off' : 'any',
          after: [...new Set([...first, ...chain, ...earlier, ...rest, ...found(s)])],
        };
      }
      case 'prove': {
        const feed = wiring.points.find((p) => feedStepOf(p.id) === s.id)?.id ?? null;
        const wired = feed
          ? wires.filter((w) => wiring.circuits.some((c) => c.id === w.circuit && (c.feed?.id === feed || c.trigger?.id === feed)))
          : s.kit === null
            ? hands
            : ofKit(s.kit, hands);
        // volts are read where a feed has been proved, and kits are tried with their volts right
        const circuit = s.circuit ? wiring.circuits.find((c) => c.id === s.circuit) : undefined;
        const fed = steps.filter((x) => [circuit?.feed, circuit?.trigger].some((p) => p && x.id === feedStepOf(p.id)));
        // the unit as a whole is proved last, with everything still open; steering once all is tied
        const whole =
          s.kit === null && !feed
            ? inStage('prove').filter((x) => x.kit !== null || wiring.points.some((p) => feedStepOf(p.id) === x.id))
            : [];
        // what was agreed stands before the source is read; what would wake it is done before it is left to sleep
        const settled =
          s.id === CHARGING_STEP
            ? inStage('prove').filter((x) => isChange(x.id))
            : s.id === ASLEEP_STEP
              ? [...finds, ...inStage('prove').filter((x) => x !== s && !sleeps(x) && !isTied(x))]
              : [];
        const volts = s.circuit === null && s.kit !== null ? ofKit(s.kit, inStage('prove')).filter((x) => x.circuit !== null) : [];
        return {
          ...base,
          open: [
            ...new Set([
              ...here,
              ...(feed ? wired.flatMap((w) => openOf.get(w.id)!) : s.kit === null ? everything : kitOpen(s.kit)).filter(
                (p) => !closed.has(p),
              ),
            ]),
          ],
          power: powered ? 'on' : 'any',
          after: [
            ...new Set([
              ...first,
              ...ids(wired),
              ...ids(fed),
              ...ids(whole),
              ...ids(settled),
              ...ids(volts),
              ...ids(leftFor(s)),
              ...chain,
              ...found(s),
            ]),
          ],
        };
      }
      case 'tie':
        // what is found wrong in a proof is not to be cut loose again; ties fill the time in which modules fall asleep
        return {
          ...base,
          open: everything.filter((p) => !closed.has(p)),
          power: 'any',
          after: [...first, ...ids(hands), ...ids(inStage('prove').filter((x) => !isTied(x) && !sleeps(x)))],
        };
      default: {
        // what is wanted once everything is closed again, such as aiming; the unit as a whole last
        const closing = inStage('close');
        const own = s.kit === null ? [...inStage('tie'), ...closing.slice(0, closing.indexOf(s))] : [];
        const before =
          s.kit === null ? [...hands, ...inStage('prove')] : [...ofKit(s.kit, [...hands, ...inStage('prove')]), ...steps.filter(sleeps)];
        return {
          ...base,
          open: [],
          shut: s.kit === null ? everything : kitOpen(s.kit),
          power: powered ? 'on' : 'any',
          after: [...new Set([...first, ...ids(before), ...ids(own), ...chain])],
        };
      }
    }
  });
  const at = model.electrical.battery.place;
  return {
    tasks: pinnedTasks(tasks, pins),
    panels: model.panels.map((p) => ({
      id: p.id,
      zone: panelZone(model, p),
      offMinutes: p.offMinutes,
      onMinutes: p.onMinutes,
      after: p.after,
    })),
    power: { zone: zoneOf(model, at), offMinutes: 0, onMinutes: 0, open: panelsOver(model, [at]) },
    moveMinutes: times.moveMinutes,
  };
}

/** Why a step cannot stand between two others; null: it can. */
export function pinRefused(
  tasks: readonly { id: string; after: readonly string[]; step: PlannedStep }[],
  pin: PlanPin,
): { step: string; why: string } | null {
  const name = (id: string) => tasks.find((t) => t.id === id)?.step.title ?? id;
  const before = allBefore(tasks, pin.step);
  if (pin.step === pin.before || pin.step === pin.after) return { step: pin.step, why: `“${name(pin.step)}” cannot stand beside itself` };
  if (pin.before && before.has(pin.before)) return { step: pin.before, why: `“${name(pin.before)}” comes before “${name(pin.step)}”` };
  if (pin.after && allBefore(tasks, pin.after).has(pin.step))
    return { step: pin.after, why: `“${name(pin.after)}” comes after “${name(pin.step)}”` };
  return null;
}

/** Tasks with what was put elsewhere by hand: pins on steps no longer there, or against those before them, are left out. */
export function pinnedTasks(tasks: readonly WorkTask[], pins: readonly PlanPin[]): WorkTask[] {
  const out = tasks.map((t) => ({ ...t }));
  const has = (id: string | null) => id !== null && out.some((t) => t.id === id);
  const follow = (id: string, after: string) => {
    const t = out.find((x) => x.id === id)!;
    t.after = [...new Set([...t.after, after])];
  };
  for (const pin of pins) {
    if (!has(pin.step)) continue;
    const p: PlanPin = { step: pin.step, after: has(pin.after) ? pin.after : null, before: has(pin.before) ? pin.before : null };
    if (pinRefused(out, p)) continue;
    if (p.after) follow(p.step, p.after);
    if (p.before) follow(p.before, p.step);
  }
  return out;
}

/** Fished or off: as chosen, or whichever takes less. */
export const usesFishing = (chosen: PlanChoice['runs'], fish: number, off: number): 'fish' | 'off' =>
  chosen ?? (fish <= off ? 'fish' : 'off');
