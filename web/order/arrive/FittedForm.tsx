import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { freeId } from '#core/slug';
import { parseQuantity } from '#core/quantity/quantity';
import type { FittedItem } from '#model/fitted';
import type { Place } from '#model/unit-model';
import { useDraft } from '../../app/kept';
import { Act, TypedField } from '../../app/ui';
import { FittedWires, readWire, type TypedWire } from './FittedWires';
import { readWatts, readWords } from './fields';

/** Adds something that was on the unit when it arrived. Watts left empty are honestly not known. */
export function FittedForm({
  draftKey,
  onAdd,
  taken,
  places,
}: {
  draftKey: string;
  onAdd: (item: FittedItem) => boolean | void;
  taken: string[];
  /** places of the unit, where its wires may be found */
  places: readonly Pick<Place, 'id' | 'name'>[];
}) {
  const [name, setName] = useDraft(`${draftKey}.name`);
  const [watts, setWatts] = useDraft(`${draftKey}.watts`);
  const [standby, setStandby] = useDraft(`${draftKey}.standby`);
  const [kept, keepWires] = useDraft(`${draftKey}.wires`);
  const wires = kept === null ? [] : (JSON.parse(kept) as TypedWire[]);
  const setWires = (next: TypedWire[]) => keepWires(next.length ? JSON.stringify(next) : null);
  const [errors, setErrors] = useState<{ name?: string; watts?: string; standby?: string; wires?: string }>({});
  const add = () => {
    const found: typeof errors = {};
    const attempt = <T,>(key: keyof typeof errors, f: () => T): T | undefined => {
      try {
        return f();
      } catch (e) {
        found[key] = (e as Error).message;
        return undefined;
      }
    };
    const n = attempt('name', () => readWords(80)(name ?? ''));
    const w = attempt('watts', () => readWatts(watts ?? ''));
    const ma = attempt('standby', () => {
      if (!standby?.trim()) return 0;
      const mA = parseQuantity(/[a-z]/i.test(standby) ? standby : `${standby} mA`, 'amps', 'metric') * 1000;
      if (mA < 0 || mA > 5000) throw new Error('between 0 and 5000 mA');
      return mA;
    });
    const said = attempt('wires', () => wires.map((w) => readWire(w, places)));
    setErrors(found);
    if (Object.keys(found).length) return;
    if (onAdd({ id: freeId(n!, taken), name: n!, watts: w ?? null, standbyMa: ma!, ...(said!.length && { wires: said }) }) === false)
      return;
    setName(null);
    setWatts(null);
    setStandby(null);
    setWires([]);
  };
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns="2fr 1fr 1fr auto"
      gap="12px"
      alignItems="start"
      mt="10px"
      onKeyDown={(e) => e.key === 'Enter' && (e.target as HTMLElement).tagName === 'INPUT' && (e.preventDefault(), add())}
    >
      <TypedField label="Thing" id="fitted-name" error={errors.name} value={name ?? ''} onValue={setName} placeholder="Roof beacon" />
      <TypedField
        label="Watts, empty if not known"
        id="fitted-watts"
        error={errors.watts}
        value={watts ?? ''}
        onValue={setWatts}
        placeholder="18 W"
      />
      <TypedField
        label="Parked draw, mA"
        id="fitted-standby"
        error={errors.standby}
        value={standby ?? ''}
        onValue={setStandby}
        placeholder="0"
      />
      <Act type="button" mt="25px" onClick={add}>
        <Plus size={18} aria-hidden /> Add
      </Act>
      {places.length > 0 && <FittedWires wires={wires} onChange={setWires} places={places} error={errors.wires} />}
    </chakra.div>
  );
}
