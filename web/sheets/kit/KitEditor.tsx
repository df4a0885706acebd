import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { may } from '#core/people/permissions';
import { addPart } from '#core/shelf/add-part';
import { VERDICT_WORD } from '#core/verdict';
import { triedVerdict } from '#core/sheets/try-on';
import { boxChanges, boxProblems, joinWire, type BoxPart, type Choices } from '#core/sheets/edit-kit';
import { chosenKit } from '#core/wiring/chosen';
import { chosenOption, type Kit } from '#model/kit';
import type { RulePack } from '#model/rule-pack';
import type { UnitModel } from '#model/unit-model';
import { queries } from '../../app/api';
import { usePerson } from '../../app/context';
import { useDraft } from '../../app/kept';
import { Act, Choice } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { EditorHead, ToLookAt, byUndoKeys } from '../EditorHead';
import { Publish } from '../Publish';
import { useHistory } from '../useHistory';
import { useBegunKits } from './begun-kits';
import { BoxDrawing, type Held } from './BoxDrawing';
import { Contents } from './Contents';
import { InHand } from './InHand';
import { Shelf } from './Shelf';
import { TryOnPanel } from './TryOnPanel';
import { useTryOn } from './useTryOn';

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
  const history = useHistory(`kit.${base.id}.${revision}`, base);
  const kit = history.now;
  const [onId, setOn] = useDraft(`kit.${base.id}.on`);
  const model = models.find((m) => m.id === (onId ?? first)) ?? models[0]!;
  const [picked, setPicked] = useState<BoxPart | null>(null);
  const [held, setHeld] = useState<Held | null>(null);
  const [publishing, setPublishing] = useState(false);
  const [chosen, setChosen] = useState<Choices>({});
  const shown = useMemo(() => chosenKit(kit, chosen), [kit, chosen]);
  const problems = useMemo(() => boxProblems(kit), [kit]);
  const changes = useMemo(() => boxChanges(revision ? base : null, kit), [base, kit, revision]);
  const tried = useTryOn(shown, model, packs, settings);
  const leave = () => navigate(`/sheets/kit/${base.id}`);
  return (
    <chakra.main
      height="100%"
      display="grid"
      gridTemplateColumns={{ base: '200px minmax(0, 1fr) 290px', xl: '250px minmax(0, 1fr) 330px' }}
      onKeyDown={byUndoKeys(history)}
    >
      <chakra.aside overflowY="auto" p="14px" borderRightWidth="1px" borderColor="rule">
        <Shelf
          onTake={(part) => {
            const made = addPart(kit, part, model);
            history.put(made.kit);
            setPicked({ kind: 'device', id: made.devices[0]! });
          }}
        />
      </chakra.aside>
      <chakra.div overflowY="auto" p="14px">
        <EditorHead
          title={`${kit.maker} ${kit.name}`}
          history={history}
          publishing={publishing}
          ready={revision > 0 ? history.changed : kit.contents.length > 0}
          onPublish={() => setPublishing(!publishing)}
          onLeave={leave}
        />
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
        {kit.contents.length > 0 && <ToLookAt problems={problems} onTouch={(p) => setPicked(p.part)} />}
        {kit.variants.map((v) => (
          <chakra.div key={v.id} display="flex" alignItems="center" gap="8px" mb="6px" fontSize="15px">
            <label htmlFor={`variant-${v.id}`}>{v.name}</label>
            <Choice
              id={`variant-${v.id}`}
              width="auto"
              value={chosenOption(v, chosen)}
              onChange={(e) => setChosen({ ...chosen, [v.id]: e.target.value })}
            >
              {v.options.map((o) => (
                <option key={o.id} value={o.id}>
                  {o.name}
                </option>
              ))}
            </Choice>
          </chakra.div>
        ))}
        {held && (
          <chakra.p role="status" fontSize="15px" fontWeight={600} mb="4px">
            Wire {held.wire} is in hand: touch where it goes.
          </chakra.p>
        )}
        {kit.devices.length || kit.harnesses.length ? (
          <BoxDrawing
            kit={shown}
            picked={picked}
            held={held}
            onPick={setPicked}
            onHold={setHeld}
            onJoin={(target) => {
              history.put(joinWire(kit, held!.harness, held!.end, held!.wire, target, chosen));
              setHeld(null);
            }}
          />
        ) : (
          <chakra.p color="quiet" my="20px">
            Take each thing out of the box: what has wires from the shelf on the left, bolts and brackets below.
          </chakra.p>
        )}
        <Contents kit={kit} model={model} picked={picked} onChange={history.put} onPick={setPicked} />
      </chakra.div>
      <chakra.aside overflowY="auto" p="14px" borderLeftWidth="1px" borderColor="rule" aria-label="In hand">
        {picked ? (
          <>
            <Act look="quiet" width="100%" justifyContent="flex-start" minHeight="40px" mb="6px" onClick={() => setPicked(null)}>
              <VerdictMark verdict={tried && triedVerdict(tried)} size={22} />
              {tried ? `${VERDICT_WORD[triedVerdict(tried)]} on ${model.name}, ${Math.round(tried.plan.minutes)} min` : 'Tried on'}
            </Act>
            <InHand
              part={picked}
              kit={kit}
              shown={shown}
              chosen={chosen}
              model={model}
              models={models}
              onChange={history.put}
              onPick={setPicked}
            />
          </>
        ) : (
          <>
            <TryOnPanel tried={tried} models={models} on={model.id} onModel={setOn} />
            <Act mt="10px" onClick={() => setPicked({ kind: 'box' })}>
              What it is made for
            </Act>
          </>
        )}
      </chakra.aside>
    </chakra.main>
  );
}
