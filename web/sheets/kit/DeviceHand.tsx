import { EquipmentFunction, LightColour } from '#model/common';
import { changeDevice, removeDevice } from '#core/sheets/edit-kit';
import { Act } from '../../app/ui';
import { Picking, QuantityField, Toggles, Two, WordsField } from '../fields';

import { Fields, Name, placesOf, words, type Props } from './hand';

/** Places besides its own that a sheet may name. */
const MOST_PLACES = 12;

/** A device in hand: what it is called, where it stands, what it draws, and what the rules know it as. */
export function DeviceHand({ kit, shown, chosen, model, onChange, onPick, id }: Props & { id: string }) {
  const d = shown.devices.find((x) => x.id === id)!;
  const set = (change: Partial<typeof d>) => onChange(changeDevice(kit, id, change, chosen));
  const circuit = shown.circuits.find((c) => c.devices.includes(id) || c.switch?.device === id);
  return (
    <Fields>
      <Name>{d.name}</Name>
      <WordsField id="device-name" label="Called" value={d.name} most={80} onTyped={(name) => name && set({ name })} />
      <Picking
        id="device-place"
        label="Where it stands"
        value={d.place}
        options={placesOf(model, d.place)}
        onPick={(place) => place && set({ place, places: d.places.filter((p) => p !== place) })}
      />
      {d.places.length > 0 && (
        <Toggles
          label="It may also stand at; the one that the box’s leads reach is taken"
          options={d.places.map((p) => ({ id: p, name: placesOf(model, p).find((o) => o.id === p)?.name ?? p }))}
          on={d.places}
          onToggle={(p) => set({ places: d.places.filter((x) => x !== p) })}
        />
      )}
      {d.places.length < MOST_PLACES && (
        <Picking
          id="device-also"
          label="Another place where it may stand"
          value=""
          options={[
            { id: '', name: 'none' },
            ...model.places.filter((p) => p.id !== d.place && !d.places.includes(p.id)).map((p) => ({ id: p.id, name: p.name })),
          ]}
          onPick={(p) => p && set({ places: [...d.places, p] })}
        />
      )}
      {d.load && (
        <QuantityField
          id="device-watts"
          label="Watts"
          kind="watts"
          value={d.load.watts}
          placeholder="the maker does not say"
          onTyped={(watts) => set({ load: { ...d.load!, watts } })}
        />
      )}
      {d.load && (
        <Picking
          id="device-kind"
          label="It draws"
          value={d.load.kind}
          options={[
            { id: 'continuous', name: 'all the time' },
            { id: 'intermittent', name: 'now and then' },
            { id: 'burst', name: 'in bursts, as a winch does' },
          ]}
          onPick={(kind) => kind && set({ load: { ...d.load!, kind } })}
        />
      )}
      <Two>
        <QuantityField
          id="device-standby"
          label="Draws when off, A"
          kind="amps"
          value={d.standbyMa / 1000}
          onTyped={(a) => set({ standbyMa: (a ?? 0) * 1000 })}
        />
        <QuantityField id="device-mass" label="Mass" kind="mass" value={d.massKg} onTyped={(massKg) => set({ massKg: massKg ?? 0 })} />
      </Two>
      <Picking
        id="device-function"
        label="What the rules know it as"
        value={d.equipment?.function ?? ''}
        options={[{ id: '', name: 'nothing that they ask for' }, ...EquipmentFunction.options.map((f) => ({ id: f, name: words(f) }))]}
        onPick={(f) => {
          const { equipment: was, ...rest } = d;
          onChange({
            ...kit,
            devices: kit.devices.map((x) => (x === d ? (f ? { ...d, equipment: { ...was, function: f } } : rest) : x)),
          });
        }}
      />
      {d.equipment && (
        <Picking
          id="device-colour"
          label="Its light"
          value={d.equipment.colour ?? ''}
          options={[{ id: '', name: 'none' }, ...LightColour.options.map((c) => ({ id: c, name: words(c) }))]}
          onPick={(colour) => {
            const { colour: _, ...rest } = d.equipment!;
            set({ equipment: colour ? { ...rest, colour } : rest });
          }}
        />
      )}
      {circuit && (
        <Act look="quiet" onClick={() => onPick({ kind: 'circuit', id: circuit.id })}>
          On circuit {circuit.name}
        </Act>
      )}
      <Act
        look="quiet"
        onClick={() => {
          onPick(null);
          onChange(removeDevice(kit, id));
        }}
      >
        Take it out of the box
      </Act>
    </Fields>
  );
}
