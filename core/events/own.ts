import { positive, Slug, words } from '#model/common';
import { Kit } from '#model/kit';
import { OWN_KIT } from '#model/own';
import { Place } from '#model/unit-model';
import { isRun } from '../circuit/route';
import { doesLike, emptyOwn, namedOwn } from '../order/own';
import { SHELF } from '../shelf/parts';
import { boxChanges } from '../sheets/edit-kit';
import { freeId } from '../slug';
import { ALL, BENCH, event, Refused } from './definition';
import { refuseBegun } from './fit';

/** Ways that one order may have beyond its sheet. */
const MOST_WAYS = 20;
const MOST_SPOTS = 12;
const SPOT = Place.pick({ x: true, y: true, z: true });
const MOST_SAID = 380;

const names = (k: Kit): string[] => [...k.devices, ...k.circuits, ...k.harnesses, ...k.steps].map((x) => x.id);

/** What one order has that no sheet says: its own parts and steps, devices left out, ways for wires. */
export const ownEvents = [
  event({
    type: 'own.changed',
    may: BENCH,
    /** null: it has none any more */
    records: { own: Kit.nullable(), label: words(400) },
    asks: { own: Kit.nullable() },
    decide: ({ own }, order, c) => {
      const before = order.own ?? emptyOwn();
      if (own && own.id !== OWN_KIT) throw new Refused(`Parts of one order are called “${OWN_KIT}”.`, 'input', 'own.id');
      if (own?.variants.length) throw new Refused('Parts of one order leave nothing open.', 'input', 'own.variants');
      const places = new Set(c.sheets.model.places.map((p) => p.id));
      const lost = own && [...own.devices, ...own.steps].find((x) => !places.has(x.place));
      if (lost) throw new Refused(`There is no place “${lost.place}” on this unit.`, 'input', 'own');
      const left = new Set(own ? names(own) : []);
      if (names(before).some((n) => !left.has(n))) refuseBegun(OWN_KIT, order, c, 'before taking something of it off');
      // what it is called follows from what it is
      const said = own ? boxChanges({ ...before, name: own.name }, own) : ['all of it taken off'];
      if (!said.length) throw new Refused('Nothing of it is otherwise.');
      return { type: 'own.changed', own: own && namedOwn(own), label: said.join('; ').slice(0, MOST_SAID) };
    },
    apply: ({ own: _, ...order }, e) => ({ ...order, ...(e.own && { own: e.own }) }),
    touches: () => ['own'],
    says: (e) => `Of this order alone: ${e.label}`,
  }),
  event({
    type: 'device.leftOut',
    may: BENCH,
    records: { kit: Slug, device: Slug, name: words(200), reason: words(200) },
    asks: { kit: Slug, device: Slug, reason: words(200) },
    decide: (command, order, c) => {
      const device = c.sheets.kits.find((k) => k.id === command.kit)?.devices.find((d) => d.id === command.device);
      if (!device || !order.kits.some((k) => k.kit.id === command.kit))
        throw new Refused('That is no device of this order.', 'input', 'device');
      refuseBegun(command.kit, order, c, 'before leaving something of it out');
      return { ...command, name: device.name };
    },
    apply: (order, { kit, device, name, reason }, { at, by }) => ({
      ...order,
      leftOut: [...(order.leftOut ?? []).filter((l) => l.kit !== kit || l.device !== device), { kit, device, name, reason, at, by }],
    }),
    touches: (c) => [`device.${c.kit}/${c.device}`],
    says: (e) => `Left out: ${e.name}, because ${e.reason}`,
  }),
  event({
    type: 'device.putBack',
    may: BENCH,
    records: { kit: Slug, device: Slug, name: words(200) },
    asks: { kit: Slug, device: Slug },
    decide: (command, order, c) => {
      const out = order.leftOut?.find((l) => l.kit === command.kit && l.device === command.device);
      if (!out) throw new Refused('That is not left out.', 'input', 'device');
      refuseBegun(command.kit, order, c, 'before putting something of it back');
      return { ...command, name: out.name };
    },
    apply: (order, { kit, device }) => ({ ...order, leftOut: (order.leftOut ?? []).filter((l) => l.kit !== kit || l.device !== device) }),
    touches: (c) => [`device.${c.kit}/${c.device}`],
    says: (e) => `Not left out after all: ${e.name}`,
  }),
  event({
    type: 'switch.swapped',
    may: BENCH,
    records: { kit: Slug, device: Slug, was: words(200), name: words(80), part: Slug, reason: words(200) },
    asks: { kit: Slug, device: Slug, name: words(80), part: Slug, reason: words(200) },
    decide: (command, order, c) => {
      const device = c.sheets.kits.find((k) => k.id === command.kit)?.devices.find((d) => d.id === command.device);
      if (!device?.controls.length || !order.kits.some((k) => k.kit.id === command.kit))
        throw new Refused('That is no switch of a kit of this order.', 'input', 'device');
      const part = SHELF.find((p) => p.id === command.part);
      if (!part || !doesLike(part, device))
        throw new Refused('That switch has other positions: what the old one works would not work by it.', 'input', 'part');
      // swapped once more, the box's own one is still what it stands for
      const was = order.swapped?.find((s) => s.kit === command.kit && s.device === command.device)?.was ?? device.name;
      if (was.toLowerCase() === command.name.toLowerCase())
        throw new Refused('Call it by what tells it from the old one.', 'input', 'name');
      refuseBegun(command.kit, order, c, 'before swapping a switch of it');
      return { ...command, was };
    },
    apply: (order, { type: _, ...e }, { at, by }) => ({
      ...order,
      swapped: [...(order.swapped ?? []).filter((s) => s.kit !== e.kit || s.device !== e.device), { ...e, at, by }],
    }),
    touches: (c) => [`device.${c.kit}/${c.device}`],
    says: (e) => `${e.name} fitted in the place of ${e.was}, because ${e.reason}`,
  }),
  event({
    type: 'switch.restored',
    may: BENCH,
    records: { kit: Slug, device: Slug, was: words(200) },
    asks: { kit: Slug, device: Slug },
    decide: (command, order, c) => {
      const s = order.swapped?.find((x) => x.kit === command.kit && x.device === command.device);
      if (!s) throw new Refused('That switch is the one of its box.', 'input', 'device');
      refuseBegun(command.kit, order, c, 'before putting its own switch back');
      return { ...command, was: s.was };
    },
    apply: (order, { kit, device }) => ({ ...order, swapped: (order.swapped ?? []).filter((s) => s.kit !== kit || s.device !== device) }),
    touches: (c) => [`device.${c.kit}/${c.device}`],
    says: (e) => `${e.was} as its box has it, after all`,
  }),
  event({
    type: 'way.added',
    may: ALL,
    records: { from: Slug, to: Slug, lengthMm: positive.max(50_000), label: words(200) },
    asks: { from: Slug, to: Slug, lengthMm: positive.max(50_000) },
    decide: (command, order, c) => {
      const place = (id: string, path: string) => {
        const p = c.sheets.model.places.find((x) => x.id === id);
        if (!p) throw new Refused('That place is not on this unit.', 'input', path);
        return p;
      };
      const [a, b] = [place(command.from, 'from'), place(command.to, 'to')];
      if (a === b) throw new Refused('A way leads from one place to another.', 'input', 'to');
      if (c.sheets.model.runs.some((r) => isRun(r, a.id, b.id)))
        throw new Refused('There is a way between these already: measure it at Wire.', 'input', 'to');
      if ((order.ways?.length ?? 0) >= MOST_WAYS) throw new Refused(`${MOST_WAYS} ways are on this order: take one off first.`);
      return { ...command, label: `${a.name} to ${b.name}` };
    },
    apply: (order, { from, to, lengthMm }) => ({ ...order, ways: [...(order.ways ?? []), { from, to, lengthMm, hazards: [] }] }),
    touches: (c) => [`way.${c.from}..${c.to}`],
    says: (e) => `A way for wires: ${e.label}, ${Math.round(e.lengthMm)} mm`,
  }),
  event({
    type: 'way.removed',
    may: ALL,
    records: { from: Slug, to: Slug, label: words(200) },
    asks: { from: Slug, to: Slug },
    decide: (command, order, c) => {
      if (!order.ways?.some((w) => w.from === command.from && w.to === command.to))
        throw new Refused('That way is of the sheet, not of this order.', 'input', 'from');
      const name = (id: string) => c.sheets.model.places.find((p) => p.id === id)?.name ?? id;
      return { ...command, label: `${name(command.from)} to ${name(command.to)}` };
    },
    apply: (order, { from, to }) => ({ ...order, ways: (order.ways ?? []).filter((w) => w.from !== from || w.to !== to) }),
    touches: (c) => [`way.${c.from}..${c.to}`],
    says: (e) => `No way for wires after all: ${e.label}`,
  }),
  event({
    type: 'place.added',
    may: ALL,
    records: { id: Slug, name: words(80), at: SPOT, from: Slug, lengthMm: positive.max(50_000) },
    asks: { name: words(80), at: SPOT, from: Slug, lengthMm: positive.max(50_000) },
    decide: (command, order, c) => {
      const { places } = c.sheets.model;
      if (!places.some((p) => p.id === command.from)) throw new Refused('That place is not on this unit.', 'input', 'from');
      if (places.some((p) => p.name.toLowerCase() === command.name.toLowerCase()))
        throw new Refused(`“${command.name}” is there already.`, 'input', 'name');
      if ((order.spots?.length ?? 0) >= MOST_SPOTS) throw new Refused(`${MOST_SPOTS} places are on this order: take one off first.`);
      return {
        ...command,
        id: freeId(
          command.name,
          places.map((p) => p.id),
        ),
      };
    },
    apply: (order, { id, name, at, from, lengthMm }) => ({
      ...order,
      spots: [...(order.spots ?? []), { id, name, wet: false, ...at }],
      ways: [...(order.ways ?? []), { from, to: id, lengthMm, hazards: [] }],
    }),
    touches: (c) => [`place.${c.name}`],
    says: (e) => `A place of this order: ${e.name}, ${Math.round(e.lengthMm)} mm from ${e.from}`,
  }),
  event({
    type: 'place.removed',
    may: ALL,
    records: { id: Slug, name: words(80) },
    asks: { id: Slug },
    decide: (command, order) => {
      const spot = order.spots?.find((p) => p.id === command.id);
      if (!spot) throw new Refused('That place is of the sheet, not of this order.', 'input', 'id');
      const there = [...(order.own?.devices ?? []), ...(order.own?.steps ?? [])].find((x) => x.place === command.id);
      if (there) throw new Refused(`${'title' in there ? there.title : there.name} is there: put it elsewhere first.`);
      const job = order.jobs?.find((j) => j.place === command.id);
      if (job) throw new Refused(`${job.title} is done there: take it off first.`);
      return { ...command, name: spot.name };
    },
    apply: (order, { id }) => ({
      ...order,
      spots: (order.spots ?? []).filter((p) => p.id !== id),
      ways: (order.ways ?? []).filter((w) => w.from !== id && w.to !== id),
    }),
    touches: (c) => [`place.${c.id}`],
    says: (e) => `No such place after all: ${e.name}`,
  }),
] as const;
