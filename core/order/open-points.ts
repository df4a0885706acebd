import type { Verdict } from '#model/common';
import type { Order } from '#model/order';
import { sayAssumed } from '../known/doubt';
import { closedShort } from '../plan/fasteners';
import { stepState } from './state';
import type { Assessment } from './assess';

/** Something that is not as it should be, or not known, when an order is handed over. */
export interface OpenPoint {
  verdict: Exclude<Verdict, 'holds'>;
  says: string;
}

const not = (v: Verdict | null): v is OpenPoint['verdict'] => v === 'fails' || v === 'unknown';

/** All that is unknown, failing, skipped or passed: said before an order is sealed, and on its sheet. Nothing of it is a wall. */
export function openPoints(order: Order, a: Omit<Assessment, 'open'>): OpenPoint[] {
  const points: OpenPoint[] = [];
  const add = (verdict: OpenPoint['verdict'], says: string) => points.push({ verdict, says });
  const assumed = sayAssumed(a.sheets.model);
  if (assumed) add('unknown', assumed);
  if ((a.sheets.model.identity !== 'maker' || !order.unit.identity) && not(a.identity.verdict))
    add(a.identity.verdict, `Number: ${a.identity.says}`);
  for (const k of a.fit.kits) if (not(k.verdict)) add(k.verdict, `Fit of ${k.kit.name}: ${k.says}`);
  if (not(a.power.verdict)) add(a.power.verdict, `Power: ${a.power.says}`);
  for (const c of a.wiring.circuits)
    if (not(c.verdict)) add(c.verdict, `Circuit ${c.circuit.name}: ${c.problems.join('; ') || 'not known'}`);
  for (const c of a.demands.conflicts) add('fails', `Circuit ${c.name}: ${c.says}`);
  for (const p of a.lamps.packs)
    for (const i of p.items)
      if (not(i.verdict)) add(i.verdict, `${p.pack.name}, ${i.title}: ${i.verdict === 'unknown' ? 'not proved' : i.says}`);
  for (const s of a.steps) {
    const { status, reason } = stepState(order, s.id);
    if (status === 'skipped') add('unknown', `Skipped: ${s.title}, because ${reason}`);
  }
  for (const l of order.leftOut ?? []) add('tight', `Left out: ${l.name}, because ${l.reason}`);
  for (const p of a.proofs) if (p.state === 'overridden') add('tight', `${p.step.title}: ${p.says}`);
  for (const c of closedShort(order, a.steps)) add('tight', `${c.panel} closed without ${c.short}: ${c.reason}`);
  for (const e of order.money?.extras ?? [])
    if (!e.answer) add('unknown', `Turned up, and not answered: ${e.title}`);
    else if (!e.answer.yes) add('tight', `Turned up, and declined by ${e.answer.name}: ${e.title}, ${e.why}`);
  return points;
}
