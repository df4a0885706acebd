import { chakra } from '@chakra-ui/react';
import { useMemo, useState, type ReactNode } from 'react';
import { addPart } from '#core/shelf/add-part';
import type { ShelfPart } from '#core/shelf/parts';
import { boxProblems, joinWire, type BoxPart, type BoxProblem, type Choices } from '#core/sheets/edit-kit';
import { triedVerdict } from '#core/sheets/try-on';
import { VERDICT_WORD } from '#core/verdict';
import { chosenKit } from '#core/wiring/chosen';
import { chosenOption, type Kit } from '#model/kit';
import type { RulePack } from '#model/rule-pack';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { Act, Choice } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { byUndoKeys, ToLookAt } from '../EditorHead';
import type { History } from '../useHistory';
import { BoxDrawing, type Held } from './BoxDrawing';
import { Contents } from './Contents';
import { InHand } from './InHand';
import { Shelf } from './Shelf';
import { TryOnPanel } from './TryOnPanel';
import { useTryOn } from './useTryOn';

/** A box as it is worked on: the parts shelf, what is in it and how that is joined, and what it comes to on a unit. */
export function BoxWork({
  history,
  model,
  models,
  onModel,
  packs,
  settings,
  head,
}: {
  history: History<Kit>;
  model: UnitModel;
  /** what it may be tried on */
  models: readonly UnitModel[];
  onModel: (id: string) => void;
  packs: RulePack[];
  settings: Settings | null;
  /** what stands above it, told what is wrong with the box */
  head: (problems: BoxProblem[]) => ReactNode;
}) {
  const kit = history.now;
  const [picked, setPicked] = useState<BoxPart | null>(null);
  const [held, setHeld] = useState<Held | null>(null);
  const [chosen, setChosen] = useState<Choices>({});
  const shown = useMemo(() => chosenKit(kit, chosen), [kit, chosen]);
  const problems = useMemo(() => boxProblems(kit), [kit]);
  const tried = useTryOn(kit, chosen, model, packs, settings);
  const take = (part: ShelfPart) => {
    const made = addPart(kit, part, model);
    history.put(made.kit);
    setPicked({ kind: 'device', id: made.devices[0]! });
  };
  return (
    <chakra.main
      height="100%"
      display="grid"
      gridTemplateColumns={{ base: 'minmax(0, 1fr) 300px', xl: '250px minmax(0, 1fr) 330px' }}
      onKeyDown={byUndoKeys(history)}
    >
      <chakra.aside hideBelow="xl" overflowY="auto" p="14px" borderRightWidth="1px" borderColor="rule" aria-label="What may be put in">
        <Shelf onTake={take} />
      </chakra.aside>
      <chakra.div overflowY="auto" p="14px">
        {head(problems)}
        <chakra.details hideFrom="xl" open={!kit.contents.length || undefined} mb="8px">
          <chakra.summary cursor="pointer" color="accent" py="8px" fontWeight={600}>
            From the parts shelf
          </chakra.summary>
          <Shelf onTake={take} />
        </chakra.details>
        {(kit.contents.length > 0 || kit.steps.length > 0) && <ToLookAt problems={problems} onTouch={(p) => setPicked(p.part)} />}
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
              <VerdictMark verdict={tried ? triedVerdict(tried) : null} size={22} />
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
            <TryOnPanel tried={tried} models={models} on={model.id} onModel={onModel} />
            {models.length > 1 && (
              <Act mt="10px" onClick={() => setPicked({ kind: 'box' })}>
                What it is made for
              </Act>
            )}
          </>
        )}
      </chakra.aside>
    </chakra.main>
  );
}
