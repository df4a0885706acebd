import { chakra } from '@chakra-ui/react';
import { feedsHarness } from '#core/shelf/add-part';
import { HARNESS_STYLES, removeHarness, withHarness, type HarnessStyle } from '#core/shelf/ready-harness';
import { changeCircuit } from '#core/sheets/edit-kit';
import { WIRE_FILL } from '#core/harness/draw';
import { Act } from '../../app/ui';
import { Picking, QuantityField, Two, WordsField } from '../fields';

import { Fields, Name, type Props } from './hand';

/** A circuit in hand: how it is wired, when it is live, what works it. */
export function CircuitHand({ kit, shown, chosen, onChange, onPick, id }: Props & { id: string }) {
  const c = shown.circuits.find((x) => x.id === id)!;
  const set = (change: Partial<typeof c>) => onChange(changeCircuit(kit, id, change, chosen));
  const harness = feedsHarness(shown, id);
  const switches = shown.devices.filter((d) => d.controls.length && d.terminals.length);
  return (
    <Fields>
      <Name>{c.name}</Name>
      <WordsField id="circuit-name" label="Called" value={c.name} most={80} onTyped={(name) => name && set({ name })} />
      {!c.taps && !c.when && (
        <chakra.div role="group" aria-label="How it is wired">
          <chakra.p fontSize="14px" color="quiet" mb="4px">
            How it is wired
          </chakra.p>
          <chakra.div display="flex" flexWrap="wrap" gap="4px">
            {(Object.keys(HARNESS_STYLES) as HarnessStyle[]).map((s) => (
              <Act key={s} minHeight="36px" px="8px" fontSize="14px" data-harness={s} onClick={() => onChange(withHarness(kit, id, s).kit)}>
                {HARNESS_STYLES[s]}
              </Act>
            ))}
            <Act
              minHeight="36px"
              px="8px"
              fontSize="14px"
              on={harness === null}
              aria-pressed={harness === null}
              onClick={() => onChange(removeHarness(kit, harness))}
            >
              Loose wire
            </Act>
            {harness !== null && (
              <Act look="quiet" minHeight="36px" fontSize="14px" onClick={() => onPick({ kind: 'harness', id: harness })}>
                Its harness
              </Act>
            )}
          </chakra.div>
        </chakra.div>
      )}
      <Two>
        <Picking
          id="circuit-switching"
          label="Live"
          value={c.switching}
          options={[
            { id: 'keyed', name: 'with the key' },
            { id: 'constant', name: 'always' },
            { id: 'either', name: 'either will do' },
          ]}
          onPick={(switching) => switching && set({ switching })}
        />
        <Picking
          id="circuit-relay"
          label="A relay"
          value={c.relay}
          options={[
            { id: 'required', name: 'must be there' },
            { id: 'allowed', name: 'may be there' },
            { id: 'never', name: 'never' },
          ]}
          onPick={(relay) => relay && set({ relay })}
        />
      </Two>
      <Picking
        id="circuit-switch"
        label="Worked by"
        value={c.switch?.device ?? ''}
        options={[{ id: '', name: 'no switch of its own' }, ...switches.map((d) => ({ id: d.id, name: d.name }))]}
        onPick={(device) => {
          const { switch: _, ...rest } = c;
          const d = kit.devices.find((x) => x.id === device);
          const [first, second] = d ? d.terminals.map((t) => t.id) : [];
          const next = d && first && second ? { ...rest, switch: { device: d.id, in: first, out: second } } : rest;
          onChange({ ...kit, circuits: kit.circuits.map((x) => (x === c ? next : x)) });
        }}
      />
      <Two>
        <QuantityField
          id="circuit-fuse"
          label="Largest fuse"
          kind="amps"
          value={c.fuseMaxA ?? null}
          placeholder="not said"
          onTyped={(a) => {
            const { fuseMaxA: _, ...rest } = c;
            const next = a === null ? rest : { ...rest, fuseMaxA: a };
            onChange({ ...kit, circuits: kit.circuits.map((x) => (x === c ? next : x)) });
          }}
        />
        <Picking
          id="circuit-colour"
          label="Its wire"
          value={c.colour}
          options={[...new Set([c.colour, ...Object.keys(WIRE_FILL)])].map((w) => ({ id: w, name: w }))}
          onPick={(colour) => colour && set({ colour })}
        />
      </Two>
      {c.devices.map((d) => (
        <Act key={d} look="quiet" minHeight="36px" onClick={() => onPick({ kind: 'device', id: d })}>
          {kit.devices.find((x) => x.id === d)?.name ?? d}
        </Act>
      ))}
    </Fields>
  );
}
