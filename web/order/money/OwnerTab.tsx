import { chakra, QrCode } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, queries, type ApiError } from '../../app/api';
import { Photo, TakePhoto } from '../../app/Photo';
import { useDraft } from '../../app/kept';
import { Act, Lines, ServerAct, Sheet } from '../../app/ui';
import { H3 } from '../Station';
import { SentMessages } from './SentMessages';
import { useOrder } from '../useOrder';
import { dayWord, promise } from '../words';
import { inShop } from '../../app/place';

/** The owner’s page: its addresses, and what was asked on it. */
export function OwnerTab() {
  const { order } = useOrder();
  const questions = order.questions ?? [];
  return (
    <>
      <H3>Asked by the owner</H3>
      {!questions.length && <chakra.p color="quiet">Nothing yet. What is asked on the page stands here and on the floor.</chakra.p>}
      {[...questions].reverse().map((q) => (
        <Sheet key={q.id} mb="8px">
          <p>
            <chakra.span color="quiet">{promise(q.at)}</chakra.span> <b>{q.text}</b>
          </p>
          {q.answer ? (
            <chakra.div display="flex" gap="12px" mt="6px">
              {q.answer.photo && <Photo id={q.answer.photo} />}
              <p>
                {q.answer.text} <chakra.span color="quiet">{promise(q.answer.at)}</chakra.span>
              </p>
            </chakra.div>
          ) : (
            <AnswerForm id={q.id} />
          )}
        </Sheet>
      ))}
      <SentMessages />
      <H3>The owner’s page</H3>
      <Links />
    </>
  );
}

function AnswerForm({ id }: { id: string }) {
  const { order, record } = useOrder();
  const [text, setText] = useDraft(`answer.${order.id}.${id}`);
  const [photo, setPhoto] = useState<string | null>(null);
  return (
    <chakra.div mt="8px">
      <Lines
        aria-label="Your answer"
        minHeight="48px"
        value={text ?? ''}
        maxLength={600}
        onChange={(e) => setText(e.target.value || null)}
      />
      <chakra.div display="flex" gap="10px" mt="6px" alignItems="center">
        <TakePhoto onPhoto={setPhoto}>{photo ? 'Another picture' : 'A picture'}</TakePhoto>
        {photo && <Photo id={photo} held />}
        <Act
          look="main"
          disabled={!text?.trim()}
          onClick={() => record({ type: 'question.answered', id, text: text!.trim(), photo }) && setText(null)}
        >
          Answer
        </Act>
      </chakra.div>
    </chakra.div>
  );
}

function Links() {
  const { order } = useOrder();
  const client = useQueryClient();
  const { data: list = [], error } = useQuery(queries.ownerLinks(order.id));
  const after = () => client.invalidateQueries({ queryKey: ['owner-links', order.id] });
  const make = useMutation<{ id: string; path: string }, ApiError>({
    mutationFn: () => call(`/api/orders/${order.id}/links`, { json: {} }),
    onSettled: after,
  });
  const withdraw = useMutation<unknown, ApiError, string>({
    mutationFn: (id) => call(`/api/orders/${order.id}/links/${id}`, { method: 'DELETE' }),
    onSettled: after,
  });
  const trouble = error ?? make.error ?? withdraw.error;
  const made = make.data && list.some((l) => l.id === make.data.id) ? `${location.origin}${inShop(make.data.path)}` : null;
  return (
    <>
      <chakra.p color="quiet" mb="6px">
        Whoever has the address sees this order, agrees to quotes and asks. It is told once; withdrawn, it shows nothing.
      </chakra.p>
      {made && (
        <Sheet display="flex" gap="16px" alignItems="center" mb="10px" aria-label="The address">
          <QrCode.Root value={made} encoding={{ ecc: 'M' }} flex="none">
            <QrCode.Frame
              width="170px"
              height="170px"
              bg="white"
              role="img"
              aria-label="The address as a code to point a telephone at"
              css={{ '& path': { fill: 'black' } }}
            >
              <QrCode.Pattern />
            </QrCode.Frame>
          </QrCode.Root>
          <chakra.div minW={0}>
            <chakra.p fontWeight={700}>Point the owner’s telephone at it, or send it:</chakra.p>
            <chakra.p role="status" fontFamily="mono" fontSize="14px" overflowWrap="anywhere" data-part="owner-link">
              {made}
            </chakra.p>
          </chakra.div>
        </Sheet>
      )}
      {list.map((l) => (
        <chakra.div key={l.id} display="flex" gap="12px" alignItems="center" minH="40px">
          <chakra.span flex="1">
            Made {promise(l.at)} by {l.by}; {l.seen ? `looked at ${promise(l.seen)}` : 'not looked at yet'}; until{' '}
            {dayWord(new Date(l.expires))}
          </chakra.span>
          <Act look="quiet" disabled={withdraw.isPending} onClick={() => withdraw.mutate(l.id)}>
            Withdraw
          </Act>
        </chakra.div>
      ))}
      <ServerAct disabled={make.isPending} onClick={() => make.mutate()}>
        {list.length ? 'Make another address' : 'Make an address'}
      </ServerAct>
      {trouble && (
        <chakra.p role="alert" color="fails">
          {trouble.message}
        </chakra.p>
      )}
    </>
  );
}
