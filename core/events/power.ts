import { z } from 'zod';
import { Slug, words } from '#model/common';
import { OwnerDay } from '#model/day';
import { isMeasured, Origin } from '#model/origin';
import { changeKey, PowerChange } from '#model/power-change';
import type { Sheets } from '#model/sheet';
import { withChange, withoutChange } from '../order/agreed-changes';
import { ISOLATION_FACT } from '../wire-rules/high-volts';
import { ALL, event, LEADS, Refused } from './definition';
import { asTold, originOf } from './origin';

/** Days that an order may describe. */
const MOST_DAYS = 6;

/**
 * What is agreed must be possible on this unit with these kits.
 * @throws Refused
 */
export function possible(change: PowerChange, sheets: Sheets): PowerChange {
  const { electrical, name } = sheets.model;
  const bad = (message: string, path: string) => new Refused(message, 'input', `change.${path}`);
  if ('load' in change) {
    const [of, id] = change.load.split('/') as [string, string];
    const own = of === 'own' ? electrical.ownLoads.find((l) => l.id === id) : undefined;
    const device = sheets.kits.find((k) => k.id === of)?.devices.find((d) => d.id === id && d.load);
    if (!own && !device) throw bad(`“${change.load}” is not on this order.`, 'load');
    if (change.kind === 'led' && !(own ?? device!).led) throw bad('No LED is known for that lamp.', 'load');
    if (change.kind !== 'led' && !device) throw bad('That belongs to the unit itself and is not switched.', 'load');
  }
  switch (change.kind) {
    case 'idle': {
      if (electrical.source.kind === 'none') throw bad(`${name} has no engine.`, 'rpm');
      const most = electrical.idleMaxRpm ?? electrical.source.idleRpm;
      if (change.rpm < electrical.source.idleRpm || change.rpm > most)
        throw bad(`The idle may stand from ${electrical.source.idleRpm} to ${most} rpm on this unit.`, 'rpm');
      return change;
    }
    case 'source': {
      const upgrade = electrical.sourceUpgrades.find((u) => u.id === change.upgrade);
      if (!upgrade) throw bad(`No such source is known for ${name}.`, 'upgrade');
      return { ...change, name: upgrade.name, curve: upgrade.curve };
    }
    case 'reducer':
      if (!sheets.kits.some((k) => k.circuits.some((x) => x.makes?.id === change.makes)))
        throw bad('No kit here makes that supply.', 'makes');
      return change;
    default:
      return change;
  }
}

export const powerEvents = [
  event({
    type: 'fact.told',
    may: ALL,
    records: {
      key: z.string().regex(/^[a-z]+:[a-z0-9./-]{1,140}$/),
      value: z.union([z.number().min(0).max(100_000), z.boolean()]),
      label: words(160),
      /** of a figure that was measured */
      origin: Origin.optional(),
    },
    decide: (command, order, c) => {
      if (command.origin) originOf(command.origin, order);
      if (command.key === ISOLATION_FACT && command.value === true && !LEADS.includes(c.role))
        throw new Refused('Only a lead, as the qualified person or for one, may say so.', 'role', 'value');
      return command;
    },
    apply: ({ measured, ...order }, e) => {
      const { [e.key]: _, ...others } = measured ?? {};
      const now = e.origin && isMeasured(e.origin) ? { ...others, [e.key]: e.origin } : others;
      return { ...order, facts: { ...order.facts, [e.key]: e.value }, ...(Object.keys(now).length && { measured: now }) };
    },
    touches: (c) => [`fact.${c.key}`],
    says: (e) => `Told: ${e.label} ${e.value === true ? 'yes' : e.value === false ? 'no' : e.value}${asTold(e.origin)}`,
  }),
  event({
    type: 'day.described',
    may: ALL,
    records: { day: OwnerDay },
    decide: (command, order) => {
      if (!order.days.some((d) => d.id === command.day.id) && order.days.length >= MOST_DAYS)
        throw new Refused(`An order keeps at most ${MOST_DAYS} days: take one off first.`);
      return command;
    },
    apply: (order, { day }) => {
      const at = order.days.findIndex((d) => d.id === day.id);
      return { ...order, days: at < 0 ? [...order.days, day] : order.days.map((d, i) => (i === at ? day : d)) };
    },
    touches: (c) => [`day.${c.day.id}`],
    says: (e) => `Owner’s day: ${e.day.name}, ${e.day.phases.length} ${e.day.phases.length === 1 ? 'phase' : 'phases'}`,
  }),
  event({
    type: 'day.dropped',
    may: ALL,
    records: { id: Slug },
    decide: (command, order) => {
      if (!order.days.some((d) => d.id === command.id)) throw new Refused('There is no such day on this order.', 'input', 'id');
      return command;
    },
    apply: (order, { id }) => ({ ...order, days: order.days.filter((d) => d.id !== id) }),
    touches: (c) => [`day.${c.id}`],
    says: (e) => `Owner’s day taken off: ${e.id}`,
  }),
  event({
    type: 'power.changed',
    may: ALL,
    records: { change: PowerChange, label: words(160) },
    decide: (command, _order, c) => ({ ...command, change: possible(command.change, c.sheets) }),
    apply: (order, e, stamp) => withChange(order, { change: e.change, label: e.label, ...stamp }),
    touches: (c) => [`power.${changeKey(c.change)}`],
    says: (e) => `Agreed so that it holds: ${e.label}`,
  }),
  event({
    type: 'power.restored',
    may: ALL,
    records: { key: z.string().max(140), label: words(160) },
    decide: (command, order) => {
      if (!order.changes.some((x) => changeKey(x.change) === command.key))
        throw new Refused('That was not agreed on this order.', 'input', 'key');
      return command;
    },
    apply: (order, { key }) => withoutChange(order, key),
    touches: (c) => [`power.${c.key}`],
    says: (e) => `No longer agreed: ${e.label}`,
  }),
] as const;
