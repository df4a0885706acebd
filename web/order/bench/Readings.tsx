import { chakra } from '@chakra-ui/react';
import { useEffect, useMemo, useState } from 'react';
import { sightOf } from '#core/fault/sight';
import { judgeReading } from '#core/plan/judge';
import { REST_STEP } from '#core/plan/steps';
import { MUST, type PlannedReading, type PlannedStep } from '#core/plan/planned';
import { sayInUnits } from '#core/quantity/quantity';
import { expectedText, QUANTITY, showReading } from '#core/quantity/reading-units';
import type { ReadingUnit } from '#model/kit';
import type { Origin } from '#model/origin';
import { useAbout, useUnits } from '../../app/context';
import { useKeys } from '../../app/keys';
import { readKept } from '../../app/storage';
import { Act } from '../../app/ui';
import { VERDICT_COLOUR, VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';
import { TakeFigure } from './TakeFigure';
import { useMeter } from './useMeter';

/** The readings of a step, one in hand at a time: what is expected stands before it is taken, and it is judged at once. */
export function Readings({
  step,
  sealed,
  later = false,
}: {
  step: PlannedStep;
  sealed: boolean;
  /** another step of the card is read first */
  later?: boolean;
}) {
  const { order } = useOrder();
  const taken = order.steps[step.id]?.readings ?? {};
  // what may be left out waits until it is asked for
  const isOpen = (r: PlannedReading) => !taken[r.id] || judgeReading(taken[r.id]!.value, r.expected) === 'fails';
  const firstOpen = step.readings.find((r) => !r.optional && isOpen(r)) ?? null;
  const [picked, setPicked] = useState<string | null>(null);
  const inHand = step.readings.find((r) => r.id === picked) ?? firstOpen;
  const done = Object.keys(taken).length;
  useEffect(() => setPicked(null), [step.id, done]);
  return (
    <chakra.div display="grid" gap="10px">
      {[...step.readings]
        .sort((a, b) => Number(!a.optional) - Number(!b.optional))
        .map((r) => (
          <ReadingRow
            key={r.id}
            step={step}
            reading={r}
            inHand={inHand?.id === r.id && !sealed && !later}
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
  const { order, assessment, record } = useOrder();
  const units = useUnits();
  const { expected } = reading;
  const taken = order.steps[step.id]?.readings[reading.id];
  const verdict = taken ? judgeReading(taken.value, expected) : null;
  // a step is done with the last reading that it waits for, when that holds
  const take = (value: number, origin: Origin) =>
    record({ type: 'reading.taken', step: step.id, reading: reading.id, value, origin, go: true });
  const figureAsked = expected.unit !== 'yes';
  const sight = useMemo(
    () => sightOf(assessment.wiring.harness, step, reading, assessment.wiring.circuits),
    [assessment.wiring, step, reading],
  );
  const simulated = useAbout().standIns && order.trial !== null;
  const answer = (v: 0 | 1) => (inHand && !figureAsked && !sealed ? () => void take(v, { how: 'typed' }) : undefined);
  useKeys({ y: answer(1), '1': answer(1), n: answer(0), '0': answer(0) });
  const seen = useMeter(order.id, inHand && !figureAsked ? sight : null, simulated && readKept('bench.meter', false)).sample;
  const what = (
    <chakra.div flex="1" minW="180px">
      <chakra.p fontWeight={700}>
        {sayInUnits(reading.label, units)}
        {reading.optional && (
          <chakra.span color="quiet" fontWeight={400}>
            {', if you can'}
          </chakra.span>
        )}
      </chakra.p>
      {!figureAsked && expected.why !== MUST && (
        <chakra.p fontSize="15px" color="quiet">
          {sayInUnits(expected.why, units)}
        </chakra.p>
      )}
      {figureAsked && (
        <p>
          <chakra.span color="quiet">expected</chakra.span>{' '}
          <chakra.span fontFamily="mono" fontWeight={600}>
            {expectedText(expected, units)}
          </chakra.span>
          <chakra.span display="block" fontSize="15px" color="quiet">
            {sayInUnits(expected.why, units)}
          </chakra.span>
        </p>
      )}
    </chakra.div>
  );
  const judged = verdict && (
    <>
      {figureAsked && (
        <chakra.span fontFamily="mono" fontSize="44px" lineHeight="1" fontWeight={600} color={VERDICT_COLOUR[verdict]}>
          {showReading(taken!.value, expected.unit, units)}
        </chakra.span>
      )}
      <VerdictMark verdict={verdict} word size={28} />
    </>
  );
  const frame = { borderWidth: '1px', borderRadius: 'kadro', bg: 'raised', p: '10px 16px' } as const;
  if (inHand && figureAsked)
    return (
      <chakra.div {...frame} borderColor="accent">
        <TakeFigure
          key={`${step.id}/${reading.id}`}
          draftKey={`${order.id}.${step.id}.${reading.id}`}
          label={reading.label}
          kind={QUANTITY[expected.unit as Exclude<ReadingUnit, 'yes'>]}
          most={expected.high}
          judge={(v) => judgeReading(v, expected)}
          known={
            step.id === REST_STEP && order.restVolts !== null
              ? { value: order.restVolts, says: `Still ${showReading(order.restVolts, 'V', units)}, as at Arrive` }
              : undefined
          }
          sight={sight}
          onTake={(v, origin) => {
            if (v === null) throw new Error('This reading is a figure: type it.');
            return take(v, origin);
          }}
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
            <Act
              key={v}
              big
              on={taken?.value === v}
              aria-pressed={taken?.value === v}
              disabled={sealed}
              onClick={() => take(v, { how: 'typed' })}
            >
              {v ? 'Yes' : 'No'}
            </Act>
          ))}
        </chakra.div>
      )}
      {seen && (
        <chakra.span fontSize="15px" color="quiet">
          the stand-in unit: {seen.value ? 'as it should' : 'not so'}
        </chakra.span>
      )}
      {judged}
      {(taken || reading.optional) && figureAsked && !sealed && (
        <Act onClick={onPick} minHeight="48px">
          {taken ? 'Read again' : 'Read it'}
        </Act>
      )}
    </chakra.div>
  );
}
