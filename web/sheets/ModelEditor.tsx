import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { isRun } from '#core/circuit/route';
import { may } from '#core/people/permissions';
import { addObstacle, addPanel, changePanel, type ThingList } from '#core/sheets/edit-things';
import { addPlace, addRun, sheetChanges, sheetProblems } from '#core/sheets/edit-model';
import { fuseTable, placeTable, withFuses, withPlaces } from '#core/sheets/tables';
import type { UnitModel } from '#model/unit-model';
import { queries } from '../app/api';
import { usePerson, useUnits } from '../app/context';
import { Act, Entry, Labelled } from '../app/ui';
import { EditorHead, MovedOn, ToLookAt, byUndoKeys } from './EditorHead';
import type { WayEnds } from './EditLayers';
import { EditView } from './EditView';
import { ElectricHand } from './ElectricHand';
import { ObstacleHand } from './ObstacleHand';
import { PanelHand } from './PanelHand';
import { ThingHand } from './ThingHand';
import { PhotoBehind } from './PhotoBehind';
import { PlacePanel } from './PlacePanel';
import { Publish } from './Publish';
import { TableIn } from './TableIn';
import { useHistory } from './useHistory';
import { WayHand } from './WayHand';

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

/** Pixels of what stands beside and above the views: the rail, what is in hand, gaps; and the head of the page. */
const [BESIDE, ABOVE] = [480, 140];
/** How a view stands in the window: two above each other fill what is left of it, as far as it is wide enough for that. */
const viewRoom = () => {
  const wide = Math.max(400, window.innerWidth - BESIDE);
  return { wide, height: Math.max(250, Math.min(420, (window.innerHeight - ABOVE) / 2, wide * 0.55)) };
};
/** The share of the width of a view: those of the length are wider. */
const SHARE: Record<(typeof VIEWS)[number], number> = { side: 0.6, front: 0.4, top: 0.6, rear: 0.4 };

/** What of the unit is in hand. */
type Hand =
  | { kind: 'place' | 'panel' | 'obstacle'; id: string }
  | { kind: 'way'; way: WayEnds }
  | { kind: 'thing'; list: ThingList; id: string }
  | { kind: 'electrics' };

function Editing({ model: base, revision }: { model: UnitModel; revision: number }) {
  const navigate = useNavigate();
  const history = useHistory(`model.${base.id}`, base);
  const model = history.now;
  const [hand, setHand] = useState<Hand | null>(null);
  const picked = hand?.kind === 'place' ? hand.id : null;
  const [drawnFrom, setDrawnFrom] = useState<string | null>(null);
  const setPicked = (id: string) => {
    setDrawnFrom(null);
    setHand({ kind: 'place', id });
  };
  const way = hand?.kind === 'way' ? model.runs.find((r) => isRun(r, hand.way.from, hand.way.to)) : undefined;
  const panel = hand?.kind === 'panel' ? model.panels.find((p) => p.id === hand.id) : undefined;
  const hidden = useMemo(() => (panel ? new Set(panel.hides) : null), [panel]);
  const by = usePerson().id;
  const typed = () => ({ by, at: new Date().toISOString() });
  const [publishing, setPublishing] = useState(false);
  const [room] = useState(viewRoom);
  const [bringing, setBringing] = useState<'places' | 'fuses' | 'photo' | null>(null);
  const units = useUnits();
  const placeKind = useMemo(() => placeTable(model, units), [model, units]);
  const fuseKind = useMemo(() => fuseTable(model, units), [model, units]);
  const problems = useMemo(() => sheetProblems(model), [model]);
  const changes = useMemo(() => sheetChanges(base, model), [base, model]);
  /** A way is drawn to a place, or the one there is taken in hand. */
  const lead = (from: string, to: string) => {
    if (from === to) return;
    setDrawnFrom(null);
    if (!model.runs.some((r) => isRun(r, from, to))) history.put(addRun(model, from, to));
    setHand({ kind: 'way', way: { from, to } });
  };
  /** A place that is touched is taken in hand; with a panel in hand it goes under it, or comes out. */
  const touch = (id: string) => {
    if (drawnFrom !== null) return lead(drawnFrom, id);
    if (!panel) return setPicked(id);
    const hides = panel.hides.includes(id) ? panel.hides.filter((h) => h !== id) : [...panel.hides, id];
    history.put(changePanel(model, panel.id, { hides }, typed()));
  };
  const gone = (m: UnitModel) => {
    setHand(null);
    history.put(m);
  };
  const leave = () => navigate(`/sheets/model/${base.id}`);
  return (
    <chakra.main height="100%" display="grid" gridTemplateColumns="minmax(0, 1fr) 340px" onKeyDown={byUndoKeys(history)}>
      <chakra.div overflowY="auto" p="14px">
        <EditorHead
          title={`${base.maker} ${base.name}: its sheet`}
          history={history}
          publishing={publishing}
          ready={changes.length > 0 || history.changed}
          onPublish={() => setPublishing(!publishing)}
          onLeave={leave}
        />
        <MovedOn moved={history.moved} />
        {publishing && (
          <Publish
            kind="model"
            sheet={model}
            revision={revision}
            changes={changes}
            blocked={problems.some((p) => p.stops)}
            unitName={`${base.maker} ${base.name}`}
            onDone={leave}
            onDrop={history.drop}
          />
        )}
        {bringing === 'photo' && <PhotoBehind model={model} onChange={history.put} onDone={() => setBringing(null)} />}
        {bringing === 'places' && (
          <TableIn
            label="A table of places"
            kind={placeKind}
            onDone={() => setBringing(null)}
            onLines={(lines) => history.put(withPlaces(model, lines, typed()))}
          />
        )}
        {bringing === 'fuses' && (
          <TableIn
            label="A fuse list"
            kind={fuseKind}
            onDone={() => setBringing(null)}
            onLines={(lines) => history.put(withFuses(model, lines, typed()))}
          />
        )}
        <ToLookAt problems={problems} onTouch={(p) => p.place && setPicked(p.place)} />
        <chakra.div display="grid" gridTemplateColumns="minmax(0, 3fr) minmax(0, 2fr)" gap="8px">
          {VIEWS.map((v) => (
            <EditView
              key={v}
              model={model}
              name={v}
              picked={picked}
              onPick={touch}
              onMoved={history.put}
              way={way ?? null}
              onWay={(w) => setHand({ kind: 'way', way: w })}
              from={drawnFrom}
              marked={hidden}
              obstacle={hand?.kind === 'obstacle' ? hand.id : null}
              width={room.wide * SHARE[v]}
              height={room.height}
            />
          ))}
        </chakra.div>
      </chakra.div>
      <chakra.aside overflowY="auto" p="14px" borderLeftWidth="1px" borderColor="rule" aria-label="In hand">
        {hand && (
          <Act look="quiet" minHeight="36px" mb="6px" onClick={() => (setDrawnFrom(null), setHand(null))}>
            All that can be edited
          </Act>
        )}
        {picked && model.places.some((p) => p.id === picked) ? (
          <PlacePanel
            key={picked}
            model={model}
            id={picked}
            onChange={history.put}
            onThing={(list, id) => setHand({ kind: 'thing', list, id })}
            onGone={gone}
            drawing={drawnFrom === picked}
            onDraw={() => setDrawnFrom(drawnFrom === picked ? null : picked)}
          />
        ) : way ? (
          <WayHand key={`${way.from}..${way.to}`} model={model} run={way} typed={typed} onChange={history.put} onPlace={setPicked} />
        ) : hand?.kind === 'thing' ? (
          <ThingHand key={hand.id} model={model} list={hand.list} id={hand.id} typed={typed} onChange={history.put} onGone={gone} />
        ) : hand?.kind === 'panel' ? (
          <PanelHand key={hand.id} model={model} id={hand.id} typed={typed} onChange={history.put} onGone={gone} />
        ) : hand?.kind === 'obstacle' ? (
          <ObstacleHand key={hand.id} model={model} id={hand.id} typed={typed} onChange={history.put} onGone={gone} />
        ) : hand?.kind === 'electrics' ? (
          <ElectricHand model={model} typed={typed} onChange={history.put} />
        ) : (
          <>
            <chakra.p color="quiet">
              Touch a place to move it, on any of the four views; arrow keys move it by a little. Its other side goes with it. What stands
              there is touched next. Touch a line for the way of a wire: its length, and what it passes.
            </chakra.p>
            <Act mt="10px" width="100%" onClick={() => setHand({ kind: 'electrics' })}>
              Source, battery, sizes
            </Act>
            <Act mt="6px" width="100%" onClick={() => setBringing('photo')}>
              A photograph behind it…
            </Act>
            <Act mt="6px" width="100%" onClick={() => setBringing('places')}>
              Places from a table…
            </Act>
            <Act mt="6px" width="100%" onClick={() => setBringing('fuses')}>
              A fuse list…
            </Act>
            <chakra.h2 fontSize="16px" mt="14px">
              Panels
            </chakra.h2>
            <ByName list={model.panels} onPick={(id) => setHand({ kind: 'panel', id })} />
            <NewByName
              id="new-panel"
              label="A new panel, by its name"
              act="Add it"
              onName={(n) => {
                const made = addPanel(model, n, typed());
                history.put(made.model);
                setHand({ kind: 'panel', id: made.id });
              }}
            />
            <chakra.h2 fontSize="16px" mt="14px">
              What hides a light
            </chakra.h2>
            <ByName list={model.obstacles} onPick={(id) => setHand({ kind: 'obstacle', id })} />
            {(['box', 'bar'] as const).map((kind) => (
              <NewByName
                key={kind}
                id={`new-${kind}`}
                label={kind === 'box' ? 'Something wide that does, by its name' : 'A bar that does, by its name'}
                act="Add it"
                onName={(n) => {
                  const made = addObstacle(model, n, kind, typed());
                  history.put(made.model);
                  setHand({ kind: 'obstacle', id: made.id });
                }}
              />
            ))}
          </>
        )}
        {(!hand || hand.kind === 'place') && (
          <NewByName
            id="new-place"
            label="A new place, by its name"
            act="Put it on the drawing"
            onName={(n) => {
              const { dims } = model;
              const made = addPlace(model, n, {
                x: Math.round(dims.wheelbaseMm / 2 || dims.lengthMm / 2),
                y: 0,
                z: Math.round(dims.heightMm / 2),
              });
              history.put(made.model);
              setPicked(made.id);
            }}
          />
        )}
      </chakra.aside>
    </chakra.main>
  );
}

/** Things to take in hand, by their names. */
const ByName = ({ list, onPick }: { list: readonly { id: string; name: string }[]; onPick: (id: string) => void }) =>
  list.map((x) => (
    <Act key={x.id} look="quiet" display="block" textAlign="left" width="100%" minHeight="40px" onClick={() => onPick(x.id)}>
      {x.name}
    </Act>
  ));

/** Something new by its name; what is wrong with the name stands under it. */
function NewByName({ id, label, act, onName }: { id: string; label: string; act: string; onName: (name: string) => void }) {
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  return (
    <chakra.form
      mt="14px"
      pt="10px"
      borderTopWidth="1px"
      borderColor="rule"
      onSubmit={(e) => {
        e.preventDefault();
        try {
          onName(name);
          setName('');
          setWrong(null);
        } catch (x) {
          setWrong((x as Error).message);
        }
      }}
    >
      <Labelled id={id} label={label} error={wrong}>
        <Entry id={id} value={name} maxLength={80} autoComplete="off" onChange={(e) => (setName(e.target.value), setWrong(null))} />
      </Labelled>
      <Act type="submit" mt="8px" disabled={!name.trim()}>
        {act}
      </Act>
    </chakra.form>
  );
}
