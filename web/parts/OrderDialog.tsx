import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { SupplyRow } from '#core/supply/allocate';
import { orderLine, sumOfAnswers } from '#core/supply/order-line';
import type { SupplierAnswer } from '#model/supply';
import { call, queries, type ApiError } from '../app/api';
import { useAbout, useUnits } from '../app/context';
import { Entry, FormDialog, Labelled } from '../app/ui';
import { sayDay } from '../order/words';
import { amountWord } from './say-parts';

/** Lines that are seen without scrolling. */
const FITS = 6;

/** An order to the supplier, once more read before it is sent. */
export function OrderDialog({
  lines,
  onClose,
  onDone,
}: {
  lines: readonly { r: SupplyRow; amount: number }[];
  onClose: () => void;
  onDone: () => void;
}) {
  const { standIns } = useAbout();
  const client = useQueryClient();
  const units = useUnits();
  const currency = useQuery(queries.settings).data?.settings.currency ?? '';
  // the same order however often it is pressed
  const [id] = useState(() => crypto.randomUUID());
  const [day, setDay] = useState('');
  const body = lines.map(({ r, amount }) => orderLine(r, amount));
  const quote = useQuery({
    queryKey: ['supply', 'quote', JSON.stringify(body)],
    queryFn: () => call<SupplierAnswer[]>('/api/supply/quote', { json: { lines: body } }),
    enabled: standIns,
  });
  const send = useMutation<unknown, ApiError>({
    mutationFn: () => call('/api/purchases', { json: { id, lines: body, day: day || null } }),
    onSuccess: async () => {
      await Promise.all(['purchases', 'supply', 'week'].map((k) => client.invalidateQueries({ queryKey: [k] })));
      onDone();
    },
  });
  const answers = quote.data ?? [];
  return (
    <FormDialog
      open
      title="Order from the supplier"
      action="Order them"
      ready={!send.isPending}
      onClose={onClose}
      onDone={() => send.mutate()}
    >
      <chakra.ul listStyleType="none" p={0} maxH="320px" overflowY="auto" tabIndex={lines.length > FITS ? 0 : undefined}>
        {lines.map(({ r, amount }) => {
          const a = answers.find((x) => x.item === r.item);
          const comes = a?.comes.reduce((s, c) => s + c.amount, 0) ?? amount;
          return (
            <chakra.li key={r.item} display="flex" gap="10px" minH="32px" borderTopWidth="1px" borderColor="rule" py="4px">
              <chakra.span fontFamily="mono" flex="none" minW="64px" textAlign="right">
                {amountWord(comes, r.unit, units)}
              </chakra.span>
              <chakra.span flex="1">
                {r.name}
                {comes > amount && <chakra.span color="quiet"> (sold by the pack; {amountWord(amount, r.unit, units)} wanted)</chakra.span>}
              </chakra.span>
              {a && (
                <chakra.span textAlign="right" flex="none">
                  <chakra.span fontFamily="mono">{a.price}</chakra.span>{' '}
                  <chakra.span color="quiet">{sayDay(a.comes.at(-1)!.day)}</chakra.span>
                </chakra.span>
              )}
            </chakra.li>
          );
        })}
      </chakra.ul>
      {answers.length > 0 && currency && (
        <chakra.p mt="8px" fontWeight={600}>
          {sumOfAnswers(answers, currency)} {currency} in all, as the supplier says.
        </chakra.p>
      )}
      {!standIns && (
        <Labelled id="comes-on" label="It comes on, as you were told; leave it empty while nobody knows">
          <Entry id="comes-on" type="date" value={day} onChange={(e) => setDay(e.target.value)} />
        </Labelled>
      )}
      {(send.error ?? quote.error) && (
        <chakra.p role="alert" color="fails" mt="6px">
          {(send.error ?? quote.error)!.message}
        </chakra.p>
      )}
    </FormDialog>
  );
}
