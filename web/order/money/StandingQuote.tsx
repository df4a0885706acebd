import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { OrderMoney, QuotedOption } from '#model/money';
import { Act, FileLink, ReasonDialog } from '../../app/ui';
import { useOrder } from '../useOrder';
import { promise, sayDay } from '../words';
import { AgreeDialog } from './AgreeDialog';
import { OptionColumn, OptionColumns } from './OptionColumn';

/** A quote as it was given: its options side by side, who agreed, and what may be done with it. `onAnew`: left out, nothing may. */
export function StandingQuote({ quote, onAnew }: { quote: OrderMoney['quotes'][number]; onAnew: (() => void) | undefined }) {
  const { order, ask } = useOrder();
  const money = order.money!;
  const { agreed } = money;
  const [asking, setAsking] = useState<{ option: QuotedOption | null; yes: boolean } | null>(null);
  const [withdrawing, setWithdrawing] = useState(false);
  const mine = agreed?.revision === quote.revision;
  const declined = money.declined.find((d) => d.revision === quote.revision);
  return (
    <>
      <chakra.p color="quiet" mb="10px">
        Quote {quote.revision}, made {promise(quote.at)}, stands until {sayDay(quote.until)}.{' '}
        {quote.basis === 'fixed' ? 'The price is fixed.' : `Work is billed by its time, up to ${quote.overrun} more.`}
        {declined && !mine && ` Declined by ${declined.name}${declined.reason ? `: ${declined.reason}` : ''}.`}
        {quote.note && ` ${quote.note}`}
      </chakra.p>
      <OptionColumns n={quote.options.length}>
        {quote.options.map((o) => (
          <OptionColumn key={o.id} option={o} currency={quote.currency} on={mine && agreed?.option === o.id}>
            {mine && agreed?.option === o.id ? (
              <chakra.p mt="8px" fontWeight={700} color="holds">
                Agreed by {agreed.name}, {promise(agreed.at)}
              </chakra.p>
            ) : (
              !mine &&
              onAnew && (
                <Act mt="8px" width="100%" onClick={() => setAsking({ option: o, yes: true })}>
                  They agree to this
                </Act>
              )
            )}
          </OptionColumn>
        ))}
      </OptionColumns>
      <chakra.div display="flex" flexWrap="wrap" gap="8px" mt="14px">
        <FileLink href={`/api/orders/${order.id}/quote.pdf`} target="_blank">
          On paper
        </FileLink>
        <FileLink href={`/api/orders/${order.id}/quote.csv`} download>
          As rows
        </FileLink>
        {onAnew && <Act onClick={onAnew}>Quote anew</Act>}
        {onAnew && !mine && (
          <>
            <Act look="quiet" onClick={() => setAsking({ option: null, yes: false })}>
              They decline
            </Act>
            <Act look="quiet" onClick={() => setWithdrawing(true)}>
              Withdraw it
            </Act>
          </>
        )}
      </chakra.div>
      {asking && (
        <AgreeDialog
          title={
            asking.option ? `${asking.option.name}, ${asking.option.totals.gross} ${quote.currency}` : `Quote ${quote.revision} is declined`
          }
          yes={asking.yes}
          owner={order.owner}
          onClose={() => setAsking(null)}
          onDone={({ how, name, strokes, reason }) => {
            void ask(
              asking.option
                ? { type: 'quote.agreed', revision: quote.revision, option: asking.option.id, how, name, strokes }
                : { type: 'quote.declined', revision: quote.revision, name, reason },
            );
            setAsking(null);
          }}
        />
      )}
      <ReasonDialog
        open={withdrawing}
        title={`Quote ${quote.revision} is withdrawn`}
        text="The owner’s page shows it no more."
        action="Withdraw"
        onClose={() => setWithdrawing(false)}
        onReason={(reason) => {
          void ask({ type: 'quote.withdrawn', revision: quote.revision, reason });
          setWithdrawing(false);
        }}
      />
    </>
  );
}
