import { chakra } from '@chakra-ui/react';
import { useSearchParams } from 'react-router';
import { agreedOption, alteredSinceAgreed, beyondAgreed } from '#core/money/order-quote';
import { owedAnswers } from '#core/order/owed-answers';
import { NO_MONEY } from '#model/money';
import { Tabs } from '../Tabs';
import { sayDay } from '../words';
import { useOrder } from '../useOrder';
import { BillTab } from './BillTab';
import { ExtrasTab } from './ExtrasTab';
import { OwnerTab } from './OwnerTab';
import { QuoteTab } from './QuoteTab';

const TABS = [
  ['quote', 'Quote'],
  ['extras', 'Turned up'],
  ['owner', 'Owner’s page'],
  ['bill', 'Bill'],
] as const;
type Tab = (typeof TABS)[number][0];

/** What the order costs, who agreed to what, and what is owed. */
export function Money() {
  const { order, sheets } = useOrder();
  const [params, setParams] = useSearchParams();
  const asked = params.get('see');
  const on: Tab = TABS.find(([t]) => t === asked)?.[0] ?? 'quote';
  const beyond = beyondAgreed(order, sheets);
  const altered = alteredSinceAgreed(order, sheets);
  const owed = owedAnswers(order);
  return (
    <>
      <chakra.h2 fontSize="22px" mb="4px">
        {sayMoney(order)}
      </chakra.h2>
      {beyond.length > 0 && (
        <chakra.p color="tightText" mb="6px">
          On the order and never agreed: {beyond.join(', ')}. It is not billed: quote anew, or ask for it under Turned up.
        </chakra.p>
      )}
      {altered.length > 0 && (
        <chakra.p color="tightText" mb="6px">
          Otherwise than agreed: {altered.join('. ')}. The bill stays as agreed: quote anew to change that.
        </chakra.p>
      )}
      <chakra.div mt="14px">
        <Tabs
          label="Price"
          tabs={TABS}
          on={on}
          onShow={(t) => setParams({ see: t }, { replace: true })}
          mark={{ ...(owed.extras && { extras: owed.extras }), ...(owed.questions && { owner: owed.questions }) }}
        />
      </chakra.div>
      {on === 'quote' && <QuoteTab />}
      {on === 'extras' && <ExtrasTab />}
      {on === 'owner' && <OwnerTab />}
      {on === 'bill' && <BillTab />}
    </>
  );
}

/** How an order stands with its owner, in a sentence. */
function sayMoney(order: ReturnType<typeof useOrder>['order']): string {
  const money = order.money ?? NO_MONEY;
  if (money.bill) return `${money.bill.paid ? 'Paid' : 'Owing'}: ${money.bill.totals.gross} ${money.bill.currency}`;
  const of = agreedOption(order);
  const newest = money.quotes.at(-1);
  if (of && newest?.revision === of.quote.revision)
    return `Agreed with ${money.agreed!.name}: ${of.option.name}, ${of.option.totals.gross} ${of.quote.currency}`;
  if (newest && !newest.withdrawn) {
    const sums = newest.options.map((o) => o.totals.gross).join(' or ');
    return `Quoted ${sums} ${newest.currency}, until ${sayDay(newest.until)}${of ? `. Quote ${of.quote.revision} stands agreed` : ''}`;
  }
  return 'No quote is given yet';
}
