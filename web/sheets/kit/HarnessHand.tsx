import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { targetsOf } from '#model/box';
import { removeHarness } from '#core/shelf/ready-harness';
import { joinTargets } from '#core/sheets/box-scheme';
import { addLeg, changeFuse, changeLeg, changeWire, joinWire } from '#core/sheets/edit-kit';
import { awgName } from '#core/wire/resistance';
import { WIRE_FILL } from '#core/harness/draw';
import { Act, Choice, Entry, Labelled } from '../../app/ui';
import { WireMark } from '../../marks/WireSwatch';
import { QuantityField, Toggles } from '../fields';

import { Fields, Name, type Props } from './hand';

const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0] as const;

/** A ready harness in hand: its legs as taped, fuses, wires, and where each end goes. */
export function HarnessHand({ kit, shown, chosen, onChange, onPick, id }: Props & { id: string }) {
  const h = shown.harnesses.find((x) => x.id === id)!;
  const targets = joinTargets(shown);
  const [name, setName] = useState('');
  const [wires, setWires] = useState<string[]>([]);
  return (
    <Fields>
      <Name>{h.name}</Name>
      <chakra.p fontSize="14px" color="quiet">
        Hold a tape to each leg. On the drawing, touch a wire’s end and then where it goes.
      </chakra.p>
      {h.legs.map((l) => (
        <QuantityField
          key={l.id}
          id={`leg-${l.id}`}
          label={l.name ?? l.id}
          kind="smallLength"
          value={l.lengthMm}
          onTyped={(mm) => mm !== null && onChange(changeLeg(kit, id, l.id, mm))}
        />
      ))}
      {h.inline.map((x, i) =>
        x.kind === 'fuse' ? (
          <QuantityField
            key={`${x.leg} ${x.wire}`}
            id={`fuse-${i}`}
            label={`Fuse on wire ${x.wire}`}
            kind="amps"
            value={x.ratingA}
            onTyped={(a) => a !== null && onChange(changeFuse(kit, id, i, a))}
          />
        ) : null,
      )}
      <chakra.h3 fontSize="16px">Wires: colour, AWG</chakra.h3>
      {h.wires.map((w) => (
        <chakra.div key={w.id} display="grid" gridTemplateColumns="minmax(0, 1fr) 88px 72px" gap="6px" alignItems="center">
          <chakra.span display="flex" gap="6px" alignItems="center" minW={0}>
            <WireMark colour={w.colour} />
            {w.id}
          </chakra.span>
          <Choice
            aria-label={`Colour of ${w.id}`}
            value={w.colour}
            onChange={(e) => onChange(changeWire(kit, id, w.id, { colour: e.target.value }))}
          >
            {[...new Set([w.colour, ...Object.keys(WIRE_FILL)])].map((c) => (
              <option key={c}>{c}</option>
            ))}
          </Choice>
          <Choice
            aria-label={`Gauge of ${w.id}`}
            value={w.awg}
            onChange={(e) => onChange(changeWire(kit, id, w.id, { awg: Number(e.target.value) }))}
          >
            {[...new Set([w.awg, ...GAUGES])].map((g) => (
              <option key={g} value={g}>
                {awgName(g)}
              </option>
            ))}
          </Choice>
        </chakra.div>
      ))}
      <chakra.h3 fontSize="16px">Its ends</chakra.h3>
      {h.ends.map((e) => (
        <chakra.div key={e.id} borderTopWidth="1px" borderColor="rule" pt="6px" display="grid" gap="4px">
          <b>{e.name}</b>
          {e.wires.map((w) => {
            const join = shown.joins.find((j) => j.harness === id && j.end === e.id);
            const to = join ? targetsOf(join, w.wire) : [];
            return (
              <Labelled key={w.wire} id={`join-${e.id}-${w.wire}`} label={`${w.wire} goes to`}>
                <Choice
                  id={`join-${e.id}-${w.wire}`}
                  value={to[0] ?? ''}
                  onChange={(x) => onChange(joinWire(kit, id, e.id, w.wire, x.target.value || null, chosen))}
                >
                  <option value="">nothing yet</option>
                  {[...(to[0] && !targets.some((t) => t.target === to[0]) ? [{ target: to[0], name: to[0] }] : []), ...targets].map((t) => (
                    <option key={t.target} value={t.target}>
                      {t.name}
                    </option>
                  ))}
                </Choice>
              </Labelled>
            );
          })}
        </chakra.div>
      ))}
      <chakra.form
        borderTopWidth="1px"
        borderColor="rule"
        pt="8px"
        display="grid"
        gap="6px"
        onSubmit={(e) => {
          e.preventDefault();
          onChange(addLeg(kit, id, name, wires));
          setName('');
          setWires([]);
        }}
      >
        <Labelled id="new-leg" label="One more end, by its name">
          <Entry id="new-leg" value={name} maxLength={60} autoComplete="off" onChange={(e) => setName(e.target.value)} />
        </Labelled>
        <Toggles
          label="Wires that end there"
          options={h.wires.map((w) => ({ id: w.id, name: w.id }))}
          on={wires}
          onToggle={(w, on) => setWires(on ? [...wires, w] : wires.filter((x) => x !== w))}
        />
        <Act type="submit" disabled={!name.trim() || !wires.length}>
          Add the end
        </Act>
      </chakra.form>
      <Act
        look="quiet"
        onClick={() => {
          onPick(null);
          onChange(removeHarness(kit, id));
        }}
      >
        Take it out of the box
      </Act>
    </Fields>
  );
}
