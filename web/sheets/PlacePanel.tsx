import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { runLength } from '#core/circuit/route';
import { HOW_WORD, howKnown } from '#core/known/pointer';
import { showQuantity } from '#core/quantity/quantity';
import { addRun, changeRun, movePlace, removePlace, removeRun, whatStandsAt, type Axis } from '#core/sheets/edit-model';
import { Hazard, type UnitModel } from '#model/unit-model';
import { usePerson, useUnits } from '../app/context';
import { Act, Choice } from '../app/ui';
import { QuantityField } from './fields';

const AXES: Record<Axis, string> = { x: 'Ahead of the rear axle', y: 'Left of the middle', z: 'Above the ground' };
/** The place in hand: where it is, by figures, what stands there, and the ways that lead from it. */
export function PlacePanel({
  model,
  id,
  onChange,
  onGone,
}: {
  model: UnitModel;
  id: string;
  onChange: (m: UnitModel) => void;
  onGone: (m: UnitModel) => void;
}) {
  const units = useUnits();
  const by = usePerson().id;
  const [to, setTo] = useState('');
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
      <chakra.p fontSize="14px" color="quiet" mb="8px">
        {there.length ? `Here: ${there.join(', ')}` : 'Nothing of the unit stands here.'}
      </chakra.p>
      <chakra.div display="grid" gap="8px">
        {(Object.keys(AXES) as Axis[]).map((a) => (
          <QuantityField
            kind="smallLength"
            key={`${id} ${a}`}
            id={`place-${a}`}
            label={AXES[a]}
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
            <QuantityField
              kind="smallLength"
              id={`way-${other}`}
              label={`To ${name(other)}`}
              value={r.lengthMm ?? null}
              placeholder={`${showQuantity(runLength(model, r), 'smallLength', units, 4)}, as the places lie`}
              note={r.lengthMm === undefined ? undefined : HOW_WORD[howKnown(model, `/runs/${r.from}..${r.to}/lengthMm`).how]}
              onTyped={(v) => onChange(changeRun(model, r.from, r.to, { lengthMm: v }, typed()))}
            />
            <chakra.div display="flex" flexWrap="wrap" gap="4px" mt="4px" role="group" aria-label={`What the way to ${name(other)} passes`}>
              {Hazard.options.map((z) => {
                const on = r.hazards.includes(z);
                return (
                  <Act
                    key={z}
                    on={on}
                    aria-pressed={on}
                    minHeight="36px"
                    px="8px"
                    fontSize="14px"
                    onClick={() =>
                      onChange(
                        changeRun(model, r.from, r.to, { hazards: on ? r.hazards.filter((x) => x !== z) : [...r.hazards, z] }, typed()),
                      )
                    }
                  >
                    {z}
                  </Act>
                );
              })}
              <Act look="quiet" minHeight="36px" fontSize="14px" onClick={() => onChange(removeRun(model, r.from, r.to))}>
                No such way
              </Act>
            </chakra.div>
          </chakra.div>
        );
      })}
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
