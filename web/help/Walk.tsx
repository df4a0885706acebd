import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { queries } from '../app/api';
import { useAbout, usePerson } from '../app/context';
import { readKept, writeKept } from '../app/storage';
import { Act } from '../app/ui';
import { WALK, walkOrder } from './walk';

/**
 * The walk through an order, in a bar below the screen that covers nothing: begun from the help, or offered once to who is here
 * for the first time in the demo; left at any moment.
 */
export function Walk({ at, onAt }: { at: number | null; onAt: (at: number | null) => void }) {
  const navigate = useNavigate();
  const seen = `walk.${usePerson().id}`;
  const [asked, setAsked] = useState(() => readKept(seen, false));
  const { demo } = useAbout();
  const order = walkOrder(useQuery(queries.floor).data?.orders ?? []);
  const leave = () => {
    writeKept(seen, true);
    setAsked(true);
    onAt(null);
  };
  const go = (i: number) => {
    const stop = WALK[i];
    if (!stop || !order) return leave();
    writeKept(seen, true);
    setAsked(true);
    onAt(i);
    void navigate(stop.station ? `/orders/${order}/${stop.station}` : '/floor');
  };
  if (at === null && (asked || !demo || !order)) return null;
  const stop = at === null ? null : WALK[at]!;
  return (
    <chakra.aside
      aria-label="A walk through an order"
      display="flex"
      alignItems="center"
      gap="12px"
      px="16px"
      py="6px"
      minH="60px"
      bg="accentWash"
      borderTopWidth="3px"
      borderColor="accent"
    >
      <chakra.p flex="1" aria-live="polite">
        {stop ? (
          <>
            <chakra.b fontFamily="mono">
              {at! + 1}/{WALK.length}
            </chakra.b>{' '}
            {stop.says}
          </>
        ) : (
          'First time here? Walk through an order in two minutes. It can be left at any moment, and is found again under Help.'
        )}
      </chakra.p>
      <Act look="main" minHeight="48px" onClick={() => go(at === null ? 0 : at + 1)}>
        {at === null ? 'Walk through' : at === WALK.length - 1 ? 'That is all' : 'Next'}
      </Act>
      <Act minHeight="48px" onClick={leave}>
        {at === null ? 'Not now' : 'Leave'}
      </Act>
    </chakra.aside>
  );
}
