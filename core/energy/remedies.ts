import type { Verdict } from '#model/common';
import type { OwnerDay } from '#model/day';
import type { OrderCommand } from '#model/event';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { SheetRef, Sheets } from '#model/sheet';
import { planWiring } from '../circuit/wiring';
import { agreedSheets, changedSheets } from '../order/agreed';
import { applyEvent } from '../order/reduce';
import { powerBudget, type Budget } from './budget';
import { staysOn, useOf } from './unit-system';

/** A kit of the shop's sheets that is not on the order. */
export interface SpareKit {
  ref: SheetRef;
  kit: Kit;
}

/** One change that may help, as the commands that make it. */
interface Part {
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

export type By = 'money' | 'minutes' | 'watts';

/** What would make it hold: the exact change, what it costs, and the verdict before and after. */
export interface Remedy {
  id: string;
  title: string;
  commands: OrderCommand[];
  money: number;
  minutes: number;
  watts: number;
  after: { verdict: Verdict; says: string; idleA: number | null; leastSoc: number; startV: number | null };
}

export interface RemedySearch {
  before: Remedy['after'];
  found: Remedy[];
  tried: number;
  /** all combinations of up to three changes were looked at */
  complete: boolean;
}

const REDUCERS = [10, 15, 20, 25, 30, 40, 50, 60];
/** Minutes of work where no sheet gives them. Common practice, no source. */
const MINUTES = { setting: 1, shed: 25, keyed: 15, plug: 8, second: 70, idle: 15, reducer: 20, shorter: 1 };
const RANK: Record<Verdict, number> = { holds: 0, tight: 1, unknown: 2, fails: 3 };
const MOST = 220;

const pct = (x: number) => `${Math.round(x * 100)} %`;

/** Everything single that could be changed on this order. */
function partsOf(order: Order, given: Sheets, budget: Budget, settings: Settings, spare: readonly SpareKit[]): Part[] {
  const out: Part[] = [];
  const { electrical } = given.model;
  const labour = (minutes: number) => (minutes / 60) * settings.labourPerHour;
  const add = (p: Omit<Part, 'money'> & { parts?: number }) => {
    const { parts = 0, ...rest } = p;
    out.push({ ...rest, money: Math.round(parts + (p.minutes > MINUTES.setting ? labour(p.minutes) : 0)) });
  };
  const agreed = new Set(order.changes.map((c) => c.change.kind + ('load' in c.change ? c.change.load : '')));
  const change = (c: Extract<OrderCommand, { type: 'power.changed' }>['change'], label: string): OrderCommand => ({
    type: 'power.changed',
    change: c,
    label,
  });

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
        if (s.share < 1 && !agreed.has(`setting${id(list[0]!)}`))
          add({
            group: `draw:${kit.id}:${use}`,
            title: `${kit.name} at ${s.name}`,
            commands: list.map((d) => change({ kind: 'setting', load: id(d), share: s.share }, `${d.name} at ${s.name}`)),
            minutes: MINUTES.setting,
            watts: watts * (1 - s.share),
          });
      if (electrical.source.kind !== 'none' && (use === 'lamp' || use === 'heat') && watts >= 8 && !agreed.has(`shed${id(list[0]!)}`)) {
        const belowRpm = Math.round((electrical.source.idleRpm * 1.3) / 50) * 50;
        add({
          group: `draw:${kit.id}:${use}`,
          title: `${kit.name} off by itself under ${belowRpm} rpm`,
          commands: list.map((d) => change({ kind: 'shed', load: id(d), belowRpm }, `${d.name} off under ${belowRpm} rpm`)),
          minutes: MINUTES.shed,
          watts: watts * 0.2,
          parts: settings.relayPrice,
        });
      }
      for (const d of list)
        if (d.led)
          add({
            group: `led:${id(d)}`,
            title: `${d.name} as LED`,
            commands: [change({ kind: 'led', load: id(d), watts: d.led.watts }, `${d.name} as LED, ${d.led.watts} W`)],
            minutes: d.led.minutes,
            watts: 0,
            parts: d.led.cost,
          });
    }
  }
  for (const l of electrical.ownLoads)
    if (l.led && !agreed.has(`ledown/${l.id}`))
      add({
        group: `led:own/${l.id}`,
        title: `${l.name} as LED`,
        commands: [change({ kind: 'led', load: `own/${l.id}`, watts: l.led.watts }, `${l.name} as LED, ${l.led.watts} W`)],
        minutes: l.led.minutes,
        watts: 0,
        parts: l.led.cost,
      });
  for (const u of electrical.sourceUpgrades)
    add({
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
        add({
          group: 'idle',
          title: `Idle raised to ${rpm} rpm`,
          commands: [change({ kind: 'idle', rpm }, `Idle raised from ${idleRpm} to ${rpm} rpm`)],
          minutes: MINUTES.idle,
          watts: 0,
        });
    }
  }
  const wiring = planWiring(order, agreedSheets(order, given), settings);
  for (const c of wiring.circuits) {
    if (!staysOn(c) || c.circuit.switching === 'constant' || c.circuit.makes) continue;
    const standby = c.circuit.devices.reduce((a, id) => a + c.kit.devices.find((d) => d.id === id)!.standbyMa, 0);
    if (standby > 0 && c.mode === 'direct')
      add({
        group: `keyed:${c.id}`,
        title: `${c.circuit.name} with a plug, pulled when parked`,
        commands: [{ type: 'wire.overridden', circuit: c.id, field: 'mode', value: 'plug', reason: 'so that it is dead when parked' }],
        minutes: MINUTES.plug,
        watts: 0.1,
        parts: settings.relayPrice / 2,
      });
    const keyed = c.candidates.find((x) => x.accepted && x.point.switching === 'keyed');
    if (standby > 0 && keyed)
      add({
        group: `keyed:${c.id}`,
        title: `${c.circuit.name} keyed, from ${keyed.point.name}`,
        commands: [
          { type: 'wire.overridden', circuit: c.id, field: 'feed', value: keyed.point.id, reason: 'so that it is dead when parked' },
        ],
        minutes: MINUTES.keyed,
        watts: 0,
      });
  }
  const offUse = budget.system.loads.some((l) => l.engineOff && l.kind === 'continuous' && !l.own);
  if (electrical.source.kind !== 'none' && offUse && budget.system.cells.length === 1)
    for (const capacityAh of [20, 35, 60])
      add({
        group: 'second',
        title: `Second battery of ${capacityAh} Ah with an isolator`,
        commands: [
          change(
            { kind: 'second-battery', capacityAh, chemistry: 'agm', join: 'isolator' },
            `Second battery, ${capacityAh} Ah AGM, with an isolator`,
          ),
        ],
        minutes: MINUTES.second,
        watts: 0,
        parts: capacityAh * settings.batteryPerAh + settings.isolatorPrice,
      });
  for (const k of given.kits)
    for (const x of k.circuits)
      if (x.makes && !x.makes.channels)
        for (const a of REDUCERS.filter((r) => r > x.makes!.ratedA).slice(0, 3))
          add({
            group: `reducer:${x.makes.id}`,
            title: `${x.makes.name} of ${a} A instead of ${x.makes.ratedA} A`,
            commands: [change({ kind: 'reducer', makes: x.makes.id, ratedA: a }, `${x.makes.name} of ${a} A`)],
            minutes: MINUTES.reducer,
            watts: 0,
            parts: a * settings.reducerPerA,
          });
  if (budget.checks.some((c) => c.id === 'no-supply'))
    for (const s of spare)
      if (s.kit.fits.some((f) => f.fits && (f.models?.includes(given.model.id) ?? f.kinds?.includes(given.model.kind))))
        for (const m of s.kit.circuits.flatMap((x) =>
          x.makes && given.model.places.some((p) => p.id === x.makes!.place) ? [x.makes] : [],
        ))
          add({
            group: 'supply',
            title: `${s.kit.name} added`,
            commands: [{ type: 'kit.added', kit: s.kit.id }],
            minutes: s.kit.steps.reduce((a, x) => a + x.minutes, 0),
            watts: 0,
            parts: m.ratedA * settings.reducerPerA,
            brings: s,
          });
  for (const d of budget.days) {
    const idle = d.day.phases.filter((p) => p.rpm === 0 && p.key === 'on' && !p.wall && p.minutes > 10);
    if (!offUse || !idle.length || RANK[d.verdict] === 0) continue;
    for (const share of [0.75, 0.5, 0.25]) {
      const day: OwnerDay = {
        ...d.day,
        phases: d.day.phases.map((p) => (idle.includes(p) ? { ...p, minutes: Math.round(p.minutes * share) } : p)),
      };
      add({
        group: `shorter:${d.day.id}`,
        title: `${d.day.name}: ${pct(share)} of the time with the engine off`,
        commands: [{ type: 'day.described', day }],
        minutes: MINUTES.shorter,
        watts: 0.01 * (1 - share) * idle.reduce((a, p) => a + p.minutes, 0),
      });
    }
  }
  return out;
}

/** How far a budget is from holding, to tell whether a change helps at all. */
function badness(b: Budget, s: Settings): number {
  let x = RANK[b.verdict] * 10;
  for (const c of b.checks) {
    if (c.margin.used === null || c.margin.limit === null) continue;
    const over = c.atLeast ? c.margin.limit - c.margin.used : c.margin.used - c.margin.limit * s.tightShare;
    x += Math.max(0, over) / (Math.abs(c.margin.limit) + 1);
  }
  for (const d of b.days) {
    x += RANK[d.verdict] + Math.max(0, s.reserveSoc - Math.min(...d.leastSoc)) * 2;
    if (b.system.starter) for (const st of d.starts) x += Math.max(0, b.system.starter.leastVolts + s.crankSpareV - st.volts) * 0.2;
    if (d.endsOnDay !== null) x += 2 / d.endsOnDay;
  }
  return x;
}

const afterOf = (b: Budget): Remedy['after'] => {
  const idle = b.checks.find((c) => c.id === 'idle');
  return {
    verdict: b.verdict,
    says: b.says,
    idleA: idle && idle.margin.used !== null ? idle.margin.limit! - idle.margin.used : null,
    leastSoc: Math.min(...b.days.flatMap((d) => d.leastSoc)),
    startV: b.system.starter ? Math.min(...b.days.flatMap((d) => d.starts.map((x) => x.volts))) : null,
  };
};

/** An order with commands carried out, as they will be when the remedy is taken. */
export function withCommands(
  order: Order,
  sheets: Sheets,
  commands: readonly OrderCommand[],
  brings: readonly SpareKit[],
): { order: Order; sheets: Sheets } {
  let o = order;
  let s = sheets;
  for (const c of commands) {
    const spare = c.type === 'kit.added' ? brings.find((b) => b.kit.id === c.kit) : undefined;
    if (spare) s = { ...s, kits: [...s.kits, spare.kit] };
    const body = spare ? { type: 'kit.added' as const, kit: spare.ref, name: spare.kit.name } : c;
    o = applyEvent(o, o.id, { seq: o.version, at: o.openedAt, by: '', body: body as never, prevHash: '', hash: '' });
  }
  return { order: o, sheets: s };
}

export function budgetOf(order: Order, given: Sheets, settings: Settings): Budget {
  const sheets = agreedSheets(order, given);
  return powerBudget(order, sheets, planWiring(order, sheets, settings), settings, changedSheets(order, given).model);
}

/**
 * Searches what would make an order hold, cheapest first: each change alone, then pairs and threes of those that help. Every find was
 * computed exactly as the order will be once it is taken.
 * @param by what counts as cheap: money, minutes of work, or watts that the owner gives up
 * @param progress told from time to time; answers false to give up
 */
export function searchRemedies(
  order: Order,
  given: Sheets,
  settings: Settings,
  spare: readonly SpareKit[],
  by: By,
  progress: (tried: number) => boolean = () => true,
): RemedySearch {
  const base = budgetOf(order, given, settings);
  const before = afterOf(base);
  if (base.verdict === 'holds') return { before, found: [], tried: 0, complete: true };
  const parts = partsOf(order, given, base, settings, spare);
  const cost = (p: Pick<Part, By>) => p[by] + 1e-3 * (p.money + p.minutes + p.watts);
  const start = badness(base, settings);
  const found: Remedy[] = [];
  let tried = 0;
  let complete = true;
  const attempt = (set: readonly Part[]): number | null => {
    if (tried >= MOST || !progress(tried)) {
      complete = false;
      return null;
    }
    tried++;
    const commands = set.flatMap((p) => p.commands);
    const after = withCommands(
      order,
      given,
      commands,
      set.flatMap((p) => p.brings ?? []),
    );
    const b = budgetOf(after.order, after.sheets, settings);
    if (RANK[b.verdict] < RANK[base.verdict])
      found.push({
        id: set.map((p) => p.title).join(' + '),
        title: set.map((p) => p.title).join('; '),
        commands,
        money: set.reduce((a, p) => a + p.money, 0),
        minutes: set.reduce((a, p) => a + p.minutes, 0),
        watts: set.reduce((a, p) => a + p.watts, 0),
        after: afterOf(b),
      });
    return badness(b, settings);
  };
  const helps: { part: Part; left: number }[] = [];
  for (const p of [...parts].sort((a, b) => cost(a) - cost(b))) {
    const left = attempt([p]);
    if (left === null) break;
    if (left < start - 1e-6) helps.push({ part: p, left });
  }
  const enough = (set: readonly Part[]) =>
    found.some((f) => f.after.verdict === 'holds' && f.id.split(' + ').every((t) => set.some((p) => p.title === t)));
  const tryAll = (sets: Part[][]) => {
    for (const set of sets.sort((a, b) => a.reduce((x, p) => x + cost(p), 0) - b.reduce((x, p) => x + cost(p), 0)))
      if (!enough(set) && attempt(set) === null) return;
  };
  const pairs: Part[][] = [];
  const triples: Part[][] = [];
  const list = helps.sort((a, b) => a.left - b.left).map((h) => h.part);
  for (let i = 0; i < list.length; i++)
    for (let j = i + 1; j < list.length; j++) {
      if (list[i]!.group === list[j]!.group) continue;
      pairs.push([list[i]!, list[j]!]);
      for (let k = j + 1; k < Math.min(list.length, 9); k++)
        if (list[k]!.group !== list[i]!.group && list[k]!.group !== list[j]!.group) triples.push([list[i]!, list[j]!, list[k]!]);
    }
  tryAll(pairs);
  if (!found.some((f) => f.after.verdict === 'holds')) tryAll(triples);
  found.sort((a, b) => RANK[a.after.verdict] - RANK[b.after.verdict] || cost(a) - cost(b));
  return { before, found: dropDearer(found).slice(0, 12), tried, complete };
}

/** A find that contains another one with as good a verdict only costs more. */
const dropDearer = (found: readonly Remedy[]): Remedy[] =>
  found.filter((f) => {
    const parts = f.id.split(' + ');
    return !found.some(
      (g) =>
        g !== f &&
        RANK[g.after.verdict] <= RANK[f.after.verdict] &&
        g.id.split(' + ').length < parts.length &&
        g.id.split(' + ').every((t) => parts.includes(t)),
    );
  });
