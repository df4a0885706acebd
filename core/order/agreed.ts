import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { PowerChange } from '#model/power-change';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { valued } from '../known/values';
import { measuredSource } from '../energy/measured';
import { boxSheets } from '../wiring/chosen';
import { lampSheets } from './placed-lamps';
import { ownSheets } from './own';

type Electrical = UnitModel['electrical'];

function changeUnit(e: Electrical, c: PowerChange): Electrical {
  switch (c.kind) {
    case 'led':
      return {
        ...e,
        ownLoads: e.ownLoads.map((l) =>
          c.load === `own/${l.id}` ? { ...l, idleW: c.watts, workingW: c.watts, law: 'constant-power' as const } : l,
        ),
      };
    case 'source':
      return e.source.kind === 'none' ? e : { ...e, source: { ...e.source, curve: c.curve } };
    case 'idle':
      return e.source.kind === 'none' ? e : { ...e, source: { ...e.source, idleRpm: Math.min(c.rpm, e.source.workingRpm) } };
    default:
      return e;
  }
}

function changeKit(kit: Kit, c: PowerChange): Kit {
  if (c.kind === 'reducer')
    return {
      ...kit,
      circuits: kit.circuits.map((x) => (x.makes?.id === c.makes ? { ...x, makes: { ...x.makes, ratedA: c.ratedA } } : x)),
    };
  if (c.kind !== 'setting' && c.kind !== 'led') return kit;
  return {
    ...kit,
    devices: kit.devices.map((d) => {
      if (c.load !== `${kit.id}/${d.id}` || !d.load) return d;
      if (c.kind === 'led') return { ...d, load: { ...d.load, watts: c.watts, law: 'constant-power' as const } };
      return { ...d, load: { ...d.load, watts: d.load.watts === null ? null : d.load.watts * c.share } };
    }),
  };
}

/** Sheets with what was agreed for an order, and its lamps where they are to be. The sheets themselves are not changed. */
export function changedSheets(order: Order, given: Sheets): Sheets {
  // putting the same values in again changes nothing
  const whole = ownSheets(order, given);
  const model = valued(whole.model, order.unit.build, order.values);
  const known = model === whole.model ? whole : { ...whole, model };
  const sheets = lampSheets(order, boxSheets(order, known));
  if (!order.changes.length) return sheets;
  let changed = sheets.model;
  let { kits } = sheets;
  for (const { change } of order.changes) {
    const electrical = changeUnit(changed.electrical, change);
    if (electrical !== changed.electrical) changed = { ...changed, electrical };
    kits = kits.map((k) => changeKit(k, change));
  }
  return { ...sheets, model: changed, kits };
}

/** Sheets with what was agreed, and with the source as the bench measured it. */
export function agreedSheets(order: Order, given: Sheets): Sheets {
  const sheets = changedSheets(order, given);
  const measured = measuredSource(order, sheets.model);
  if (!measured) return sheets;
  return { ...sheets, model: { ...sheets.model, electrical: { ...sheets.model.electrical, source: measured.source } } };
}
