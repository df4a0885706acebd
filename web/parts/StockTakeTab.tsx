import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { countedItems, type SupplyRow } from '#core/supply/allocate';
import { readItem } from '#core/supply/item-name';
import type { PartLabel } from '#core/supply/label';
import { isWire } from '#model/supply';
import { call, queries, type ApiError } from '../app/api';
import { useDraft } from '../app/kept';
import { Act, Entry, FileLink, ServerAct } from '../app/ui';
import { ScanField } from './ScanField';

interface Counted {
  count: string;
  /** the version of the count that it was made beside */
  on: number;
}

/** Beside each other what is read together: a name, what should be there, and what is. */
const COLUMNS = 'minmax(0, 380px) 110px 120px minmax(110px, 1fr)';

/** The shelf counted anew: item by item, typed or scanned. What is not saved yet waits on this device. */
export function StockTakeTab({ rows }: { rows: readonly SupplyRow[] }) {
  const client = useQueryClient();
  const shelf = useQuery(queries.settings).data?.settings.shelf ?? [];
  const [draft, setDraft] = useDraft('stock-take');
  const counted = readDraft(draft);
  const [said, setSaid] = useState('');
  const items = countedItems(rows, shelf);
  const names = [
    ...items,
    ...Object.keys(counted).flatMap((id) => (items.some((i) => i.item === id) ? [] : [{ item: id, name: readItem(id).name }])),
  ];
  const kept = (item: string) => shelf.find((s) => s.id === item);
  const put = (item: string, count: string) => {
    const next = { ...counted };
    if (count === '') delete next[item];
    else next[item] = { count, on: counted[item]?.on ?? kept(item)?.version ?? 0 };
    setDraft(Object.keys(next).length ? JSON.stringify(next) : null);
  };
  const scanned = (label: PartLabel) => {
    if (isWire(label.item)) return setSaid('Wire is counted in metres, spool by spool: Shop, Stock.');
    const n = Number(counted[label.item]?.count ?? 0) + (label.amount ?? 1);
    put(label.item, String(n));
    setSaid(`${names.find((i) => i.item === label.item)?.name ?? label.item}: ${n}`);
  };
  const done = Object.entries(counted);
  const bad = done.find(([, c]) => !/^\d{1,4}$/.test(c.count.trim()));
  const save = useMutation<string[], ApiError>({
    mutationFn: async () => {
      const trouble: string[] = [];
      const left = { ...counted };
      for (const [item, c] of done)
        try {
          await call(`/api/shelf/${item}`, { method: 'PUT', json: { have: Number(c.count), version: c.on } });
          delete left[item];
        } catch (e) {
          const problem = e as ApiError;
          if (!problem.body?.stale) throw e;
          trouble.push(item);
          delete left[item];
        } finally {
          setDraft(Object.keys(left).length ? JSON.stringify(left) : null);
        }
      return trouble;
    },
    onSettled: () => Promise.all(['settings', 'supply', 'order'].map((k) => client.invalidateQueries({ queryKey: [k] }))),
  });
  const changed = save.data ?? [];
  return (
    <>
      <ScanField onLabel={scanned} said={said} />
      <chakra.div display="flex" gap="10px" alignItems="center" flexWrap="wrap" mb="10px">
        <ServerAct look="main" minHeight="48px" disabled={!done.length || Boolean(bad) || save.isPending} onClick={() => save.mutate()}>
          Save {done.length} {done.length === 1 ? 'count' : 'counts'}
        </ServerAct>
        {done.length > 0 && (
          <Act minHeight="48px" onClick={() => setDraft(null)}>
            Drop them
          </Act>
        )}
        <FileLink href="/api/supply/labels.pdf">Labels for the shelf</FileLink>
        {bad && (
          <chakra.span role="alert" color="fails">
            {names.find((i) => i.item === bad[0])?.name}: count whole ones, from 0 to 9999.
          </chakra.span>
        )}
        {save.error && (
          <chakra.span role="alert" color="fails">
            {save.error.message} What you counted stands here.
          </chakra.span>
        )}
        {changed.length > 0 && (
          <chakra.span role="alert" color="fails">
            Moved while you counted, count again: {changed.map((c) => names.find((i) => i.item === c)?.name ?? c).join(', ')}.
          </chakra.span>
        )}
      </chakra.div>
      <chakra.div display="grid" gridTemplateColumns={COLUMNS} gap="0 12px" color="quiet" fontSize="14px" textAlign="right" aria-hidden>
        <span />
        <span>should be</span>
        <span>counted</span>
        <span />
      </chakra.div>
      {names.map(({ item, name }) => {
        const have = kept(item)?.have;
        const count = counted[item]?.count ?? '';
        const by = count.trim() === '' || have === undefined ? null : Number(count) - have;
        return (
          <chakra.div
            key={item}
            display="grid"
            gridTemplateColumns={COLUMNS}
            gap="0 12px"
            alignItems="center"
            minH="52px"
            borderTopWidth="1px"
            borderColor="rule"
            textAlign="right"
          >
            <chakra.span textAlign="left" overflowWrap="anywhere">
              {name}
            </chakra.span>
            <chakra.span fontFamily="mono" color="quiet">
              {have ?? 'not counted'}
            </chakra.span>
            <Entry
              aria-label={`Counted: ${name}`}
              inputMode="numeric"
              textAlign="right"
              fontFamily="mono"
              minHeight="48px"
              value={count}
              onChange={(e) => put(item, e.target.value)}
            />
            <chakra.span textAlign="left" color={by ? 'tightText' : 'quiet'}>
              {by === null || Number.isNaN(by) ? '' : by === 0 ? 'as it should be' : by < 0 ? `${-by} missing` : `${by} more`}
            </chakra.span>
          </chakra.div>
        );
      })}
    </>
  );
}

function readDraft(text: string | null): Record<string, Counted> {
  try {
    return text ? (JSON.parse(text) as Record<string, Counted>) : {};
  } catch {
    return {};
  }
}
