import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sayInUnits } from '#core/quantity/quantity';
import type { Kit } from '#model/kit';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { call, queries, type Dossier } from '../app/api';
import { useUnits } from '../app/context';
import { Act, Entry, Labelled, ServerAct, Sheet } from '../app/ui';
import { changesBy } from '../order/known/changes';

type Edited = { kind: 'model'; sheet: UnitModel } | { kind: 'kit'; sheet: Kit };

/** The sheets of an order with the edited one in its place; null where it is not among them. */
function withEdited(sheets: Sheets, e: Edited): Sheets | null {
  if (e.kind === 'model') return sheets.model.id === e.sheet.id ? { ...sheets, model: e.sheet } : null;
  return sheets.kits.some((k) => k.id === e.sheet.id)
    ? { ...sheets, kits: sheets.kits.map((k) => (k.id === e.sheet.id ? e.sheet : k)) }
    : null;
}

/** What is otherwise in an edited sheet, what that would change on open orders, and the reason: its next revision. */
export function Publish({
  revision,
  changes,
  blocked,
  unitName,
  onDone,
  onDrop,
  ...edited
}: Edited & {
  /** the revision that it was made from; 0 for a new one */
  revision: number;
  changes: string[];
  blocked: boolean;
  /** the unit that an order must be of, by its name on the floor, to be looked into; left out, every order */
  unitName?: string;
  onDone: () => void;
  onDrop: () => void;
}) {
  const units = useUnits();
  const client = useQueryClient();
  const [reason, setReason] = useState('');
  // read anew: what a screen kept of an order may be of a moment ago
  const open = useQuery({
    queryKey: ['edited', edited.sheet],
    staleTime: 0,
    gcTime: 0,
    enabled: revision > 0 && !blocked,
    queryFn: async () => {
      const { orders } = await queries.floor.queryFn();
      const out: { id: string; number: number; lines: string[] }[] = [];
      for (const o of orders.filter((x) => x.status === 'open' && (unitName === undefined || x.summary.unitName === unitName))) {
        const { order, sheets, settings } = await call<Dossier>(`/api/orders/${o.id}`);
        const next = withEdited(sheets, edited);
        if (next) out.push({ id: o.id, number: o.number, lines: await changesBy(order, sheets, next, settings) });
      }
      return out;
    },
  });
  const publish = useMutation({
    mutationFn: () =>
      call(`/api/sheets?${new URLSearchParams({ reason: reason.trim(), from: String(revision) }).toString()}`, {
        text: JSON.stringify({ kadro: edited.kind, format: edited.kind === 'kit' ? 2 : 1, sheet: edited.sheet }),
      }),
    onSuccess: async () => {
      onDrop();
      await client.invalidateQueries({ queryKey: ['sheets'] });
      onDone();
    },
  });
  return (
    <Sheet aria-label="Publish" mb="10px" p="10px 14px">
      {changes.length ? (
        <chakra.ul p="0 0 0 18px" fontSize="15px" maxH="180px" overflowY="auto">
          {changes.map((c) => (
            <li key={c}>{sayInUnits(c, units)}</li>
          ))}
        </chakra.ul>
      ) : (
        <p>Nothing is otherwise than in revision {revision}.</p>
      )}
      {revision > 0 && (
        <chakra.p mt="6px" fontSize="15px">
          {blocked
            ? ''
            : open.isPending
              ? 'Looking at open orders…'
              : open.data?.length
                ? 'Open orders keep their revision until somebody takes this one there; then:'
                : open.error
                  ? 'What it would change on open orders needs the server.'
                  : `No open order ${edited.kind === 'kit' ? 'has this box' : 'is of this model'}.`}
        </chakra.p>
      )}
      {open.data && open.data.length > 0 && (
        <chakra.ul p="0 0 0 18px" fontSize="15px">
          {open.data.map((o) => (
            <li key={o.id}>
              Order {o.number}: {o.lines.join('; ') || 'nothing comes out otherwise'}
            </li>
          ))}
        </chakra.ul>
      )}
      <chakra.form
        display="flex"
        gap="8px"
        alignItems="flex-end"
        mt="8px"
        flexWrap="wrap"
        onSubmit={(e) => {
          e.preventDefault();
          publish.mutate();
        }}
      >
        <chakra.div flex="1" minW="220px">
          <Labelled id="publish-reason" label="Why">
            <Entry id="publish-reason" value={reason} maxLength={200} autoComplete="off" onChange={(e) => setReason(e.target.value)} />
          </Labelled>
        </chakra.div>
        <ServerAct look="main" type="submit" disabled={!reason.trim() || !changes.length || blocked || publish.isPending}>
          Publish revision {revision + 1}
        </ServerAct>
        <Act type="button" look="grave" onClick={onDrop}>
          {revision > 0 ? 'Drop all changes' : 'Drop it all'}
        </Act>
      </chakra.form>
      {blocked && (
        <chakra.p color="fails" fontSize="15px">
          What stops it stands above.
        </chakra.p>
      )}
      {publish.error && (
        <chakra.p role="alert" color="fails">
          {publish.error.message}
        </chakra.p>
      )}
    </Sheet>
  );
}
