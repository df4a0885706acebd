import type { SumLine, SumLineInput, Verdict } from '#model/common';
import type { OwnerDay, Phase } from '#model/day';
import type { Settings } from '#model/settings';
import { round, sum } from '../sum';
import { freezesAt } from './battery';
import { cellAt, chargeAt, givingOhms, restVolts, shareAt, type CellAt } from './cell';
import { compile, dutyIn, lawIndex, sourceAt, wattsIn } from './phases';
import { run, type Moment, type Run } from './simulate';
import { crankAmps, type PowerSystem } from './system';

export interface PhaseResult {
  id: string;
  name: string;
  fromMinute: number;
  minutes: number;
  /** what the source can give, and what is drawn on average, bursts left aside, amperes */
  sourceA: number;
  loadA: number;
  marginA: number;
  /** change of charge, ampere-hours, one a battery */
  deltaAh: number[];
  leastVolts: number;
}

export interface DayResult {
  day: OwnerDay;
  verdict: Verdict;
  /** the binding reason, without its verdict */
  says: string;
  phases: PhaseResult[];
  /** charge as a share of capacity */
  moments: (Moment & { soc: number[] })[];
  starts: { minute: number; phase: number; volts: number; ok: boolean }[];
  leastSoc: number[];
  endSoc: number[];
  leastVolts: number[];
  /** minutes into the day */
  flatAt: (number | null)[];
  /** minutes into the day from which a start would fail while the engine is off; null for never */
  noStartFrom: number | null;
  /** watt-hours that each load took at its battery */
  energy: { id: string; name: string; wh: number }[];
  /** where a battery would freeze: its charge is too low for the cold; null for nowhere */
  freezes: { battery: number; phase: number; soc: number; atC: number } | null;
  /** the day in a row on which a start fails or a battery is flat; null when it goes on */
  endsOnDay: number | null;
  sum: SumLine[];
}

/** Volts that the starter would find; none where the battery has not the charge left to turn it for its seconds. */
export function crankVolts(s: PowerSystem, c: CellAt, q: number, tempC: number): number {
  const amps = crankAmps(s.starter!, tempC);
  const needs = ((amps * s.starter!.seconds) / 3600) * Math.max(1, amps / c.ratedA) ** c.peukertLess1;
  if (!c.gives || q - c.floorAh < needs) return 0;
  return restVolts(c, chargeAt(c, q)) - amps * givingOhms(c, shareAt(c, q));
}

/** The first moment at which a battery is less charged than the cold of its phase allows. */
function freezing(s: PowerSystem, day: OwnerDay, moments: readonly Moment[]): DayResult['freezes'] {
  for (const m of moments)
    for (const [battery, c] of s.cells.entries()) {
      const soc = m.charge[battery]! / c.capacityAh;
      const atC = freezesAt(c.chemistry, soc);
      if (atC !== null && day.phases[m.phase]!.tempC <= atC) return { battery, phase: m.phase, soc, atC };
    }
  return null;
}

const socOf = (s: PowerSystem, q: readonly number[]) => q.map((x, i) => x / s.cells[i]!.capacityAh);

/** Loads whose watts nobody knows and that the day has on. */
export const unknownIn = (s: PowerSystem, phases: readonly Phase[]): string[] =>
  s.loads.filter((l) => !l.own && l.watts === null && phases.some((p) => dutyIn(s, l, p) > 0)).map((l) => l.id);

/** Watt-hours of each load: what its law took on its bus in each phase, shared by watts. */
function energyByLoad(s: PowerSystem, day: OwnerDay, r: Run, cranks: readonly boolean[]): DayResult['energy'] {
  const wh = new Map<string, number>();
  const add = (id: string, x: number) => x > 0 && wh.set(id, (wh.get(id) ?? 0) + x);
  r.flows.forEach((f, i) => {
    const p = day.phases[f.phase]!;
    f.loadWh.forEach((laws, bus) => {
      const parts = cranks[i]
        ? []
        : s.loads
            .filter((l) => Math.min(l.bus, s.cells.length - 1) === bus)
            .map((l) => ({ id: l.id, law: lawIndex(l), w: ((wattsIn(s, l, p) ?? 0) * dutyIn(s, l, p)) / (l.via?.efficiency ?? 1) }));
      if (bus === 0) {
        if (p.driveKm > 0 && s.drive) parts.push({ id: 'drive', law: 0, w: (s.drive.whPerKm * p.driveKm * 60) / p.minutes });
        parts.push({ id: 'parked', law: 1, w: s.parkedA * s.systemV });
        add(cranks[i] ? 'starter' : (s.winch?.load ?? 'starter'), laws[4]!);
      }
      laws.slice(0, 4).forEach((x, law) => {
        const mine = parts.filter((q) => q.law === law && q.w > 0);
        const of = mine.reduce((a, q) => a + q.w, 0);
        for (const q of mine) add(q.id, (x * q.w) / of);
      });
    });
  });
  const NAMES: Record<string, string> = { drive: 'Driving', parked: 'Drawn day and night', starter: 'Starter' };
  return [...wh]
    .map(([id, x]) => ({ id, name: s.loads.find((l) => l.id === id)?.name ?? NAMES[id] ?? id, wh: x }))
    .sort((a, b) => b.wh - a.wh);
}

/** Minutes into the day from which a start would fail, with the engine off. */
function noStartFrom(s: PowerSystem, day: OwnerDay, moments: readonly Moment[]): number | null {
  if (!s.starter) return null;
  const cells = new Map<number, CellAt>();
  let before: { hour: number; spare: number } | null = null;
  for (const m of moments) {
    const p = day.phases[m.phase]!;
    if (p.rpm > 0) {
      before = null;
      continue;
    }
    if (!cells.has(p.tempC)) cells.set(p.tempC, cellAt(s.cells[0]!, p.tempC));
    const spare = crankVolts(s, cells.get(p.tempC)!, m.charge[0]!, p.tempC) - s.starter.leastVolts;
    if (spare < 0) {
      const part = before && before.spare > 0 ? before.spare / (before.spare - spare) : 1;
      return (before ? before.hour + part * (m.hour - before.hour) : m.hour) * 60;
    }
    before = { hour: m.hour, spare };
  }
  return null;
}

const clock = (minutes: number): string =>
  minutes >= 48 * 60
    ? `${round(minutes / 60 / 24, 2)} days`
    : minutes >= 60
      ? `${Math.floor(minutes / 60)} h ${Math.round(minutes % 60)} min`
      : `${Math.round(minutes)} min`;

type Limits = Pick<Settings, 'reserveSoc' | 'packReserveSoc' | 'repeatDays' | 'crankSpareV'>;

/** The day on which such days in a row end, and the charge that they settle at. */
function repeat(s: PowerSystem, day: OwnerDay, first: Run, limit: number): { endsOnDay: number | null; charge: number[] } {
  const { segments } = compile(s, day);
  const bad = (r: Run) => r.flatAt.some((x) => x !== null) || r.starts.some((x) => x.volts < s.starter!.leastVolts);
  if (bad(first)) return { endsOnDay: 1, charge: first.charge };
  let charge = first.charge;
  for (let n = 2; n <= limit; n++) {
    const r = run(segments, charge, s.join);
    if (bad(r)) return { endsOnDay: n, charge: r.charge };
    const settled = r.charge.every((q, i) => Math.abs(q - charge[i]!) < 1e-4 * s.cells[i]!.capacityAh);
    charge = r.charge;
    if (settled) break;
  }
  return { endsOnDay: null, charge };
}

/**
 * Simulates an owner's day and judges it: every start, the charge that is left, and the same day in a row.
 * @returns verdict `unknown` when the day has something on whose watts nobody knows
 */
export function judgeDay(s: PowerSystem, day: OwnerDay, limits: Limits): DayResult {
  const { segments, charge } = compile(s, day);
  const r = run(segments, charge, s.join, { detail: true });
  const unknown = unknownIn(s, day.phases);
  let minute = 0;
  const phases = day.phases.map((p, i): PhaseResult => {
    const flows = r.flows.filter((f) => f.phase === i);
    const inPhase = r.moments.filter((m) => m.phase === i);
    // on average over the phase, bursts left aside
    const loadA =
      flows.reduce((a, f) => a + f.loadAh.reduce((b, laws) => b + laws.slice(0, 4).reduce((c, x) => c + x, 0), 0), 0) / (p.minutes / 60);
    const sourceA = p.wall && s.wall ? s.wall.amps : sourceAt(s, p.rpm, p.tempC);
    const out = {
      id: p.id,
      name: p.name,
      fromMinute: minute,
      minutes: p.minutes,
      sourceA,
      loadA,
      marginA: sourceA - loadA,
      deltaAh: charge.map((_, k) => flows.reduce((a, f) => a + f.deltaAh[k]!, 0)),
      leastVolts: Math.min(...inPhase.map((m) => m.volts[0]!)),
    };
    minute += p.minutes;
    return out;
  });
  const starts = r.starts.map((x) => ({
    minute: x.hour * 60,
    phase: x.phase,
    volts: x.volts,
    ok: x.volts >= s.starter!.leastVolts,
  }));
  const { endsOnDay, charge: settled } = repeat(s, day, r, limits.repeatDays);
  const leastSoc = socOf(s, r.leastCharge);
  const endSoc = socOf(s, r.charge);
  const flatAt = r.flatAt.map((x) => (x === null ? null : x * 60));
  const result = { day, phases, starts, leastSoc, endSoc, flatAt, endsOnDay, freezes: freezing(s, day, r.moments) };
  const { verdict, says } = unknown.length
    ? { verdict: 'unknown' as const, says: `${s.loads.find((l) => l.id === unknown[0])!.name}: its watts are not known` }
    : judge(s, result, limits);
  return {
    ...result,
    verdict,
    says,
    moments: r.moments.map((m) => ({ ...m, soc: socOf(s, m.charge) })),
    leastVolts: r.leastVolts,
    noStartFrom: noStartFrom(s, day, r.moments),
    energy: energyByLoad(
      s,
      day,
      r,
      segments.map((x) => x.crank ?? false),
    ),
    sum: sum(...lines(s, result, charge, limits, socOf(s, settled))),
  };
}

type Core = Pick<DayResult, 'day' | 'phases' | 'starts' | 'leastSoc' | 'endSoc' | 'flatAt' | 'endsOnDay' | 'freezes'>;

function judge(s: PowerSystem, d: Core, limits: Limits): { verdict: Verdict; says: string } {
  const phaseAt = (minute: number) => [...d.phases].reverse().find((p) => p.fromMinute <= minute + 1e-6)!;
  if (d.freezes)
    return {
      verdict: 'fails',
      says: `the ${s.names[d.freezes.battery]!.toLowerCase()} freezes in “${d.phases[d.freezes.phase]!.name}”: ${round(d.freezes.soc * 100)} % charged it stands down to ${round(d.freezes.atC)} °C`,
    };
  const failed = d.starts.find((x) => !x.ok);
  if (failed) {
    const off = d.phases[failed.phase - 1];
    return {
      verdict: 'fails',
      says: `no start ${off ? `after “${off.name}”` : 'at the beginning'}: the starter finds ${round(failed.volts, 3)} V of ${s.starter!.leastVolts} V`,
    };
  }
  const flat = d.flatAt.findIndex((x) => x !== null);
  if (flat >= 0) {
    const p = phaseAt(d.flatAt[flat]!);
    return {
      verdict: 'fails',
      says: `${s.names[flat]!.charAt(0).toLowerCase()}${s.names[flat]!.slice(1)}: flat ${clock(d.flatAt[flat]! - p.fromMinute)} into “${p.name}”`,
    };
  }
  if (!s.starter) {
    const least = d.leastSoc[0]!;
    const keep = limits.packReserveSoc;
    const pct = `${Math.round(least * 100)} %`;
    if (least < keep) return { verdict: 'fails', says: `the pack falls to ${pct}, under the ${Math.round(keep * 100)} % it should keep` };
    if (d.endsOnDay !== null) return { verdict: 'fails', says: `the pack is flat on day ${d.endsOnDay} of such days in a row` };
    return { verdict: least < keep + 0.1 ? 'tight' : 'holds', says: `the pack keeps ${pct} at its lowest` };
  }
  if (d.endsOnDay !== null)
    return { verdict: 'fails', says: `no start on day ${d.endsOnDay} of such days in a row: each leaves less than it found` };
  const least = Math.min(...d.leastSoc);
  const spare = Math.min(...d.starts.map((x) => x.volts - s.starter!.leastVolts));
  if (least < limits.reserveSoc)
    return {
      verdict: 'tight',
      says: `falls to ${Math.round(least * 100)} %, under the reserve of ${Math.round(limits.reserveSoc * 100)} %, and still starts`,
    };
  if (spare < limits.crankSpareV) return { verdict: 'tight', says: `starts with only ${round(spare, 2)} V to spare` };
  return { verdict: 'holds', says: `starts every time, lowest charge ${Math.round(least * 100)} %` };
}

function lines(s: PowerSystem, d: Core, charge: readonly number[], limits: Limits, settled: readonly number[]): SumLineInput[] {
  return [
    ...s.names.map((n, i) => ({
      label: `${n} at the start`,
      value: charge[i]!,
      unit: 'Ah',
      source: s.socMeasured ? 'measured at rest' : 'charge assumed, not measured',
    })),
    ...d.phases.flatMap((p) =>
      p.deltaAh.map((x, i) => ({ label: `${p.name}${i ? `, ${s.names[i]}` : ''}`, value: Number(x.toFixed(3)), unit: 'Ah' })),
    ),
    ...s.names.map((n, i) => ({
      label: `${n} at the end`,
      value: d.endSoc[i]! * s.cells[i]!.capacityAh,
      unit: 'Ah',
      kind: 'result' as const,
    })),
    ...d.starts.map((x) => ({
      label: `Start of “${d.phases[x.phase]!.name}”`,
      value: Number(x.volts.toFixed(2)),
      unit: 'V',
      source: s.starter!.guessed ? 'starter’s amperes guessed from the battery: common practice, no source' : undefined,
    })),
    ...(s.starter
      ? [
          {
            label: 'A start needs',
            value: s.starter.leastVolts,
            unit: 'V',
            source: 'model sheet; common practice, no source',
            kind: 'limit' as const,
          },
        ]
      : [{ label: 'The pack should keep', value: limits.packReserveSoc * 100, unit: '%', source: 'shop setting', kind: 'limit' as const }]),
    {
      label: `Such days in a row, up to ${limits.repeatDays}`,
      value: d.endsOnDay === null ? `go on, at ${Math.round(settled[0]! * 100)} %` : `end on day ${d.endsOnDay}`,
      source: 'shop setting',
      kind: 'note',
    },
    {
      label: 'Battery',
      value: 'rest volts, inner resistance, Peukert, acceptance',
      source: 'docs/power.md: tables from memory, to be confirmed',
      kind: 'note',
    },
  ];
}
