import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { may } from '#core/people/permissions';
import { boxChanges } from '#core/sheets/edit-kit';
import type { Kit } from '#model/kit';
import type { RulePack } from '#model/rule-pack';
import type { UnitModel } from '#model/unit-model';
import { queries } from '../../app/api';
import { usePerson } from '../../app/context';
import { useDraft } from '../../app/kept';
import { EditorHead, MovedOn } from '../EditorHead';
import { Publish } from '../Publish';
import { useHistory } from '../useHistory';
import { useBegunKits } from './begun-kits';
import { BoxWork } from './BoxWork';

/** Edits a box’s sheet as it is unpacked, and tries it on a unit meanwhile. */
export function KitEditor() {
  const { id = '' } = useParams();
  const person = usePerson();
  const sheets = useQuery(queries.sheets).data;
  const begun = useBegunKits();
  const listed = sheets?.kits.find((k) => k.ref.id === id);
  const mine = begun.list.find((b) => b.base.id === id);
  const models = useMemo(() => sheets?.models.map((m) => m.sheet) ?? [], [sheets]);
  const packs = useMemo(() => sheets?.packs.map((p) => p.sheet) ?? [], [sheets]);
  if (!may(person.role, 'sheets.import')) return <chakra.main p="20px">Sheets are edited by a lead or the owner.</chakra.main>;
  if (!sheets) return null;
  if (!models.length)
    return <chakra.main p="20px">A box is tried on a unit: begin one at the door first, under New order, Not in the sheets.</chakra.main>;
  if (listed)
    return (
      <Editing
        key={`${id} ${listed.ref.revision}`}
        kit={listed.sheet}
        revision={listed.ref.revision}
        on={listed.sheet.fits.flatMap((f) => f.models ?? [])[0] ?? ''}
        models={models}
        packs={packs}
        onDrop={() => begun.drop(id)}
      />
    );
  if (!mine) return <chakra.main p="20px">There is no such sheet here.</chakra.main>;
  return <Editing key={id} kit={mine.base} revision={0} on={mine.on} models={models} packs={packs} onDrop={() => begun.drop(id)} />;
}

function Editing({
  kit: base,
  revision,
  on: first,
  models,
  packs,
  onDrop,
}: {
  kit: Kit;
  revision: number;
  on: string;
  models: readonly UnitModel[];
  packs: RulePack[];
  onDrop: () => void;
}) {
  const navigate = useNavigate();
  const settings = useQuery(queries.settings).data?.settings ?? null;
  const history = useHistory(`kit.${base.id}`, base);
  const kit = history.now;
  const [onId, setOn] = useDraft(`kit.${base.id}.on`);
  const model = models.find((m) => m.id === (onId ?? first)) ?? models[0]!;
  const [publishing, setPublishing] = useState(false);
  const changes = useMemo(() => boxChanges(revision ? base : null, kit), [base, kit, revision]);
  const leave = () => navigate(`/sheets/kit/${base.id}`);
  return (
    <BoxWork
      history={history}
      model={model}
      models={models}
      onModel={setOn}
      packs={packs}
      settings={settings}
      head={(problems) => (
        <>
          <EditorHead
            title={`${kit.maker} ${kit.name}`}
            history={history}
            publishing={publishing}
            ready={revision > 0 ? history.changed : kit.contents.length > 0}
            onPublish={() => setPublishing(!publishing)}
            onLeave={leave}
          />
          <MovedOn moved={history.moved} />
          {publishing && (
            <Publish
              kind="kit"
              sheet={kit}
              revision={revision}
              changes={changes}
              blocked={problems.some((p) => p.stops)}
              onDone={leave}
              onDrop={() => {
                history.drop();
                onDrop();
                if (!revision) navigate('/sheets');
              }}
            />
          )}
        </>
      )}
    />
  );
}
