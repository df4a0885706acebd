import { changeContent, removeContent } from '#core/sheets/edit-kit';
import { Act } from '../../app/ui';
import { QuantityField, Toggles, WordsField } from '../fields';

import { Fields, Name, type Props } from './hand';

/** A piece of the contents in hand: how many, and how it is tightened or stuck. */
export function ContentHand({ kit, onChange, onPick, at }: Props & { at: number }) {
  const c = kit.contents[at]!;
  const set = (change: Partial<typeof c>) => onChange(changeContent(kit, at, change));
  const without = (key: 'fastener' | 'pad') => {
    const { [key]: _, ...rest } = c;
    onChange({ ...kit, contents: kit.contents.map((x, i) => (i === at ? rest : x)) });
  };
  const torque = (nm: number | null) => {
    const { torqueNm: _, ...rest } = c.fastener!;
    set({ fastener: nm === null ? { ...rest, holdsPerson: false } : { ...rest, torqueNm: nm } });
  };
  return (
    <Fields>
      <Name>{c.item}</Name>
      <WordsField id="content-item" label="What it is" value={c.item} most={80} onTyped={(item) => item && set({ item })} />
      <QuantityField
        id="content-count"
        label="How many"
        kind="plain"
        value={c.count}
        onTyped={(n) => n !== null && n >= 1 && set({ count: Math.min(999, Math.round(n)) })}
      />
      <Toggles
        label="It is"
        options={[
          { id: 'fastener', name: 'a bolt or screw' },
          { id: 'pad', name: 'tape or glue' },
        ]}
        on={[...(c.fastener ? (['fastener'] as const) : []), ...(c.pad ? (['pad'] as const) : [])]}
        onToggle={(k, on) => {
          if (!on) return without(k);
          set(
            k === 'fastener'
              ? { fastener: { threadLocker: false, holdsPerson: false } }
              : { pad: { clean: 'alcohol', pressS: 30, cureH: 0, before: [] } },
          );
        }}
      />
      {c.fastener && (
        <>
          <QuantityField
            id="content-torque"
            label="Torque"
            kind="torque"
            value={c.fastener.torqueNm ?? null}
            placeholder="the maker does not say"
            onTyped={torque}
          />
          <Toggles
            label="With"
            options={[
              { id: 'threadLocker', name: 'thread-locker' },
              { id: 'holdsPerson', name: 'a person held by it' },
            ]}
            on={(['threadLocker', 'holdsPerson'] as const).filter((k) => c.fastener![k])}
            onToggle={(k, on) => set({ fastener: { ...c.fastener!, [k]: on } })}
          />
        </>
      )}
      {c.pad && (
        <>
          <WordsField
            id="pad-clean"
            label="Wiped with"
            value={c.pad.clean}
            most={40}
            onTyped={(clean) => clean && set({ pad: { ...c.pad!, clean } })}
          />
          <QuantityField
            id="pad-press"
            label="Pressed for"
            kind="duration"
            value={c.pad.pressS / 60}
            onTyped={(min) => min !== null && min > 0 && set({ pad: { ...c.pad!, pressS: min * 60 } })}
          />
          <QuantityField
            id="pad-cure"
            label="Cures for"
            kind="duration"
            value={c.pad.cureH * 60}
            onTyped={(min) => set({ pad: { ...c.pad!, cureH: (min ?? 0) / 60 } })}
          />
        </>
      )}
      <Act
        look="quiet"
        onClick={() => {
          onPick(null);
          onChange(removeContent(kit, at));
        }}
      >
        Not in the box
      </Act>
    </Fields>
  );
}
