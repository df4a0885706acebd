import { chakra } from '@chakra-ui/react';
import { Gauge } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import type { Sight } from '#core/fault/sight';
import { unsay } from '#core/quantity/spoken';
import { parseQuantity, type QuantityKind } from '#core/quantity/quantity';
import type { Verdict } from '#model/common';
import type { Origin } from '#model/origin';
import { useAbout, useUnits } from '../../app/context';
import { useDraft } from '../../app/kept';
import { readKept, writeKept } from '../../app/storage';
import { Act, Entry } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';
import { OPEN_WORD, padUnits, withUnit } from './figures';
import { Pad } from './Pad';
import { useMeter } from './useMeter';

const OPEN = /^(ol|open|inf|infinite|∞)$/i;
/** Whether the meter on this bench is switched on: it stays so from reading to reading. */
const METER_ON = 'bench.meter';
/** What the record calls the stand-in. */
const METER_NAME = 'simulated bench meter';

/** A figure taken from an instrument: typed on the pad, said with its unit, or streamed from the bench meter. */
export function TakeFigure({
  draftKey,
  id = 'reading-in-hand',
  label,
  kind,
  most = null,
  judge,
  known,
  sight,
  onTake,
  what,
  judged,
  aside,
}: {
  draftKey: string;
  id?: string;
  label: string;
  kind: QuantityKind;
  /** the most that is expected, which tells the usual unit */
  most?: number | null;
  judge?: (value: number) => Verdict;
  /** a figure that was read before and may still stand, with where it is from */
  known?: { value: number; says: string } | undefined;
  /** where the meter’s probes are; null for what no meter reads */
  sight: Sight | null;
  /** `null`: the meter shows an open way. Answers whether it was taken. */
  onTake: (value: number | null, origin: Origin) => boolean;
  what: ReactNode;
  judged?: ReactNode;
  /** under the pad */
  aside?: ReactNode;
}) {
  const { order } = useOrder();
  const [draft, setDraft] = useDraft(draftKey);
  const [error, setError] = useState<string | null>(null);
  const [on, setOn] = useState(() => readKept(METER_ON, false));
  const units = useUnits();
  const pad = padUnits(kind, units, most);
  // a stand-in for a meter is there only where no customer's unit stands
  const metered = useAbout().standIns && order.trial !== null;
  const { sample, trouble } = useMeter(order.id, sight, metered && on && sight !== null);
  const streamed = draft === null && sample ? sample : null;
  const text = draft ?? '';
  const value = (): number | null => {
    if (streamed) return streamed.value;
    if (kind === 'ohms' && OPEN.test(text.trim())) return null;
    return parseQuantity(withUnit(text, kind, pad), kind, units);
  };
  let live: Verdict | null = null;
  try {
    const v = text.trim() || streamed ? value() : null;
    live = v !== null && judge ? judge(v) : null;
  } catch {
    live = null;
  }
  const take = () => {
    try {
      const v = value();
      if (v !== null && Math.abs(v) > 100_000 && kind !== 'ohms') throw new Error('no meter reads that far');
      const origin: Origin = streamed ? { how: 'simulated', meter: METER_NAME } : { how: unsay(text) === text ? 'typed' : 'spoken' };
      if (onTake(v === null ? null : Number(v.toPrecision(6)), origin)) {
        setDraft(null);
        setError(null);
      }
    } catch (e) {
      setError((e as Error).message);
    }
  };
  useEffect(() => setError(null), [label]);
  const shown = streamed ? (streamed.value === null ? 'open' : asTyped(streamed.value, kind)) : text;
  return (
    <chakra.div display="flex" gap="20px" flexWrap="wrap" alignItems="flex-start" data-reading={draftKey}>
      <chakra.div flex="1" minW="200px">
        {what}
        <chakra.div display="flex" alignItems="center" gap="12px" mt="8px">
          <Entry
            id={id}
            aria-label={label}
            value={shown}
            fontFamily="mono"
            fontSize="44px"
            height="72px"
            inputMode="decimal"
            autoComplete="off"
            placeholder={metered && on && sight && !trouble ? '. . .' : '0.0'}
            color={streamed && !streamed.steady ? 'quiet' : undefined}
            aria-invalid={error ? true : undefined}
            onChange={(e) => {
              setDraft(e.target.value || null);
              setError(null);
            }}
            onKeyDown={(e) => e.key === 'Enter' && take()}
          />
          <VerdictMark verdict={live} size={36} />
        </chakra.div>
        {error ? (
          <chakra.p role="alert" color="fails" mt="6px">
            {error}
          </chakra.p>
        ) : (
          <chakra.p color="quiet" fontSize="15px" mt="6px">
            {streamed
              ? streamed.steady
                ? 'From the simulated meter, steady.'
                : 'From the simulated meter, settling…'
              : trouble
                ? 'The meter does not answer: type the figure.'
                : `A number alone is in ${pad[0]}.`}
          </chakra.p>
        )}
        <chakra.div display="flex" gap="12px" alignItems="center" mt="8px" flexWrap="wrap">
          {sight && metered && (
            <Act
              on={on}
              aria-pressed={on}
              minHeight="48px"
              title="Take figures from the simulated bench meter"
              onClick={() => {
                setOn(!on);
                writeKept(METER_ON, !on);
                setDraft(null);
              }}
            >
              <Gauge size={20} aria-hidden /> Simulated meter
            </Act>
          )}
          {known && !text && !judged && (
            <Act minHeight="48px" onClick={() => onTake(known.value, { how: 'typed' })}>
              {known.says}
            </Act>
          )}
          {judged}
        </chakra.div>
      </chakra.div>
      <chakra.div>
        <Pad
          text={text}
          units={pad}
          {...(kind === 'ohms' && { word: OPEN_WORD })}
          onText={(t) => {
            setDraft(t || null);
            setError(null);
          }}
          onEnter={take}
        />
        {aside}
      </chakra.div>
    </chakra.div>
  );
}

/** A streamed figure as it would be typed. */
const asTyped = (v: number, kind: QuantityKind): string =>
  kind === 'amps' && Math.abs(v) < 1
    ? `${Number((v * 1000).toFixed(1))} mA`
    : kind === 'ohms' && v >= 1000
      ? `${Number((v / 1000).toFixed(2))} kΩ`
      : String(Number(v.toFixed(2)));
