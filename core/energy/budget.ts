import type { Verdict } from '#model/common';
import type { OwnerDay } from '#model/day';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { Wiring } from '../wiring/planned';
import { round } from '../sum';
import { worst } from '../verdict';
import {
  addedAmps,
  busLoads,
  chargingVoltsCheck,
  engineOffCheck,
  loadsByKit,
  parkedCheck,
  steadyChecks,
  supplyChecks,
  type BusLoad,
  type PowerCheck,
} from './checks';
import { judgeDay, type DayResult } from './day';
import { measuredSource } from './measured';
import { carriesFromRpm } from './source';
import type { PowerSystem } from './system';
import { daysFor } from './templates';
import { restCharge, unitSystem, type MissingDraw } from './unit-system';

export interface Budget {
  verdict: Verdict;
  /** the verdict and what binds it, a sentence without its full stop */
  says: string;
  checks: PowerCheck[];
  /** the owner's days, simulated */
  days: DayResult[];
  /** the day is the usual one for this kind of unit, as the owner has not described any */
  dayAssumed: boolean;
  system: PowerSystem;
  /** what each added thing draws on average, amperes at the bus */
  loads: BusLoad[];
  missing: MissingDraw[];
  /** engine speed from which the source carries everything; null for none */
  breakEvenRpm: number | null;
  soc: number | null;
  /** planned draw with the key off */
  parkedMa: number;
  /** what the bench measured in place of the sheet's figures */
  measured: string[];
}

const WORD: Record<Verdict, string> = { holds: 'Holds', tight: 'Tight', fails: 'Fails', unknown: 'Not known' };

/** The days that an order is judged on: the owner's, or the usual one. */
export function daysOf(order: Order, sheets: Sheets): { days: OwnerDay[]; assumed: boolean } {
  if (order.days.length) return { days: order.days, assumed: false };
  const winch = sheets.kits.some((k) => k.devices.some((d) => d.load?.kind === 'burst'));
  return { days: daysFor(sheets.model, winch).slice(0, 1), assumed: true };
}

/** A system with every band at its low or its high end. */
const atBand = (s: PowerSystem, end: 0 | 1): PowerSystem => ({
  ...s,
  loads: s.loads.map((l) => (l.band ? { ...l, watts: l.band[end], band: null } : l)),
});

/** The two kits that add most, for a sentence: what is written in capitals stays so. */
const heaviest = (s: PowerSystem, sheets: Sheets): string =>
  loadsByKit(busLoads(s), sheets)
    .slice(0, 2)
    .map(({ name }) => name.replace(' (already fitted)', ''))
    .map((n) => (/^.[A-Z]/.test(n) ? n : n.charAt(0).toLowerCase() + n.slice(1)))
    .join(' and ');

interface Judged {
  verdict: Verdict;
  says: string;
  checks: PowerCheck[];
  days: DayResult[];
  breakEvenRpm: number | null;
}

function judge(s: PowerSystem, order: Order, sheets: Sheets, wiring: Wiring, settings: Settings, days: readonly OwnerDay[]): Judged {
  const steady = steadyChecks(s, sheets, settings);
  const off = engineOffCheck(s, order, sheets, settings);
  const volts = chargingVoltsCheck(s);
  const coldest = days.length ? Math.min(...days.flatMap((d) => d.phases.map((p) => p.tempC))) : null;
  const rest = [
    ...(volts ? [volts] : []),
    ...supplyChecks(sheets, wiring, settings),
    ...(off ? [off] : []),
    parkedCheck(s, order, sheets, wiring, settings, coldest),
  ];
  const results = days.map((d) => judgeDay(s, d, settings));
  const dayVerdict = worst(results.map((d) => d.verdict));
  const madeUp = !settings.steadyMustCarry && (dayVerdict === 'holds' || dayVerdict === 'tight');
  const counts = (c: PowerCheck): Verdict => (c.verdict === 'fails' && madeUp ? 'tight' : c.verdict);
  const verdict = worst([...steady.map(counts), ...rest.map((c) => c.verdict), dayVerdict]);
  const addedA = addedAmps(s);
  const rpm =
    addedA === null || !s.source ? null : carriesFromRpm({ source: s.source, ownLoads: sheets.model.electrical.ownLoads }, addedA);
  const idle = steady.find((c) => c.id === 'idle');
  const working = steady.find((c) => c.id === 'working');
  const lacks = (c?: PowerCheck) => c?.verdict === 'fails' && c.margin.used !== null;
  const binds = (c: PowerCheck) => counts(c) === verdict;
  const reasons = [
    ...rest.filter((c) => c.verdict === verdict).map((c) => c.says),
    ...results.filter((d) => d.verdict === verdict).map((d) => `on “${d.day.name}”, ${d.says}`),
  ];
  let says: string;
  if (lacks(idle) && binds(idle!)) {
    const by = round(idle!.margin.used! - idle!.margin.limit!, 2);
    const up = rpm ? `carried from ${(Math.round(rpm / 50) * 50).toLocaleString('en-US')} rpm up` : 'carried at no speed';
    const head = verdict === 'fails' ? `Fails by ${by} A at idle` : `${WORD[verdict]}: short by ${by} A at idle`;
    const cap = (x: string) => x.charAt(0).toUpperCase() + x.slice(1);
    says = [`${head} with ${heaviest(s, sheets)}; ${up}${madeUp ? ', and the day makes it up' : ''}`, ...reasons.map(cap)].join('. ');
  } else {
    const all = [...[idle, working].filter((c): c is PowerCheck => !!c && binds(c)).map((c) => c.says), ...reasons];
    says = `${WORD[verdict]}: ${(verdict === 'holds' ? all.slice(-1) : all).join('; ')}`;
  }
  return { verdict, says, checks: [...steady, ...rest], days: results, breakEvenRpm: rpm };
}

/**
 * Whether the unit carries what is fitted and chosen: the source with everything on (the rule of thumb), each supply a kit makes,
 * engine-off hours, days parked, and the owner's days simulated. Each verdict with its sum. `sheets` are as agreed for the order.
 */
export function powerBudget(order: Order, sheets: Sheets, wiring: Wiring, settings: Settings, unmeasured = sheets.model): Budget {
  const { system: plain, missing } = unitSystem(order, sheets, wiring, settings);
  const measured = measuredSource(order, unmeasured);
  const system = { ...plain, sourceMeasured: measured !== null };
  const { days, assumed } = daysOf(order, sheets);
  let judged = judge(system, order, sheets, wiring, settings, days);
  if (system.loads.some((l) => l.band)) {
    const [low, high] = [0, 1].map((e) => judge(atBand(system, e as 0 | 1), order, sheets, wiring, settings, days)) as [Judged, Judged];
    judged =
      low.verdict === high.verdict
        ? { ...judged, verdict: low.verdict, says: high.says }
        : { ...judged, verdict: 'unknown', says: `Not known: between “${low.says}” and “${high.says}”, by the band that was given` };
  }
  return {
    ...judged,
    dayAssumed: assumed,
    system,
    loads: busLoads(system),
    missing,
    soc: restCharge(sheets, order.restVolts).soc,
    parkedMa: round(system.parkedA * 1000, 6),
    measured: measured?.says ?? [],
  };
}
