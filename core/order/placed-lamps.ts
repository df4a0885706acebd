import { pairsOf } from '#model/box';
import type { Kit } from '#model/kit';
import type { AddedLamp, Point } from '#model/lamp';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';

const placeId = (lamp: string) => `at-${lamp.replace('/', '-')}`.slice(0, 60);

/** A place of its own for a lamp put elsewhere, hidden by what hid the old one, with the run that leads there led on. */
function withPlace(model: UnitModel, lamp: string, name: string, at: Point, from: string | undefined): UnitModel {
  const old = model.places.find((p) => p.id === from);
  const id = placeId(lamp);
  const spot = { id, name, ...at, wet: old?.wet ?? false };
  const panels = old ? model.panels.map((p) => (p.hides.includes(old.id) ? { ...p, hides: [...p.hides, id] } : p)) : model.panels;
  const runs =
    old && model.runs.some((r) => r.from === old.id || r.to === old.id)
      ? [...model.runs, { from: old.id, to: id, hazards: [] }]
      : model.runs;
  return { ...model, places: [...model.places, spot], panels, runs };
}

/** The same device once more, on the same circuits and wired to the same points. */
function withTwin(kit: Kit, added: AddedLamp, place: string): Kit {
  const of = added.like!.split('/')[1]!;
  const like = kit.devices.find((d) => d.id === of);
  if (!like) return kit;
  const end = (e: string) => (e.startsWith(`${of}.`) ? `${added.id}.${e.slice(of.length + 1)}` : e);
  const leads = kit.leads
    .filter((l) => l.from.startsWith(`${of}.`) || l.to.startsWith(`${of}.`))
    .map((l) => ({ ...l, from: end(l.from), to: end(l.to) }));
  // what a ready harness leads to its like is led on from there
  const fed = new Set(kit.joins.flatMap((j) => pairsOf(j).flatMap(([, to]) => (to.startsWith(`${of}.`) ? [to] : []))));
  for (const at of fed) {
    const terminal = at.slice(of.length + 1);
    const colour = like.terminals.find((t) => t.id === terminal)?.colour ?? 'BK';
    const [from, to] = terminal === 'minus' ? [`${added.id}.minus`, at] : [at, `${added.id}.${terminal}`];
    leads.push({ from, to, colour: terminal === 'minus' ? 'BK' : colour, signal: false, bothWays: false });
  }
  return {
    ...kit,
    devices: [...kit.devices, { ...like, id: added.id, name: added.name, place }],
    circuits: kit.circuits.map((c) => (c.devices.includes(of) ? { ...c, devices: [...c.devices, added.id] } : c)),
    leads: [...kit.leads, ...leads],
  };
}

/** Sheets with an order's lamps where they are to be: those put elsewhere or measured, and those added. */
export function lampSheets(order: Pick<Order, 'lamps'>, sheets: Sheets): Sheets {
  const { placed, added } = order.lamps;
  if (!added.length && !Object.keys(placed).length) return sheets;
  let { model, kits } = sheets;
  for (const [lamp, at] of Object.entries(placed)) {
    const [of, id] = lamp.split('/') as [string, string];
    if (of === 'factory') {
      const e = model.equipment.find((x) => x.id === id);
      if (!e) continue;
      model = withPlace(model, lamp, `${e.name}, measured`, at, e.place);
      model = { ...model, equipment: model.equipment.map((x) => (x === e ? { ...x, place: placeId(lamp) } : x)) };
    }
    const device = kits.find((k) => k.id === of)?.devices.find((d) => d.id === id);
    if (!device) continue;
    model = withPlace(model, lamp, `${device.name}, placed`, at, device.place);
    kits = kits.map((k) =>
      k.id === of ? { ...k, devices: k.devices.map((d) => (d === device ? { ...d, place: placeId(lamp) } : d)) } : k,
    );
  }
  for (const a of added) {
    if (!a.like) continue;
    const [of, id] = a.like.split('/') as [string, string];
    const like = sheets.kits.find((k) => k.id === of)?.devices.find((d) => d.id === id);
    if (!like) continue;
    model = withPlace(model, `added/${a.id}`, a.name, a.at, like.place);
    kits = kits.map((k) => (k.id === of ? withTwin(k, a, placeId(`added/${a.id}`)) : k));
  }
  return { ...sheets, model, kits };
}
