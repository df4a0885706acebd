import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { WIRE_FILL } from '#core/harness/draw';
import { HOW_WORD, howKnown } from '#core/known/pointer';
import { changeThing, removeThing, THINGS, type ThingList } from '#core/sheets/edit-things';
import type { Typed } from '#core/sheets/edit-model';
import { PINS, withPins } from '#core/sheets/tables';
import { EquipmentFunction, LightColour } from '#model/common';
import { WireFunction } from '#model/parts';
import { PowerPointKind, type UnitModel } from '#model/unit-model';
import { Act } from '../app/ui';
import { TableIn } from './TableIn';
import { Picking, QuantityField, Two, WordsField } from './fields';

const words = (id: string) => id.replace(/-/g, ' ');

/** A feed, a ground, a wire of the unit or a piece of its equipment, with what is known of it. */
export function ThingHand({
  model,
  list,
  id,
  typed,
  onChange,
  onGone,
}: {
  model: UnitModel;
  list: ThingList;
  id: string;
  typed: () => Typed;
  onChange: (m: UnitModel) => void;
  onGone: (m: UnitModel) => void;
}) {
  const [pinning, setPinning] = useState(false);
  const it = model[list].find((x) => x.id === id);
  if (!it) return null;
  const set = (change: object) => onChange(changeThing(model, list, id, change, typed()));
  const note = (field: string) => HOW_WORD[howKnown(model, `/${list}/${id}/${field}`).how];
  const feed = list === 'powerPoints' ? model.powerPoints.find((x) => x.id === id)! : null;
  const wire = list === 'factoryWires' ? model.factoryWires.find((x) => x.id === id)! : null;
  const ground = list === 'grounds' ? model.grounds.find((x) => x.id === id)! : null;
  const piece = list === 'equipment' ? model.equipment.find((x) => x.id === id)! : null;
  const guarded = feed ?? wire;
  return (
    <chakra.section aria-label={it.name} display="grid" gap="8px">
      <chakra.h2 fontSize="18px">{it.name}</chakra.h2>
      <chakra.p fontSize="14px" color="quiet">
        A {THINGS[list]}.
      </chakra.p>
      <WordsField id="thing-name" label="Called" value={it.name} most={80} onTyped={(name) => name && set({ name })} />
      <Picking
        id="thing-place"
        label="Where it is"
        value={it.place ?? ''}
        options={[...(it.place ? [] : [{ id: '', name: 'not said' }]), ...model.places.map((p) => ({ id: p.id, name: p.name }))]}
        onPick={(place) => place && set({ place })}
      />
      {feed && (
        <Two>
          <Picking
            id="feed-kind"
            label="It is a"
            value={feed.kind}
            options={PowerPointKind.options.map((k) => ({ id: k, name: words(k) }))}
            onPick={(kind) => kind && set({ kind })}
          />
          <Picking
            id="feed-switching"
            label="Live"
            value={feed.switching}
            options={[
              { id: 'keyed', name: 'with the key' },
              { id: 'constant', name: 'always' },
            ]}
            onPick={(switching) => switching && set({ switching })}
          />
        </Two>
      )}
      {wire && (
        <Two>
          <Picking
            id="wire-function"
            label="It carries"
            value={wire.function}
            options={WireFunction.options.map((f) => ({ id: f, name: words(f) }))}
            onPick={(f) => f && set({ function: f })}
          />
          <Picking
            id="wire-colour"
            label="Colour"
            value={wire.colour}
            options={[...new Set([wire.colour, ...Object.keys(WIRE_FILL)])].map((c) => ({ id: c, name: c }))}
            onPick={(colour) => colour && set({ colour })}
          />
        </Two>
      )}
      {guarded && (
        <>
          <QuantityField
            id="thing-volts"
            label="Volts"
            kind="volts"
            value={guarded.volts}
            note={note('volts')}
            onTyped={(volts) => volts !== null && volts > 0 && set({ volts })}
          />
          <QuantityField
            id="thing-fuse"
            label="Its fuse"
            kind="amps"
            value={guarded.fuseA ?? null}
            placeholder="none"
            note={note('fuseA')}
            onTyped={(a) => set({ fuseA: a !== null && a > 0 ? a : undefined })}
          />
          <QuantityField
            id="thing-used"
            label="Drawn through it already"
            kind="amps"
            value={guarded.usedA}
            note={note('usedA')}
            onTyped={(a) => set({ usedA: Math.max(0, a ?? 0) })}
          />
        </>
      )}
      {feed && (
        <QuantityField
          id="feed-limit"
          label="Its maker allows"
          kind="amps"
          value={feed.limitA ?? null}
          placeholder="not said"
          note={note('limitA')}
          onTyped={(a) => set({ limitA: a !== null && a > 0 ? a : undefined })}
        />
      )}
      {feed && (
        <>
          {feed.pins.length > 0 && (
            <chakra.table fontSize="14px" aria-label="Pins of its plug">
              <tbody>
                {feed.pins.map((p) => (
                  <chakra.tr key={p.pin} borderTopWidth="1px" borderColor="rule">
                    <chakra.td py="3px" pr="8px" fontFamily="mono">
                      {p.pin}
                    </chakra.td>
                    <chakra.td pr="8px">{p.colour ?? ''}</chakra.td>
                    <chakra.td pr="8px">{p.use}</chakra.td>
                    <td>{p.carries ?? ''}</td>
                  </chakra.tr>
                ))}
              </tbody>
            </chakra.table>
          )}
          {pinning ? (
            <TableIn
              label="Its pinout"
              kind={PINS}
              onDone={() => setPinning(false)}
              onLines={(pins) => onChange(withPins(model, id, pins, typed()))}
            />
          ) : (
            <Act look="quiet" onClick={() => setPinning(true)}>
              {feed.pins.length ? 'Another pinout from a table…' : 'Its pinout from a table…'}
            </Act>
          )}
        </>
      )}
      {ground && (
        <QuantityField
          id="ground-ohms"
          label="Resistance back to the battery’s negative post"
          kind="ohms"
          value={ground.ohms}
          note={note('ohms')}
          onTyped={(ohms) => set({ ohms: Math.max(0, ohms ?? 0) })}
        />
      )}
      {piece && (
        <>
          <Picking
            id="piece-function"
            label="It is a"
            value={piece.function}
            options={EquipmentFunction.options.map((f) => ({ id: f, name: words(f) }))}
            onPick={(f) => f && set({ function: f })}
          />
          <Two>
            <Picking
              id="piece-colour"
              label="Its light"
              value={piece.colour ?? ''}
              options={[{ id: '', name: 'none' }, ...LightColour.options.map((c) => ({ id: c, name: words(c) }))]}
              onPick={(c) => set({ colour: c || undefined })}
            />
            <Picking
              id="piece-present"
              label="It is there"
              value={piece.present}
              options={[
                { id: 'yes', name: 'always' },
                { id: 'unknown', name: 'as it was ordered' },
              ]}
              onPick={(present) => present && set({ present })}
            />
          </Two>
          <QuantityField
            id="piece-candela"
            label="Candela"
            kind="plain"
            value={piece.candela ?? null}
            placeholder="not known"
            note={note('candela')}
            onTyped={(c) => set({ candela: c !== null && c > 0 ? c : undefined })}
          />
        </>
      )}
      <Act
        look="quiet"
        disabled={list === 'powerPoints' && model.powerPoints.length === 1}
        onClick={() => onGone(removeThing(model, list, id))}
      >
        Take it out
      </Act>
    </chakra.section>
  );
}
