import type { Wiring } from '../wiring/planned';
import { kitPlugs, pinTable, terminalTables, type PlugTable, type TerminalTable } from '../harness/terminals';
import type { PlannedStep } from './planned';

/** Plugs that are held in hand at a step, and relays or switches whose terminals are filled there. */
export interface StepPlugs {
  plugs: PlugTable[];
  tables: TerminalTable[];
}

/** What matters at a wiring step: the feed’s plug, and what of its circuit has more terminals than plus and minus. */
export function stepPlugs(step: PlannedStep, wiring: Pick<Wiring, 'harness' | 'circuits'>): StepPlugs {
  const { harness, circuits } = wiring;
  const circuit = step.stage === 'wire' ? circuits.find((c) => c.id === step.circuit) : undefined;
  if (!circuit) return { plugs: [], tables: [] };
  const own = new Set([
    `${circuit.id}#relay`,
    ...circuit.circuit.devices.map((d) => `${circuit.kit.id}/${d}`),
    ...(circuit.circuit.switch ? [`${circuit.kit.id}/${circuit.circuit.switch.device}`] : []),
  ]);
  const feed = circuit.feed && pinTable(circuit.feed);
  const plugs = kitPlugs(harness).filter((p) => own.has(p.id));
  return {
    plugs: [...(feed ? [feed] : []), ...plugs],
    tables: terminalTables(harness).filter((t) => own.has(t.id) && !plugs.some((p) => p.id === t.id)),
  };
}
