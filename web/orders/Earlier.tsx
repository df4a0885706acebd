import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import { Link } from 'react-router';
import { queries } from '../app/api';

/** Characters of a number or a name before orders are looked for. */
const LEAST = 3;
const MOST = 6;

/** What was done before to this unit, and for this owner: found by the number and the name as they stand. */
export function Earlier({ identity, owner, except }: { identity: string; owner: string; except?: string }) {
  const ofUnit = useSame(identity, (s) => s.identity);
  const ofOwner = useSame(owner, (s) => s.owner);
  const unit = ofUnit.filter((o) => o.id !== except);
  const others = ofOwner.filter((o) => o.id !== except && !unit.some((u) => u.id === o.id));
  if (!unit.length && !others.length) return null;
  return (
    <chakra.section aria-label="Was here before" mt="12px" p="8px 12px" bg="accentWash" borderRadius="kadro">
      {(
        [
          ['This unit was here before', unit],
          [`Other orders of ${owner.trim()}`, others],
        ] as const
      ).map(
        ([title, list]) =>
          list.length > 0 && (
            <div key={title}>
              <b>{title}</b>
              {list.slice(0, MOST).map((o) => (
                <chakra.p key={o.id} fontSize="15px">
                  <Link to={`/orders/${o.id}/log`}>
                    <chakra.span textDecoration="underline">{o.number}</chakra.span>
                  </Link>
                  , {format(new Date(o.updatedAt), 'd MMM yyyy')}, {o.summary.unitName}:{' '}
                  {o.summary.kits.map((k) => k.name).join(', ') || 'no kit'} ({o.status})
                </chakra.p>
              ))}
            </div>
          ),
      )}
    </chakra.section>
  );
}

/** Orders that have exactly this in that place. */
function useSame(text: string, of: (s: { identity: string; owner: string }) => string) {
  const wanted = text.trim().toUpperCase();
  const enabled = wanted.length >= LEAST;
  const found = useQuery({ ...queries.search(new URLSearchParams({ q: wanted }).toString()), enabled, staleTime: 30_000 }).data ?? [];
  return enabled ? found.filter((o) => of(o.summary).toUpperCase() === wanted) : [];
}
