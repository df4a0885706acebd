import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import { Search } from 'lucide-react';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate, useNavigationType, useSearchParams } from 'react-router';
import { queries } from '../app/api';
import { useKeys } from '../app/keys';
import { Entry } from '../app/ui';
import { promise, STATION_WORD } from '../order/words';

/** Every order, open or sealed: one search line over unit, owner, kit, number and all that was recorded; results as a log. */
export function Orders() {
  const [params, setParams] = useSearchParams();
  const [text, setText] = useState(params.get('q') ?? '');
  const q = useDeferredValue(text.trim());
  const { data, error, isFetching } = useQuery(queries.search(q));
  const input = useRef<HTMLInputElement>(null);
  const location = useLocation();
  const navigate = useNavigate();
  const [at, setAt] = useState(-1);
  const how = useNavigationType();
  const asked = params.get('q') ?? '';
  useEffect(() => {
    input.current?.focus();
    // a link or a step back says what to look for; our own rewriting of the address does not
    if (how !== 'REPLACE') setText(asked);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when one arrives here
  }, [location.key]);
  // the address follows what is typed, so that a reload or a copied link finds the same
  const type = (t: string) => {
    setText(t);
    setAt(-1);
    setParams(t.trim() ? { q: t.trim() } : {}, { replace: true });
  };
  const list = data ?? [];
  useKeys({
    j: () => setAt(Math.min(list.length - 1, at + 1)),
    k: () => setAt(Math.max(0, at - 1)),
    Enter: () => list[at] && navigate(`/orders/${list[at].id}/log`),
    '/': () => input.current?.focus(),
  });
  return (
    <chakra.main height="100%" overflowY="auto" p="20px">
      <chakra.h1 fontSize="26px" mb="12px">
        Orders
      </chakra.h1>
      <chakra.div position="relative" mb="8px">
        <chakra.span position="absolute" left="14px" top="15px" color="quiet">
          <Search size={20} aria-hidden />
        </chakra.span>
        <Entry
          ref={input}
          value={text}
          onChange={(e) => type(e.target.value)}
          aria-label="Search orders"
          placeholder="Unit, owner, kit, number, or anything that was recorded"
          pl="44px"
          minHeight="50px"
          fontSize="18px"
          maxLength={200}
        />
      </chakra.div>
      <chakra.p color="quiet" mb="8px" role="status">
        {error ? (
          <chakra.span color="fails">{error.message}</chakra.span>
        ) : isFetching && !data ? (
          'Searching …'
        ) : q ? (
          `${list.length} ${list.length === 1 ? 'order' : 'orders'} found`
        ) : (
          'The latest first'
        )}
      </chakra.p>
      <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
        {list.map((o, i) => (
          <chakra.li key={o.id} borderBottomWidth="1px" borderColor="rule" bg={i === at ? 'accentWash' : undefined}>
            <Link to={`/orders/${o.id}/${o.status === 'sealed' ? 'log' : o.summary.station}`}>
              <chakra.span
                display="grid"
                gridTemplateColumns="60px 200px 90px minmax(0, 1fr) 170px"
                gap="14px"
                py="9px"
                px="6px"
                minH="44px"
                _hover={{ bg: 'raised' }}
              >
                <chakra.span fontFamily="mono">{o.number}</chakra.span>
                <b>{o.summary.unitName}</b>
                <span>{o.summary.owner}</span>
                <chakra.span color="quiet" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                  {o.summary.kits.map((k) => k.name).join(', ') || 'no kit yet'}
                </chakra.span>
                <chakra.span textAlign="right" color={o.status === 'sealed' ? 'quiet' : 'ink'}>
                  {o.status === 'sealed'
                    ? `sealed ${format(new Date(o.updatedAt), 'd MMM yyyy')}`
                    : `${STATION_WORD[o.summary.station]}, ${promise(o.promisedAt)}`}
                </chakra.span>
                {(o.matches ?? []).map((m, k) => (
                  <chakra.span key={k} gridColumn="2 / -1" fontSize="15px">
                    <chakra.span color="quiet" fontFamily="mono">
                      {format(new Date(m.at), 'd MMM HH:mm')} {m.by}
                    </chakra.span>{' '}
                    {m.says}
                  </chakra.span>
                ))}
              </chakra.span>
            </Link>
          </chakra.li>
        ))}
      </chakra.ul>
    </chakra.main>
  );
}
