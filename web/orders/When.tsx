import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { BODIES, type Body } from '#core/archetype/body';
import { makeSheet } from '#core/archetype/make-sheet';
import { mayFit } from '#core/order/fit';
import { givenAt, type Soonest } from '#core/shop/soonest';
import { call, offered, queries, type ApiError } from '../app/api';
import { usePerson } from '../app/context';
import { draftKey } from '../app/kept';
import { writeKept } from '../app/storage';
import { Act, Choice, Labelled, ServerAct } from '../app/ui';
import { toLocal } from '../order/arrive/fields';
import { promise } from '../order/words';
import { NO_UNIT } from './begun';
import { KINDS } from './NewUnit';

const BODY = 'body ';
const iso = (ms: number) => new Date(ms).toISOString();
/** Minutes as a desk says them. */
const showMinutes = (m: number): string =>
  m < 100 ? `${Math.max(5, Math.round(m / 5) * 5)} min` : `${(Math.round(m / 30) / 2).toLocaleString('en')} h`;

/** A unit that nobody has a sheet for, while nothing but its body is known. */
const begunOf = (body: Body, year: number) => ({ body: body.id, maker: 'Unknown', name: body.name, year, figures: {} });

/** The desk’s question: what, on what, and when could it be ready? The answer becomes an order. */
export function When() {
  const sheets = useQuery(queries.sheets).data;
  const floor = useQuery(queries.floor).data;
  const navigate = useNavigate();
  const me = usePerson().id;
  const [unit, setUnit] = useState('');
  const [kits, setKits] = useState<string[]>([]);
  const body = unit.startsWith(BODY) ? BODIES.find((b) => b.id === unit.slice(BODY.length)) : undefined;
  const model = sheets?.models.find((m) => m.ref.id === unit)?.sheet;
  const year = new Date().getFullYear();
  const asked = useMemo(
    () =>
      body
        ? makeSheet(begunOf(body, year), { at: new Date(0).toISOString(), by: 'nobody' })
        : sheets?.models.find((m) => m.ref.id === unit)?.sheet,
    [body, unit, sheets, year],
  );
  const fitting = useMemo(
    () => (asked ? offered(sheets?.kits).filter((k) => mayFit(k.sheet, asked, Math.min(asked.years.to, year), asked.builds[0]!.id)) : []),
    [sheets, asked, year],
  );
  const kind = asked?.kind;
  const ask = useMutation<Soonest, ApiError>({
    mutationFn: () =>
      call('/api/when', {
        json: {
          kits,
          ...(body ? { begun: begunOf(body, year) } : { model: unit, build: model!.builds[0]!.id }),
        },
      }),
  });
  const change = (to: () => void) => {
    to();
    ask.reset();
  };
  const who = (id: string) => {
    const o = floor?.orders.find((x) => x.id === id);
    return o ? `${o.summary.owner} (${o.number})` : 'another owner';
  };
  const take = (day: number) => {
    writeKept(draftKey(me, 'new-order'), {
      ...(body ? { model: '+', unit: { ...NO_UNIT, body: body.id }, build: 'as-it-stands' } : { model: unit, build: model!.builds[0]!.id }),
      year: model ? String(Math.min(model.years.to, year)) : String(year),
      promised: toLocal(iso(givenAt(day))),
      kits,
    });
    writeKept(draftKey(me, 'new-order-key'), null);
    navigate('/orders/new');
  };
  const a = ask.data;
  return (
    <chakra.main
      height="100%"
      overflowY="auto"
      p="20px 24px"
      display="grid"
      gridTemplateColumns="minmax(340px, 1fr) minmax(360px, 1.2fr)"
      gap="28px"
      alignContent="start"
    >
      <chakra.div>
        <chakra.h1 fontSize="26px" mb="12px">
          When could I have it?
        </chakra.h1>
        <Labelled label="Unit" id="when-unit">
          <Choice id="when-unit" value={unit} onChange={(e) => change(() => (setUnit(e.target.value), setKits([])))}>
            <option value="">choose …</option>
            <optgroup label="In the sheets">
              {offered(sheets?.models).map((m) => (
                <option key={m.ref.id} value={m.ref.id}>
                  {m.sheet.maker} {m.sheet.name}
                </option>
              ))}
            </optgroup>
            <optgroup label="Nobody has a sheet: the body nearest to it">
              {BODIES.map((b) => (
                <option key={b.id} value={`${BODY}${b.id}`}>
                  {KINDS[b.kind]}: {b.name}
                </option>
              ))}
            </optgroup>
          </Choice>
        </Labelled>
        {kind && (
          <chakra.fieldset border="0" p={0} mt="14px">
            <chakra.legend fontWeight={600}>Kits</chakra.legend>
            <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="4px 12px" mt="6px">
              {fitting.map((k) => (
                <chakra.label key={k.ref.id} display="flex" alignItems="center" gap="8px" minH="40px" lineHeight="1.2">
                  <input
                    type="checkbox"
                    style={{ width: 20, height: 20, flex: 'none' }}
                    checked={kits.includes(k.ref.id)}
                    onChange={(e) => change(() => setKits(e.target.checked ? [...kits, k.ref.id] : kits.filter((x) => x !== k.ref.id)))}
                  />
                  {k.sheet.name}
                </chakra.label>
              ))}
            </chakra.div>
          </chakra.fieldset>
        )}
        <chakra.div mt="16px">
          <ServerAct look="main" disabled={!kind || !kits.length || ask.isPending} onClick={() => ask.mutate()}>
            {ask.isPending ? 'Looking …' : 'When could it be ready?'}
          </ServerAct>
        </chakra.div>
      </chakra.div>
      <chakra.div aria-live="polite">
        {ask.error && (
          <chakra.p role="alert" color="fails">
            {ask.error.message}
          </chakra.p>
        )}
        {!a && !ask.error && (
          <chakra.p color="quiet">
            Say the unit and its kits. The answer is the day that holds with everything already promised kept, from the shop’s own times,
            people and bays.
          </chakra.p>
        )}
        {a && (
          <chakra.div>
            <chakra.p fontSize="18px" color="quiet">
              Ready by
            </chakra.p>
            <chakra.p fontSize="34px" fontWeight={700} lineHeight="1.2">
              {a.day === null ? 'not within six weeks' : promise(iso(givenAt(a.day)))}
            </chakra.p>
            <chakra.p mt="4px">
              holds {Math.round(100 * a.chance)} times in 100, with every other promise kept
              {a.likely !== null && `; likely ${promise(iso(givenAt(a.likely)))}`}.
            </chakra.p>
            <chakra.p mt="10px">
              Work: {showMinutes(a.minutes.p10)} to {showMinutes(a.minutes.p90)}, likely {showMinutes(a.minutes.p50)}.
            </chakra.p>
            {a.day !== null && (
              <chakra.div mt="12px">
                <Act look="main" onClick={() => take(a.day!)}>
                  Take it in with this promise
                </Act>
              </chakra.div>
            )}
            {a.first && (
              <chakra.div mt="22px" borderTopWidth="1px" borderColor="rule" pt="12px">
                <b>Sooner</b>
                <chakra.p>
                  Before all others: {a.first.day === null ? 'not within six weeks either' : promise(iso(givenAt(a.first.day)))}
                  {a.first.slips.length
                    ? `. Then the promise to ${a.first.slips.map(who).join(', ')} no longer holds: call first.`
                    : ', and no other promise slips.'}
                </chakra.p>
                {a.first.day !== null && (
                  <chakra.div mt="8px">
                    <Act onClick={() => take(a.first!.day!)}>Take it in with that one</Act>
                  </chakra.div>
                )}
              </chakra.div>
            )}
          </chakra.div>
        )}
      </chakra.div>
    </chakra.main>
  );
}
