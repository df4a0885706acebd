import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { HOW_WORD, howKnown } from '#core/known/pointer';
import { addRun, movePlace, removePlace, whatStandsAt } from '#core/sheets/edit-model';
import { addThing, THINGS, type ThingList } from '#core/sheets/edit-things';
import type { UnitModel } from '#model/unit-model';
import { usePerson } from '../app/context';
import { Act, Choice, Entry, Labelled } from '../app/ui';
import { axesOf, QuantityField } from './fields';
import { WayFields } from './WayHand';

/** The place in hand: where it is, by figures, what stands there, and the ways that lead from it. */
export function PlacePanel({
  model,
  id,
  onChange,
  onGone,
  onThing,
  drawing,
  onDraw,
}: {
  model: UnitModel;
  id: string;
  onChange: (m: UnitModel) => void;
  onGone: (m: UnitModel) => void;
  onThing: (list: ThingList, id: string) => void;
  /** a way is being drawn from here: the next touch on the drawing says where to */
  drawing: boolean;
  onDraw: () => void;
}) {
  const by = usePerson().id;
  const [to, setTo] = useState('');
  const [kind, setKind] = useState<ThingList>('powerPoints');
  const [thing, setThing] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const place = model.places.find((p) => p.id === id);
  if (!place) return null;
  const typed = () => ({ by, at: new Date().toISOString() });
  const name = (p: string) => model.places.find((q) => q.id === p)?.name ?? p;
  const there = whatStandsAt(model, id);
  const ways = model.runs.filter((r) => r.from === id || r.to === id);
  const reached = new Set([id, ...ways.flatMap((r) => [r.from, r.to])]);
  return (
    <section aria-label={place.name}>
      <chakra.h2 fontSize="18px">{place.name}</chakra.h2>
      {(Object.keys(THINGS) as ThingList[]).flatMap((list) =>
        model[list]
          .filter((x) => x.place === id)
          .map((x) => (
            <Act
              key={`${list} ${x.id}`}
              look="quiet"
              minHeight="36px"
              display="block"
              textAlign="left"
              fontSize="15px"
              onClick={() => onThing(list, x.id)}
            >
              {x.name}
            </Act>
          )),
      )}
      {!there.length && (
        <chakra.p fontSize="14px" color="quiet" mb="8px">
          Nothing of the unit stands here.
        </chakra.p>
      )}
      <chakra.form
        display="grid"
        gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr) auto"
        gap="6px"
        mb="10px"
        alignItems="end"
        onSubmit={(e) => {
          e.preventDefault();
          try {
            const made = addThing(model, kind, thing, id, typed());
            onChange(made.model);
            onThing(kind, made.id);
          } catch (x) {
            setWrong((x as Error).message);
          }
        }}
      >
        <Labelled id="thing-kind" label="Here is also a">
          <Choice id="thing-kind" value={kind} onChange={(e) => setKind(e.target.value as ThingList)}>
            {(Object.keys(THINGS) as ThingList[]).map((l) => (
              <option key={l} value={l}>
                {THINGS[l]}
              </option>
            ))}
          </Choice>
        </Labelled>
        <Labelled id="new-thing" label="called" error={wrong}>
          <Entry
            id="new-thing"
            value={thing}
            maxLength={80}
            autoComplete="off"
            onChange={(e) => (setThing(e.target.value), setWrong(null))}
          />
        </Labelled>
        <Act type="submit" disabled={!thing.trim()}>
          Add
        </Act>
      </chakra.form>
      <chakra.div display="grid" gap="8px">
        {axesOf(model).map(([a, label]) => (
          <QuantityField
            kind="smallLength"
            key={`${id} ${a}`}
            id={`place-${a}`}
            label={label}
            value={place[a]}
            note={HOW_WORD[howKnown(model, `/places/${id}/${a}`).how]}
            onTyped={(v) => v !== null && onChange(movePlace(model, id, { [a]: v }, typed()))}
          />
        ))}
      </chakra.div>
      <chakra.h3 fontSize="16px" mt="14px" mb="4px">
        Ways from here
      </chakra.h3>
      {ways.map((r) => {
        const other = r.from === id ? r.to : r.from;
        return (
          <chakra.div key={`${r.from}..${r.to}`} borderTopWidth="1px" borderColor="rule" py="6px" data-way={other}>
            <WayFields model={model} run={r} id={`way-${other}`} label={`To ${name(other)}`} typed={typed} onChange={onChange} />
          </chakra.div>
        );
      })}
      <Act mt="8px" width="100%" on={drawing} aria-pressed={drawing} onClick={onDraw}>
        {drawing ? 'Touch where the way leads' : 'Draw a way from here'}
      </Act>
      <chakra.div display="flex" gap="8px" mt="8px">
        <Choice aria-label="A way to" value={to} onChange={(e) => setTo(e.target.value)}>
          <option value="">a way to …</option>
          {model.places
            .filter((p) => !reached.has(p.id))
            .map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
        </Choice>
        <Act disabled={!to} onClick={() => (onChange(addRun(model, id, to)), setTo(''))}>
          Add
        </Act>
      </chakra.div>
      <Act
        mt="14px"
        look="quiet"
        disabled={there.length > 0}
        title={there.length ? `${there.join(', ')} ${there.length === 1 ? 'stands' : 'stand'} here` : undefined}
        onClick={() => onGone(removePlace(model, id))}
      >
        Take this place out
      </Act>
    </section>
  );
}
