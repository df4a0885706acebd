import { z } from 'zod';
import { Slug, words } from '#model/common';
import { Job, jobKey } from '#model/job';
import type { Order } from '#model/order';
import { SheetRef } from '#model/sheet';
import { stepState } from '../order/assess';
import { withoutKit, withVariant } from '../order/chosen-kits';
import { ALL, event, ForTheRecord, Refused, type Context } from './definition';
import { boxStep, tookForBox, tookShape, withTaken } from './take-stock';

const item = z.number().int().min(0).max(1000);
const count = z.number().int().min(0).max(999);

/** @throws Refused where a step of a kit is done that a change would take the ground from */
export function refuseBegun(kit: string, order: Order, c: Context, before: string): void {
  const begun = c.assessment.steps.find((s) => s.kit === kit && s.stage !== 'unpack' && stepState(order, s.id).status === 'done');
  if (begun) throw new Refused(`“${begun.title}” is already done: reopen what is done of it ${before}.`);
}

/** Jobs that one order may have. */
const MOST_JOBS = 20;

export const fitEvents = [
  event({
    type: 'kit.added',
    may: ALL,
    records: { kit: SheetRef, name: words(80) },
    asks: { kit: Slug },
    decide: (command, order, c) => {
      // the newest sheet is the record's to name
      if (!c.known.kit) throw new ForTheRecord('the newest sheet of a kit');
      const found = c.known.kit(command.kit);
      if (!found) throw new Refused(`There is no kit “${command.kit}” in the sheets.`, 'input', 'kit');
      if (order.kits.some((k) => k.kit.id === command.kit)) throw new Refused(`${found.kit.name} is already chosen.`);
      return { type: 'kit.added', kit: found.ref, name: found.kit.name };
    },
    apply: (order, { kit }) => ({ ...order, kits: [...order.kits.filter((k) => k.kit.id !== kit.id), { kit, box: {} }] }),
    touches: (c) => [`kit.${typeof c.kit === 'string' ? c.kit : c.kit.id}`],
    says: (e) => `Kit chosen: ${e.name} (sheet revision ${e.kit.revision})`,
  }),
  event({
    type: 'kit.removed',
    may: ALL,
    records: { kit: Slug },
    decide: (command, order, c) => {
      if (!order.kits.some((k) => k.kit.id === command.kit)) throw new Refused('That kit is not on this order.', 'input', 'kit');
      refuseBegun(command.kit, order, c, 'before taking it off the order');
      return command;
    },
    apply: (order, { kit }) => withoutKit(order, kit),
    touches: (c) => [`kit.${c.kit}`],
    says: (e) => `Kit taken off: ${e.kit}`,
  }),
  event({
    type: 'variant.chosen',
    may: ALL,
    records: { kit: Slug, variant: Slug, option: Slug, label: words(160) },
    asks: { kit: Slug, variant: Slug, option: Slug },
    decide: (command, order, c) => {
      const kit = c.sheets.kits.find((k) => k.id === command.kit);
      const variant = kit?.variants.find((v) => v.id === command.variant);
      const option = variant?.options.find((o) => o.id === command.option);
      if (!kit || !variant || !option) throw new Refused('That choice is not in the box of a chosen kit.', 'input', 'option');
      refuseBegun(command.kit, order, c, 'before another option is taken');
      return { ...command, label: `${variant.name}: ${option.name}` };
    },
    apply: (order, { kit, variant, option }) => withVariant(order, kit, variant, option),
    touches: (c) => [`variant.${c.kit}.${c.variant}`],
    says: (e) => `Chosen of ${e.kit}: ${e.label}`,
  }),
  event({
    type: 'device.placed',
    may: ALL,
    records: { kit: Slug, device: Slug, place: Slug.nullable(), label: words(200) },
    asks: { kit: Slug, device: Slug, place: Slug.nullable() },
    decide: (command, order, c) => {
      const device = c.sheets.kits.find((k) => k.id === command.kit)?.devices.find((d) => d.id === command.device);
      if (!device?.places.length) throw new Refused('That stands in one place only.', 'input', 'device');
      const place = c.sheets.model.places.find((p) => p.id === command.place);
      if (command.place !== null && !place) throw new Refused('That place is not on this unit.', 'input', 'place');
      if (place && ![device.place, ...device.places].includes(place.id))
        throw new Refused(`The sheet does not let the ${device.name} stand there.`, 'input', 'place');
      refuseBegun(command.kit, order, c, 'before it is put elsewhere');
      return { ...command, label: place ? `${device.name} at ${place.name}` : `${device.name} where its leads reach best` };
    },
    apply: (order, { kit, device, place }) => ({
      ...order,
      places: Object.fromEntries(
        Object.entries({ ...order.places, [`${kit}/${device}`]: place }).filter((x): x is [string, string] => x[1] !== null),
      ),
    }),
    touches: (c) => [`place.${c.kit}.${c.device}`],
    says: (e) => e.label,
  }),
  event({
    type: 'box.counted',
    version: 2,
    may: ALL,
    /** `took`: what had been missing and came from the shelf */
    records: { kit: Slug, item, count, label: words(80), took: tookShape },
    asks: { kit: Slug, item, count },
    earlier: { 1: (body) => ({ ...body, took: [] }) },
    decide: (command, order, c) => {
      const found = c.sheets.kits.find((k) => k.id === command.kit)?.contents[command.item];
      if (!found) throw new Refused('That is not in the box of a chosen kit.', 'input', 'item');
      return { ...command, label: found.item, took: tookForBox(command, found.item, order, c) };
    },
    apply: (order, e) =>
      withTaken(
        {
          ...order,
          kits: order.kits.map((k) => (k.kit.id === e.kit ? { ...k, box: { ...k.box, [e.item]: e.count } } : k)),
        },
        boxStep(e.kit, e.item),
        e.took,
      ),
    touches: (c) => [`box.${c.kit}.${c.item}`],
    says: (e) => `Box of ${e.kit}: ${e.count} × ${e.label}`,
  }),
  event({
    type: 'job.added',
    may: ALL,
    records: { job: Job },
    decide: (command, order, c) => {
      const jobs = order.jobs ?? [];
      const { job } = command;
      if (!c.sheets.model.places.some((p) => p.id === job.place)) throw new Refused('That place is not on this unit.', 'input', 'place');
      if (jobs.some((j) => j.id === job.id)) throw new Refused(`“${job.title}” is already on this order.`, 'input', 'title');
      if (jobs.length >= MOST_JOBS) throw new Refused(`${MOST_JOBS} jobs are on this order: take one off first.`);
      return command;
    },
    apply: (order, { job }) => ({ ...order, jobs: [...(order.jobs ?? []).filter((j) => j.id !== job.id), job] }),
    touches: (c) => [`job.${c.job.id}`],
    says: (e) => `Job added: ${e.job.title}, ${e.job.minutes} min`,
  }),
  event({
    type: 'job.removed',
    may: ALL,
    records: { id: Slug, title: words(120) },
    asks: { id: Slug },
    decide: (command, order, c) => {
      const job = order.jobs?.find((j) => j.id === command.id);
      if (!job) throw new Refused('That job is not on this order.', 'input', 'id');
      refuseBegun(jobKey(job.id), order, c, 'before taking it off the order');
      return { ...command, title: job.title };
    },
    apply: (order, { id }) => ({ ...order, jobs: (order.jobs ?? []).filter((j) => j.id !== id) }),
    touches: (c) => [`job.${c.id}`],
    says: (e) => `Job taken off: ${e.title}`,
  }),
] as const;
