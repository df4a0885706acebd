import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { OrderLamps } from '#core/lighting/check';
import { startFor } from '#core/lighting/placing';
import type { EquipmentFunction, LightColour } from '#model/common';
import { LIT_FUNCTIONS, type Point } from '#model/lamp';
import { Act, Choice, Labelled } from '../../app/ui';
import { useOrder } from '../useOrder';
import { functionWord } from './lampLook';

/** Passive equipment that can be put on by itself, with its colour. */
const PASSIVE: [EquipmentFunction, LightColour | undefined][] = [
  ['reflector-rear', 'red'],
  ['reflector-side', 'red'],
  ['mirror-driver', undefined],
  ['mirror-passenger', undefined],
  ['mirror-inside', undefined],
];

/** Puts a lamp on the order beyond its kits: one more of a kit's, wired beside it, or a reflector or mirror. */
export function AddLamp({ check, onAdded }: { check: OrderLamps; onAdded: (id: string) => void }) {
  const { order, sheets, record } = useOrder();
  const [open, setOpen] = useState(false);
  const [what, setWhat] = useState('');
  const likes = check.lamps.filter((l) => l.from === 'kit' && LIT_FUNCTIONS.includes(l.function) && l.at);
  const add = (f: EquipmentFunction, colour: LightColour | undefined, like: string | null, name: string, at: Point) => {
    let n = order.lamps.added.length + 1;
    while (order.lamps.added.some((l) => l.id === `${f}-${n}`)) n++;
    const id = `${f}-${n}`;
    if (record({ type: 'lamp.added', lamp: { id, name, function: f, ...(colour && { colour }), at, like } })) {
      onAdded(`added/${id}`);
      setOpen(false);
      setWhat('');
    }
  };
  const confirm = () => {
    const l = likes.find((x) => x.id === what);
    if (l) {
      // the other side first, else beside the one it is like
      const taken = check.lamps.some((o) => o.id !== l.id && o.function === l.function && o.at && o.at.y * l.at!.y < 0);
      const at = !taken && Math.abs(l.at!.y) > 20 ? { ...l.at!, y: -l.at!.y } : { ...l.at!, z: l.at!.z + 120 };
      return add(l.function, l.colour, l.id, `${l.name}, one more`, at);
    }
    const p = PASSIVE.find(([f]) => f === what);
    if (!p) return;
    const [f, colour] = p;
    const word = functionWord(f);
    const at = startFor(f, check.unit, sheets.model.places);
    if (f !== 'reflector-side') return add(f, colour, null, `${word[0]!.toUpperCase()}${word.slice(1)}`, at);
    const left = check.lamps.some((x) => x.function === f && x.at && x.at.y > 0);
    add(f, colour, null, `${left ? 'Right' : 'Left'} ${word}`, { ...at, y: left ? -at.y : at.y });
  };
  if (!open)
    return (
      <Act onClick={() => setOpen(true)}>
        <Plus size={18} aria-hidden /> Add a lamp, reflector or mirror
      </Act>
    );
  return (
    <chakra.div
      display="flex"
      gap="10px"
      alignItems="end"
      flexWrap="wrap"
      bg="raised"
      borderWidth="1px"
      borderColor="rule"
      borderRadius="kadro"
      p="10px"
    >
      <Labelled label="What to add" id="add-what">
        <Choice id="add-what" value={what} onChange={(e) => setWhat(e.target.value)} width="330px">
          <option value="">choose</option>
          <optgroup label="By itself, without a wire">
            {PASSIVE.map(([f, c]) => (
              <option key={f} value={f}>
                {functionWord(f)}
                {c ? `, ${c}` : ''}
              </option>
            ))}
          </optgroup>
          {likes.length > 0 && (
            <optgroup label="One more like a kit’s, wired beside it">
              {likes.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.name} ({l.kit})
                </option>
              ))}
            </optgroup>
          )}
        </Choice>
      </Labelled>
      <Act look="main" onClick={confirm} disabled={!what}>
        Add it
      </Act>
      <Act onClick={() => setOpen(false)}>Leave it</Act>
      <chakra.span fontSize="14px" color="quiet" flexBasis="100%">
        A lamp with a circuit of its own comes with a kit: choose it at Fit.
      </chakra.span>
    </chakra.div>
  );
}
