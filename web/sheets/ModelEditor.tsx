import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { may } from '#core/people/permissions';
import { addPlace, sheetChanges, sheetProblems } from '#core/sheets/edit-model';
import type { UnitModel } from '#model/unit-model';
import { queries } from '../app/api';
import { usePerson } from '../app/context';
import { Act, Entry, Labelled } from '../app/ui';
import { EditorHead, ToLookAt, byUndoKeys } from './EditorHead';
import { EditView } from './EditView';
import { PlacePanel } from './PlacePanel';
import { Publish } from './Publish';
import { useHistory } from './useHistory';

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
    <chakra.main height="100%" display="grid" gridTemplateColumns="minmax(0, 1fr) 340px" onKeyDown={byUndoKeys(history)}>
      <chakra.div overflowY="auto" p="14px">
        <EditorHead
          title={`${base.maker} ${base.name}: places and ways`}
          history={history}
          publishing={publishing}
          ready={changes.length > 0 || history.changed}
          onPublish={() => setPublishing(!publishing)}
          onLeave={leave}
        />
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
        <ToLookAt problems={problems} onTouch={(p) => p.place && setPicked(p.place)} />
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
