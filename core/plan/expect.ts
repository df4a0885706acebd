import type { Harness } from '#model/harness';
import type { StepReading } from '#model/kit';
import type { Expected } from '#model/reading';
import type { PowerPoint, UnitModel } from '#model/unit-model';
import { voltsFromSoc } from '../energy/battery';
import { ownAmps, sourceAmps } from '../energy/source';
import type { Budget } from '../energy/budget';
import type { PlannedCircuit } from '../wiring/planned';
import { liveModel } from '../fault/predict';
import { circuitSight } from '../fault/sight';
import { AT_REST } from '../harness/simulate';
import { round } from '../sum';
import { MUST } from './planned';
import { handShare } from './hand-load';

// Bands around what a healthy unit shows. The widths are common practice, no source.
const DEAD_V = 0.3;
const METER_V = 0.15;
/** the trade's own figures: a 12 V reducer gives about 11.9 V, and some regulate up to 13.8 V */
const REDUCER_BAND = [11.5, 13.9] as const;

const r2 = (x: number) => Math.round(x * 100) / 100;

/** Volts of the unit's bank at rest, from 40 % of charge to full. */
export function restBand(model: UnitModel): [number, number] {
  const { battery } = model.electrical;
  const k = (battery.count * battery.voltsEach) / 12;
  return [r2(voltsFromSoc(battery, 0.4) * k), r2((voltsFromSoc(battery, 1) + METER_V) * k)];
}

/** Volts where a feed is live with the engine off. */
export function liveBand(model: UnitModel, point: PowerPoint): [number, number] {
  if (point.kind === 'reducer-output') return [...REDUCER_BAND];
  const [low, high] = restBand(model);
  const share = point.volts / model.electrical.systemV;
  return [r2(low * share * 0.98), r2(high * share)];
}

/** A keyed feed with the key off: dead, but for what a sleeping reducer lets through. */
export function deadExpected(model: Harness, point: PowerPoint): Expected {
  const shown = liveModel(model).value({ state: AT_REST, look: { kind: 'volts', plus: `pp:${point.id}`, minus: 'bat-' } }) ?? 0;
  // what hangs on a sleeping reducer pulls its leak down or does not: all up to what it floats at is right
  const asleep = model.elements.find((e) => e.kind === 'supply' && e.out === `pp:${point.id}`);
  const v = Math.max(shown, asleep?.kind === 'supply' ? asleep.asleepV : 0);
  return v > DEAD_V
    ? { low: 0, high: r2(v + 2 * DEAD_V), unit: 'V', why: `asleep: it lets ${round(v, 2)} V through until it is woken` }
    : { low: 0, high: DEAD_V, unit: 'V', why: 'dead with the key off' };
}

export function liveExpected(model: UnitModel, point: PowerPoint): Expected {
  const [low, high] = liveBand(model, point);
  const what =
    point.kind === 'reducer-output'
      ? 'a reducer with its trigger connected; about 7.4 V means the trigger lead is not connected'
      : point.volts > 20
        ? `pack volts on this wire, not 12 V`
        : 'battery volts, engine off';
  return { low, high, unit: 'V', why: what };
}

/** The node of the reducer that makes a feed's volts, whether it is fed from there or by joining a wire that is; null for battery volts. */
function madeFor(model: UnitModel, feed: PowerPoint | null, harness: Harness): string | null {
  if (!feed || feed.kind === 'pack-tap') return null;
  if (feed.kind === 'reducer-output') return `pp:${feed.id}`;
  if (feed.volts === model.electrical.systemV) return null;
  const maker = harness.elements.find((e) => e.kind === 'supply' && Math.abs(e.volts - feed.volts) < 0.2 * feed.volts);
  return maker?.kind === 'supply' ? maker.out : null;
}

/** Half as much drop again is allowed for joints. Common practice, no source. */
const JOINTS = 1.5;
/** Volts under the regulator's at which a source is said to hold them. */
const HELD = 0.3;

/**
 * Volts at the last device of a circuit with everything on it on: what feeds it as the live model has it, give or take what a
 * regulator or a battery may, less the model’s drop, with half of it again for joints.
 */
export function supplyExpected(model: UnitModel, c: PlannedCircuit, harness: Harness, running: boolean): Expected {
  const source = model.electrical.source;
  const made = madeFor(model, c.feed, harness);
  const reducer = made !== null;
  // a circuit that nothing feeds yet is to get the volts its kit is made for, never the pack's
  const share = c.circuit.volts / model.electrical.systemV;
  const [restLow, restHigh] = made ? REDUCER_BAND : c.feed ? liveBand(model, c.feed) : restBand(model).map((v) => v * share);
  const sight = circuitSight(harness, c, running);
  const live = liveModel(harness);
  const at = sight && live.value(sight);
  const bus =
    sight &&
    live.value({
      ...sight,
      look: { kind: 'volts', plus: made ?? (c.feed?.kind === 'pack-tap' ? `pp:${c.feed.id}` : 'bat+'), minus: 'bat-' },
    });
  const engine = running && source.kind !== 'none' && !reducer;
  if (at === null || bus === null) {
    const drop = c.dropV ?? 0;
    const [low, high] = engine ? [source.regulatedV - 0.8, source.regulatedV + 0.4] : [restLow, restHigh];
    return {
      low: r2(low - drop * JOINTS),
      high: r2(high),
      unit: 'V',
      why: `${engine ? 'engine running' : 'as fed'}, less ${round(drop, 2)} V of drop`,
    };
  }
  const hand = handShare(c);
  if (hand !== null) {
    // of what a real pull takes off the volts, so much; a meter's width and half as much again allowed
    const free = engine ? source.regulatedV : restHigh - METER_V;
    const gives = Math.max(0, free - at) * hand;
    return {
      low: r2((engine ? free - 0.8 : restLow) - gives * JOINTS),
      high: r2(engine ? free + 0.4 : restHigh),
      unit: 'V',
      why: `${round(free - gives, 2)} V by the live model, spooling under a hand’s load: far under it, the battery is weak or a lead is loose`,
    };
  }
  const drop = Math.max(0, bus - at);
  const held = engine && bus > source.regulatedV - HELD;
  // what the battery itself gives way by, where the load is more than the source
  const sag = held || reducer ? 0 : Math.max(0, restHigh - METER_V - bus);
  const low = held ? source.regulatedV - 0.8 : Math.min(restLow, bus) - sag;
  const high = engine ? source.regulatedV + 0.4 : Math.max(restHigh, bus);
  const from = held
    ? 'engine running'
    : engine
      ? 'the battery helps the source'
      : sag > 0.2
        ? `the battery gives way by ${round(sag, 2)} V`
        : 'as fed';
  return {
    low: r2(low - drop * JOINTS),
    high: r2(high),
    unit: 'V',
    why: `${round(at, 2)} V by the live model: ${from}, less ${round(drop, 2)} V of drop`,
  };
}

/** Charging volts at idle with all on; where the budget says the source cannot carry it, only the battery's own volts are expected. */
export function chargingExpected(model: UnitModel, budget: Budget): Expected {
  const source = model.electrical.source;
  if (source.kind === 'none') {
    const [low, high] = restBand(model);
    return { low, high, unit: 'V', why: 'pack volts: there is no charging source on the unit' };
  }
  const idle = budget.checks.find((c) => c.id === 'idle');
  if (idle && idle.verdict !== 'holds')
    return {
      low: r2(voltsFromSoc(model.electrical.battery, 0.3)),
      high: source.regulatedV + 0.4,
      unit: 'V',
      why:
        idle.verdict === 'unknown'
          ? 'what is drawn is not known: battery volts are right'
          : `${idle.says.startsWith('short') ? `the source is ${idle.says}` : 'at idle the source is only just enough'}: the battery helps, so battery volts are right`,
    };
  return { low: r2(source.regulatedV - 0.9), high: r2(source.regulatedV + 0.4), unit: 'V', why: 'the source carries everything at idle' };
}

/** Amperes from the source at idle with everything on: what is asked of it, as far as it goes. */
export function sourceExpected(model: UnitModel, budget: Budget): Expected {
  const { source } = model.electrical;
  if (source.kind === 'none') return { low: null, high: null, unit: 'A', why: 'there is no source on the unit' };
  const makes = sourceAmps(source, source.idleRpm);
  // what is added was reckoned at the volts that count; the sheet's are meant here
  const atSheetV = (budget.system.source?.regulatedV ?? source.regulatedV) / source.regulatedV;
  const asked = ownAmps(model.electrical, source.idleRpm) + budget.loads.reduce((s, l) => s + (l.burst ? 0 : (l.amps ?? 0)), 0) * atSheetV;
  return {
    low: r2(Math.min(makes, asked) * 0.85),
    high: r2(makes * 1.2),
    unit: 'A',
    why: `the sheet has ${round(makes)} A at ${source.idleRpm} rpm, ${round(asked)} A are asked`,
  };
}

export function parkedExpected(budget: Budget): Expected {
  const ma = budget.parkedMa;
  return {
    low: 0,
    high: Number(((ma * 1.5 + 5) / 1000).toFixed(4)),
    unit: 'A',
    why: `${round(ma)} mA planned with the key off, half as much again allowed`,
  };
}

/** What a kit's own reading should be on this unit. */
export function kitExpected(
  reading: StepReading,
  model: UnitModel,
  budget: Budget,
  circuit: PlannedCircuit | undefined,
  harness: Harness,
): Expected {
  const e = reading.expect;
  switch (e.kind) {
    case 'band':
      return { low: e.low, high: e.high, unit: reading.unit, why: 'the kit’s maker gives this band' };
    case 'yes':
      return { low: null, high: null, unit: 'yes', why: MUST };
    case 'rest': {
      const [low, high] = restBand(model);
      return { low, high, unit: 'V', why: 'at rest, nothing running' };
    }
    case 'charging':
      return chargingExpected(model, budget);
    case 'supply':
      return circuit
        ? supplyExpected(model, circuit, harness, true)
        : { low: null, high: null, unit: 'V', why: 'no circuit to work it out from' };
  }
}
