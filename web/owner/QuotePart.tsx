import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { OwnersView } from '#core/order/owners-view';
import { Act, Labelled, Lines } from '../app/ui';
import { VerdictMark } from '../marks/VerdictMark';
import { Agree, Card, PriceOf, type Say } from './parts';

/** The quote that stands, to agree to or decline; or what was agreed. */
export function QuotePart({ view, busy, ask }: { view: OwnersView; busy: boolean; ask: Say }) {
  const { quote, agreed } = view;
  const [declining, setDeclining] = useState(false);
  const [why, setWhy] = useState('');
  if (agreed && (!quote || quote.revision === agreed.revision))
    return (
      <Card label="Agreed">
        <chakra.h2 fontSize="19px">Agreed: {agreed.name}</chakra.h2>
        {quote ? (
          <PriceOf of={quote.options.find((o) => o.id === agreed.option)!} currency={agreed.currency} />
        ) : (
          <chakra.p fontFamily="mono">
            {agreed.gross} {agreed.currency}
          </chakra.p>
        )}
        <chakra.p color="quiet" fontSize="15px">
          By {agreed.by}, {agreed.at}
        </chakra.p>
      </Card>
    );
  if (!quote) return null;
  return (
    <>
      {quote.options.map((o) => (
        <Card key={o.id} label={o.name}>
          <chakra.h2 fontSize="19px">
            {quote.options.length > 1 && `${o.id.toUpperCase()}: `}
            {o.name}
          </chakra.h2>
          <PriceOf of={o} currency={quote.currency} />
          <chakra.p fontSize="15px">{o.kits.join(', ')}</chakra.p>
          {o.judged.map((j) => (
            <chakra.p key={j.says} fontSize="15px" display="flex" gap="8px" mt="4px">
              <VerdictMark verdict={j.verdict} size={20} />
              <span>{j.says}.</span>
            </chakra.p>
          ))}
          {!quote.overdue && !quote.declined && (
            <Agree
              id={`agree-${o.id}`}
              owner={view.owner}
              action={quote.options.length > 1 ? `Agree to ${o.id.toUpperCase()}` : 'Agree'}
              busy={busy}
              onYes={(name) => void ask({ do: 'agree', revision: quote.revision, option: o.id, name })}
            />
          )}
        </Card>
      ))}
      <Card>
        <p>
          {quote.overdue
            ? `This quote stood until ${quote.until}. Ask for a new one.`
            : `It stands until ${quote.until}. ${
                quote.basis === 'fixed'
                  ? 'The price is fixed.'
                  : `Work is billed by its time, up to ${quote.overrun} more than stands here; beyond that you are asked first.`
              }`}
        </p>
        {quote.note && <chakra.p mt="6px">{quote.note}</chakra.p>}
        {quote.declined && <chakra.p mt="6px">Declined by {quote.declined.name}.</chakra.p>}
        {!quote.overdue &&
          !quote.declined &&
          (declining ? (
            <chakra.div mt="8px">
              <Labelled label="Why, if you want to say" id="decline-why">
                <Lines id="decline-why" value={why} maxLength={300} onChange={(e) => setWhy(e.target.value)} />
              </Labelled>
              <chakra.div display="flex" gap="8px" mt="8px">
                <Act minHeight="48px" onClick={() => setDeclining(false)}>
                  Not yet
                </Act>
                <Act
                  minHeight="48px"
                  disabled={busy}
                  onClick={() => void ask({ do: 'decline', revision: quote.revision, name: view.owner, reason: why })}
                >
                  I decline
                </Act>
              </chakra.div>
            </chakra.div>
          ) : (
            <Act look="quiet" minHeight="48px" onClick={() => setDeclining(true)}>
              I do not want this
            </Act>
          ))}
      </Card>
    </>
  );
}
