import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import { billOf, NoBill } from '#core/money/bill';
import { may } from '#core/people/permissions';
import { usePerson } from '../../app/context';
import { Act, FileLink, Sheet } from '../../app/ui';
import { useOrder } from '../useOrder';
import { promise } from '../words';
import { PriceLines, Sum } from './PriceLines';

/** What is owed: what was agreed, and what was agreed besides. */
export function BillTab() {
  const { order, assessment, record } = useOrder();
  const person = usePerson();
  const bill = order.money?.bill ?? null;
  // what a bill made now would be
  const now = useMemo(() => {
    try {
      return { bill: billOf(order, assessment), why: '' };
    } catch (e) {
      if (e instanceof NoBill) return { bill: null, why: e.message };
      throw e;
    }
  }, [order, assessment]);
  const mayBill = may(person.role, 'bill.made') && order.status !== 'cancelled';
  const same =
    bill && now.bill && bill.totals.gross === now.bill.totals.gross && JSON.stringify(bill.left) === JSON.stringify(now.bill.left);
  const shown = bill ?? now.bill;
  return (
    <>
      {!shown && <chakra.p mb="10px">{now.why}</chakra.p>}
      {shown && (
        <Sheet maxW="640px">
          <chakra.p color="quiet">
            {bill
              ? `Bill ${order.number}-${bill.revision}, made ${promise(bill.at)}. ${bill.paid ? `Paid ${promise(bill.paid.at)}.` : 'Owing.'}`
              : 'As it would be made now.'}
          </chakra.p>
          <chakra.p my="4px">
            <Sum of={shown.totals.gross} currency={shown.currency} size="28px" />
          </chakra.p>
          <PriceLines lines={shown.lines} taxes={shown.taxes} totals={shown.totals} currency={shown.currency} />
        </Sheet>
      )}
      {shown?.left.map((l) => (
        <chakra.p key={l} color="tightText" mt="6px">
          {l}
        </chakra.p>
      ))}
      {bill && now.bill && !same && !bill.paid && (
        <chakra.p role="status" mt="8px">
          Since it was made, what is owed has become {now.bill.totals.gross} {now.bill.currency}.
        </chakra.p>
      )}
      <chakra.div display="flex" flexWrap="wrap" gap="8px" mt="12px">
        {mayBill && now.bill && !bill?.paid && !same && (
          <Act look="main" onClick={() => record({ type: 'bill.made' })}>
            {bill ? 'Make it anew' : 'Make the bill'}
          </Act>
        )}
        {bill && (
          <>
            <FileLink href={`/api/orders/${order.id}/bill.pdf`} target="_blank">
              On paper
            </FileLink>
            <FileLink href={`/api/orders/${order.id}/bill.csv`} download>
              For the books
            </FileLink>
            {mayBill && (
              <Act onClick={() => record({ type: 'bill.marked', paid: !bill.paid })}>
                {bill.paid ? 'Not paid after all' : 'Mark as paid'}
              </Act>
            )}
          </>
        )}
      </chakra.div>
      <chakra.p color="quiet" mt="10px" fontSize="14px">
        Nothing stands on it that was not agreed. Payment itself is made elsewhere.
      </chakra.p>
    </>
  );
}
