import { chakra } from '@chakra-ui/react';
import type { OwnersView } from '#core/order/owners-view';
import { Act } from '../app/ui';
import { Agree, Card, PriceOf, type Say } from './parts';
import { inShop } from '../app/place';

/** Something that turned up, to agree to or leave. `open`: it may still be answered. */
export function ExtraCard({
  e,
  link,
  owner,
  busy,
  ask,
  open,
}: {
  e: OwnersView['extras'][number];
  link: string;
  owner: string;
  busy: boolean;
  ask: Say;
  open: boolean;
}) {
  return (
    <Card label={e.title}>
      <chakra.p color="quiet" fontSize="15px">
        Turned up while working
      </chakra.p>
      <chakra.h2 fontSize="19px">{e.title}</chakra.h2>
      {e.photo && (
        <chakra.img src={inShop(`/api/owner/${link}/photos/${e.photo}`)} alt={e.title} width="100%" borderRadius="kadro" my="8px" />
      )}
      <p>{e.why}</p>
      <PriceOf of={e} currency={e.currency} />
      {e.answer ? (
        <p>
          <b>{e.answer.yes ? 'You agreed' : 'You declined'}</b> ({e.answer.name}).
        </p>
      ) : (
        open && (
          <>
            <chakra.p fontSize="15px" color="quiet">
              It is done only if you agree.
            </chakra.p>
            <Agree
              id={`extra-${e.id}`}
              owner={owner}
              action="Agree"
              busy={busy}
              onYes={(name) => void ask({ do: 'answer', extra: e.id, yes: true, name })}
            />
            <Act
              width="100%"
              minHeight="48px"
              mt="8px"
              disabled={busy}
              onClick={() => void ask({ do: 'answer', extra: e.id, yes: false, name: owner })}
            >
              Leave it as it is
            </Act>
          </>
        )
      )}
    </Card>
  );
}
