import type { OwnerDay } from '#model/day';
import type { OrderCommand } from '../events/registry';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { PowerChange } from '#model/power-change';
import type { Settings } from '#model/settings';
import type { SheetRef, Sheets } from '#model/sheet';
import { planWiring } from '../wiring/plan';
import { agreedSheets } from '../order/agreed';
import { RANK } from '../verdict';
import type { Budget } from './budget';
import { CHANGE_MINUTES } from './change-times';
import { standbyMa, staysOn, useOf } from './unit-system';

/** A kit of the shop's sheets that is not on the order. */
export interface SpareKit {
  ref: SheetRef;
  kit: Kit;
}

/** One change that may help, as the commands that make it. */
export interface Part {
  /** parts with the same group exclude each other */
  group: string;
  title: string;
  commands: OrderCommand[];
  money: number;
  minutes: number;
  /** watts that the owner gives up */
  watts: number;
  /** a kit that the commands bring in */
  brings?: SpareKit;
}

/** What is looked at for parts of a remedy. `given` are the sheets before anything was agreed. */
interface Asked {
  order: Order;
  given: Sheets;
  budget: Budget;
  settings: Settings;
  spare: readonly SpareKit[];
}
/** A part whose price is still to be made of the price of its things and its minutes. */
type Unpriced = Omit<Part, 'money'> & { parts?: number };

const REDUCERS = [10, 15, 20, 25, 30, 40, 50, 60];

const pct = (x: number) => `${Math.round(x * 100)} %`;

const change = (c: PowerChange, label: string): OrderCommand => ({ type: 'power.changed', change: c, label });

const isAgreed = (order: Order, kind: PowerChange['kind'], load: string) =>
  order.changes.some(({ change: c }) => c.kind === kind && 'load' in c && c.load === load);

const usesEngineOff = (b: Budget) => b.system.loads.some((l) => l.engineOff && l.kind === 'continuous' && !l.own);

/** Lower settings, loads shed at idle, and LED for what kits bring; what is set together is set together. */
function ofKits({ order, given, settings }: Asked): Unpriced[] {
  const out: Unpriced[] = [];
  const { electrical } = given.model;
  for (const kit of given.kits) {
    const draws = kit.devices.filter((d) => d.load?.kind === 'continuous' && d.load.watts !== null);
    // what is set together is set together
    const byUse = new Map<string, typeof draws>();
    for (const d of draws) {
      const use = useOf(d) ?? 'other';
      byUse.set(use, [...(byUse.get(use) ?? []), d]);
    }
    for (const [use, list] of byUse) {
      const id = (d: (typeof list)[number]) => `${kit.id}/${d.id}`;
      const watts = list.reduce((a, d) => a + d.load!.watts! * d.load!.share, 0);
      const settingsOf = list[0]!.load!.settings.length
        ? list[0]!.load!.settings
        : use === 'audio'
          ? [{ name: 'half the power, 3 dB quieter', share: 0.5 }]
          : [];
      for (const s of settingsOf)
        if (s.share < 1 && !isAgreed(order, 'setting', id(list[0]!)))
          out.push({
            group: `draw:${kit.id}:${use}`,
            title: `${kit.name} at ${s.name}`,
            commands: list.map((d) => change({ kind: 'setting', load: id(d), share: s.share }, `${d.name} at ${s.name}`)),
            minutes: CHANGE_MINUTES.setting,
            watts: watts * (1 - s.share),
          });
      if (electrical.source.kind !== 'none' && (use === 'lamp' || use === 'heat') && watts >= 8 && !isAgreed(order, 'shed', id(list[0]!))) {
        const belowRpm = Math.round((electrical.source.idleRpm * 1.3) / 50) * 50;
        out.push({
          group: `draw:${kit.id}:${use}`,
          title: `${kit.name} off by itself under ${belowRpm} rpm`,
          commands: list.map((d) => change({ kind: 'shed', load: id(d), belowRpm }, `${d.name} off under ${belowRpm} rpm`)),
          minutes: CHANGE_MINUTES.shed,
          watts: watts * 0.2,
          parts: settings.relayPrice,
        });
      }
      for (const d of list)
        if (d.led)
          out.push({
            group: `led:${id(d)}`,
            title: `${d.name} as LED`,
            commands: [change({ kind: 'led', load: id(d), watts: d.led.watts }, `${d.name} as LED, ${d.led.watts} W`)],
            minutes: d.led.minutes,
            watts: 0,
            parts: d.led.cost,
          });
    }
  }
  return out;
}

/** LED for the unit's own lamps, a stronger source, a raised idle. */
function ofUnit({ order, given }: Asked): Unpriced[] {
  const out: Unpriced[] = [];
  const { electrical } = given.model;
  for (const l of electrical.ownLoads)
    if (l.led && !isAgreed(order, 'led', `own/${l.id}`))
      out.push({
        group: `led:own/${l.id}`,
        title: `${l.name} as LED`,
        commands: [change({ kind: 'led', load: `own/${l.id}`, watts: l.led.watts }, `${l.name} as LED, ${l.led.watts} W`)],
        minutes: l.led.minutes,
        watts: 0,
        parts: l.led.cost,
      });
  for (const u of electrical.sourceUpgrades)
    out.push({
      group: 'source',
      title: u.name,
      commands: [change({ kind: 'source', upgrade: u.id, name: u.name, curve: u.curve }, u.name)],
      minutes: u.minutes,
      watts: 0,
      parts: u.cost,
    });
  if (electrical.source.kind !== 'none' && electrical.idleMaxRpm) {
    const { idleRpm } = electrical.source;
    for (const t of [0.5, 1]) {
      const rpm = Math.round((idleRpm + (electrical.idleMaxRpm - idleRpm) * t) / 10) * 10;
      if (rpm > idleRpm)
        out.push({
          group: 'idle',
          title: `Idle raised to ${rpm} rpm`,
          commands: [change({ kind: 'idle', rpm }, `Idle raised from ${idleRpm} to ${rpm} rpm`)],
          minutes: CHANGE_MINUTES.idle,
          watts: 0,
        });
    }
  }
  return out;
}

/** What stays on when parked: a plug to pull, or a keyed feed. */
function ofFeeds({ order, given, settings }: Asked): Unpriced[] {
  const out: Unpriced[] = [];
  const wiring = planWiring(order, agreedSheets(order, given), settings);
  for (const c of wiring.circuits) {
    if (!staysOn(c) || c.circuit.switching === 'constant' || c.circuit.makes) continue;
    const standby = standbyMa(c);
    if (standby > 0 && c.mode === 'direct')
      out.push({
        group: `keyed:${c.id}`,
        title: `${c.circuit.name} with a plug, pulled when parked`,
        commands: [{ type: 'wire.overridden', circuit: c.id, field: 'mode', value: 'plug', reason: 'so that it is dead when parked' }],
        minutes: CHANGE_MINUTES.plug,
        watts: 0.1,
        parts: settings.relayPrice / 2,
      });
    const keyed = c.candidates.find((x) => x.accepted && x.point.switching === 'keyed');
    if (standby > 0 && keyed)
      out.push({
        group: `keyed:${c.id}`,
        title: `${c.circuit.name} keyed, from ${keyed.point.name}`,
        commands: [
          { type: 'wire.overridden', circuit: c.id, field: 'feed', value: keyed.point.id, reason: 'so that it is dead when parked' },
        ],
        minutes: CHANGE_MINUTES.keyed,
        watts: 0,
      });
  }
  return out;
}

/** A battery of its own for what runs with the engine off. */
function ofSecondBattery({ given, budget, settings }: Asked): Unpriced[] {
  const out: Unpriced[] = [];
  const { electrical } = given.model;
  if (electrical.source.kind !== 'none' && usesEngineOff(budget) && budget.system.cells.length === 1)
    for (const capacityAh of [20, 35, 60])
      out.push({
        group: 'second',
        title: `Second battery of ${capacityAh} Ah with an isolator`,
        commands: [
          change(
            { kind: 'second-battery', capacityAh, chemistry: 'agm', join: 'isolator' },
            `Second battery, ${capacityAh} Ah AGM, with an isolator`,
          ),
        ],
        minutes: CHANGE_MINUTES.second,
        watts: 0,
        parts: capacityAh * settings.batteryPerAh + settings.isolatorPrice,
      });
  return out;
}

/** A bigger supply, or one that is missing. */
function ofSupplies({ given, budget, settings, spare }: Asked): Unpriced[] {
  const out: Unpriced[] = [];
  for (const k of given.kits)
    for (const x of k.circuits)
      if (x.makes && !x.makes.channels)
        for (const a of REDUCERS.filter((r) => r > x.makes!.ratedA).slice(0, 3))
          out.push({
            group: `reducer:${x.makes.id}`,
            title: `${x.makes.name} of ${a} A instead of ${x.makes.ratedA} A`,
            commands: [change({ kind: 'reducer', makes: x.makes.id, ratedA: a }, `${x.makes.name} of ${a} A`)],
            minutes: CHANGE_MINUTES.reducer,
            watts: 0,
            parts: a * settings.reducerPerA,
          });
  if (budget.checks.some((c) => c.id === 'no-supply'))
    for (const s of spare)
      if (s.kit.fits.some((f) => f.fits && (f.models?.includes(given.model.id) ?? f.kinds?.includes(given.model.kind))))
        for (const m of s.kit.circuits.flatMap((x) =>
          x.makes && given.model.places.some((p) => p.id === x.makes!.place) ? [x.makes] : [],
        ))
          out.push({
            group: 'supply',
            title: `${s.kit.name} added`,
            commands: [{ type: 'kit.added', kit: s.kit.id }],
            minutes: s.kit.steps.reduce((a, x) => a + x.minutes, 0),
            watts: 0,
            parts: m.ratedA * settings.reducerPerA,
            brings: s,
          });
  return out;
}

/** Shorter use with the engine off. */
function ofDays({ budget }: Asked): Unpriced[] {
  const out: Unpriced[] = [];
  for (const d of budget.days) {
    const idle = d.day.phases.filter((p) => p.rpm === 0 && p.key === 'on' && !p.wall && p.minutes > 10);
    if (!usesEngineOff(budget) || !idle.length || RANK[d.verdict] === 0) continue;
    for (const share of [0.75, 0.5, 0.25]) {
      const day: OwnerDay = {
        ...d.day,
        phases: d.day.phases.map((p) => (idle.includes(p) ? { ...p, minutes: Math.round(p.minutes * share) } : p)),
      };
      out.push({
        group: `shorter:${d.day.id}`,
        title: `${d.day.name}: ${pct(share)} of the time with the engine off`,
        commands: [{ type: 'day.described', day }],
        minutes: CHANGE_MINUTES.shorter,
        watts: 0.01 * (1 - share) * idle.reduce((a, p) => a + p.minutes, 0),
      });
    }
  }
  return out;
}

/** Everything single that could be changed on an order, priced with the shop's settings. */
export const partsOf = (a: Asked): Part[] =>
  [ofKits, ofUnit, ofFeeds, ofSecondBattery, ofSupplies, ofDays]
    .flatMap((of) => of(a))
    .map(({ parts = 0, ...p }) => {
      // turning something down is nobody's paid work
      const labour = p.minutes > CHANGE_MINUTES.setting ? (p.minutes / 60) * a.settings.labourPerHour : 0;
      return { ...p, money: Math.round(parts + labour) };
    });
