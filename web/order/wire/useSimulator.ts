import { useMemo, useState } from 'react';
import { NO_FAULTS, type Faults, type Meter } from '#core/harness/simulate';
import type { Harness } from '#model/harness';
import { useKeys } from '../../app/keys';
import type { Sight } from './SchematicView';
import { useBeat } from './useBeat';
import { useLayout, useScan, useShown } from './useHarness';

const NO_METER: Meter = { mode: 'volts', plus: '', minus: '' };
const AT_REST: Readonly<Record<string, string>> = {};

/** A harness on the screen: its switches, faults, meter and what is picked, and how it all stands. */
export function useSimulator(harness: Harness) {
  const [positions, setPositions] = useState(AT_REST);
  const [faults, setFaults] = useState<Faults>(NO_FAULTS);
  const [meter, setMeter] = useState(NO_METER);
  const [probing, setProbing] = useState(false);
  const [picked, setPicked] = useState<{ element: string | null; circuit: string | null }>({ element: null, circuit: null });
  const state = useMemo(() => ({ controls: positions }), [positions]);
  const touching = useMemo(
    () =>
      meter.plus &&
      meter.minus &&
      meter.plus !== meter.minus &&
      [meter.plus, meter.minus].every((id) => harness.nodes.some((n) => n.id === id))
        ? meter
        : null,
    [meter, harness],
  );
  const present = useMemo(() => keepFaults(faults, new Set(harness.elements.map((e) => e.id))), [faults, harness]);
  const answers = useShown(harness, state, present, touching);
  const beat = useBeat(answers);
  const answer = answers?.[beat ? 0 : 1] ?? null;
  const shown = answer?.shown ?? null;
  const layout = useLayout(harness);
  const scan = useScan(harness, present);
  useKeys({ p: () => setProbing((on) => !on) });

  const set = (control: string, position: string) =>
    setPositions((now) => {
      const next = { ...now, [control]: position };
      // an engine runs with the key on only
      if (control === 'unit#engine' && position !== 'off') next['unit#key'] = 'run';
      if (control === 'unit#key' && position !== 'run' && next['unit#engine']) next['unit#engine'] = 'off';
      return next;
    });
  const sight: Sight = {
    harness,
    shown,
    faults: present,
    meter,
    probing,
    picked: picked.element,
    circuit: picked.circuit,
    positions,
    onPick: (element, circuit) => setPicked({ element, circuit }),
    onProbe: (node) => setMeter((m) => (!m.plus || m.minus ? { ...m, plus: node, minus: '' } : { ...m, minus: node })),
    onThrow: (device) => {
      const c = harness.controls.find((x) => x.of === device);
      if (!c) return;
      const at = c.positions.findIndex((p) => p.id === (positions[c.id] ?? c.positions[0]!.id));
      set(c.id, c.positions[(at + 1) % c.positions.length]!.id);
    },
  };
  return {
    harness,
    layout,
    scan,
    sight,
    shown,
    answer,
    beat,
    positions,
    set,
    setPositions,
    faults,
    setFaults,
    meter,
    setMeter,
    reading: touching ? (shown?.meter ?? null) : null,
    probing,
    setProbing,
    picked,
    setPicked,
  };
}
export type SimulatorState = ReturnType<typeof useSimulator>;

/** Faults of things that are still there. */
function keepFaults(f: Faults, has: ReadonlySet<string>): Faults {
  const kept: Faults = {
    blown: f.blown.filter((x) => has.has(x)),
    open: f.open.filter((x) => has.has(x)),
    corroded: Object.fromEntries(Object.entries(f.corroded).filter(([k]) => has.has(k))),
    swapped: f.swapped.filter((p) => p.every((x) => has.has(x))),
    stuck: f.stuck.filter((x) => has.has(x)),
    shorted: f.shorted,
  };
  return JSON.stringify(kept) === JSON.stringify(f) ? f : kept;
}
