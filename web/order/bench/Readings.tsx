import { chakra } from '@chakra-ui/react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { parseQuantity, showQuantity, type QuantityKind, type UnitSystem } from '#core/quantity/quantity';
import { judgeReading } from '#core/plan/judge';
import type { PlannedReading, PlannedStep } from '#core/plan/planned';
import type { ReadingUnit } from '#model/kit';
import type { Expected } from '#model/reading';
import { useUnits } from '../../app/context';
import { useDraft } from '../../app/kept';
import { Act, Entry } from '../../app/ui';
import { VERDICT_COLOUR, VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';
import { Pad } from './Pad';

const KIND: Record<Exclude<ReadingUnit, 'yes'>, QuantityKind> = {
  V: 'volts',
  A: 'amps',
  ohm: 'ohms',
  mm: 'smallLength',
  N: 'force',
  perMin: 'rate',
};
const show = (x: number, unit: ReadingUnit, units: UnitSystem) =>
  unit === 'yes'
    ? x
      ? 'yes'
      : 'no'
    : unit === 'A' && Math.abs(x) < 1
      ? `${Number((x * 1000).toPrecision(3))} mA`
      : showQuantity(x, KIND[unit], units, 4);

export function expectedText(e: Expected, units: UnitSystem): string {
  if (e.unit === 'yes') return 'yes';
  if (e.low !== null && e.high !== null) return `${show(e.low, e.unit, units)} to ${show(e.high, e.unit, units)}`;
  return e.low !== null
    ? `at least ${show(e.low, e.unit, units)}`
    : e.high !== null
      ? `at most ${show(e.high, e.unit, units)}`
      : 'not known';
}

/** The readings of a step, one in hand at a time: what is expected stands before it is taken, and it is judged at once. */
export function Readings({ step, sealed }: { step: PlannedStep; sealed: boolean }) {
  const { order } = useOrder();
  const taken = order.steps[step.id]?.readings ?? {};
  const firstOpen = step.readings.find((r) => !taken[r.id] || judgeReading(taken[r.id]!.value, r.expected) === 'fails') ?? null;
  const [picked, setPicked] = useState<string | null>(null);
  const inHand = step.readings.find((r) => r.id === picked) ?? firstOpen;
  const done = Object.keys(taken).length;
  useEffect(() => setPicked(null), [step.id, done]);
  return (
    <chakra.div display="grid" gap="10px">
      {step.readings.map((r) => (
        <ReadingRow
          key={r.id}
          step={step}
          reading={r}
          inHand={inHand?.id === r.id && !sealed}
          sealed={sealed}
          onPick={() => setPicked(r.id)}
        />
      ))}
    </chakra.div>
  );
}

function ReadingRow({
  step,
  reading,
  inHand,
  sealed,
  onPick,
}: {
  step: PlannedStep;
  reading: PlannedReading;
  inHand: boolean;
  sealed: boolean;
  onPick: () => void;
}) {
  const { order, record } = useOrder();
  const units = useUnits();
  const { expected } = reading;
  const taken = order.steps[step.id]?.readings[reading.id];
  const verdict = taken ? judgeReading(taken.value, expected) : null;
  const take = (value: number) => record({ type: 'reading.taken', step: step.id, reading: reading.id, value });
  const figureAsked = expected.unit !== 'yes';
  const what = (
    <chakra.div flex="1" minW="180px">
      <chakra.p fontWeight={700}>{reading.label}</chakra.p>
      {figureAsked && (
        <p>
          <chakra.span color="quiet">expected</chakra.span>{' '}
          <chakra.span fontFamily="mono" fontWeight={600}>
            {expectedText(expected, units)}
          </chakra.span>
          <chakra.span display="block" fontSize="15px" color="quiet">
            {expected.why}
          </chakra.span>
        </p>
      )}
    </chakra.div>
  );
  const judged = (
    <>
      {figureAsked && taken && (
        <chakra.span fontFamily="mono" fontSize="44px" lineHeight="1" fontWeight={600} color={VERDICT_COLOUR[verdict!]}>
          {show(taken.value, expected.unit, units)}
        </chakra.span>
      )}
      {verdict && <VerdictMark verdict={verdict} word size={28} />}
    </>
  );
  const frame = { borderWidth: '1px', borderRadius: 'kadro', bg: 'raised', p: '10px 16px' } as const;
  if (inHand && figureAsked)
    return (
      <chakra.div {...frame} borderColor="accent">
        <TakeReading
          key={`${step.id}/${reading.id}`}
          draftKey={`${order.id}.${step.id}.${reading.id}`}
          label={reading.label}
          expected={expected}
          onTake={take}
          what={what}
          judged={judged}
        />
      </chakra.div>
    );
  return (
    <chakra.div {...frame} borderColor={inHand ? 'accent' : 'rule'} display="flex" gap="16px" alignItems="center" flexWrap="wrap">
      {what}
      {!figureAsked && (
        <chakra.div display="flex" gap="8px">
          {[1, 0].map((v) => (
            <Act key={v} big on={taken?.value === v} aria-pressed={taken?.value === v} disabled={sealed} onClick={() => take(v)}>
              {v ? 'Yes' : 'No'}
            </Act>
          ))}
        </chakra.div>
      )}
      {judged}
      {taken && figureAsked && !sealed && (
        <Act onClick={onPick} minHeight="48px">
          Read again
        </Act>
      )}
    </chakra.div>
  );
}

function TakeReading({
  draftKey,
  label,
  expected,
  onTake,
  what,
  judged,
}: {
  draftKey: string;
  label: string;
  expected: Expected;
  onTake: (v: number) => boolean;
  what: ReactNode;
  judged: ReactNode;
}) {
  const [draft, setDraft] = useDraft(draftKey);
  const [error, setError] = useState<string | null>(null);
  const units = useUnits();
  const input = useRef<HTMLInputElement>(null);
  const kind = KIND[expected.unit as Exclude<ReadingUnit, 'yes'>];
  const text = draft ?? '';
  let live: ReturnType<typeof judgeReading> | null = null;
  try {
    if (text.trim()) live = judgeReading(parseQuantity(text, kind, units), expected);
  } catch {
    live = null;
  }
  const take = () => {
    try {
      const value = parseQuantity(text, kind, units);
      if (Math.abs(value) > 100_000) throw new Error('no meter reads that far');
      if (onTake(Number(value.toPrecision(6)))) {
        setDraft(null);
        setError(null);
      }
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <chakra.div display="flex" gap="20px" flexWrap="wrap" alignItems="flex-start" data-reading>
      <chakra.div flex="1" minW="200px">
        {what}
        <chakra.div display="flex" alignItems="center" gap="12px" mt="8px">
          <Entry
            ref={input}
            id="reading-in-hand"
            aria-label={label}
            value={text}
            fontFamily="mono"
            fontSize="44px"
            height="72px"
            inputMode="decimal"
            autoComplete="off"
            placeholder="0.0"
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
            A bare number is in{' '}
            {kind === 'volts'
              ? 'volts'
              : kind === 'amps'
                ? 'amperes (or say mA)'
                : kind === 'force'
                  ? units === 'imperial'
                    ? 'lbf'
                    : 'N'
                  : kind === 'smallLength'
                    ? units === 'imperial'
                      ? 'inches'
                      : 'mm'
                    : kind === 'rate'
                      ? 'flashes per minute'
                      : 'ohms'}
            .
          </chakra.p>
        )}
        <chakra.div display="flex" gap="12px" alignItems="center" mt="8px">
          {judged}
        </chakra.div>
      </chakra.div>
      <Pad
        text={text}
        onText={(t) => {
          setDraft(t || null);
          setError(null);
        }}
        onEnter={take}
      />
    </chakra.div>
  );
}
