import { chakra } from '@chakra-ui/react';
import { PROTECTION, runLength } from '#core/circuit/route';
import { HOW_WORD, howKnown } from '#core/known/pointer';
import { showQuantity } from '#core/quantity/quantity';
import { changeRun, removeRun, type Typed } from '#core/sheets/edit-model';
import { Hazard, type Run, type UnitModel } from '#model/unit-model';
import { useUnits } from '../app/context';
import { Act } from '../app/ui';
import { QuantityField } from './fields';

/** A way’s length, taped or as its places lie, and what it passes, each touched on or off. */
export function WayFields({
  model,
  run: r,
  id,
  label,
  typed,
  onChange,
}: {
  model: UnitModel;
  run: Run;
  id: string;
  label: string;
  typed: () => Typed;
  onChange: (m: UnitModel) => void;
}) {
  const units = useUnits();
  return (
    <>
      <QuantityField
        kind="smallLength"
        id={id}
        label={label}
        value={r.lengthMm ?? null}
        placeholder={`${showQuantity(runLength(model, r), 'smallLength', units, 4)}, as the places lie`}
        note={r.lengthMm === undefined ? undefined : HOW_WORD[howKnown(model, `/runs/${r.from}..${r.to}/lengthMm`).how]}
        onTyped={(v) => onChange(changeRun(model, r.from, r.to, { lengthMm: v }, typed()))}
      />
      <chakra.div display="flex" flexWrap="wrap" gap="4px" mt="4px" role="group" aria-label={`${label}: what it passes`}>
        {Hazard.options.map((z) => {
          const on = r.hazards.includes(z);
          const hazards = on ? r.hazards.filter((x) => x !== z) : [...r.hazards, z];
          return (
            <Act
              key={z}
              on={on}
              aria-pressed={on}
              minHeight="36px"
              px="8px"
              fontSize="14px"
              onClick={() => onChange(changeRun(model, r.from, r.to, { hazards }, typed()))}
            >
              {z}
            </Act>
          );
        })}
        <Act look="quiet" minHeight="36px" fontSize="14px" onClick={() => onChange(removeRun(model, r.from, r.to))}>
          No such way
        </Act>
      </chakra.div>
    </>
  );
}

/** The way in hand, taken by its line on the drawing: how long it is, what it passes, and what that asks for. */
export function WayHand({
  model,
  run,
  typed,
  onChange,
  onPlace,
}: {
  model: UnitModel;
  run: Run;
  typed: () => Typed;
  onChange: (m: UnitModel) => void;
  onPlace: (id: string) => void;
}) {
  const name = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  return (
    <section aria-label="The way in hand">
      <chakra.h2 fontSize="18px">
        From {name(run.from)} to {name(run.to)}
      </chakra.h2>
      <WayFields model={model} run={run} id="way-length" label="Its length" typed={typed} onChange={onChange} />
      {run.hazards.length > 0 && (
        <chakra.ul mt="10px" pl="18px" fontSize="15px">
          {run.hazards.map((z) => (
            <li key={z}>
              {z}: {PROTECTION[z]}
            </li>
          ))}
        </chakra.ul>
      )}
      {[run.from, run.to].map((id) => (
        <Act key={id} look="quiet" display="block" textAlign="left" width="100%" minHeight="40px" onClick={() => onPlace(id)}>
          {name(id)}
        </Act>
      ))}
    </section>
  );
}
