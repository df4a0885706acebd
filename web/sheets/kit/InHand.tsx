import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { targetsOf } from '#model/box';
import { EquipmentFunction, LightColour, UnitKind } from '#model/common';
import { Stage, StepReading, type Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { WISHES, type WishId } from '#model/wish';
import { feedsHarness } from '#core/shelf/add-part';
import { HARNESS_STYLES, removeHarness, withHarness, type HarnessStyle } from '#core/shelf/ready-harness';
import { joinTargets } from '#core/sheets/box-scheme';
import {
  addLeg,
  changeCircuit,
  changeContent,
  changeDevice,
  changeFuse,
  changeLeg,
  changeStep,
  changeWire,
  fitsModel,
  joinWire,
  moveStep,
  namedContent,
  removeContent,
  removeDevice,
  removeStep,
  type BoxPart,
  type Choices,
} from '#core/sheets/edit-kit';
import { awgName } from '#core/wire/resistance';
import { WIRE_FILL } from '#core/harness/draw';
import { Act, Choice, Entry, Labelled } from '../../app/ui';
import { WireMark } from '../../marks/WireSwatch';
import { Picking, QuantityField, Toggles, Two, WordsField } from '../fields';

type Change = (kit: Kit) => void;
interface Props {
  kit: Kit;
  /** the box as its variants are chosen: what is there of several things of one id */
  shown: Kit;
  chosen: Choices;
  model: UnitModel;
  onChange: Change;
  onPick: (p: BoxPart | null) => void;
}

const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0] as const;
const words = (id: string) => id.replace(/-/g, ' ');

const Fields = chakra('div', { base: { display: 'grid', gap: '8px' } });
const Name = chakra('h2', { base: { fontSize: '18px', mb: '8px' } });

/** Places by their names on the unit that the box is tried on; a place that it lacks is said to be lacking. */
const placesOf = (model: UnitModel, now: string) => [
  ...(model.places.some((p) => p.id === now) ? [] : [{ id: now, name: `${words(now)}: not on this unit` }]),
  ...model.places.map((p) => ({ id: p.id, name: p.name })),
];

function DeviceHand({ kit, shown, chosen, model, onChange, onPick, id }: Props & { id: string }) {
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
        onPick={(place) => place && set({ place })}
      />
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

function CircuitHand({ kit, shown, chosen, onChange, onPick, id }: Props & { id: string }) {
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

function HarnessHand({ kit, shown, chosen, onChange, onPick, id }: Props & { id: string }) {
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

function ContentHand({ kit, onChange, onPick, at }: Props & { at: number }) {
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

const STAGES: Record<Stage, string> = {
  'bench-test': 'on the bench, before any panel',
  mount: 'mounting',
  wire: 'wiring',
  prove: 'proving',
  close: 'closing',
};

function StepHand({ kit, shown, chosen, model, onChange, onPick, id }: Props & { id: string }) {
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

function BoxHand({ kit, model, models, onChange }: Props & { models: readonly UnitModel[] }) {
  return (
    <Fields>
      <Name>The box itself</Name>
      <WordsField id="kit-maker" label="Maker" value={kit.maker} most={60} onTyped={(maker) => maker && onChange({ ...kit, maker })} />
      <WordsField id="kit-name" label="Name" value={kit.name} most={80} onTyped={(name) => name && onChange({ ...kit, name })} />
      <WordsField
        id="kit-summary"
        label="In a sentence"
        value={kit.summary}
        most={300}
        long
        onTyped={(summary) => summary && onChange({ ...kit, summary })}
      />
      <Toggles
        label="Made for, model by model"
        options={models.map((m) => ({ id: m.id, name: m.name }))}
        on={models.flatMap((m) => (kit.fits.some((f) => f.fits && f.models?.includes(m.id)) ? [m.id] : []))}
        onToggle={(id, on) => onChange(fitsModel(kit, id, on))}
      />
      <Toggles
        label="Or for every unit of a kind"
        options={UnitKind.options.map((k) => ({ id: k, name: words(k) }))}
        on={UnitKind.options.filter((k) => kit.fits.some((f) => f.fits && !f.models && f.kinds?.includes(k)))}
        onToggle={(k, on) => {
          const others = kit.fits.filter((f) => f.models || !f.kinds?.includes(k));
          onChange({ ...kit, fits: on ? [...others, { kinds: [k], fits: true }] : others });
        }}
      />
      <Toggles
        label="It answers an owner’s wish"
        options={(Object.keys(WISHES) as WishId[]).map((w) => ({ id: w, name: WISHES[w] }))}
        on={kit.wishes as WishId[]}
        onToggle={(w, on) => onChange({ ...kit, wishes: on ? [...kit.wishes, w] : kit.wishes.filter((x) => x !== w) })}
      />
      <WordsField
        id="kit-owner"
        label="What the owner is told at the end"
        value={kit.owner[0] ?? ''}
        most={240}
        onTyped={(text) => onChange({ ...kit, owner: text ? [text, ...kit.owner.slice(1)] : kit.owner.slice(1) })}
      />
      <chakra.p fontSize="14px" color="quiet">
        Places are named as on the {model.maker} {model.name}.
      </chakra.p>
    </Fields>
  );
}

/** What of a box is in hand, with all that is known of it. */
export function InHand({ part, models, ...p }: Props & { part: BoxPart; models: readonly UnitModel[] }) {
  const { shown: kit } = p;
  if (part.kind === 'device' && kit.devices.some((d) => d.id === part.id)) return <DeviceHand key={part.id} {...p} id={part.id} />;
  if (part.kind === 'circuit' && kit.circuits.some((c) => c.id === part.id)) return <CircuitHand key={part.id} {...p} id={part.id} />;
  if (part.kind === 'harness' && kit.harnesses.some((h) => h.id === part.id)) return <HarnessHand key={part.id} {...p} id={part.id} />;
  if (part.kind === 'content' && kit.contents[part.at]) return <ContentHand key={part.at} {...p} at={part.at} />;
  if (part.kind === 'step' && kit.steps.some((s) => s.id === part.id)) return <StepHand key={part.id} {...p} id={part.id} />;
  return <BoxHand {...p} models={models} />;
}
