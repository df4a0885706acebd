import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { HOW_WORD, restsOnAssumed } from '#core/known/pointer';
import type { Measure, Question } from '#core/known/study';
import { openValue, valued } from '#core/known/values';
import type { Station } from '#model/order';
import { useUnits } from '../../app/context';
import { Act, Sheet } from '../../app/ui';
import { TakeFigure } from '../bench/TakeFigure';
import { useOrder } from '../useOrder';
import { EACH, KIND, shown } from './shown';
import { useStudy } from './useStudy';

/** How open questions of a station stand, in a sentence. */
function says(questions: readonly Question[]): string {
  const open = questions.filter((q) => q.open);
  if (!questions.length) return '';
  if (!open.length) return 'What is said here comes out the same whatever it is.';
  const first = open.slice(0, 2).map((q) => `${q.name} would do on ${Math.round(q.share * 100)} of 100 such units`);
  return `${first.join('; ')}${open.length > 2 ? `; ${open.length - 2} more are open` : ''}.`;
}

/** What a station’s answer rests on where the unit is known only by its kind, and what to measure next. */
export function Rests({ station }: { station?: Station }) {
  const { order, given, record } = useOrder();
  const units = useUnits();
  const { study, stale } = useStudy();
  const [taking, setTaking] = useState<string | null>(null);
  if (!restsOnAssumed(given.model)) return null;
  const open = order.status === 'open';
  const taken = Object.entries(order.values ?? {}).flatMap(([p, v]) => {
    const of = openValue(valued(given.model, order.unit.build, order.values), p);
    return of ? [{ ...of, ...v }] : [];
  });
  const band = (m: Measure) => `${shown(m.spread[0], m.unit, units)} to ${shown(m.spread[1], m.unit, units)}`;
  return (
    <Sheet aria-label="What this rests on" mb="14px" p="10px 14px">
      <p>
        <b>Known only by its kind.</b>{' '}
        {study ? `${study.assumed} values are assumed. ${station ? says(study.questions.filter((q) => q.station === station)) : ''}` : ''}
        {open && (!study || stale) ? ' Working out what would settle most…' : ''}
      </p>
      {open && study && !stale && !study.next.length && <p>Enough is known: nothing that could be measured would change an answer.</p>}
      {open && study && study.next.length > 0 && (
        <chakra.div display="flex" flexWrap="wrap" gap="8px" mt="8px" alignItems="center">
          <chakra.span color="quiet">Measure next</chakra.span>
          {study.next.map((m) => (
            <Act
              key={m.pointer}
              minHeight="48px"
              whiteSpace="normal"
              textAlign="left"
              on={taking === m.pointer}
              aria-expanded={taking === m.pointer}
              data-measure={m.pointer}
              onClick={() => setTaking(taking === m.pointer ? null : m.pointer)}
            >
              {m.name}, {Math.round(m.minutesNow)} min
            </Act>
          ))}
        </chakra.div>
      )}
      {study?.next
        .filter((m) => m.pointer === taking)
        .map((m) => (
          <chakra.div key={m.pointer} mt="10px">
            <TakeFigure
              draftKey={`${order.id}.value${m.pointer}`}
              id="value-in-hand"
              label={m.name}
              kind={KIND[m.unit]}
              most={m.spread[1] / (EACH[m.unit] ?? 1)}
              sight={null}
              what={
                <>
                  <p>{m.says}.</p>
                  <chakra.p color="quiet" fontSize="15px">
                    To be expected: {band(m)}
                    {m.off.length ? `. First off: ${m.off.join(', ')}` : ''}.
                  </chakra.p>
                </>
              }
              onTake={(v) => {
                if (v === null) return false;
                const done = record({ type: 'value.taken', pointer: m.pointer, value: Number((v * (EACH[m.unit] ?? 1)).toPrecision(6)) });
                if (done) setTaking(null);
                return done;
              }}
            />
          </chakra.div>
        ))}
      {taken.length > 0 && (
        <chakra.ul listStyleType="none" p={0} mt="8px" display="flex" flexWrap="wrap" gap="4px 14px" fontSize="15px">
          {taken.map((t) => (
            <li key={t.pointer}>
              {t.name}: <chakra.span fontFamily="mono">{shown(t.value, t.unit, units)}</chakra.span>, {HOW_WORD[t.how]} by {t.by}
              {open && (
                <Act look="quiet" minHeight="36px" onClick={() => record({ type: 'value.dropped', pointer: t.pointer })}>
                  Not so
                </Act>
              )}
            </li>
          ))}
        </chakra.ul>
      )}
    </Sheet>
  );
}
