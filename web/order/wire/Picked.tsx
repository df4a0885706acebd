import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { PlannedCircuit } from '#core/wiring/planned';
import type { CutRow } from '#core/harness/cut-list';
import type { Faults, Shown } from '#core/harness/simulate';
import { figure, showQuantity } from '#core/quantity/quantity';
import { awgName } from '#core/wire/resistance';
import type { Harness } from '#model/harness';
import { useUnits } from '../../app/context';
import { Act, Choice } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { WireSwatch } from '../../marks/WireSwatch';

const Small = chakra(Act, { base: { minHeight: '34px', px: '10px', fontSize: '14px' } });
/** What corrosion adds to a joint when it is put in. Common practice, no source. */
const CORROSION_OHMS = 0.5;

/** What is picked on schematic or drawing: its figures as it stands, and what can be done to it to see what happens. */
export function Picked({
  harness,
  element,
  circuit,
  rows,
  shown,
  faults,
  onFaults,
  onCircuit,
}: {
  harness: Harness;
  element: string | null;
  circuit: PlannedCircuit | null;
  rows: readonly CutRow[];
  shown: Shown | null;
  faults: Faults;
  onFaults: (f: Faults) => void;
  onCircuit: () => void;
}) {
  const units = useUnits();
  const [swap, setSwap] = useState('');
  const e = harness.elements.find((x) => x.id === element);
  const v = (node: string) => shown?.volts.get(node) ?? null;
  const toggle = (list: readonly string[], id: string) => (list.includes(id) ? list.filter((x) => x !== id) : [...list, id]);
  const amps = e ? (shown?.amps.get(e.id) ?? null) : null;
  const row = rows.find((r) => r.wire === element);
  const line = (label: string, value: string | null) =>
    value === null ? null : (
      <>
        <chakra.dt color="quiet">{label}</chakra.dt>
        <chakra.dd fontFamily="mono" textAlign="right" m={0}>
          {value}
        </chakra.dd>
      </>
    );
  if (!e && !circuit)
    return (
      <chakra.p color="quiet" fontSize="14px">
        Touch a wire, a fuse or a device to see its figures; touch a switch to throw it.
      </chakra.p>
    );
  const from = e ? v(e.from) : null;
  const to = e ? v(e.to) : null;
  const swapMates =
    e?.kind === 'wire'
      ? harness.elements.filter((x) => x.kind === 'wire' && x.id !== e.id && x.circuit === e.circuit && x.to !== e.to)
      : [];
  const broken = e && faults.open.includes(e.id);
  return (
    <chakra.section
      aria-label="What is picked"
      borderWidth="1px"
      borderColor="accent"
      borderRadius="kadro"
      bg="raised"
      p="10px"
      display="grid"
      gap="8px"
    >
      {circuit && (
        <chakra.button
          type="button"
          onClick={onCircuit}
          textAlign="left"
          cursor="pointer"
          display="flex"
          gap="8px"
          alignItems="center"
          title="Open it under Circuits"
        >
          <VerdictMark verdict={circuit.verdict} size={20} />
          <chakra.b textDecoration="underline" textDecorationColor="rule">
            {circuit.circuit.name}
          </chakra.b>
          <chakra.span color="quiet" fontSize="14px">
            {circuit.feed?.name ?? 'no feed'}
          </chakra.span>
        </chakra.button>
      )}
      {e && (
        <>
          <chakra.p fontSize="14px">
            {row && <chakra.b fontFamily="mono">{row.label} </chakra.b>}
            {e.name}
          </chakra.p>
          <chakra.dl display="grid" gridTemplateColumns="auto 1fr" gap="2px 10px" fontSize="14px" m={0}>
            {e.kind === 'wire' && (
              <>
                <chakra.dt color="quiet">
                  <WireSwatch colour={e.colour} />
                </chakra.dt>
                <chakra.dd fontFamily="mono" textAlign="right" m={0}>
                  {e.awg === null ? '?' : `${awgName(e.awg)} AWG`},{' '}
                  {e.lengthM === null ? '? long' : showQuantity(e.lengthM, 'length', units)}
                </chakra.dd>
              </>
            )}
            {line('Amperes', amps === null ? null : `${figure(Math.abs(amps) < 0.0005 ? 0 : amps, 3)} A`)}
            {line(
              e.kind === 'wire' ? 'Volts, from and to' : 'Volts before and after',
              from === null ? null : `${from.toFixed(2)} / ${to!.toFixed(2)} V`,
            )}
            {e.kind === 'fuse' && line('Rating', `${e.ratingA} A`)}
            {e.kind === 'wire' && from !== null && line('Lost in it', `${((from - to!) * 1000).toFixed(1)} mV`)}
          </chakra.dl>
          <chakra.div display="flex" flexWrap="wrap" gap="6px">
            {e.kind === 'fuse' && (
              <Small onClick={() => onFaults({ ...faults, blown: toggle(faults.blown, e.id) })} on={faults.blown.includes(e.id)}>
                {faults.blown.includes(e.id) ? 'Put the fuse back' : 'Pull the fuse'}
              </Small>
            )}
            {(e.kind === 'wire' || e.kind === 'load' || e.kind === 'coil') && (
              <Small onClick={() => onFaults({ ...faults, open: toggle(faults.open, e.id) })} on={broken ?? false}>
                {broken ? 'Close the joint' : e.kind === 'wire' ? 'Open the joint' : 'Burn it out'}
              </Small>
            )}
            {e.kind === 'wire' && (
              <Small
                on={e.id in faults.corroded}
                onClick={() => {
                  const { [e.id]: was, ...rest } = faults.corroded;
                  onFaults({ ...faults, corroded: was === undefined ? { ...rest, [e.id]: CORROSION_OHMS } : rest });
                }}
              >
                {e.id in faults.corroded ? 'Clean it' : `Corrode it, ${CORROSION_OHMS} Ω`}
              </Small>
            )}
          </chakra.div>
          {swapMates.length > 0 && (
            <chakra.div display="flex" gap="6px">
              <Choice
                value={swap}
                aria-label="Lead to change over with"
                minHeight="34px"
                fontSize="14px"
                onChange={(x) => setSwap(x.target.value)}
              >
                <option value="">change over with …</option>
                {swapMates.map((m) => (
                  <option key={m.id} value={m.id}>
                    {rows.find((r) => r.wire === m.id)?.label} {m.name}
                  </option>
                ))}
              </Choice>
              <Small
                disabled={!swapMates.some((m) => m.id === swap)}
                onClick={() => {
                  onFaults({ ...faults, swapped: [...faults.swapped, [e.id, swap]] });
                  setSwap('');
                }}
              >
                Change over
              </Small>
            </chakra.div>
          )}
        </>
      )}
    </chakra.section>
  );
}

/** The faults that are put in, each to be mended. */
export function FaultList({ harness, faults, onFaults }: { harness: Harness; faults: Faults; onFaults: (f: Faults) => void }) {
  const name = (id: string) => harness.elements.find((e) => e.id === id)?.name ?? id;
  const list: [string, () => void][] = [
    ...faults.blown.map((id): [string, () => void] => [
      `${name(id)}: pulled`,
      () => onFaults({ ...faults, blown: faults.blown.filter((x) => x !== id) }),
    ]),
    ...faults.open.map((id): [string, () => void] => [
      `${name(id)}: open`,
      () => onFaults({ ...faults, open: faults.open.filter((x) => x !== id) }),
    ]),
    ...Object.keys(faults.corroded).map((id): [string, () => void] => [
      `${name(id)}: corroded`,
      () => onFaults({ ...faults, corroded: Object.fromEntries(Object.entries(faults.corroded).filter(([k]) => k !== id)) }),
    ]),
    ...faults.swapped.map((pair): [string, () => void] => [
      `${name(pair[0])} changed over with ${name(pair[1])}`,
      () => onFaults({ ...faults, swapped: faults.swapped.filter((x) => x !== pair) }),
    ]),
  ];
  if (!list.length) return null;
  return (
    <chakra.section aria-label="Faults put in" borderWidth="1px" borderColor="fails" borderRadius="kadro" p="8px 10px" fontSize="14px">
      <chakra.h3 fontSize="14px" mb="4px" color="fails">
        Faults put in, here only
      </chakra.h3>
      {list.map(([text, mend]) => (
        <chakra.div key={text} display="flex" justifyContent="space-between" gap="8px" alignItems="center">
          <span>{text}</span>
          <Small look="quiet" onClick={mend}>
            Mend
          </Small>
        </chakra.div>
      ))}
    </chakra.section>
  );
}
