import { z } from 'zod';
import { Slug, words } from '#model/common';
import { AddedLamp, LampId, LIT_FUNCTIONS, Point } from '#model/lamp';
import { outside } from '../lighting/lamp';
import { ALL, event, Refused, type Context } from './definition';

/** Lamps that an order may add beyond its kits. */
const MOST_ADDED = 20;

const side = (y: number) =>
  Math.round(y) === 0 ? 'on the centre line' : `${Math.abs(Math.round(y))} mm ${y > 0 ? 'left' : 'right'} of the centre line`;
const place = (p: { y: number; z: number }) => `${side(p.y)}, ${Math.round(p.z)} mm up`;

/**
 * A lamp stands where it can be on the unit.
 * @throws Refused
 */
function checkPoint(at: Point, c: Context): void {
  const out = outside(c.assessment.lamps.unit, at);
  if (out) throw new Refused(`That is ${out}: measure again.`, 'input', 'at');
}

export const lampEvents = [
  event({
    type: 'packs.chosen',
    may: ALL,
    records: { packs: z.array(Slug).max(20).nullable(), label: words(200) },
    decide: (command, _order, c) => {
      const lost = command.packs?.find((id) => !c.sheets.packs.some((p) => p.id === id));
      if (lost) throw new Refused(`There is no rule pack “${lost}” in the sheets.`, 'input', 'packs');
      return command;
    },
    apply: (order, { packs }) => ({ ...order, packs }),
    touches: () => ['packs'],
    says: (e) => (e.packs === null ? 'Rule packs as Kadro proposes' : `Rule packs: ${e.label}`),
  }),
  event({
    type: 'lamp.placed',
    may: ALL,
    records: { lamp: LampId, at: Point, label: words(120) },
    decide: (command, _order, c) => {
      if (!c.assessment.lamps.lamps.some((l) => l.id === command.lamp))
        throw new Refused('That lamp is not on this order.', 'input', 'lamp');
      checkPoint(command.at, c);
      return command;
    },
    apply: (order, { lamp, at }) => {
      // what was added keeps its own place
      const added = order.lamps.added.map((l) => (lamp === `added/${l.id}` ? { ...l, at } : l));
      const placed = lamp.startsWith('added/') ? order.lamps.placed : { ...order.lamps.placed, [lamp]: at };
      return { ...order, lamps: { placed, added } };
    },
    touches: (c) => [`lamp.${c.lamp}`],
    says: (e) => `${e.label}: ${place(e.at)}`,
  }),
  event({
    type: 'lamp.freed',
    may: ALL,
    records: { lamp: LampId, label: words(120) },
    decide: (command, order) => {
      if (!(command.lamp in order.lamps.placed)) throw new Refused('That lamp stands where its sheet says.', 'input', 'lamp');
      return command;
    },
    apply: (order, { lamp }) => {
      const { [lamp]: _, ...placed } = order.lamps.placed;
      return { ...order, lamps: { ...order.lamps, placed } };
    },
    touches: (c) => [`lamp.${c.lamp}`],
    says: (e) => `${e.label} back at its sheet’s place`,
  }),
  event({
    type: 'lamp.added',
    may: ALL,
    records: { lamp: AddedLamp },
    decide: (command, order, c) => {
      const { lamp } = command;
      checkPoint(lamp.at, c);
      if (order.lamps.added.length >= MOST_ADDED) throw new Refused(`An order takes at most ${MOST_ADDED} lamps of its own.`);
      if (order.lamps.added.some((l) => l.id === lamp.id)) throw new Refused(`“${lamp.id}” is added already.`, 'input', 'lamp.id');
      if (lamp.like === null) {
        if (LIT_FUNCTIONS.includes(lamp.function))
          throw new Refused('A lamp takes current: choose a kit that brings it, or add one like a lamp of a kit.', 'input', 'lamp.like');
        return command;
      }
      const [of, id] = lamp.like.split('/');
      const kit = c.sheets.kits.find((k) => k.id === of);
      const like = kit?.devices.find((d) => d.id === id);
      if (!kit || !like) throw new Refused('There is no such lamp in the kits of this order.', 'input', 'lamp.like');
      if (kit.devices.some((d) => d.id === lamp.id)) throw new Refused(`${kit.name} has a part “${lamp.id}” already.`, 'input', 'lamp.id');
      if (like.equipment?.function !== lamp.function) throw new Refused(`${like.name} does something else.`, 'input', 'lamp.function');
      return command;
    },
    apply: (order, { lamp }) => ({
      ...order,
      lamps: { ...order.lamps, added: [...order.lamps.added.filter((l) => l.id !== lamp.id), lamp] },
    }),
    touches: (c) => [`lamp.added/${c.lamp.id}`],
    says: (e) => `Added: ${e.lamp.name}, ${place(e.lamp.at)}`,
  }),
  event({
    type: 'lamp.dropped',
    may: ALL,
    records: { id: Slug, label: words(120) },
    decide: (command, order) => {
      if (!order.lamps.added.some((l) => l.id === command.id)) throw new Refused('That was not added to this order.', 'input', 'id');
      return command;
    },
    apply: (order, { id }) => ({ ...order, lamps: { ...order.lamps, added: order.lamps.added.filter((l) => l.id !== id) } }),
    touches: (c) => [`lamp.added/${c.id}`],
    says: (e) => `Not added after all: ${e.label}`,
  }),
] as const;
