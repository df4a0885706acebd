import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Stage, StepReading } from '#model/kit';
import { changeStep, moveStep, namedContent, removeStep } from '#core/sheets/edit-kit';
import { Act, Entry, Labelled } from '../../app/ui';
import { Picking, QuantityField, Toggles, Two, WordsField } from '../fields';
import { SheetPicture } from '../SheetPicture';

import { Fields, Name, placesOf, type Props } from './hand';

const STAGES: Record<Stage, string> = {
  'bench-test': 'on the bench, before any panel',
  mount: 'mounting',
  wire: 'wiring',
  prove: 'proving',
  close: 'closing',
};

/** A step of the maker’s in hand. */
export function StepHand({ kit, shown, chosen, model, onChange, onPick, id }: Props & { id: string }) {
  const s = shown.steps.find((x) => x.id === id)!;
  const set = (change: Partial<typeof s>) => onChange(changeStep(kit, id, change, chosen));
  const [asks, setAsks] = useState('');
  const maybe = (key: 'tool' | 'why') => (text: string) => {
    const { [key]: _, ...rest } = s;
    onChange({ ...kit, steps: kit.steps.map((x) => (x === s ? (text ? { ...rest, [key]: text } : rest) : x)) });
  };
  const at = kit.steps.findIndex((x) => x.id === id);
  return (
    <Fields>
      <Name>{s.title}</Name>
      <WordsField id="step-title" label="What is done" value={s.title} most={120} onTyped={(title) => title && set({ title })} />
      <WordsField id="step-text" label="How" value={s.text} most={600} long onTyped={(text) => text && set({ text })} />
      <Picking
        id="step-stage"
        label="When"
        value={s.stage}
        options={Stage.options.map((x) => ({ id: x, name: STAGES[x] }))}
        onPick={(stage) => stage && set({ stage })}
      />
      <Picking
        id="step-place"
        label="Where"
        value={s.place}
        options={placesOf(model, s.place)}
        onPick={(place) => place && set({ place })}
      />
      <Two>
        <QuantityField
          id="step-minutes"
          label="Minutes"
          kind="duration"
          value={s.minutes}
          onTyped={(minutes) => minutes !== null && minutes > 0 && set({ minutes })}
        />
        <Picking
          id="step-hands"
          label="Hands"
          value={String(s.hands) as '1' | '2'}
          options={[
            { id: '1', name: 'one person' },
            { id: '2', name: 'two' },
          ]}
          onPick={(h) => set({ hands: h === '2' ? 2 : 1 })}
        />
      </Two>
      <WordsField id="step-tool" label="Tool" value={s.tool ?? ''} most={120} onTyped={maybe('tool')} />
      <WordsField id="step-why" label="Why, for who has not done it before" value={s.why ?? ''} most={240} onTyped={maybe('why')} />
      {kit.devices.length > 0 && (
        <Toggles
          label="Mounts"
          options={kit.devices.map((d) => ({ id: d.id, name: d.name }))}
          on={s.mounts}
          onToggle={(d, on) => set({ mounts: on ? [...s.mounts, d] : s.mounts.filter((x) => x !== d) })}
        />
      )}
      {kit.contents.some((c) => c.fastener || c.pad) && (
        <Toggles
          label="Uses"
          options={kit.contents.flatMap((c, i) => (c.fastener || c.pad ? [{ id: String(i), name: `${c.count} × ${c.item}` }] : []))}
          on={kit.contents.flatMap((c, i) => (c.id && s.uses.includes(c.id) ? [String(i)] : []))}
          onToggle={(i, on) => {
            const named = namedContent(kit, Number(i));
            const uses = on ? [...s.uses, named.id] : s.uses.filter((u) => u !== named.id);
            onChange(changeStep(named.kit, id, { uses }, chosen));
          }}
        />
      )}
      <SheetPicture
        id={s.picture ?? null}
        name={s.title}
        onPicture={(picture) => {
          const { picture: _, ...rest } = s;
          onChange({ ...kit, steps: kit.steps.map((x) => (x === s ? (picture ? { ...rest, picture } : rest) : x)) });
        }}
      />
      <WordsField
        id="step-caution"
        label="Caution"
        value={s.cautions[0] ?? ''}
        most={200}
        onTyped={(text) => set({ cautions: text ? [text, ...s.cautions.slice(1)] : s.cautions.slice(1) })}
      />
      <chakra.div>
        {s.readings.map((r) => (
          <chakra.p key={r.id} display="flex" justifyContent="space-between" alignItems="center" fontSize="15px">
            Asks: {r.label}
            <Act look="quiet" minHeight="36px" onClick={() => set({ readings: s.readings.filter((x) => x.id !== r.id) })}>
              Not
            </Act>
          </chakra.p>
        ))}
        <Labelled id="step-asks" label="Asks for a yes to">
          <chakra.div display="flex" gap="6px">
            <Entry id="step-asks" value={asks} maxLength={120} autoComplete="off" onChange={(e) => setAsks(e.target.value)} />
            <Act
              disabled={!asks.trim()}
              onClick={() => {
                const n = s.readings.length + 1;
                const reading = StepReading.parse({ id: `asked-${n}`, label: asks.trim(), unit: 'yes', expect: { kind: 'yes' } });
                set({ readings: [...s.readings.filter((x) => x.id !== reading.id), reading] });
                setAsks('');
              }}
            >
              Add
            </Act>
          </chakra.div>
        </Labelled>
      </chakra.div>
      <chakra.div display="flex" gap="6px" flexWrap="wrap">
        <Act disabled={at <= 0} onClick={() => onChange(moveStep(kit, id, -1))}>
          Earlier
        </Act>
        <Act disabled={at === kit.steps.length - 1} onClick={() => onChange(moveStep(kit, id, 1))}>
          Later
        </Act>
        <Act
          look="quiet"
          onClick={() => {
            onPick(null);
            onChange(removeStep(kit, id));
          }}
        >
          No such step
        </Act>
      </chakra.div>
    </Fields>
  );
}
