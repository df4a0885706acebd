import type { SumLine, Verdict } from '#model/common';
import type { Order, Station } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { planWiring } from '../wiring/plan';
import { type Wiring } from '../wiring/planned';
import { powerBudget, type Budget } from '../energy/budget';
import { CHARGING_STEP } from '../energy/measured';
import { ocvSourceOf } from '../energy/battery';
import { restCharge } from '../energy/unit-system';
import { checkIdentity } from '../identity/check';
import { checkLamps, type OrderLamps } from '../lighting/check';
import { judgeReading } from '../plan/judge';
import { keptCuts } from '../supply/kept-cuts';
import { type PlannedStep } from '../plan/planned';
import { uncovered, type Uncovered } from '../plan/coverage';
import { changeParts } from '../plan/change-steps';
import { besidesOf, needsOf, shortNeeds, type Need } from '../plan/needs';
import { stillToFit, wired } from '../plan/used';
import { withCautions } from '../plan/cautions';
import { workSteps } from '../plan/steps';
import { unpackSteps } from '../plan/unpack';
import { planWork, type WorkPlan } from '../plan/work';
import { Memo } from '../memo';
import { sum } from '../sum';
import { valued } from '../known/values';
import { worst } from '../verdict';
import { endWork, type EndWork } from '../wiring/box-work';
import { agreedSheets, changedSheets } from './agreed';
import { demandedSheets, feedDemands, type FeedDemand, type FeedDemands } from './demands';
import { checkFit } from './fit';
import { openPoints, type OpenPoint } from './open-points';
import { ownSheets } from './own';
import { stepState } from './state';

export interface Proof {
  step: PlannedStep;
  state: 'proved' | 'missing' | 'failing' | 'skipped' | 'overridden';
  says: string;
}

export interface StationMark {
  verdict: Verdict | null;
  /** what is still owed here, in a few words; empty when nothing is */
  owed: string;
}

/** Everything computed about an order, from its state and its sheets: one function for screens, server and paper. */
export interface Assessment {
  /** the sheets as agreed and measured for this order: what everything else here is computed from */
  sheets: Sheets;
  identity: ReturnType<typeof checkIdentity>;
  rest: { soc: number | null; verdict: Verdict; says: string; sum: SumLine[] };
  fit: ReturnType<typeof checkFit>;
  /** every end of every ready harness, and what is done with it */
  ends: EndWork[];
  wiring: Wiring;
  /** what the rule packs ask of its feeds: met, or excluded by something else */
  demands: FeedDemands;
  /** what the wiring and agreed changes take from the shelf */
  needs: Need[];
  power: Budget;
  lamps: OrderLamps;
  steps: PlannedStep[];
  /** null: there is nothing to do yet */
  work: (WorkPlan & { leftOut: Uncovered[] }) | null;
  proofs: Proof[];
  minutes: { planned: number; spent: number };
  stations: Record<Station, StationMark>;
  /** why the order cannot be handed over yet; empty when it can */
  blocks: string[];
  /** what is not as it should be, or not known, and must be seen before it is handed over */
  open: OpenPoint[];
}

export { stepState };

/** A reading is judged as the plan stands now, so that a changed plan asks again. */
export const readingVerdict = (order: Order, step: PlannedStep, reading: string): Verdict | null => {
  const taken = stepState(order, step.id).readings[reading];
  const planned = step.readings.find((r) => r.id === reading);
  return taken && planned ? judgeReading(taken.value, planned.expected) : null;
};

function proofOf(order: Order, step: PlannedStep): Proof {
  const state = stepState(order, step.id);
  const over = order.proofOverrides.find((o) => o.proof === step.id);
  const failing = step.readings.filter((r) => readingVerdict(order, step, r.id) === 'fails');
  const missing = step.readings.filter((r) => !r.optional && readingVerdict(order, step, r.id) === null);
  if (state.status === 'done' && !failing.length && !missing.length) return { step, state: 'proved', says: 'proved' };
  if (over) return { step, state: 'overridden', says: `passed by ${over.by}: ${over.reason}` };
  if (failing.length) return { step, state: 'failing', says: `${failing[0]!.label} fails` };
  if (state.status === 'skipped') return { step, state: 'skipped', says: `skipped: ${state.reason}` };
  return { step, state: 'missing', says: missing.length ? `${missing[0]!.label} not read` : 'not marked done' };
}

/** A band of charge wider than this is said beside the figure. */
const WIDE_BAND = 0.25;

function judgeRest(order: Order, sheets: Sheets): Assessment['rest'] {
  const { soc, band, problem } = restCharge(sheets, order.restVolts);
  const { battery } = sheets.model.electrical;
  if (order.restVolts === null) return { soc: null, verdict: 'unknown', says: 'volts at rest not taken yet', sum: [] };
  if (soc === null) return { soc: null, verdict: 'fails', says: problem!, sum: [] };
  const [low, high] = band!;
  // what rests on a band holds only where all of it does
  const verdict: Verdict = low >= 0.7 ? 'holds' : high >= 0.5 ? 'tight' : 'fails';
  const wide = high - low > WIDE_BAND;
  return {
    soc,
    verdict,
    says: `${Math.round(soc * 100)} % charged${wide ? `, anything from ${Math.round(low * 100)} to ${Math.round(high * 100)} %` : ''}${verdict === 'holds' ? '' : ': charge it before the proofs'}`,
    sum: sum(
      { label: `${battery.name} at rest`, value: order.restVolts, unit: 'V' },
      { label: 'As a 12 V battery', value: (order.restVolts / (battery.count * battery.voltsEach)) * 12, unit: 'V' },
      {
        label: `Charge, ${battery.chemistry}${battery.deepCycle ? ', deep-cycle' : ''}`,
        value: soc * 100,
        unit: '%',
        source: ocvSourceOf(battery),
        kind: 'result',
      },
      { label: 'At the least', value: low * 100, unit: '%', source: 'how well volts tell it: common practice, no source' },
      { label: 'At the most', value: high * 100, unit: '%' },
      { label: 'Tight under, at the least', value: 70, unit: '%', source: 'common practice, no source', kind: 'note' },
      { label: 'Fails under, at the most', value: 50, unit: '%', source: 'common practice, no source', kind: 'limit' },
    ),
  };
}

/** What does not depend on the work at the bench, but for what it read of the source. */
interface Planned {
  sheets: Sheets;
  unmeasured: UnitModel;
  wiring: Wiring;
  power: Budget;
}

/** Facts that only lamps are judged by: wiring and power do not know them. */
const LAMP_FACTS = /^(lamp|height|candela|arc|lit|unit|fact|flash):/;

/** Wiring, power and needs of an order. Most of what happens to it, step by step, changes none of them. */
function plan(order: Order, given: Sheets, settings: Settings, memo: Memo, demands: readonly FeedDemand[] = []): Planned {
  const { fitted, restVolts, overrides, days, changes, wishes, lamps } = order;
  const facts = Object.entries(order.facts).filter(([key]) => !LAMP_FACTS.test(key));
  const charging = order.steps[CHARGING_STEP]?.readings;
  const read = charging && Object.entries(charging).map(([id, r]) => [id, r.value]);
  const keyOf = (byHand: Order['overrides']) =>
    JSON.stringify([
      fitted,
      restVolts,
      order.kits.map((k) => k.kit),
      order.variants,
      order.places,
      byHand,
      facts,
      days,
      changes,
      wishes,
      lamps,
      read,
      // what is on the shelf changes no wiring
      { ...settings, stock: [], shelf: [] },
      demands.map((d) => d.circuit),
    ]);
  const from = [given.model, ...given.kits];
  const planned = memo.once('plan', [...from, keyOf(overrides)], (): Planned => {
    const sheets = demandedSheets(agreedSheets(order, given), demands);
    const unmeasured = changedSheets(order, given).model;
    // with nothing set by hand it stays the same from one thing set by hand to the next
    const plainly = () => memo.once('plain', [...from, keyOf([])], () => planWiring({ ...order, overrides: [] }, sheets, settings));
    const planned = planWiring(order, sheets, settings, plainly);
    // what comes out the same is the same: all that was worked out from it stays
    const wiring = { ...planned, harness: memo.once('harness', [JSON.stringify(planned.harness)], () => planned.harness) };
    return { sheets, unmeasured, wiring, power: powerBudget(order, sheets, wiring, settings, unmeasured) };
  });
  return planned.sheets.packs === given.packs ? planned : { ...planned, sheets: { ...planned.sheets, packs: given.packs } };
}

/** Work waits that is still to do: of a kit while its box lacks something, of a circuit while the shelf does. */
function withWaits(order: Order, steps: PlannedStep[], fit: Assessment['fit'], needs: readonly Need[]): PlannedStep[] {
  const short = new Map<string, string>();
  for (const n of shortNeeds(needs)) {
    const lacks = n.unit === 'm' ? `${n.short!.toFixed(1)} m of ${n.name.replace(', ', ' ')}` : `${n.short} × ${n.name.replace(', ', ' ')}`;
    for (const c of n.circuits) short.set(c, short.has(c) ? `${short.get(c)} and ${lacks}` : lacks);
  }
  for (const k of fit.kits) {
    const lacks = k.box.find((b) => b.counted !== null && b.counted < b.need);
    if (lacks) short.set(k.kit.id, `${lacks.need - lacks.counted!} × ${lacks.item}`);
  }
  const waits = (s: PlannedStep) =>
    (s.stage !== 'unpack' && s.kit && short.get(s.kit)) || (s.stage === 'wire' && s.circuit && short.get(s.circuit)) || '';
  return short.size ? steps.map((s) => (stepState(order, s.id).status === 'todo' ? { ...s, waits: waits(s) } : s)) : steps;
}

/** What is judged of an order before any work is planned. */
export interface Considered extends Planned {
  demands: FeedDemands;
  ends: EndWork[];
  fit: ReturnType<typeof checkFit>;
  lamps: OrderLamps;
}

/** Sheets with what this order alone has, and what was read or measured on its unit. The same sheets answer as long as nothing more is. */
function asOfOrder(order: Order, raw: Sheets, memo: Memo): Sheets {
  const { own, leftOut, swapped, ways, spots } = order;
  const given =
    own || leftOut?.length || swapped?.length || ways?.length || spots?.length
      ? memo.once('own', [raw.model, ...raw.kits, JSON.stringify([own, leftOut, swapped, ways, spots])], () => ownSheets(order, raw))
      : raw;
  const { build } = order.unit;
  const model = memo.once('valued', [given.model, build, JSON.stringify(order.values)], () => valued(given.model, build, order.values));
  if (model === raw.model && given === raw) return raw;
  // packs change more often than what an order has of its own
  return { ...given, packs: raw.packs, model };
}

/** Wiring, power, lamps and fit of an order, as far as no work decides on them. */
export function consider(order: Order, raw: Sheets, settings: Settings, memo = new Memo()): Considered {
  const given = asOfOrder(order, raw, memo);
  const first = plan(order, given, settings, memo);
  const before = checkLamps(order, first.sheets, first.wiring.harness, memo);
  // what the rule packs ask of switching decides over feeds, with everything else of the wiring following
  const demands = feedDemands(order, first.sheets, first.wiring, before);
  const planned = demands.met.length ? plan(order, given, settings, memo, demands.met) : first;
  const { sheets, wiring } = planned;
  const ends = memo.once('ends', [wiring], () => endWork(wiring, sheets));
  const fit = checkFit(order, sheets, ends);
  const lamps = planned === first ? before : checkLamps(order, sheets, wiring.harness, memo);
  return { ...planned, demands, ends, fit, lamps };
}

/**
 * Computes an order. Pure; some tens of milliseconds, a few where the memo has what did not change.
 * @param memo what its asker computed lately; left out, nothing is remembered
 */
export function assess(order: Order, raw: Sheets, settings: Settings, memo = new Memo()): Assessment {
  const { sheets, unmeasured, wiring, power, demands, ends, fit, lamps } = consider(order, raw, settings, memo);
  const given = asOfOrder(order, raw, memo);
  const parts = stillToFit(order, changeParts(order, sheets, settings));
  const done = wired(
    order,
    wiring.circuits.map((c) => c.id),
  );
  const besides = besidesOf(sheets.kits, wiring.circuits);
  const kept = keptCuts(settings.cuts, order.id);
  const needs = memo.once(
    'needs',
    [wiring.harness, JSON.stringify([settings.stock, settings.shelf, [...done], parts, besides, [...kept]])],
    () => needsOf(wiring.harness, sheets.model, settings, parts, done, besides, kept),
  );
  const identity = checkIdentity(sheets.model.identity, order.unit.identity);
  const rest = judgeRest(order, sheets);
  const ordered = hasWork(order)
    ? planWork(
        order,
        sheets.model,
        withWaits(
          order,
          [...unpackSteps(order, fit.kits), ...workSteps(order, sheets, wiring, power, lamps, ends, unmeasured, given.model)],
          fit,
          needs,
        ),
        wiring,
        settings,
        memo,
      )
    : null;
  const work = ordered && {
    ...ordered,
    steps: ordered.steps.map((s) => withCautions(s, sheets)),
    leftOut: uncovered(ordered.steps, sheets, given.model, wiring, ends),
  };
  const steps = work?.steps ?? [];
  const proofs = steps.filter((s) => s.proof).map((s) => proofOf(order, s));
  const states = steps.map((s) => stepState(order, s.id));
  const settled = states.filter((s) => s.status !== 'todo').length;
  const failing = steps.some((s) => s.readings.some((r) => readingVerdict(order, s, r.id) === 'fails'));
  const left = steps.length - settled;
  const unproved = proofs.filter((p) => p.state !== 'proved' && p.state !== 'overridden');
  const has = hasWork(order);

  const blocks: string[] = [];
  if (!has) blocks.push('no kit is chosen, and no job');
  if (left) blocks.push(`${left} ${left === 1 ? 'step is' : 'steps are'} neither done nor skipped`);
  for (const p of unproved) blocks.push(`${p.step.title}: ${p.says}`);
  if (!order.signature) blocks.push('the owner has not signed');

  const owed = (n: number, one: string, many = `${one}s`) => (n ? `${n} ${n === 1 ? one : many}` : '');
  const openLamps = lamps.required - lamps.met;
  const circuitsOff = wiring.circuits.filter((c) => c.verdict !== 'holds' || demands.conflicts.some((x) => x.circuit === c.id)).length;
  const short = left ? shortNeeds(needs).length : 0;
  const boxOpen = fit.kits.flatMap((k) => k.box).filter((b) => b.counted === null).length;
  const stations: Assessment['stations'] = {
    arrive: {
      verdict: worst([identity.verdict === 'fails' || !order.unit.identity ? identity.verdict : 'holds', rest.verdict]),
      owed: order.restVolts === null ? 'volts at rest' : identity.verdict === 'fails' || !order.unit.identity ? 'number' : '',
    },
    fit: { verdict: has ? fit.verdict : null, owed: has ? owed(boxOpen, 'part to count', 'parts to count') : 'choose kits' },
    power: { verdict: has || order.fitted.length ? power.verdict : null, owed: owed(power.missing.length, 'draw') },
    wire: {
      verdict: demands.conflicts.length ? 'fails' : wiring.circuits.length ? wiring.verdict : null,
      owed: owed(circuitsOff, 'circuit'),
    },
    lamps: { verdict: lamps.required ? lamps.verdict : null, owed: owed(openLamps, 'item') },
    plan: {
      verdict: !has ? null : short ? 'fails' : work?.leftOut.length ? 'tight' : 'holds',
      owed: short ? `${short} short` : work?.leftOut.length ? `${work.leftOut.length} left out` : '',
    },
    bench: { verdict: !has ? null : failing ? 'fails' : left ? null : unproved.length ? 'unknown' : 'holds', owed: owed(left, 'step') },
    handover: {
      verdict: order.status === 'sealed' ? 'holds' : !has ? null : blocks.length ? null : 'holds',
      owed: order.status === 'sealed' ? '' : owed(unproved.length, 'proof') || (order.signature ? 'seal' : 'signature'),
    },
  };
  const a: Omit<Assessment, 'open'> = {
    sheets,
    identity,
    rest,
    fit,
    ends,
    wiring,
    demands,
    needs,
    power,
    lamps,
    steps,
    proofs,
    stations,
    blocks,
    work,
    minutes: {
      planned: work?.cost.minutes ?? 0,
      spent: Object.values(order.steps).reduce((s, x) => s + x.seconds, 0) / 60,
    },
  };
  return { ...a, open: openPoints(order, a) };
}

/** Whether there is anything to be done: a kit, or a job. */
export const hasWork = (order: Pick<Order, 'kits' | 'jobs' | 'own'>): boolean =>
  order.kits.length > 0 || (order.jobs?.length ?? 0) > 0 || order.own !== undefined;

/** Where an order stands on its way through the shop: the first station that is not settled. */
export function currentStation(order: Order, a: Assessment): Station {
  if (order.status === 'sealed') return 'handover';
  const begun = Object.values(order.steps).some((s) => s.status !== 'todo') || order.clocks.length > 0;
  if (begun) return a.steps.some((s) => stepState(order, s.id).status === 'todo') ? 'bench' : 'handover';
  if (a.rest.verdict === 'unknown') return 'arrive';
  if (!hasWork(order) || a.stations.fit.verdict === 'fails') return 'fit';
  if (a.stations.power.verdict === 'fails' || a.stations.power.verdict === 'unknown') return 'power';
  if (a.stations.wire.verdict === 'fails' || a.stations.wire.verdict === 'unknown') return 'wire';
  if (a.stations.lamps.verdict === 'unknown' || a.stations.lamps.verdict === 'fails') return 'lamps';
  return 'bench';
}
