import { madeIds } from '#model/kit';
import type { Margin, SumLine, SumLineInput, Verdict } from '#model/common';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { Wiring } from '../wiring/planned';
import { round, sum } from '../sum';
import { judgeUse } from '../verdict';
import { CHARGE_LIMIT_V, freezesAt, ocvSourceOf, parkedDays, peukertHours } from './battery';
import { sourceAmps } from './source';
import { standing } from './standing';
import type { EnergyLoad, PowerSystem } from './system';
import { restCharge, standbyOf } from './unit-system';

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

/** A load on average, amperes at the bus. */
export interface BusLoad {
  id: string;
  name: string;
  amps: number | null;
  burst: boolean;
}

export const busVolts = (s: PowerSystem): number => s.source?.regulatedV ?? s.systemV;

/** What each added thing takes on average, with its own share of the time. */
export const busLoads = (s: PowerSystem): BusLoad[] =>
  s.loads
    .filter((l) => !l.own && l.kind !== 'intermittent')
    .map((l) => ({ id: l.id, name: l.name, amps: l.watts === null ? null : (l.watts * l.share) / busVolts(s), burst: l.kind === 'burst' }));

/** What each kit, or thing fitted before, adds for long, amperes at the bus, the most first. */
export function loadsByKit(loads: readonly BusLoad[], sheets: Sheets): { id: string; name: string; amps: number }[] {
  const by = new Map<string, { id: string; name: string; amps: number }>();
  for (const l of loads) {
    if (l.burst || !l.amps) continue;
    const kit = sheets.kits.find((k) => k.id === l.id.split('/')[0]);
    const id = kit?.id ?? l.id;
    by.set(id, { id, name: kit?.name ?? l.name, amps: (by.get(id)?.amps ?? 0) + l.amps });
  }
  return [...by.values()].sort((a, b) => b.amps - a.amps);
}

/** Amperes of everything added that is on for long, all together; null while one is not known. */
export function addedAmps(s: PowerSystem): number | null {
  const steady = busLoads(s).filter((l) => !l.burst);
  return steady.some((l) => l.amps === null) ? null : steady.reduce((a, l) => a + l.amps!, 0);
}

const DRAW = 'a draw is not known';
const short = (used: number | null, limit: number) =>
  used === null ? DRAW : used > limit ? `short by ${round(used - limit, 2)} A` : `${round(limit - used, 2)} A to spare`;

/** The source with everything on, at idle and at working speed: the rule of thumb beside the simulated day. */
export function steadyChecks(s: PowerSystem, sheets: Sheets, settings: Settings): PowerCheck[] {
  if (!s.source) return [];
  const { source } = s;
  const v = source.regulatedV;
  const addedA = addedAmps(s);
  const added = busLoads(s).filter((l) => !l.burst);
  const own = s.loads.filter((l) => l.own);
  const from = s.sourceMeasured ? 'measured at the bench' : `${sheets.model.name} sheet`;
  const at = (id: 'idle' | 'working', rpm: number, watts: (l: EnergyLoad) => number): PowerCheck => {
    const makes = sourceAmps(source, rpm);
    const left = makes - own.reduce((x, l) => x + watts(l) / v, 0);
    const where = id === 'idle' ? 'at idle' : 'at working speed';
    return {
      id,
      title: id === 'idle' ? 'At idle, everything on' : 'At working speed, everything on',
      verdict: judgeUse(addedA, left, settings.tightShare),
      says: `${short(addedA, left)} ${where}`,
      margin: { used: addedA, limit: left, unit: 'A' },
      atLeast: false,
      sum: sum(
        { label: `Source at ${rpm} rpm`, value: makes, unit: 'A', source: from },
        ...own
          .filter((l) => watts(l) > 0)
          .map((l) => ({ label: `− ${l.name}`, value: watts(l) / v, unit: 'A', source: `${sheets.model.name} sheet` })),
        { label: 'Left for what is added', value: left, unit: 'A', kind: 'limit' as const },
        ...added.map((l) => ({ label: l.name, value: l.amps ?? '?', unit: 'A' })),
        { label: 'Added, continuous', value: addedA ?? 'not known', unit: 'A', kind: 'result' as const },
        {
          label: `Rule of thumb: stay under ${Math.round(settings.tightShare * 100)} % of what is left`,
          value: left * settings.tightShare,
          unit: 'A',
          source: 'shop setting; common practice, no source',
          kind: 'note' as const,
        },
      ),
    };
  };
  return [at('idle', source.idleRpm, (l) => l.own!.idleW), at('working', source.workingRpm, (l) => l.own!.workingW)];
}

function chargeLine(order: Order, sheets: Sheets, soc: number): SumLineInput {
  return restCharge(sheets, order.restVolts).soc === null
    ? { label: 'Charge taken, not measured', value: soc * 100, unit: '%', source: 'assumed' }
    : {
        label: `Charge from ${order.restVolts} V at rest`,
        value: soc * 100,
        unit: '%',
        source: ocvSourceOf(sheets.model.electrical.battery),
      };
}

/** Hours of use with the engine off: Peukert's law to the reserve, and the simulated hours until a start fails. */
export function engineOffCheck(s: PowerSystem, order: Order, sheets: Sheets, settings: Settings): PowerCheck | null {
  const using = s.loads.filter((l) => !l.own && l.engineOff && l.kind === 'continuous');
  if (!using.length || !s.source) return null;
  const house = s.cells.length > 1 && using.some((l) => l.bus === 1);
  const bank = sheets.model.electrical.battery;
  const volts = bank.count * bank.voltsEach;
  const amps = using.some((l) => l.watts === null) ? null : using.reduce((a, l) => a + (l.watts! * l.share) / volts, 0);
  const cell = s.cells[house ? 1 : 0]!;
  const ratedHours = house ? 20 : bank.ratedHours;
  const full = amps
    ? peukertHours(cell.ratedA * ratedHours, ratedHours, cell.peukert, amps) * (cell.capacityAh / (cell.ratedA * ratedHours))
    : null;
  const hours = full === null ? null : full * Math.max(0, s.startSoc - settings.reserveSoc);
  const stands =
    amps === null
      ? null
      : standing(
          s,
          using.map((l) => l.id),
          20,
          settings.reserveSoc,
        );
  const wanted = settings.engineOffHours;
  return {
    id: 'engine-off',
    title: 'Engine off',
    verdict: hours === null ? 'unknown' : hours >= wanted / settings.tightShare ? 'holds' : hours >= wanted ? 'tight' : 'fails',
    says:
      hours === null
        ? DRAW
        : `${round(hours, 2)} h to the reserve with the engine off${stands?.noStartHours ? `, ${round(stands.noStartHours, 2)} h until it does not start` : ''}`,
    margin: { used: hours, limit: wanted, unit: 'h' },
    atLeast: true,
    sum: sum(
      ...using.map((l) => ({ label: l.name, value: l.watts === null ? '?' : (l.watts * l.share) / volts, unit: 'A' })),
      { label: 'Together', value: amps ?? 'not known', unit: 'A' },
      {
        label: `${s.names[house ? 1 : 0]}, ${round(cell.capacityAh)} Ah at ${ratedHours} h, exponent ${cell.peukert}`,
        value: full ?? '?',
        unit: 'h',
        source: 'Peukert 1897',
      },
      chargeLine(order, sheets, s.startSoc),
      { label: 'Reserve kept for the start', value: settings.reserveSoc * 100, unit: '%', source: 'shop setting' },
      { label: 'Hours to the reserve', value: hours ?? '?', unit: 'h', kind: 'result' },
      ...(stands
        ? [
            { label: 'Simulated: to the reserve', value: stands.reserveHours ?? 'beyond 200', unit: 'h', kind: 'note' as const },
            { label: 'Simulated: until a start fails', value: stands.noStartHours ?? 'beyond 200', unit: 'h', kind: 'note' as const },
          ]
        : []),
      { label: 'Wanted', value: wanted, unit: 'h', source: 'shop setting', kind: 'limit' },
    ),
  };
}

/** Whether what charges each battery charges it at volts that it stands: the unit's source, and a charger at the wall. */
export function chargingVoltsCheck(s: PowerSystem): PowerCheck | null {
  const by = [
    ...(s.source ? [{ name: 'the regulator', volts: s.source.regulatedV }] : []),
    ...(s.wall ? [{ name: 'the charger at the wall', volts: s.wall.volts }] : []),
  ];
  const pairs = s.cells.flatMap((c, i) =>
    by.map((b) => ({ ...b, battery: s.names[i]!, chemistry: c.chemistry, scale: c.scale, most: CHARGE_LIMIT_V[c.chemistry] * c.scale })),
  );
  if (!pairs.length) return null;
  const least = pairs.reduce((a, b) => (b.most - b.volts < a.most - a.volts ? b : a));
  const over = least.volts > least.most + 1e-9;
  return {
    id: 'charging-volts',
    title: 'Charging volts',
    verdict: over ? 'fails' : 'holds',
    says: over
      ? `${least.name} holds ${round(least.volts)} V, the ${least.battery.toLowerCase()} (${KIND_WORD[least.chemistry]}) stands ${round(least.most)} V: it would gas, dry out, or be cut off by its manager`
      : `${least.name} holds ${round(least.volts)} V, ${round(least.most)} V are stood`,
    margin: { used: least.volts, limit: least.most, unit: 'V' },
    atLeast: false,
    sum: sum(
      ...pairs.flatMap((p) => [
        { label: `${p.name.charAt(0).toUpperCase()}${p.name.slice(1)}`, value: p.volts, unit: 'V', kind: 'result' as const },
        {
          label: `${p.battery}, ${KIND_WORD[p.chemistry]}: at most`,
          value: p.most,
          unit: 'V',
          source: 'makers’ sheets, from memory',
          kind: 'limit' as const,
        },
      ]),
    ),
  };
}
const KIND_WORD = { flooded: 'flooded', agm: 'AGM', lfp: 'lithium iron phosphate' } as const;

/** Days it can stand parked before the reserve, and whether what is left then freezes in the coldest that the owner told of. */
export function parkedCheck(
  s: PowerSystem,
  order: Order,
  sheets: Sheets,
  wiring: Wiring,
  settings: Settings,
  coldestC: number | null,
): PowerCheck {
  const draws = standbyOf(order, sheets, wiring);
  const drawMa = draws.reduce((a, d) => a + d.ma, 0);
  const { capacityAh } = s.cells[0]!;
  const spare = Math.max(0, s.startSoc - settings.reserveSoc) * capacityAh;
  const days = parkedDays(capacityAh, s.startSoc, settings.reserveSoc, drawMa, settings.selfDischargePctPerMonth);
  const { chemistry } = s.cells[0]!;
  const rate = days > 0 && spare > 0 ? spare / days : (drawMa * 24) / 1000;
  const left = Math.max(0, s.startSoc - (rate * settings.parkedDays) / capacityAh);
  const freezes = freezesAt(chemistry, left);
  const frozen = freezes !== null && coldestC !== null && coldestC <= freezes;
  return {
    id: 'parked',
    title: 'Parked',
    verdict: frozen ? 'fails' : days >= settings.parkedDays * 2 ? 'holds' : days >= settings.parkedDays ? 'tight' : 'fails',
    says: frozen
      ? `${Math.floor(days)} days parked to the reserve; at ${round(coldestC)} °C the battery freezes after ${settings.parkedDays} days: ${round(left * 100)} % are left, which freeze at ${round(freezes)} °C`
      : `${Math.floor(days)} days parked to the reserve`,
    margin: { used: Math.min(days, 9999), limit: settings.parkedDays, unit: 'd' },
    atLeast: true,
    sum: sum(
      ...draws.map((d) => ({
        label: d.name,
        value: d.ma,
        unit: 'mA',
        ...(d.name.startsWith('The unit') && { source: `${sheets.model.name} sheet` }),
      })),
      { label: 'Parked draw', value: drawMa, unit: 'mA' },
      chargeLine(order, sheets, s.startSoc),
      { label: `Down to the reserve of ${settings.reserveSoc * 100} %`, value: spare, unit: 'Ah', source: 'shop setting' },
      { label: 'Self-discharge in 30 days', value: settings.selfDischargePctPerMonth, unit: '%', source: 'shop setting' },
      { label: 'Days to the reserve', value: Math.min(days, 9999), unit: 'd', kind: 'result' },
      { label: 'Wanted', value: settings.parkedDays, unit: 'd', source: 'shop setting', kind: 'limit' },
      ...(freezes === null
        ? []
        : [
            {
              label: `With the ${round(left * 100)} % left then it freezes at`,
              value: freezes,
              unit: '°C',
              source: 'battery handbooks, from memory',
              kind: 'note' as const,
            },
            ...(coldestC === null ? [] : [{ label: 'Coldest that the owner told of', value: coldestC, unit: '°C', kind: 'note' as const }]),
          ]),
    ),
  };
}

/** How far above its rating a supply may go for the moment that loads are switched on. Common practice, no source. */
export const SUPPLY_PEAK = 1.5;

/** Each supply that a kit makes (a reducer), against its rating and its inrush; and loads that nothing on the unit can supply. */
export function supplyChecks(sheets: Sheets, wiring: Wiring, settings: Settings): PowerCheck[] {
  const out: PowerCheck[] = [];
  const { systemV } = sheets.model.electrical;
  for (const maker of wiring.circuits.filter((c) => c.circuit.makes)) {
    const makes = maker.circuit.makes!;
    const on = wiring.circuits.filter((c) => c.feed && madeIds(makes).includes(c.feed.id) && c !== maker);
    const known = on.every((c) => c.load.continuousA !== null);
    const used = known ? on.reduce((s, c) => s + c.load.continuousA!, 0) : null;
    const inrush = used === null ? null : used + largestInrush(on);
    const starts = inrush === null || inrush <= makes.ratedA * SUPPLY_PEAK;
    const verdict = judgeUse(used, makes.ratedA, settings.tightShare);
    out.push({
      id: `supply-${makes.id}`,
      title: makes.name,
      verdict: verdict === 'holds' && !starts ? 'tight' : verdict,
      says:
        used === null
          ? DRAW
          : used > makes.ratedA
            ? `${makes.name} short by ${round(used - makes.ratedA, 2)} A`
            : `${makes.name} carries ${round(used, 2)} of ${makes.ratedA} A${starts ? '' : `, but ${round(inrush!, 2)} A as the last is switched on`}`,
      margin: { used, limit: makes.ratedA, unit: 'A' },
      atLeast: false,
      sum: sum(
        ...on.map((c) => ({ label: `${c.circuit.name} (${c.kit.name})`, value: c.load.continuousA ?? '?', unit: 'A' })),
        { label: 'All on together', value: used ?? 'not known', unit: 'A', kind: 'result' },
        { label: 'Rated', value: makes.ratedA, unit: 'A', source: `${maker.kit.name} sheet`, kind: 'limit' },
        {
          label: 'As the largest is switched on last',
          value: inrush ?? '?',
          unit: 'A',
          source: `allowed for a moment: ${round(makes.ratedA * SUPPLY_PEAK)} A; common practice, no source`,
          kind: 'note',
        },
        ...(used === null || systemV < 20
          ? []
          : [
              {
                label: `Drawn from the ${systemV} V pack`,
                value: (used * makes.volts) / makes.efficiency / systemV,
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
      says: `nothing here makes ${v} V: needs a ${systemV}-to-${v} V reducer of at least ${Math.ceil(a / settings.tightShare)} A`,
      margin: { used: a, limit: 0, unit: 'A' },
      atLeast: false,
      sum: sum(
        ...stranded.map((c) => ({ label: `${c.circuit.name} (${c.kit.name})`, value: c.load.continuousA ?? '?', unit: 'A' })),
        { label: 'Together', value: a, unit: 'A', kind: 'result' },
        { label: `Rating that carries it at ${settings.tightShare * 100} %`, value: a / settings.tightShare, unit: 'A', kind: 'note' },
      ),
    });
  }
  return out;
}

/** What the largest inrush adds to the amperes of all on together. */
function largestInrush(on: Wiring['circuits']): number {
  const extra = on.flatMap((c) =>
    c.circuit.devices.map((id) => {
      const { load } = c.kit.devices.find((d) => d.id === id)!;
      return load?.inrush && load.watts !== null ? (load.watts / load.volts) * (load.inrush.times - 1) : 0;
    }),
  );
  return Math.max(0, ...extra);
}
