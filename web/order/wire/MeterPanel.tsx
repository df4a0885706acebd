import { chakra } from '@chakra-ui/react';
import { Crosshair } from 'lucide-react';
import { useMemo } from 'react';
import type { Meter } from '#core/harness/simulate';
import type { Harness } from '#model/harness';
import { Act, Choice } from '../../app/ui';
import { readout } from './readout';

const MODES: [Meter['mode'], string][] = [
  ['volts', 'V'],
  ['amps', 'A in series'],
  ['ohms', 'Ω, battery off'],
];

/** Two probes: where each touches, and what the meter will read. */
export function MeterPanel({
  harness,
  meter,
  reading,
  probing,
  onMeter,
  onProbing,
}: {
  harness: Harness;
  meter: Meter;
  reading: number | null;
  probing: boolean;
  onMeter: (m: Meter) => void;
  onProbing: (on: boolean) => void;
}) {
  const points = useMemo(() => harness.nodes.filter((n) => n.kind !== 'inner').sort((a, b) => a.label.localeCompare(b.label)), [harness]);
  const probe = (key: 'plus' | 'minus', label: string, colour: string) => (
    <chakra.label display="grid" gridTemplateColumns="14px minmax(0, 1fr)" gap="8px" alignItems="center">
      <chakra.span
        width="14px"
        height="14px"
        borderRadius="50%"
        borderWidth="1px"
        borderColor="quiet"
        style={{ background: colour }}
        aria-hidden
      />
      <Choice
        value={meter[key]}
        aria-label={label}
        minHeight="34px"
        fontSize="14px"
        onChange={(e) => onMeter({ ...meter, [key]: e.target.value })}
      >
        <option value="">touches nothing</option>
        {points.map((n) => (
          <option key={n.id} value={n.id}>
            {n.label}
          </option>
        ))}
      </Choice>
    </chakra.label>
  );
  return (
    <chakra.section
      aria-label="Meter"
      borderWidth="1px"
      borderColor={probing ? 'accent' : 'rule'}
      borderRadius="kadro"
      bg="raised"
      p="10px"
      display="grid"
      gap="6px"
    >
      <chakra.div display="flex" justifyContent="space-between" alignItems="center" gap="8px">
        <chakra.output fontFamily="mono" fontSize="30px" lineHeight="1.1" aria-label="Reading" data-reading>
          {!meter.plus || !meter.minus
            ? '– – –'
            : meter.plus === meter.minus
              ? readout(meter.mode, 0)
              : reading === null
                ? '…'
                : readout(meter.mode, reading)}
        </chakra.output>
        <Act
          onClick={() => onProbing(!probing)}
          on={probing}
          aria-pressed={probing}
          px="10px"
          minHeight="36px"
          title="Touch two points on the schematic (p)"
        >
          <Crosshair size={17} aria-hidden /> Probe
        </Act>
      </chakra.div>
      <chakra.div display="flex" gap="4px" role="group" aria-label="Meter set to">
        {MODES.map(([m, word]) => (
          <Act
            key={m}
            on={meter.mode === m}
            aria-pressed={meter.mode === m}
            onClick={() => onMeter({ ...meter, mode: m })}
            minHeight="30px"
            px="8px"
            fontSize="14px"
            flex="1"
          >
            {word}
          </Act>
        ))}
      </chakra.div>
      {probe('plus', 'Red probe', '#c62f24')}
      {probe('minus', 'Black probe', '#1c1c1c')}
      {probing && (
        <chakra.p fontSize="14px" color="quiet">
          Touch {!meter.plus ? 'a point with the red probe' : !meter.minus ? 'another with the black one' : 'a point to begin again'}.
        </chakra.p>
      )}
    </chakra.section>
  );
}
