import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { OwnersView } from '#core/order/owners-view';
import { Act, Labelled, Lines } from '../app/ui';
import { Card, type Say } from './parts';
import { inShop } from '../app/place';

/** What was asked and answered, and one question more. */
export function Questions({ view, link, busy, ask }: { view: OwnersView; link: string; busy: boolean; ask: Say }) {
  const [text, setText] = useState('');
  return (
    <Card label="Questions">
      <chakra.h2 fontSize="19px">Questions</chakra.h2>
      {view.questions.map((q) => (
        <chakra.div key={q.id} borderTopWidth="1px" borderColor="rule" py="8px">
          <b>{q.text}</b>
          {q.answer ? (
            <>
              {q.answer.photo && (
                <chakra.img
                  src={inShop(`/api/owner/${link}/photos/${q.answer.photo}`)}
                  alt={`To: ${q.text}`}
                  width="100%"
                  borderRadius="kadro"
                  my="6px"
                />
              )}
              <p>{q.answer.text}</p>
            </>
          ) : (
            <chakra.p color="quiet" fontSize="15px">
              Sent {q.at}. The answer stands here.
            </chakra.p>
          )}
        </chakra.div>
      ))}
      <Labelled label="Ask the shop" id="ask">
        <Lines id="ask" value={text} maxLength={600} onChange={(e) => setText(e.target.value)} />
      </Labelled>
      <Act
        mt="8px"
        minHeight="48px"
        disabled={busy || !text.trim()}
        onClick={() => void ask({ do: 'ask', text: text.trim() }).then((done) => done && setText(''))}
      >
        Send
      </Act>
    </Card>
  );
}
