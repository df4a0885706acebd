import { z } from 'zod';
import { OrderCommand, type EventBody } from '#core/events/registry';

/**
 * One thing recorded on an order that the record has not confirmed, or has refused and its author has not seen. `n` is its
 * place in the queue; `key` goes with every try to send it.
 */
export const Row = z.object({
  n: z.number().int().optional(),
  key: z.string().min(8),
  order: z.string().min(1),
  command: OrderCommand,
  onVersion: z.number().int().min(0),
  /** who did it: nobody else sends it */
  by: z.string().min(1),
  /** when, by this device's clock, and how far that was off as measured before; null: not measured yet */
  at: z.iso.datetime(),
  aheadMs: z.number().nullable(),
  state: z.enum(['waiting', 'sent', 'clash', 'refused']),
  /** sent: the order's version with it */
  version: z.number().optional(),
  /** refused: why */
  says: z.string().optional(),
  clash: z
    .object({ message: z.string(), theirs: z.array(z.object({ by: z.string(), says: z.unknown() })), current: z.number() })
    .optional(),
});
export type Row = Omit<z.infer<typeof Row>, 'clash'> & {
  clash?: { message: string; theirs: { by: string; says: EventBody }[]; current: number } | undefined;
};
