import { chakra } from '@chakra-ui/react';
import { showQuantity, type UnitSystem } from '#core/quantity/quantity';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { afterPromise } from '#core/supply/delivered';
import { lastDay, sumOfAnswers } from '#core/supply/order-line';
import { shortNeeds, type Need } from '#core/plan/needs';
import { may } from '#core/people/permissions';
import { ApiError, call, queries } from '../../app/api';
import { useAbout, useOutbox, usePerson } from '../../app/context';
import { Act, Entry } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { promise, sayDay } from '../words';

const amount = (n: number, unit: Need['unit'], units: UnitSystem) => (unit === 'm' ? showQuantity(n, 'length', units) : String(n));

/** What the wiring uses up, beside the shelf; what is short, which circuits wait for it, and what a supplier says to it. */
export function Needs() {
  const { order, assessment, settings } = useOrder();
  const { units } = settings;
  const { wiring, needs } = assessment;
  const [whole, setWhole] = useState(false);
  const short = shortNeeds(needs);
  const { standIns } = useAbout();
  const asked = queries.quote(order.id, short.map((n) => `${n.id} ${n.short}`).join());
  const quotes = useQuery({ ...asked, enabled: standIns && short.length > 0 }).data ?? [];
  const box = assessment.fit.kits.flatMap((k) =>
    k.box.flatMap((b) => (b.counted !== null && b.counted < b.need ? [`${b.need - b.counted} × ${b.item} (${k.kit.name})`] : [])),
  );
  const day = lastDay(quotes);
  const late = day !== null && afterPromise(day, order.promisedAt, settings.timeZone);
  const uncounted = needs.filter((n) => n.have === null).length;
  const circuit = (id: string) => wiring.circuits.find((c) => c.id === id)?.circuit.name ?? id;
  // what there is enough of is seldom what one looks for
  const enough = needs.filter((n) => n.short === 0);
  const listed = [...short, ...needs.filter((n) => n.short === null), ...(whole ? enough : [])];
  if (!needs.length) return null;
  return (
    <>
      <H3>Parts and consumables</H3>
      <chakra.p mb="8px">
        {short.length || box.length ? (
          <>
            <b>
              {short.length + box.length} {short.length + box.length === 1 ? 'thing is' : 'things are'} short.
            </b>{' '}
            {box.length > 0 && `Missing in the box: ${box.join(', ')}. `}
            {day !== null &&
              `From the supplier for ${sumOfAnswers(quotes, settings.currency)} ${settings.currency}, here ${sayDay(day)}${late ? `: after the promise, ${promise(order.promisedAt)}` : ', before the promise'}. `}
            <Link to="/parts">
              <chakra.span textDecoration="underline">Parts</chakra.span>
            </Link>
          </>
        ) : uncounted ? (
          `Nothing is known to be short; ${uncounted} ${uncounted === 1 ? 'kind' : 'kinds'} of part nobody has counted yet.`
        ) : (
          'Everything is on the shelf.'
        )}
      </chakra.p>
      <chakra.table width="100%" fontSize="16px" maxW="860px">
        <thead>
          <chakra.tr color="quiet" fontSize="14px" textAlign="right">
            <th />
            <th />
            <chakra.th fontWeight={400}>needed</chakra.th>
            <chakra.th fontWeight={400}>on the shelf</chakra.th>
            <chakra.th fontWeight={400}>short</chakra.th>
            <chakra.th fontWeight={400} textAlign="left" pl="20px">
              waits for it
            </chakra.th>
          </chakra.tr>
        </thead>
        <tbody>
          {listed.map((n) => (
            <chakra.tr key={n.id} borderTopWidth="1px" borderColor="rule" textAlign="right" fontFamily="mono" data-need={n.id}>
              <chakra.td width="28px" textAlign="left">
                <VerdictMark verdict={n.short === null ? 'unknown' : n.short > 0 ? 'fails' : 'holds'} size={18} />
              </chakra.td>
              <chakra.th textAlign="left" fontWeight={400} fontFamily="body" py="6px">
                {n.name}
              </chakra.th>
              <td>{amount(n.need, n.unit, units)}</td>
              <td>{n.kind !== 'wire' ? <Count need={n} /> : n.have === null ? '?' : amount(n.have, n.unit, units)}</td>
              <chakra.td color={n.short ? 'fails' : 'quiet'}>
                {n.short ? amount(n.short, n.unit, units) : n.short === 0 ? '–' : '?'}
              </chakra.td>
              <chakra.td textAlign="left" fontFamily="body" pl="20px" color="quiet" fontSize="15px">
                {n.short ? n.circuits.map(circuit).join(', ') : ''}
              </chakra.td>
            </chakra.tr>
          ))}
        </tbody>
      </chakra.table>
      {enough.length > 0 && (
        <Act look="quiet" mt="4px" aria-expanded={whole} onClick={() => setWhole(!whole)}>
          {whole ? 'Only what is short or not counted' : `${enough.length} more, enough of each`}
        </Act>
      )}
    </>
  );
}

/** How many there are, counted where one stands. */
function Count({ need }: { need: Need }) {
  const client = useQueryClient();
  const outbox = useOutbox();
  const person = usePerson();
  const [text, setText] = useState<string | null>(null);
  // the count that was seen when typing began
  const [on, setOn] = useState<number | undefined>(undefined);
  const { settings } = useOrder();
  const version = settings.shelf.find((x) => x.id === need.id)?.version;
  const save = useMutation({
    mutationFn: (have: number) => call(`/api/shelf/${need.id}`, { method: 'PUT', json: { have, version: on ?? 0 } }),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['order'] });
      await client.invalidateQueries({ queryKey: ['settings'] });
      setText(null);
    },
    onError: async (e: Error) => {
      outbox.tell(e.message);
      if (e instanceof ApiError && e.body.stale) {
        setText(null);
        await client.invalidateQueries({ queryKey: ['order'] });
      }
    },
  });
  const keep = () => {
    if (text === null) return;
    const n = Number(text);
    if (text.trim() === '' || !Number.isInteger(n) || n < 0) {
      if (text.trim()) outbox.tell('Count whole ones, from 0.');
      setText(null);
    } else save.mutate(n);
  };
  return (
    <Entry
      aria-label={`${need.name} on the shelf`}
      value={text ?? need.have ?? ''}
      placeholder="count"
      inputMode="numeric"
      width="84px"
      minHeight="36px"
      textAlign="right"
      fontFamily="mono"
      disabled={!may(person.role, 'shelf.count')}
      onChange={(e) => {
        if (text === null) setOn(version);
        setText(e.target.value);
      }}
      onBlur={keep}
      onKeyDown={(e) => e.key === 'Enter' && keep()}
    />
  );
}
