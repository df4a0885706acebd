import { capital } from '#core/words';
import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import { Download, Search, X } from 'lucide-react';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate, useNavigationType, useSearchParams } from 'react-router';
import { MARKS } from '#core/events/marks';
import { queries } from '../app/api';
import { useKeys } from '../app/keys';
import { Act, Choice, Entry, FileLink } from '../app/ui';
import { promise, STATION_WORD } from '../order/words';

const PAGE = 30;
const MOST = 300;
const FILTERS = ['kit', 'model', 'by', 'mark', 'from', 'to'] as const;
type Filter = (typeof FILTERS)[number];

/** Every order, open or sealed: one search line over all that was recorded, and what else must be so; results as a log. */
export function Orders() {
  const [params, setParams] = useSearchParams();
  const [text, setText] = useState(params.get('q') ?? '');
  const filters = Object.fromEntries(FILTERS.flatMap((f) => (params.get(f) ? [[f, params.get(f)!]] : []))) as Partial<
    Record<Filter, string>
  >;
  const [limit, setLimit] = useState(PAGE);
  const asked = useDeferredValue(
    new URLSearchParams({ limit: String(limit), ...(text.trim() && { q: text.trimStart() }), ...filters }).toString(),
  );
  const { data, error, isFetching } = useQuery({ ...queries.search(asked), placeholderData: keepPreviousData });
  const input = useRef<HTMLInputElement>(null);
  const location = useLocation();
  const navigate = useNavigate();
  const [at, setAt] = useState(-1);
  const how = useNavigationType();
  const q = params.get('q') ?? '';
  useEffect(() => {
    // a link or a step back says what to look for; our own rewriting of the address takes neither words nor the cursor
    if (how === 'REPLACE') return;
    input.current?.focus();
    setText(q);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when one arrives here
  }, [location.key]);
  // the address follows what is asked, so that a reload or a copied link finds the same
  const ask = (next: { q?: string } & Partial<Record<Filter, string>>) => {
    setAt(-1);
    setLimit(PAGE);
    const all = { q: text.trim(), ...filters, ...next };
    setParams(Object.fromEntries(Object.entries(all).filter(([, v]) => v)), { replace: true });
  };
  const type = (t: string) => {
    setText(t);
    ask({ q: t.trim() });
  };
  const list = data ?? [];
  const narrowed = text.trim() !== '' || Object.keys(filters).length > 0;
  useKeys({
    j: () => setAt(Math.min(list.length - 1, at + 1)),
    k: () => setAt(Math.max(0, at - 1)),
    Enter: () => list[at] && navigate(`/orders/${list[at].id}/log`),
    '/': () => input.current?.focus(),
  });
  return (
    <chakra.main height="100%" overflowY="auto" p="20px">
      <chakra.div display="flex" alignItems="center" gap="16px" mb="12px">
        <chakra.h1 fontSize="26px" flex="1">
          Orders
        </chakra.h1>
        <FileLink href={`/api/orders.csv?${asked}`} download="orders.csv">
          <Download size={18} aria-hidden /> CSV
        </FileLink>
      </chakra.div>
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
      <Narrow filters={filters} onAsk={ask} />
      <chakra.p color="quiet" mb="8px" role="status">
        {error ? (
          <chakra.span color="fails">{error.message}</chakra.span>
        ) : isFetching && !data ? (
          'Searching …'
        ) : narrowed ? (
          `${list.length === limit ? `The latest ${limit}` : list.length} ${list.length === 1 ? 'order' : 'orders'} found`
        ) : (
          'The latest first'
        )}
      </chakra.p>
      <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
        {list.map((o, i) => (
          <chakra.li key={o.id} borderBottomWidth="1px" borderColor="rule" bg={i === at ? 'accentWash' : undefined}>
            <Link to={`/orders/${o.id}/${o.status !== 'open' ? 'log' : o.summary.station}`}>
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
                <chakra.span
                  color="quiet"
                  overflow="hidden"
                  textOverflow="ellipsis"
                  whiteSpace="nowrap"
                  title={o.summary.kits.map((k) => k.name).join(', ')}
                >
                  {o.summary.kits.map((k) => k.name).join(', ') || 'no kit yet'}
                </chakra.span>
                <chakra.span textAlign="right" color={o.status === 'open' ? 'ink' : 'quiet'}>
                  {o.status !== 'open'
                    ? `${o.status} ${format(new Date(o.updatedAt), 'd MMM yyyy')}`
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
      {list.length === limit && limit < MOST && (
        <Act mt="12px" onClick={() => setLimit(MOST)}>
          Earlier ones too
        </Act>
      )}
    </chakra.main>
  );
}

/** What else must be so: kit, model, who worked on it, what happened, and when it was opened. */
function Narrow({ filters, onAsk }: { filters: Partial<Record<Filter, string>>; onAsk: (next: Partial<Record<Filter, string>>) => void }) {
  const sheets = useQuery(queries.sheets).data;
  const people = useQuery(queries.people).data ?? [];
  const pick = (f: Filter, label: string, options: [string, string][]) => (
    <Choice
      aria-label={label}
      value={filters[f] ?? ''}
      width="auto"
      maxW="168px"
      fontSize="15px"
      onChange={(e) => onAsk({ [f]: e.target.value })}
    >
      <option value="">{label}</option>
      {options.map(([id, word]) => (
        <option key={id} value={id}>
          {word}
        </option>
      ))}
    </Choice>
  );
  const day = (f: 'from' | 'to', label: string) => (
    <chakra.label display="inline-flex" alignItems="center" gap="6px" color="quiet">
      {label}
      <Entry type="date" width="142px" fontSize="15px" value={filters[f] ?? ''} onChange={(e) => onAsk({ [f]: e.target.value })} />
    </chakra.label>
  );
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="8px" alignItems="center" mb="10px" role="group" aria-label="Narrow the search">
      {pick(
        'mark',
        'Anything that happened',
        Object.entries(MARKS).map(([id, word]) => [id, capital(word)]),
      )}
      {pick(
        'kit',
        'Any kit',
        (sheets?.kits ?? []).map((k) => [k.ref.id, k.sheet.name]),
      )}
      {pick(
        'model',
        'Any model',
        (sheets?.models ?? []).map((m) => [m.ref.id, `${m.sheet.maker} ${m.sheet.name}`]),
      )}
      {pick(
        'by',
        'Anyone’s work',
        people.filter((p) => p.role !== 'desk').map((p) => [p.id, p.name]),
      )}
      {day('from', 'Opened from')}
      {day('to', 'to')}
      {Object.keys(filters).length > 0 && (
        <Act look="quiet" onClick={() => onAsk(Object.fromEntries(FILTERS.map((f) => [f, ''])))}>
          <X size={18} aria-hidden /> All of them
        </Act>
      )}
    </chakra.div>
  );
}
