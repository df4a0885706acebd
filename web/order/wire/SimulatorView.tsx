import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { PlannedCircuit } from '#core/wiring/planned';
import type { CutRow } from '#core/harness/cut-list';
import { sayState } from '#core/harness/scan';
import { Controls } from './Controls';
import { MeterPanel } from './MeterPanel';
import { FaultList, Picked } from './Picked';
import { SchematicView } from './SchematicView';
import type { SimulatorState } from './useSimulator';

/** The live schematic with its switches above, and beside it whatever belongs there, the meter, and what is picked. */
export function SimulatorView({
  sim,
  rows,
  circuit,
  onCircuit,
  height,
  beside,
}: {
  sim: SimulatorState;
  rows: readonly CutRow[];
  circuit: PlannedCircuit | null;
  onCircuit: () => void;
  height: string;
  beside?: ReactNode;
}) {
  const { harness } = sim;
  const meter = (
    <MeterPanel
      key="meterpanel"
      harness={harness}
      meter={sim.meter}
      reading={sim.reading}
      probing={sim.probing}
      onMeter={sim.setMeter}
      onProbing={sim.setProbing}
    />
  );
  const picked = (
    <Picked
      key="picked"
      harness={harness}
      element={sim.picked.element}
      circuit={circuit}
      rows={rows}
      shown={sim.shown}
      faults={sim.faults}
      onFaults={sim.setFaults}
      onCircuit={onCircuit}
    />
  );
  return (
    <>
      <Controls harness={harness} positions={sim.positions} onSet={sim.set} />
      <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) 316px" gap="12px" mt="8px">
        <div>
          <SchematicView layout={sim.layout} sight={sim.sight} height={height} />
          <Says sim={sim} />
        </div>
        <chakra.div display="grid" gap="8px" alignContent="start" minW={0}>
          {beside}
          {/* what was touched last comes first */}
          {sim.probing || !sim.picked.element ? [meter, picked] : [picked, meter]}
          <FaultList harness={harness} faults={sim.faults} onFaults={sim.setFaults} />
        </chakra.div>
      </chakra.div>
    </>
  );
}

/** The state in words, or what goes wrong in it. */
function Says({ sim }: { sim: SimulatorState }) {
  const { harness, answer } = sim;
  const name = (id: string) => harness.elements.find((e) => e.id === id)?.name ?? id;
  const s = answer?.shown;
  const grave =
    answer?.trouble ??
    (s?.blown.length
      ? `${name(s.blown[0]!.id)} blows: ${Number(s.blown[0]!.amps.toPrecision(3))} A`
      : s?.chatter.length
        ? `${name(s.chatter[0]!)} chatters`
        : null);
  return (
    <chakra.p mt="6px" fontSize="14px" role="status" color={grave ? 'fails' : 'quiet'} fontWeight={grave ? 700 : 400}>
      {grave ?? `${sayState(harness, { controls: sim.positions, beat: sim.beat })}. Moving dash: current. Shaded: volts, no current.`}
    </chakra.p>
  );
}
