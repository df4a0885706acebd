import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Redo2, Undo2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { may } from '#core/people/permissions';
import { sayInUnits } from '#core/quantity/quantity';
import { addPlace, sheetChanges, sheetProblems } from '#core/sheets/edit-model';
import type { UnitModel } from '#model/unit-model';
import { call, queries, type Dossier } from '../app/api';
import { usePerson, useUnits } from '../app/context';
import { Act, Entry, Labelled, ServerAct, Sheet } from '../app/ui';
import { changesBy } from '../order/known/changes';
import { EditView } from './EditView';
import { PlacePanel } from './PlacePanel';
import { useHistory } from './useHistory';

/** Problems that are shown at once: the worst come first. */
const MOST_SHOWN = 3;
/** Beside each other what shares a height, beneath what shares a length. */
const VIEWS = ['side', 'front', 'top', 'rear'] as const;

/** Edits a model’s sheet on its drawing. */
export function ModelEditor() {
  const { id = '' } = useParams();
  const person = usePerson();
  const listed = useQuery(queries.sheets).data?.models.find((m) => m.ref.id === id);
  if (!may(person.role, 'sheets.import')) return <chakra.main p="20px">Sheets are edited by a lead or the owner.</chakra.main>;
  if (!listed) return <chakra.main p="20px">There is no such sheet here.</chakra.main>;
  return <Editing key={`${id} ${listed.ref.revision}`} model={listed.sheet} revision={listed.ref.revision} />;
}

function Editing({ model: base, revision }: { model: UnitModel; revision: number }) {
  const navigate = useNavigate();
  const units = useUnits();
  const history = useHistory(`model.${base.id}.${revision}`, base);
  const model = history.now;
  const [picked, setPicked] = useState<string | null>(null);
  const [publishing, setPublishing] = useState(false);
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const problems = useMemo(() => sheetProblems(model), [model]);
  const changes = useMemo(() => sheetChanges(base, model), [base, model]);
  const add = () => {
    try {
      const { dims } = model;
      const made = addPlace(model, name, {
        x: Math.round(dims.wheelbaseMm / 2 || dims.lengthMm / 2),
        y: 0,
        z: Math.round(dims.heightMm / 2),
      });
      history.put(made.model);
      setPicked(made.id);
      setName('');
      setWrong(null);
    } catch (e) {
      setWrong((e as Error).message);
    }
  };
  const leave = () => navigate(`/sheets/model/${base.id}`);
  return (
    <chakra.main
      height="100%"
      display="grid"
      gridTemplateColumns="minmax(0, 1fr) 340px"
      onKeyDown={(e) => {
        if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== 'z' || e.target instanceof HTMLInputElement) return;
        e.preventDefault();
        (e.shiftKey ? history.redo : history.undo)?.();
      }}
    >
      <chakra.div overflowY="auto" p="14px">
        <chakra.div display="flex" alignItems="center" gap="8px" mb="8px" flexWrap="wrap">
          <chakra.h1 fontSize="22px" flex="1">
            {base.maker} {base.name}: places and ways
          </chakra.h1>
          <Act aria-label="Undo" disabled={!history.undo} onClick={() => history.undo?.()}>
            <Undo2 size={18} aria-hidden />
          </Act>
          <Act aria-label="Redo" disabled={!history.redo} onClick={() => history.redo?.()}>
            <Redo2 size={18} aria-hidden />
          </Act>
          <Act onClick={leave}>Leave</Act>
          <Act
            look="main"
            disabled={!changes.length && !history.changed}
            aria-expanded={publishing}
            onClick={() => setPublishing(!publishing)}
          >
            Publish…
          </Act>
        </chakra.div>
        {publishing && (
          <Publish
            base={base}
            model={model}
            revision={revision}
            changes={changes}
            blocked={problems.some((p) => p.stops)}
            onDone={leave}
            onDrop={history.drop}
          />
        )}
        {problems.length > 0 && (
          <chakra.section aria-label="To look at" mb="6px" display="flex" flexWrap="wrap" alignItems="center" gap="0 8px">
            <b>To look at</b>
            {problems.slice(0, MOST_SHOWN).map((p) => (
              <Act
                key={p.says}
                look="quiet"
                minHeight="36px"
                whiteSpace="normal"
                textAlign="left"
                color={p.stops ? 'fails' : undefined}
                onClick={() => p.place && setPicked(p.place)}
              >
                {sayInUnits(p.says, units)}
              </Act>
            ))}
            {problems.length > MOST_SHOWN && <span>and {problems.length - MOST_SHOWN} more</span>}
          </chakra.section>
        )}
        <chakra.div display="grid" gridTemplateColumns="minmax(0, 3fr) minmax(0, 2fr)" gap="8px">
          {VIEWS.map((v) => (
            <EditView key={v} model={model} name={v} picked={picked} onPick={setPicked} onMoved={history.put} height={250} />
          ))}
        </chakra.div>
      </chakra.div>
      <chakra.aside overflowY="auto" p="14px" borderLeftWidth="1px" borderColor="rule" aria-label="Place in hand">
        {picked && model.places.some((p) => p.id === picked) ? (
          <PlacePanel
            model={model}
            id={picked}
            onChange={history.put}
            onGone={(m) => {
              setPicked(null);
              history.put(m);
            }}
          />
        ) : (
          <chakra.p color="quiet">
            Touch a place to move it, on any of the four views; arrow keys move it by a little. Its other side goes with it.
          </chakra.p>
        )}
        <chakra.form
          mt="18px"
          pt="12px"
          borderTopWidth="1px"
          borderColor="rule"
          onSubmit={(e) => {
            e.preventDefault();
            add();
          }}
        >
          <Labelled id="new-place" label="A new place, by its name" error={wrong}>
            <Entry
              id="new-place"
              value={name}
              maxLength={80}
              autoComplete="off"
              onChange={(e) => (setName(e.target.value), setWrong(null))}
            />
          </Labelled>
          <Act type="submit" mt="8px" disabled={!name.trim()}>
            Put it on the drawing
          </Act>
        </chakra.form>
      </chakra.aside>
    </chakra.main>
  );
}

/** What is otherwise, what that would change on open orders, and the reason: the sheet’s next revision. */
function Publish({
  base,
  model,
  revision,
  changes,
  blocked,
  onDone,
  onDrop,
}: {
  base: UnitModel;
  model: UnitModel;
  revision: number;
  changes: string[];
  blocked: boolean;
  onDone: () => void;
  onDrop: () => void;
}) {
  const units = useUnits();
  const client = useQueryClient();
  const [reason, setReason] = useState('');
  // read anew: what a screen kept of an order may be of a moment ago
  const open = useQuery({
    queryKey: ['edited', model],
    staleTime: 0,
    gcTime: 0,
    queryFn: async () => {
      const { orders } = await queries.floor.queryFn();
      const out: { id: string; number: number; lines: string[] }[] = [];
      for (const o of orders.filter((x) => x.status === 'open' && x.summary.unitName === `${base.maker} ${base.name}`)) {
        const { order, sheets, settings } = await call<Dossier>(`/api/orders/${o.id}`);
        if (order.unit.model.id !== base.id) continue;
        out.push({
          id: o.id,
          number: o.number,
          lines: await changesBy(order, sheets, { ...sheets, model }, settings),
        });
      }
      return out;
    },
  });
  const publish = useMutation({
    mutationFn: () =>
      call(`/api/sheets?${new URLSearchParams({ reason: reason.trim(), from: String(revision) }).toString()}`, {
        text: JSON.stringify({ kadro: 'model', format: 1, sheet: model }),
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
      <chakra.p mt="6px" fontSize="15px">
        {open.isPending
          ? 'Looking at open orders…'
          : open.data?.length
            ? 'Open orders keep their revision until somebody takes this one there; then:'
            : open.error
              ? 'What it would change on open orders needs the server.'
              : 'No open order is of this model.'}
      </chakra.p>
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
          Drop all changes
        </Act>
      </chakra.form>
      {blocked && (
        <chakra.p color="fails" fontSize="15px">
          What stops it stands above the drawing.
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
