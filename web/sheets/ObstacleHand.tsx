import { chakra } from '@chakra-ui/react';
import { changeObstacle, removeObstacle } from '#core/sheets/edit-things';
import type { Typed } from '#core/sheets/edit-model';
import type { UnitModel } from '#model/unit-model';
import { Act } from '../app/ui';
import { axesOf, QuantityField, WordsField } from './fields';

const END = { box: { from: 'One corner', to: 'The corner across' }, bar: { from: 'One end', to: 'The other end' } } as const;

/** Something of the unit that may hide a light: a box between two corners, or a round bar between two ends. */
export function ObstacleHand({
  model,
  id,
  typed,
  onChange,
  onGone,
}: {
  model: UnitModel;
  id: string;
  typed: () => Typed;
  onChange: (m: UnitModel) => void;
  onGone: (m: UnitModel) => void;
}) {
  const o = model.obstacles.find((x) => x.id === id);
  if (!o) return null;
  const set = (change: Parameters<typeof changeObstacle>[2]) => onChange(changeObstacle(model, id, change, typed()));
  return (
    <chakra.section aria-label={o.name} display="grid" gap="8px">
      <chakra.h2 fontSize="18px">{o.name}</chakra.h2>
      <chakra.p fontSize="14px" color="quiet">
        Hides a light that shines through it. Lamps are checked against it, and it is drawn dashed in the views.
      </chakra.p>
      <WordsField id="obstacle-name" label="Called" value={o.name} most={60} onTyped={(name) => name && set({ name })} />
      {(['from', 'to'] as const).map((end) => (
        <chakra.fieldset key={end} display="grid" gap="6px" border="none" p={0}>
          <chakra.legend fontWeight={600} p={0}>
            {END[o.kind][end]}
          </chakra.legend>
          {axesOf(model).map(([a, label]) => (
            <QuantityField
              key={a}
              id={`obstacle-${end}-${a}`}
              label={label}
              kind="smallLength"
              value={o[end][a]}
              onTyped={(v) => v !== null && set({ [end]: { ...o[end], [a]: Math.round(v) } })}
            />
          ))}
        </chakra.fieldset>
      ))}
      {o.kind === 'bar' && (
        <QuantityField
          id="obstacle-mm"
          label="How thick"
          kind="smallLength"
          value={o.mm}
          onTyped={(mm) => mm !== null && mm > 0 && set({ mm })}
        />
      )}
      <Act look="quiet" onClick={() => onGone(removeObstacle(model, id))}>
        Take it out
      </Act>
    </chakra.section>
  );
}
