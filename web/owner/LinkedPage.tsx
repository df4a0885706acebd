import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useParams } from 'react-router';
import type { OwnersView } from '#core/order/owners-view';
import { call, type ApiError } from '../app/api';
import { ExtraCard } from './ExtraCard';
import { Card, Page, PriceOf, type Say } from './parts';
import { Questions } from './Questions';
import { QuotePart } from './QuotePart';
import { SheetPart } from './SheetPart';

/** How often it looks for news, ms. */
const LOOK_MS = 30_000;

/** The page of a unit’s owner, on their telephone: what is done, when it is ready, what it costs, and what to ask. */
export function LinkedPage() {
  const { link } = useParams();
  const client = useQueryClient();
  const path = `/api/owner/${link}`;
  const key = ['owner', link];
  const {
    data: view,
    error,
    isPending,
  } = useQuery<OwnersView, ApiError>({
    queryKey: key,
    queryFn: ({ signal }) => call(path, { signal }),
    // what is gone stays gone
    refetchInterval: (q) => (q.state.error?.status === 404 ? false : LOOK_MS),
  });
  const say = useMutation<OwnersView, ApiError, Record<string, unknown>>({
    mutationFn: (said) => call(path, { json: said }),
    onSuccess: (now) => client.setQueryData(key, now),
    // what it was refused for may be new here
    onError: () => void client.invalidateQueries({ queryKey: key }),
  });
  useEffect(() => {
    if (view) document.title = `${view.unit}, ${view.shop}`;
  }, [view]);
  if (!view)
    return (
      <Page>
        <chakra.h1 fontSize="22px">
          {isPending ? 'One moment …' : error?.status === 404 ? 'Nothing is here' : 'That did not work'}
        </chakra.h1>
        {error && <p>{error.message}</p>}
      </Page>
    );
  const ask: Say = async (said) =>
    say.mutateAsync(said).then(
      () => true,
      () => false,
    );
  const answerable = view.state !== 'over' && view.state !== 'cancelled';
  const extras = (answered: boolean) =>
    view.extras
      .filter((e) => (e.answer !== null) === answered)
      .map((e) => <ExtraCard key={e.id} e={e} link={link!} owner={view.owner} busy={say.isPending} ask={ask} open={answerable} />);
  return (
    <Page>
      <chakra.p color="quiet" fontSize="15px">
        {view.shop}
        {view.trial && <chakra.b color="tightText"> · {view.trial === 'demo' ? 'Demonstration' : 'Practice'}</chakra.b>}
      </chakra.p>
      <chakra.h1 fontSize="26px" lineHeight="1.15">
        {view.unit}
      </chakra.h1>
      <chakra.p color="quiet" fontSize="15px" mb="10px">
        Order {view.number} for {view.owner}
        {view.identity && (
          <>
            {' · '}
            <chakra.span fontFamily="mono" fontSize="14px">
              {view.identity}
            </chakra.span>
          </>
        )}
      </chakra.p>
      <Card>
        <chakra.p fontSize="19px" fontWeight={700}>
          {view.says}
        </chakra.p>
        {view.promised && (
          <p>
            {view.late ? 'It was promised for ' : 'Ready: '}
            <b>{view.promised}</b>
            {view.late && '. It takes longer: ask, or telephone the shop.'}
          </p>
        )}
        {view.kits.length > 0 && <chakra.p color="quiet">{view.kits.join(', ')}</chakra.p>}
      </Card>
      {say.error && (
        <chakra.p role="alert" color="fails" mb="10px" fontWeight={600}>
          {say.error.message}
        </chakra.p>
      )}
      {extras(false)}
      <QuotePart view={view} busy={say.isPending} ask={ask} />
      {extras(true)}
      {view.bill && (
        <Card label="Bill">
          <chakra.h2 fontSize="19px">{view.bill.paid ? 'Paid' : 'To pay'}</chakra.h2>
          <PriceOf of={view.bill} currency={view.bill.currency} />
        </Card>
      )}
      {view.sheet && <SheetPart sheet={view.sheet} />}
      <Questions view={view} link={link!} busy={say.isPending} ask={ask} />
    </Page>
  );
}
