import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import { step, yes, type PlannedStep } from './planned';

/** Minutes to lay a box out, and to look at each thing in it. Common practice, no source. */
const LAY_OUT = 1;
const EACH_ITEM = 0.15;

/** A kit's box as it is counted: `counted` is null where nobody has. */
export interface BoxCount {
  kit: Pick<Kit, 'id' | 'name'>;
  box: readonly { item: string; need: number; counted: number | null }[];
}

/** The step that counts a kit's box. */
export const unpackStepOf = (kit: string): string => `unpack/${kit}`;

/** Whether a kit's box was said to be whole as it was unpacked: what nobody counted is there. */
export const unpacked = (order: Pick<Order, 'steps'>, kit: string): boolean => order.steps[unpackStepOf(kit)]?.status === 'done';

/**
 * A box is counted before anything is taken apart for it: a step for each that was not counted at the door, whether it is done or
 * still to do; none is added to what is sealed. What is missing is said at Fit, and its work waits.
 */
export const unpackSteps = (order: Pick<Order, 'steps' | 'status'>, kits: readonly BoxCount[]): PlannedStep[] =>
  kits.flatMap(({ kit, box }) =>
    order.steps[unpackStepOf(kit.id)] || (order.status !== 'sealed' && box.some((b) => b.counted === null))
      ? [
          step({
            id: unpackStepOf(kit.id),
            stage: 'unpack',
            kit: kit.id,
            title: `Count the box of ${kit.name}`,
            text: `Lay out and look at each: ${box.map((b) => `${b.need} × ${b.item}`).join(', ')}. What is short or broken is counted at Fit: its work waits.`,
            minutes: Number((LAY_OUT + EACH_ITEM * box.length).toFixed(1)),
            readings: [yes('whole', 'All there, nothing broken')],
          }),
        ]
      : [],
  );
