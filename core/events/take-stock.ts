import { z } from 'zod';
import { Taken, type Order } from '#model/order';
import { takenBy } from '../plan/needs';
import type { PlannedStep } from '../plan/planned';
import { wired } from '../plan/used';
import type { Context } from './definition';

export const tookShape = z.array(Taken).max(80);

/** What a step uses up: wire that was cut once is not cut again, though its step be reopened. */
export function tookAt(step: PlannedStep, order: Order, { assessment, settings }: Context): Taken[] {
  if (step.stage !== 'wire' || !step.circuit || order.used?.[step.id]) return [];
  const { wiring, sheets } = assessment;
  const before = wired(
    order,
    wiring.circuits.map((c) => c.id),
  );
  return takenBy(step.circuit, wiring.harness, sheets.model, settings, before);
}

/** An order with what one of its steps took off the shelf. */
export const withTaken = (order: Order, step: string, took: Taken[]): Order =>
  took.length ? { ...order, used: { ...order.used, [step]: took } } : order;
