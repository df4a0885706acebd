import type { Order } from '#model/order';
import type { PlannedStep } from './planned';

/** One kind of fastener of a panel: how many came out, and how many are back. */
export interface FastenerLine {
  kind: string;
  tool: string;
  /** as the sheet has it */
  sheet: number;
  /** as counted while the panel came off; until then, as the sheet has it */
  out: number;
  /** null: not counted yet */
  back: number | null;
}

const isShut = (id: string) => id.startsWith('shut/');
/** The step in which a panel came off that another puts on again. */
export const openedBy = (shut: string): string => shut.replace(/^shut\//, 'open/');

/** The ledger of a panel’s fasteners at one of its steps, off or on; empty for any other step. */
export function ledger(order: Order, step: PlannedStep): FastenerLine[] {
  if (!step.panel) return [];
  const open = order.fasteners[isShut(step.id) ? openedBy(step.id) : step.id];
  const back = isShut(step.id) ? order.fasteners[step.id] : undefined;
  return step.panel.fasteners.map((f, i) => ({
    kind: f.kind,
    tool: f.tool,
    sheet: f.count,
    out: open?.counts[i] ?? f.count,
    back: back?.counts[i] ?? null,
  }));
}

/** What is out and not back, in words; empty when all is. */
export const shortOf = (lines: readonly FastenerLine[]): string =>
  lines
    .filter((l) => l.back !== null && l.back < l.out)
    .map((l) => `${l.out - l.back!} × ${l.kind}`)
    .join(', ');

/** Why a panel may not be called closed yet; empty: it may. */
export function fastenersHold(order: Order, step: PlannedStep): string {
  if (!isShut(step.id)) return '';
  const lines = ledger(order, step);
  if (lines.some((l) => l.back === null)) return 'Count what goes back in first.';
  const short = shortOf(lines);
  if (!short || order.fasteners[step.id]?.reason) return '';
  return `${short} not back: look on the bench, in the bag and under the seat, or say why it closes without.`;
}

/** Every panel that was closed with something missing, with the reason given. */
export const closedShort = (order: Order, steps: readonly PlannedStep[]): { panel: string; short: string; reason: string; by: string }[] =>
  steps.flatMap((s) => {
    const kept = order.fasteners[s.id];
    const short = isShut(s.id) ? shortOf(ledger(order, s)) : '';
    return short && s.panel ? [{ panel: s.panel.name, short, reason: kept?.reason ?? '', by: kept?.by ?? '' }] : [];
  });
