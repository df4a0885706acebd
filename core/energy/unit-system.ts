import { madeIds, type Device, type Kit, type LoadUse } from '#model/kit';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { PlannedCircuit, Wiring } from '../wiring/planned';
import { toldWatts, wattsKey } from '../circuit/load';
import { restedCharge, type RestedCharge } from './battery';
import { ImpossibleInput } from '../errors';
import { round } from '../sum';
import { cellOf } from './cell';
import { starterGuess, type EnergyLoad, type PowerSystem } from './system';

/** The charge assumed for a battery that was not measured. Common practice, no source. */
export const ASSUMED_SOC = 0.9;
/** Efficiency taken for a supply that is still missing. Common practice, no source. */
const MISSING_SUPPLY = 0.9;
/** Years taken for a battery whose age nobody told. */
export const AGE_KEY = 'battery:age-years';

export interface MissingDraw {
  key: string;
  label: string;
}

/** Charge of the unit's bank from its volts at rest: a pack is judged as a 12 V battery by proportion. Null while not measured or not plausible. */
export function restCharge(
  sheets: Sheets,
  restVolts: number | null,
): { soc: number | null; band: [number, number] | null; problem: string | null } {
  const none = { soc: null, band: null };
  if (restVolts === null) return { ...none, problem: null };
  const { battery } = sheets.model.electrical;
  const volts = battery.count * battery.voltsEach;
  try {
    const at: RestedCharge = restedCharge(battery, (restVolts / volts) * 12);
    return { soc: at.soc, band: [at.low, at.high], problem: null };
  } catch (e) {
    if (!(e instanceof ImpossibleInput)) throw e;
    const as = volts === 12 ? '' : ` (${round(restVolts, 2)} V of ${volts} V, as a 12 V battery)`;
    return { ...none, problem: `${e.message}${as}` };
  }
}

const USE_BY_EQUIPMENT: Partial<Record<NonNullable<Device['equipment']>['function'], LoadUse>> = {
  headlamp: 'lamp',
  tail: 'lamp',
  plate: 'lamp',
  'sidelight-port': 'lamp',
  'sidelight-starboard': 'lamp',
  masthead: 'lamp',
  stern: 'lamp',
  'all-round': 'lamp',
  'auxiliary-lamp': 'lamp',
  'work-lamp': 'lamp',
  'docking-lamp': 'lamp',
  dome: 'lamp',
  horn: 'signal',
  'turn-front': 'signal',
  'turn-rear': 'signal',
  stop: 'signal',
};
export const useOf = (d: Device): LoadUse | null =>
  d.load?.use ?? (d.winch ? 'winch' : d.audio ? 'audio' : d.equipment ? (USE_BY_EQUIPMENT[d.equipment.function] ?? null) : null);

/** Whether what hangs on a circuit keeps its power when the key goes off. */
export const staysOn = (c: PlannedCircuit): boolean =>
  c.feed?.switching !== 'keyed' && (c.mode === 'direct' || c.circuit.makes !== undefined);

/** What a circuit’s devices draw while they stand by, milliamperes. */
export const standbyMa = (c: PlannedCircuit): number =>
  c.circuit.devices.reduce((ma, id) => ma + c.kit.devices.find((d) => d.id === id)!.standbyMa, 0);

export interface StandbyDraw {
  name: string;
  ma: number;
}

/** What is drawn with the key off: the unit itself, what was fitted before, and kits' devices on feeds that stay on. */
export function standbyOf(order: Order, sheets: Sheets, wiring: Wiring): StandbyDraw[] {
  const kits = wiring.circuits.filter(staysOn).flatMap((c) =>
    c.circuit.devices.map((id) => {
      const d = c.kit.devices.find((x) => x.id === id)!;
      return { name: `${d.name} on ${c.feed?.name ?? 'a constant feed'}`, ma: d.standbyMa };
    }),
  );
  return [
    { name: 'The unit itself, key off', ma: sheets.model.electrical.parkedMa },
    ...[...order.fitted.map((f) => ({ name: f.name, ma: f.standbyMa })), ...kits].filter((x) => x.ma > 0),
  ];
}

function supplyOf(c: PlannedCircuit | undefined, wiring: Wiring, sheets: Sheets): EnergyLoad['via'] {
  if (sheets.model.electrical.systemV < 20 || !c) return null;
  const maker = wiring.circuits.find((m) => m.circuit.makes && c.feed && madeIds(m.circuit.makes).includes(c.feed.id));
  if (maker) return { name: maker.circuit.makes!.name, efficiency: maker.circuit.makes!.efficiency };
  return c.circuit.volts < sheets.model.electrical.systemV * 0.8 ? { name: 'a reducer still to choose', efficiency: MISSING_SUPPLY } : null;
}

/**
 * Everything of an order that a day is simulated with.
 * @returns the system, and the draws that nobody knows
 */
export function unitSystem(
  order: Order,
  sheets: Sheets,
  wiring: Wiring,
  settings: Settings,
): { system: PowerSystem; missing: MissingDraw[] } {
  const { electrical, kind } = sheets.model;
  const { source, battery } = electrical;
  const busV = source.kind === 'none' ? electrical.systemV : source.regulatedV;
  const missing: MissingDraw[] = [];
  const loads: EnergyLoad[] = electrical.ownLoads.map((l) => ({
    id: `own/${l.id}`,
    name: l.name,
    own: { idleW: l.idleW, workingW: l.workingW, keyW: l.keyW },
    watts: null,
    band: null,
    share: 1,
    use: null,
    law: l.law,
    volts: busV,
    kind: 'continuous',
    engineOff: l.keyW > 0,
    keyed: true,
    via: null,
    bus: 0,
    shedBelowRpm: null,
  }));
  for (const f of order.fitted) {
    const key = `watts:fitted/${f.id}`;
    const told = f.watts === null ? toldWatts(order, key) : { watts: f.watts, band: null };
    if (told.watts === null) missing.push({ key, label: `watts of the ${f.name} already fitted` });
    loads.push({
      id: `fitted/${f.id}`,
      name: `${f.name} (already fitted)`,
      own: null,
      ...told,
      share: 1,
      use: null,
      law: 'constant-power',
      volts: 12,
      kind: 'continuous',
      engineOff: false,
      keyed: true,
      via: electrical.systemV > 20 ? { name: 'its supply', efficiency: MISSING_SUPPLY } : null,
      bus: 0,
      shedBelowRpm: null,
    });
  }
  const circuitOf = (kit: Kit, d: Device) => wiring.circuits.find((c) => c.kit.id === kit.id && c.circuit.devices.includes(d.id));
  const second = order.changes.find((c) => c.change.kind === 'second-battery')?.change;
  let winch: PowerSystem['winch'] = null;
  for (const kit of sheets.kits)
    for (const d of kit.devices) {
      if (!d.load) continue;
      const id = `${kit.id}/${d.id}`;
      const key = wattsKey(kit.id, d.id);
      const told = d.load.watts === null ? toldWatts(order, key) : { watts: d.load.watts, band: null };
      if (told.watts === null) missing.push({ key, label: `watts of the ${d.name} (${kit.name})` });
      const c = circuitOf(kit, d);
      const use = useOf(d);
      const shed = order.changes.find((x) => x.change.kind === 'shed' && x.change.load === id)?.change;
      if (use === 'winch' && d.load.kind === 'burst')
        winch = { load: id, name: d.name, spec: d.winch ?? null, amps: (told.watts ?? 0) / d.load.volts };
      loads.push({
        id,
        name: d.name,
        own: null,
        ...told,
        share: d.load.share,
        use,
        law: d.load.law,
        volts: d.load.volts,
        kind: d.load.kind,
        engineOff: d.load.engineOff,
        keyed: c ? !staysOn(c) : true,
        via: supplyOf(c, wiring, sheets),
        bus: (second && d.load.engineOff) || (c?.feed && electrical.house?.feeds.includes(c.feed.id)) ? 1 : 0,
        shedBelowRpm: shed?.kind === 'shed' ? shed.belowRpm : null,
      });
    }
  const age = order.facts[AGE_KEY];
  const years = typeof age === 'number' ? age : 0;
  const cells = [cellOf(battery, settings.selfDischargePctPerMonth, years)];
  const names = [battery.name];
  if (second?.kind === 'second-battery') {
    cells.push(
      cellOf(
        {
          chemistry: second.chemistry,
          count: battery.count,
          voltsEach: battery.voltsEach,
          capacityAh: second.capacityAh,
          ratedHours: 20,
          peukert: 1.1,
        },
        settings.selfDischargePctPerMonth,
      ),
    );
    names.push('second battery');
  } else if (electrical.house) {
    cells.push(cellOf(electrical.house.battery, settings.selfDischargePctPerMonth));
    names.push(electrical.house.battery.name);
  }
  const { soc } = restCharge(sheets, order.restVolts);
  return {
    missing,
    system: {
      kind,
      systemV: electrical.systemV,
      source: source.kind === 'none' ? null : source,
      sourceMeasured: false,
      cells,
      names,
      join: second?.kind === 'second-battery' ? second.join : (electrical.house?.join ?? null),
      loads,
      parkedA: standbyOf(order, sheets, wiring).reduce((s, x) => s + x.ma, 0) / 1000,
      starter:
        source.kind === 'none'
          ? null
          : electrical.crank
            ? { ...electrical.crank, guessed: false }
            : { amps: starterGuess(battery.capacityAh), seconds: 2, leastVolts: 9.6, guessed: true },
      wall: electrical.wall ?? null,
      drive: electrical.drive ?? null,
      winch,
      startSoc: soc ?? ASSUMED_SOC,
      socMeasured: soc !== null,
    },
  };
}
