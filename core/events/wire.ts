import { z } from 'zod';
import { Joint } from '#model/kit';
import { OverrideField } from '#model/override';
import type { Order } from '#model/order';
import { MODES } from '../circuit/feed';
import { findRun } from '../circuit/route';
import { dangerOf } from '../circuit/unsafe';
import { FUSE_SIZES } from '../wire/fuse';
import { awgName } from '../wire/resistance';
import { GAUGES } from '../wire/tables';
import { BENCH, event, LEADS, Refused, type Context } from './definition';
import { stepId } from './shapes';

const records = {
  circuit: stepId,
  field: OverrideField,
  value: z.union([z.number().min(-10).max(100_000), z.string().max(80)]),
  reason: z.string().trim().max(300).default(''),
};

/**
 * An override must be possible, and an unsafe one needs a lead with a reason.
 * @throws Refused
 */
function checkOverride(
  command: { circuit: string; field: OverrideField; value: number | string; reason: string },
  order: Order,
  c: Context,
): void {
  const circuit = c.assessment.wiring.circuits.find((x) => x.id === command.circuit);
  if (!circuit) throw new Refused('That circuit is not on this order.', 'input', 'circuit');
  const { field, value } = command;
  const bad = (message: string) => new Refused(message, 'input', 'value');
  switch (field) {
    case 'awg':
      if (circuit.wireFrom === 'box') throw bad('Its wire comes ready in the box: nothing is cut for it.');
      if (typeof value !== 'number' || !(GAUGES as readonly number[]).includes(value)) throw bad('Choose one of the stocked gauges.');
      break;
    case 'fuseA':
      if (typeof value !== 'number' || !FUSE_SIZES.includes(value)) throw bad(`There is no ${value} A fuse: ${FUSE_SIZES.join(', ')}.`);
      if (circuit.guardedBy)
        throw bad(
          'This is joined to a wire that is fused already: it has no fuse of its own to choose. Change the fuse of what it is joined to.',
        );
      break;
    case 'lengthM':
      if (circuit.wireFrom === 'box') throw bad('Its leads are as long as their maker made them.');
      if (typeof value !== 'number' || value <= 0 || value > 60) throw bad('A length is above 0 and at most 60 m.');
      break;
    case 'mode':
      if (!MODES.some((m) => m === value)) throw bad('Direct, through a relay, or with a plug to pull.');
      break;
    case 'joint':
      if (!Joint.safeParse(value).success) throw bad('There is no such joint.');
      break;
    case 'route':
      if (circuit.wireFrom === 'box') throw bad('Its ready leads lie where they reach: put a device elsewhere at Fit instead.');
      if (typeof value !== 'string' || !findRun(c.sheets.model, value)) throw bad('That run is not on this unit.');
      break;
    case 'feed':
      if (!circuit.candidates.some((x) => x.point.id === value)) throw bad('That feed is not on this unit.');
      break;
  }
  const unsafe = dangerOf(command, order, c.assessment, c.settings);
  if (unsafe && !LEADS.includes(c.role)) throw new Refused(`Unsafe: ${unsafe}. A lead may pass it, with a reason.`, 'role', 'value');
  if (unsafe && !command.reason) throw new Refused(`Unsafe: ${unsafe}. Give the reason why it is right here.`, 'input', 'reason');
}

const sayValue = (field: OverrideField, value: number | string): string => {
  switch (field) {
    case 'awg':
      return `gauge ${awgName(value as number)}`;
    case 'fuseA':
      return `fuse ${value} A`;
    case 'lengthM':
      return `length ${value} m`;
    case 'route':
      return `led by ${String(value).replace('>', ' to ')}`;
    default:
      return `${field} ${String(value).replaceAll('-', ' ')}`;
  }
};

export const wireEvents = [
  event({
    type: 'wire.overridden',
    may: BENCH,
    records,
    decide: (command, order, c) => {
      checkOverride(command, order, c);
      return command;
    },
    apply: (order, { circuit, field, value, reason }, stamp) => ({
      ...order,
      overrides: [
        ...order.overrides.filter((o) => o.circuit !== circuit || o.field !== field),
        { circuit, field, value, reason, ...stamp },
      ],
    }),
    touches: (c) => [`wire.${c.circuit}.${c.field}`],
    says: (e) => `${e.circuit}: ${sayValue(e.field, e.value)} by hand${e.reason ? `: ${e.reason}` : ''}`,
  }),
  event({
    type: 'wire.override-cleared',
    may: BENCH,
    records: { circuit: stepId, field: OverrideField },
    apply: (order, e) => ({ ...order, overrides: order.overrides.filter((o) => o.circuit !== e.circuit || o.field !== e.field) }),
    touches: (c) => [`wire.${c.circuit}.${c.field}`],
    says: (e) => `${e.circuit}: ${e.field} back to what Kadro chose`,
  }),
] as const;
