import { chakra } from '@chakra-ui/react';
import { useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { JOINT_WORD } from '#core/circuit/joint';
import { runKey } from '#core/circuit/route';
import type { PlannedCircuit } from '#core/wiring/planned';
import { cutRows } from '#core/harness/cut-list';
import { NO_FAULTS } from '#core/harness/simulate';
import type { HarnessWire } from '#model/harness';
import { usePerson } from '../../app/context';
import { useLater } from '../../app/Later';
import { Act } from '../../app/ui';
import { UnitDrawing, type PickRun, type PlaceMark, type WirePath } from '../../drawing/UnitDrawing';
import { Answer } from '../Station';
import { Tabs } from '../Tabs';
import { Rests } from '../known/Rests';
import { useOrder } from '../useOrder';
import { Checks } from './Checks';
import { Circuits, feedLetters } from './Circuits';
import { CutJoin } from './CutJoin';
import { Demands } from './Demands';
import { SimulatorView } from './SimulatorView';
import { Switches } from './Switches';
import { useByHand } from './useByHand';
import { useSimulator, type SimulatorState } from './useSimulator';

const TABS = [
  ['schematic', 'Schematic'],
  ['circuits', 'Circuits'],
  ['cut', 'Cut and join'],
  ['switches', 'Switches and checks'],
] as const;
/** Amperes from which a wire is drawn as live. */
const LIVE_A = 0.004;

/** What feeds each thing, through what wire, fuse and relay, and where it runs: the answer first, then the working model. */
export function Wire() {
  return useLater() ? <WorkingModel /> : <WireAnswer states="" />;
}

/** `states`: what the working model found in all states of the switches, as the end of a sentence. */
function WireAnswer({ states }: { states: string }) {
  const { assessment } = useOrder();
  const { circuits } = assessment.wiring;
  const { conflicts, met } = assessment.demands;
  const bad = circuits.filter((c) => c.verdict !== 'holds');
  return (
    <>
      <Answer verdict={assessment.stations.wire.verdict}>
        {!circuits.length
          ? 'No kit brings a circuit yet.'
          : conflicts.length
            ? `${conflicts[0]!.says}.`
            : bad.length
              ? `${bad[0]!.circuit.name}: ${bad[0]!.problems[0] ?? 'a figure is missing'}.`
              : `${circuits.length === 1 ? 'One circuit' : `${circuits.length} circuits`} fed, sized and fused${states}.`}
      </Answer>
      <Rests station="wire" />
      <Demands conflicts={conflicts} met={met} />
    </>
  );
}

function WorkingModel() {
  const { sheets, assessment } = useOrder();
  const { wiring } = assessment;
  const { circuits, harness } = wiring;
  const [params, setParams] = useSearchParams();
  const tab = TABS.find(([t]) => t === params.get('show'))?.[0] ?? 'schematic';
  const show = (t: string) => setParams(t === 'schematic' ? {} : { show: t }, { replace: true });
  const [open, setOpen] = useState<string | null>(null);
  const sim = useSimulator(harness);
  // a state that another station asks to be shown, as switch=position pairs in the address
  const asked = params.get('state');
  const { setPositions } = sim;
  useEffect(() => {
    if (!asked) return;
    const has = new Map(harness.controls.map((c) => [c.id, c.positions.map((x) => x.id)]));
    const pairs = asked.split(',').map((x) => x.split('=') as [string, string]);
    setPositions(Object.fromEntries(pairs.filter(([c, at]) => has.get(c)?.includes(at))));
    setParams({}, { replace: true });
  }, [asked]); // eslint-disable-line react-hooks/exhaustive-deps
  const rows = useMemo(() => cutRows(harness, sheets.model), [harness, sheets.model]);
  const picked = circuits.find((c) => c.id === sim.picked.circuit) ?? null;
  const scan = sim.scan && typeof sim.scan !== 'string' ? sim.scan : null;
  const found = (scan?.findings.length ?? 0) + harness.problems.length;
  const states = scan
    ? scan.findings.length
      ? `; ${scan.findings.length} to look at in ${scan.states} states of the switches`
      : `; sound in all ${scan.states} states of the switches`
    : '';
  return (
    <>
      <WireAnswer states={states} />
      {circuits.length > 0 && (
        <Tabs label="What to see of the wiring" tabs={TABS} on={tab} onShow={show} mark={{ switches: found > 0 && found }} />
      )}
      {circuits.length > 0 && tab === 'schematic' && (
        <SimulatorView
          sim={sim}
          rows={rows}
          circuit={picked}
          height="max(400px, calc(100vh - 388px))"
          onCircuit={() => {
            setOpen(sim.picked.circuit);
            show('circuits');
          }}
          beside={<Routed sim={sim} picked={picked} />}
        />
      )}
      {tab === 'circuits' && <Circuits open={open} onOpen={setOpen} />}
      {tab === 'cut' && (
        <CutJoin
          harness={harness}
          rows={rows}
          wiring={wiring}
          jointOf={(id) => JOINT_WORD[circuits.find((c) => c.id === id)?.joint ?? 'crimp-shrink']}
        />
      )}
      {tab === 'switches' && (
        <>
          <Checks
            harness={harness}
            scan={sim.scan}
            faulty={sim.faults !== NO_FAULTS}
            onShow={(f) => {
              sim.setPositions(f.state.controls);
              sim.setPicked({ element: f.at, circuit: f.circuit });
              show('schematic');
            }}
          />
          <Switches scan={sim.scan} />
        </>
      )}
    </>
  );
}

/** The same wires as they run on the unit: picked here, picked there; a circuit can be led another way by touching a run. */
function Routed({ sim, picked }: { sim: SimulatorState; picked: PlannedCircuit | null }) {
  const { order, sheets, assessment, record } = useOrder();
  const { role } = usePerson();
  const [routing, setRouting] = useState<string | null>(null);
  const { change, dialog } = useByHand();
  const { harness, shown } = sim;
  const { wiring } = assessment;
  const letters = feedLetters(wiring);
  const placeName = (id: string) => sheets.model.places.find((p) => p.id === id)!.name;
  const wires = harness.elements.filter((e): e is HarnessWire => e.kind === 'wire' && e.places.length > 1);
  const paths = wires.map((w): WirePath => ({
    id: w.id,
    places: w.places,
    colour: w.colour,
    on: picked === null ? undefined : sim.picked.element === w.id || w.circuit === picked.id,
    live: Math.abs(shown?.amps.get(w.id) ?? 0) > LIVE_A,
    title: w.name,
    onPick: () => sim.setPicked({ element: w.id, circuit: w.circuit }),
  }));
  const marks: PlaceMark[] = [
    ...wiring.points
      .filter((p) => letters.has(p.id))
      .map((p): PlaceMark => ({ place: p.place, text: letters.get(p.id), tone: 'accent', title: p.name, on: picked?.feed?.id === p.id })),
    ...harness.problems.filter((p) => p.place).map((p): PlaceMark => ({ place: p.place!, text: '!', tone: 'fails', title: p.text })),
    ...(picked?.circuit.devices ?? []).map((d): PlaceMark => {
      const device = picked!.kit.devices.find((x) => x.id === d)!;
      return { place: device.place, tone: picked!.verdict, title: device.name };
    }),
  ];
  const may = picked !== null && order.status === 'open' && role !== 'desk';
  const on = may && routing === picked.id;
  const runs = !on
    ? []
    : sheets.model.runs.map((r): PickRun => ({
        id: runKey(r),
        from: r.from,
        to: r.to,
        on: picked.via === runKey(r),
        title: `${placeName(r.from)} to ${placeName(r.to)}${r.hazards.length ? `: ${r.hazards.join(', ')}` : ''}`,
        onPick: () =>
          picked.via === runKey(r)
            ? record({ type: 'wire.override-cleared', circuit: picked.id, field: 'route' })
            : change({ circuit: picked.id, field: 'route', value: runKey(r) }),
      }));
  return (
    <chakra.div borderWidth="1px" borderColor="rule" borderRadius="kadro" bg="raised" p="4px">
      <UnitDrawing model={sheets.model} views={['top']} height={150} marks={marks} wires={paths} runs={runs} />
      {may && (
        <chakra.div display="flex" alignItems="center" gap="8px" px="6px" pb="4px" fontSize="14px">
          <Act minHeight="30px" px="8px" fontSize="14px" on={on} aria-pressed={on} onClick={() => setRouting(on ? null : picked.id)}>
            Lead it another way
          </Act>
          <chakra.span color="quiet">{on ? 'touch the run it must take' : picked.via ? 'led by hand' : ''}</chakra.span>
        </chakra.div>
      )}
      {dialog}
    </chakra.div>
  );
}
