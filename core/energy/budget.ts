import type { Margin, SumLine, SumLineInput, Verdict } from '#model/common';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { Wiring } from '../circuit/wiring';
import { deviceWatts, wattsKey } from '../circuit/load';
import { round, sum } from '../sum';
import { judgeUse, worst } from '../verdict';
import { OCV_SOURCE, parkedDays, peukertHours, socFromVolts } from './battery';
import { carriesFromRpm, sourceAmps } from './source';

/** One question about the unit's power with its margin, verdict and arithmetic. */
export interface PowerCheck {
  id: string;
  title: string;
  verdict: Verdict;
  says: string;
  margin: Margin;
  /** a smaller `used` is not better here: the figure must reach the limit, such as days parked */
  atLeast: boolean;
  sum: SumLine[];
}

export interface Budget {
  verdict: Verdict;
  says: string;
  checks: PowerCheck[];
  /** what each added thing draws on average, amperes at the bus */
  loads: { id: string; name: string; amps: number | null; burst: boolean }[];
  missing: { key: string; label: string }[];
  /** engine speed from which the source carries everything; null for none */
  breakEvenRpm: number | null;
  soc: number | null;
  /** planned draw with the key off */
  parkedMa: number;
}

/** Charge of the unit's bank from its volts at rest: a pack is judged as 12 V battery by proportion. Null while not measured or not plausible. */
export function restCharge(sheets: Sheets, restVolts: number | null): { soc: number | null; problem: string | null } {
  if (restVolts === null) return { soc: null, problem: null };
  const { battery } = sheets.model.electrical;
  try {
    return { soc: socFromVolts(battery.chemistry, (restVolts / (battery.count * battery.voltsEach)) * 12), problem: null };
  } catch {
    return {
      soc: null,
      problem: `${restVolts} V is not what this ${battery.count * battery.voltsEach} V ${battery.chemistry} bank shows at rest: measure again on the posts, or say if it is another battery`,
    };
  }
}

/** The charge assumed for a battery that was not measured. Common practice, no source. */
const ASSUMED_SOC = 0.9;

/**
 * Whether the unit carries what is fitted and chosen: the source at idle and at working speed, each supply a kit makes,
 * engine-off hours to the reserve, and days parked. Each verdict with its sum.
 */
export function powerBudget(order: Order, sheets: Sheets, wiring: Wiring, settings: Settings): Budget {
  const { model } = sheets;
  const { electrical } = model;
  const busV = electrical.source.kind === 'none' ? electrical.systemV : electrical.source.regulatedV;
  const missing: Budget['missing'] = [];
  const loads: Budget['loads'] = [];
  for (const f of order.fitted) {
    const watts =
      f.watts ?? (typeof order.facts[`watts:fitted/${f.id}`] === 'number' ? (order.facts[`watts:fitted/${f.id}`] as number) : null);
    if (watts === null) missing.push({ key: `watts:fitted/${f.id}`, label: `watts of the ${f.name} already fitted` });
    loads.push({ id: `fitted/${f.id}`, name: `${f.name} (already fitted)`, amps: watts === null ? null : watts / busV, burst: false });
  }
  let engineOffA: number | null = 0;
  const engineOff: SumLineInput[] = [];
  const batteryV = electrical.battery.count * electrical.battery.voltsEach;
  for (const kit of sheets.kits)
    for (const d of kit.devices) {
      if (!d.load) continue;
      const watts = deviceWatts(order, kit, d);
      if (watts === null) missing.push({ key: wattsKey(kit.id, d.id), label: `watts of the ${d.name} (${kit.name})` });
      const burst = d.load.kind === 'burst';
      if (d.load.kind !== 'intermittent')
        loads.push({ id: `${kit.id}/${d.id}`, name: d.name, amps: watts === null ? null : (watts * d.load.share) / busV, burst });
      if (d.load.engineOff && !burst) {
        const a = watts === null ? null : (watts * d.load.share) / batteryV;
        engineOffA = engineOffA === null || a === null ? null : engineOffA + a;
        engineOff.push({ label: d.name, value: a ?? '?', unit: 'A' });
      }
    }
  const steady = loads.filter((l) => !l.burst);
  const addedA = steady.some((l) => l.amps === null) ? null : steady.reduce((s, l) => s + l.amps!, 0);
  const addedLines: SumLineInput[] = steady.map((l) => ({ label: l.name, value: l.amps ?? '?', unit: 'A' }));
  const checks: PowerCheck[] = [];
  const short = (used: number | null, limit: number | null) =>
    used === null
      ? 'a draw is not known'
      : used > limit!
        ? `short by ${round(used - limit!, 2)} A`
        : `${round(limit! - used, 2)} A to spare`;

  if (electrical.source.kind !== 'none') {
    const s = electrical.source;
    for (const [id, title, rpm, key] of [
      ['idle', 'At idle', s.idleRpm, 'idleW'],
      ['working', 'At working speed', s.workingRpm, 'workingW'],
    ] as const) {
      const makes = sourceAmps(s, rpm);
      const own = electrical.ownLoads.reduce((x, l) => x + l[key] / busV, 0);
      const left = makes - own;
      checks.push({
        id,
        title,
        verdict: judgeUse(addedA, left, settings.tightShare),
        says: `${short(addedA, left)} ${id === 'idle' ? 'at idle' : 'at working speed'}`,
        margin: { used: addedA, limit: left, unit: 'A' },
        atLeast: false,
        sum: sum(
          { label: `Source at ${rpm} rpm`, value: makes, unit: 'A', source: `${model.name} sheet` },
          ...electrical.ownLoads
            .filter((l) => l[key] > 0)
            .map((l) => ({ label: `− ${l.name}`, value: l[key] / busV, unit: 'A', source: `${model.name} sheet` })),
          { label: 'Left for what is added', value: left, unit: 'A', kind: 'limit' as const },
          ...addedLines,
          { label: 'Added, continuous', value: addedA ?? 'not known', unit: 'A', kind: 'result' as const },
          {
            label: `Tight above ${Math.round(settings.tightShare * 100)} % of what is left`,
            value: left * settings.tightShare,
            unit: 'A',
            source: 'shop setting; rule of thumb, common practice, no source',
            kind: 'note' as const,
          },
        ),
      });
    }
  }
  checks.push(...supplyChecks(order, sheets, wiring, settings));

  const charge = restCharge(sheets, order.restVolts);
  const soc = charge.soc ?? ASSUMED_SOC;
  const socLine: SumLineInput =
    charge.soc === null
      ? { label: 'Charge taken, not measured', value: ASSUMED_SOC * 100, unit: '%', source: 'assumed' }
      : {
          label: `Charge from ${order.restVolts} V at rest`,
          value: soc * 100,
          unit: '%',
          source: OCV_SOURCE[electrical.battery.chemistry],
        };
  const bank = electrical.battery;
  if (engineOff.length && electrical.source.kind !== 'none') {
    const full = engineOffA ? peukertHours(bank.capacityAh, bank.ratedHours, bank.peukert, engineOffA) : null;
    const hours = full === null ? null : full * Math.max(0, soc - settings.reserveSoc);
    checks.push({
      id: 'engine-off',
      title: 'Engine off',
      verdict:
        hours === null
          ? 'unknown'
          : hours >= settings.engineOffHours / settings.tightShare
            ? 'holds'
            : hours >= settings.engineOffHours
              ? 'tight'
              : 'fails',
      says: hours === null ? 'a draw is not known' : `${round(hours, 2)} h to the reserve`,
      margin: { used: hours, limit: settings.engineOffHours, unit: 'h' },
      atLeast: true,
      sum: sum(
        ...engineOff,
        { label: 'Together', value: engineOffA ?? 'not known', unit: 'A' },
        {
          label: `${bank.name}, ${bank.capacityAh} Ah at ${bank.ratedHours} h, exponent ${bank.peukert}`,
          value: full ?? '?',
          unit: 'h',
          source: 'Peukert 1897',
        },
        socLine,
        { label: 'Reserve kept for the start', value: settings.reserveSoc * 100, unit: '%', source: 'shop setting' },
        { label: 'Hours to the reserve', value: hours ?? '?', unit: 'h', kind: 'result' },
        { label: 'Wanted', value: settings.engineOffHours, unit: 'h', source: 'shop setting', kind: 'limit' },
      ),
    });
  }

  const standby: SumLineInput[] = [
    { label: 'The unit itself, key off', value: electrical.parkedMa, unit: 'mA', source: `${model.name} sheet` },
  ];
  let drawMa = electrical.parkedMa;
  const add = (label: string, ma: number) => {
    if (ma <= 0) return;
    drawMa += ma;
    standby.push({ label, value: ma, unit: 'mA' });
  };
  order.fitted.forEach((f) => add(f.name, f.standbyMa));
  for (const c of wiring.circuits)
    // what stands on a keyed feed or behind a relay is cut off with the key
    if (c.feed?.switching !== 'keyed' && (c.mode === 'direct' || c.circuit.makes))
      c.circuit.devices.forEach((id) =>
        add(
          `${c.kit.devices.find((d) => d.id === id)!.name} on ${c.feed?.name ?? 'a constant feed'}`,
          c.kit.devices.find((d) => d.id === id)!.standbyMa,
        ),
      );
  const days = parkedDays(bank.capacityAh, soc, settings.reserveSoc, drawMa, settings.selfDischargePctPerMonth);
  checks.push({
    id: 'parked',
    title: 'Parked',
    verdict: days >= settings.parkedDays * 2 ? 'holds' : days >= settings.parkedDays ? 'tight' : 'fails',
    says: `${Math.floor(days)} days parked to the reserve`,
    margin: { used: Math.min(days, 9999), limit: settings.parkedDays, unit: 'd' },
    atLeast: true,
    sum: sum(
      ...standby,
      { label: 'Parked draw', value: drawMa, unit: 'mA' },
      socLine,
      {
        label: `Down to the reserve of ${settings.reserveSoc * 100} %`,
        value: Math.max(0, soc - settings.reserveSoc) * bank.capacityAh,
        unit: 'Ah',
        source: 'shop setting',
      },
      { label: 'Self-discharge in 30 days', value: settings.selfDischargePctPerMonth, unit: '%', source: 'shop setting' },
      { label: 'Days to the reserve', value: Math.min(days, 9999), unit: 'd', kind: 'result' },
      { label: 'Wanted', value: settings.parkedDays, unit: 'd', source: 'shop setting', kind: 'limit' },
    ),
  });

  const verdict = worst(checks.map((c) => c.verdict));
  const binding = checks.filter((c) => c.verdict === verdict);
  const rpm = addedA === null ? null : carriesFromRpm(electrical, addedA);
  const word = { holds: 'Holds', tight: 'Tight', fails: 'Fails', unknown: 'Not known' }[verdict];
  const failsAt = (id: string) => checks.find((c) => c.id === id)?.verdict === 'fails';
  const tail = failsAt('idle') && !failsAt('working') && rpm ? `; carried from ${Math.round(rpm / 50) * 50} rpm up` : '';
  return {
    verdict,
    says: `${word}: ${binding.map((c) => c.says).join('; ')}${tail}`,
    checks,
    loads,
    missing,
    breakEvenRpm: rpm,
    soc: charge.soc,
    parkedMa: drawMa,
  };
}

/** Each supply that a kit makes (a reducer), against its rating; and loads that nothing on the unit can supply. */
function supplyChecks(order: Order, sheets: Sheets, wiring: Wiring, settings: Settings): PowerCheck[] {
  const out: PowerCheck[] = [];
  for (const maker of wiring.circuits.filter((c) => c.circuit.makes)) {
    const { makes } = maker.circuit;
    const on = wiring.circuits.filter((c) => c.feed?.id === makes!.id);
    const known = on.every((c) => c.load.continuousA !== null);
    const used = known ? on.reduce((s, c) => s + c.load.continuousA!, 0) : null;
    out.push({
      id: `supply-${makes!.id}`,
      title: makes!.name,
      verdict: judgeUse(used, makes!.ratedA, settings.tightShare),
      says:
        used === null
          ? 'a draw is not known'
          : used > makes!.ratedA
            ? `${makes!.name} short by ${round(used - makes!.ratedA, 2)} A`
            : `${makes!.name} carries ${round(used, 2)} of ${makes!.ratedA} A`,
      margin: { used, limit: makes!.ratedA, unit: 'A' },
      atLeast: false,
      sum: sum(
        ...on.map((c) => ({ label: `${c.circuit.name} (${c.kit.name})`, value: c.load.continuousA ?? '?', unit: 'A' })),
        { label: 'All on together', value: used ?? 'not known', unit: 'A', kind: 'result' as const },
        { label: 'Rated', value: makes!.ratedA, unit: 'A', source: `${maker.kit.name} sheet`, kind: 'limit' as const },
        ...(used === null
          ? []
          : [
              {
                label: `Drawn from the ${sheets.model.electrical.systemV} V pack`,
                value: (used * makes!.volts) / makes!.efficiency / sheets.model.electrical.systemV,
                unit: 'A',
                kind: 'note' as const,
              },
            ]),
      ),
    });
  }
  const stranded = wiring.circuits.filter(
    (c) => !c.feed && !wiring.points.some((p) => p.kind !== 'pack-tap' && Math.abs(p.volts - c.circuit.volts) <= 2),
  );
  if (stranded.length) {
    const v = stranded[0]!.circuit.volts;
    const a = stranded.reduce((s, c) => s + (c.load.continuousA ?? 0), 0);
    out.push({
      id: 'no-supply',
      title: `${v} V supply`,
      verdict: 'fails',
      says: `nothing here makes ${v} V: needs a ${sheets.model.electrical.systemV}-to-${v} V reducer of at least ${Math.ceil(a / settings.tightShare)} A`,
      margin: { used: a, limit: 0, unit: 'A' },
      atLeast: false,
      sum: sum(
        ...stranded.map((c) => ({ label: `${c.circuit.name} (${c.kit.name})`, value: c.load.continuousA ?? '?', unit: 'A' })),
        { label: 'Together', value: a, unit: 'A', kind: 'result' as const },
        {
          label: `Rating that carries it at ${settings.tightShare * 100} %`,
          value: a / settings.tightShare,
          unit: 'A',
          kind: 'note' as const,
        },
      ),
    });
  }
  return out;
}
