import { z } from 'zod';
import { Taken, type Order } from '#model/order';
import { boxItem } from '../supply/demand';
import { keptCuts } from '../supply/kept-cuts';
import { changeParts, isChange } from '../plan/change-steps';
import { partsTaken, takenBy } from '../plan/needs';
import type { PlannedStep } from '../plan/planned';
import { wired } from '../plan/used';
import type { Context } from './definition';

export const tookShape = z.array(Taken).max(80);

/** What a step uses up: wire that was cut once is not cut again, though its step be reopened; so with what was agreed at Power. */
export function tookAt(step: PlannedStep, order: Order, { assessment, settings }: Context): Taken[] {
  if (order.used?.[step.id]) return [];
  const { wiring, sheets } = assessment;
  if (isChange(step.id)) return partsTaken(changeParts(order, sheets, settings), step.id, settings.shelf);
  if (step.stage !== 'wire' || !step.circuit) return [];
  const before = wired(
    order,
    wiring.circuits.map((c) => c.id),
  );
  return takenBy(step.circuit, wiring.harness, sheets.model, settings, before, keptCuts(settings.cuts, order.id));
}

/** An order with what one of its steps took off the shelf. */
export const withTaken = (order: Order, step: string, took: Taken[]): Order =>
  took.length ? { ...order, used: { ...order.used, [step]: took } } : order;

/** Under what a box’s line is kept among what was used. */
export const boxStep = (kit: string, item: number): string => `box/${kit}/${item}`;

/** What had been missing from a box, is there now, and lies on the shelf no more: what was bought for it. Once. */
export function tookForBox(
  { kit, item, count }: { kit: string; item: number; count: number },
  name: string,
  order: Order,
  { settings }: Context,
): Taken[] {
  const before = order.kits.find((k) => k.kit.id === kit)?.box[item];
  const id = boxItem(kit, name);
  const have = settings.shelf.find((s) => s.id === id)?.have ?? 0;
  const pieces = Math.min(count - (before ?? count), have);
  return pieces > 0 && !order.used?.[boxStep(kit, item)] ? [{ of: 'shelf', id, pieces }] : [];
}
