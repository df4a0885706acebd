import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { allBefore } from '#core/plan/precedence';
import { changePanel, removePanel } from '#core/sheets/edit-things';
import type { Typed } from '#core/sheets/edit-model';
import type { Panel, UnitModel } from '#model/unit-model';
import { Act, Entry } from '../app/ui';
import { Picking, QuantityField, Toggles, Two, WordsField } from './fields';

/** A panel: what it hides, what must be off first, what holds it, and how long it takes. */
export function PanelHand({
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
  const p = model.panels.find((x) => x.id === id);
  const [bolt, setBolt] = useState({ kind: '', count: '4', tool: '' });
  if (!p) return null;
  const set = (change: Partial<Panel>) => onChange(changePanel(model, id, change, typed()));
  const name = (q: string) => model.panels.find((x) => x.id === q)?.name ?? q;
  const count = Number(bolt.count);
  return (
    <chakra.section aria-label={p.name} display="grid" gap="8px">
      <chakra.h2 fontSize="18px">{p.name}</chakra.h2>
      <chakra.p fontSize="14px" color="quiet">
        {p.hides.length
          ? `Hides ${p.hides.map((h) => model.places.find((x) => x.id === h)?.name ?? h).join('; ')}.`
          : 'It hides nothing yet.'}{' '}
        Touch places on the drawing: what it hides is filled.
      </chakra.p>
      <WordsField id="panel-name" label="Called" value={p.name} most={60} onTyped={(n) => n && set({ name: n })} />
      <Two>
        <QuantityField
          id="panel-off"
          label="Off takes"
          kind="duration"
          value={p.offMinutes}
          onTyped={(m) => m !== null && set({ offMinutes: Math.max(0, m) })}
        />
        <QuantityField
          id="panel-on"
          label="On takes"
          kind="duration"
          value={p.onMinutes}
          onTyped={(m) => m !== null && set({ onMinutes: Math.max(0, m) })}
        />
      </Two>
      <Picking
        id="panel-hands"
        label="Hands"
        value={String(p.hands) as '1' | '2'}
        options={[
          { id: '1', name: 'one person' },
          { id: '2', name: 'two' },
        ]}
        onPick={(h) => set({ hands: h === '2' ? 2 : 1 })}
      />
      {model.panels.length > 1 && (
        <Toggles
          label="Off before it"
          // what waits for this one cannot come before it
          options={model.panels.filter((x) => x.id !== id && !allBefore(model.panels, x.id).has(id))}
          on={p.after}
          onToggle={(a, on) => set({ after: on ? [...p.after, a] : p.after.filter((x) => x !== a) })}
        />
      )}
      {p.after.length > 0 && (
        <chakra.p fontSize="14px" color="quiet">
          First off: {[...allBefore(model.panels, id)].map(name).join(', ')}.
        </chakra.p>
      )}
      <chakra.div>
        <chakra.p fontSize="14px" color="quiet">
          Held by
        </chakra.p>
        {p.fasteners.map((f, i) => (
          <chakra.p key={`${f.kind} ${i}`} display="flex" justifyContent="space-between" alignItems="center" fontSize="15px">
            {f.count} × {f.kind}, {f.tool}
            <Act look="quiet" minHeight="36px" onClick={() => set({ fasteners: p.fasteners.filter((_, j) => j !== i) })}>
              Not
            </Act>
          </chakra.p>
        ))}
        <chakra.form
          display="grid"
          gridTemplateColumns="56px minmax(0, 1fr) minmax(0, 1fr)"
          gap="6px"
          onSubmit={(e) => {
            e.preventDefault();
            set({ fasteners: [...p.fasteners, { kind: bolt.kind.trim(), count, tool: bolt.tool.trim() || 'hands' }] });
            setBolt({ kind: '', count: '4', tool: '' });
          }}
        >
          <Entry
            aria-label="How many"
            value={bolt.count}
            inputMode="numeric"
            onChange={(e) => setBolt({ ...bolt, count: e.target.value })}
          />
          <Entry
            aria-label="Of what"
            placeholder="bolt M6"
            maxLength={40}
            value={bolt.kind}
            onChange={(e) => setBolt({ ...bolt, kind: e.target.value })}
          />
          <Entry
            aria-label="With what tool"
            placeholder="10 mm"
            maxLength={40}
            value={bolt.tool}
            onChange={(e) => setBolt({ ...bolt, tool: e.target.value })}
          />
          <Act type="submit" gridColumn="1 / -1" disabled={!bolt.kind.trim() || !Number.isInteger(count) || count < 1 || count > 999}>
            Add what holds it
          </Act>
        </chakra.form>
      </chakra.div>
      <Act look="quiet" onClick={() => onGone(removePanel(model, id))}>
        No such panel
      </Act>
    </chakra.section>
  );
}
