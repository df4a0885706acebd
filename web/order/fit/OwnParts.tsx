import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { doesLike, emptyOwn } from '#core/order/own';
import { parseQuantity, showQuantity } from '#core/quantity/quantity';
import { SHELF } from '#core/shelf/parts';
import { OWN_KIT } from '#model/own';
import { useUnits } from '../../app/context';
import { Act, Choice, Entry, FormDialog, Labelled, ReasonDialog } from '../../app/ui';
import { MovedOn } from '../../sheets/EditorHead';
import { BoxWork } from '../../sheets/kit/BoxWork';
import { useHistory } from '../../sheets/useHistory';
import { H3 } from '../Station';
import { PlaceChoice } from '../PlaceChoice';
import { useOrder } from '../useOrder';

/** Parts of this order alone, put together like a box, and put on the order. */
function OwnEditor({ onClose }: { onClose: () => void }) {
  const { order, sheets, settings, record } = useOrder();
  const history = useHistory(`own.${order.id}`, order.own ?? emptyOwn());
  const own = history.now;
  const some = own.contents.length > 0 || own.steps.length > 0;
  return (
    <chakra.div position="fixed" inset={0} zIndex={20} bg="paper" role="dialog" aria-label="Parts of this order">
      <BoxWork
        history={history}
        model={sheets.model}
        models={[sheets.model]}
        onModel={() => undefined}
        packs={sheets.packs}
        settings={settings}
        head={(problems) => (
          <chakra.div display="flex" alignItems="center" gap="8px" mb="8px" flexWrap="wrap">
            <MovedOn moved={history.moved} />
            <chakra.h1 fontSize="22px" flex="1">
              On order {order.number} alone
            </chakra.h1>
            <Act disabled={!history.undo} onClick={() => history.undo?.()}>
              Undo
            </Act>
            <Act onClick={onClose}>Leave</Act>
            <Act
              look="main"
              disabled={!history.changed || problems.some((p) => p.stops)}
              onClick={() => {
                if (record({ type: 'own.changed', own: some ? own : null })) {
                  history.drop();
                  onClose();
                }
              }}
            >
              Put it on the order
            </Act>
          </chakra.div>
        )}
      />
    </chakra.div>
  );
}

/** A way for wires that the sheet does not have. */
function NewWay() {
  const { sheets, record } = useOrder();
  const units = useUnits();
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const [long, setLong] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const places = sheets.model.places.map((p) => (
    <option key={p.id} value={p.id}>
      {p.name}
    </option>
  ));
  return (
    <chakra.form
      display="grid"
      gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr) 120px auto"
      gap="8px"
      alignItems="end"
      onSubmit={(e) => {
        e.preventDefault();
        try {
          const lengthMm = parseQuantity(long, 'smallLength', units);
          if (record({ type: 'way.added', from, to, lengthMm })) {
            setFrom('');
            setTo('');
            setLong('');
          }
        } catch (x) {
          setWrong((x as Error).message);
        }
      }}
    >
      <Labelled id="way-from" label="A way for wires from">
        <Choice id="way-from" value={from} onChange={(e) => setFrom(e.target.value)}>
          <option value="">choose</option>
          {places}
        </Choice>
      </Labelled>
      <Labelled id="way-to" label="to">
        <Choice id="way-to" value={to} onChange={(e) => setTo(e.target.value)}>
          <option value="">choose</option>
          {places}
        </Choice>
      </Labelled>
      <Labelled id="way-long" label="as taped" error={wrong}>
        <Entry id="way-long" value={long} autoComplete="off" onChange={(e) => (setLong(e.target.value), setWrong(null))} />
      </Labelled>
      <Act type="submit" disabled={!from || !to || !long.trim()}>
        Add
      </Act>
    </chakra.form>
  );
}

const ZERO = { name: '', near: '', long: '', x: '', y: '', z: '' };

/** A place that the sheet does not have, by how it lies from one that it has. */
function NewPlace() {
  const { sheets, record } = useOrder();
  const units = useUnits();
  const [typed, setTyped] = useState(ZERO);
  const [wrong, setWrong] = useState<string | null>(null);
  const set = (key: keyof typeof ZERO) => (e: { target: { value: string } }) => {
    setTyped({ ...typed, [key]: e.target.value });
    setWrong(null);
  };
  const add = () => {
    const near = sheets.model.places.find((p) => p.id === typed.near)!;
    const off = (text: string) => {
      const t = text.trim();
      return t ? parseQuantity(t.replace(/^[-−]/, ''), 'smallLength', units) * (/^[-−]/.test(t) ? -1 : 1) : 0;
    };
    try {
      const [x, y, z] = [off(typed.x), off(typed.y), off(typed.z)];
      const lengthMm = typed.long.trim() ? parseQuantity(typed.long, 'smallLength', units) : Math.hypot(x, y, z);
      if (!lengthMm) throw new Error('say how far it is');
      const at = { x: Math.round(near.x + x), y: Math.round(near.y + y), z: Math.round(near.z + z) };
      if (record({ type: 'place.added', name: typed.name.trim(), at, from: near.id, lengthMm })) setTyped(ZERO);
    } catch (e) {
      setWrong((e as Error).message);
    }
  };
  return (
    <chakra.form
      display="grid"
      gridTemplateColumns="minmax(0, 1.4fr) minmax(0, 1.4fr) repeat(4, minmax(0, 1fr)) auto"
      gap="8px"
      alignItems="end"
      onSubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <Labelled id="spot-name" label="A place, called">
        <Entry id="spot-name" value={typed.name} maxLength={80} autoComplete="off" onChange={set('name')} />
      </Labelled>
      <PlaceChoice
        id="spot-near"
        label="seen from"
        value={typed.near}
        onPlace={(near) => (setTyped({ ...typed, near: near ?? '' }), setWrong(null))}
      />
      {(
        [
          ['x', 'ahead'],
          ['y', 'to its left'],
          ['z', 'up'],
          ['long', 'as taped'],
        ] as const
      ).map(([k, label]) => (
        <Labelled key={k} id={`spot-${k}`} label={label} error={k === 'long' ? wrong : null}>
          <Entry id={`spot-${k}`} value={typed[k]} autoComplete="off" fontFamily="mono" onChange={set(k)} />
        </Labelled>
      ))}
      <Act type="submit" disabled={!typed.name.trim() || !typed.near}>
        Add
      </Act>
    </chakra.form>
  );
}

/** Puts another switch of the same positions in the place of a kit’s. */
function SwapSwitch() {
  const { order, given, record } = useOrder();
  const [of, setOf] = useState('');
  const [part, setPart] = useState('');
  const [name, setName] = useState('');
  const [reason, setReason] = useState('');
  const switches = given.kits.flatMap((k) =>
    k.id === OWN_KIT || !order.kits.some((o) => o.kit.id === k.id)
      ? []
      : k.devices
          .map((d) => ({ id: `${k.id}/${d.id}`, kit: k, device: d, fits: SHELF.filter((p) => doesLike(p, d)) }))
          .filter((x) => x.fits.length),
  );
  const chosen = switches.find((s) => s.id === of);
  if (!switches.length) return null;
  return (
    <>
      <Labelled id="swap-switch" label="Another switch in the place of a kit’s">
        <Choice
          id="swap-switch"
          value={of}
          onChange={(e) => {
            setOf(e.target.value);
            setPart(switches.find((s) => s.id === e.target.value)?.fits[0]?.id ?? '');
          }}
        >
          <option value="">choose the one that it takes the place of</option>
          {switches.map((s) => (
            <option key={s.id} value={s.id}>
              {s.kit.name}: {s.device.name}
            </option>
          ))}
        </Choice>
      </Labelled>
      {chosen && (
        <FormDialog
          open
          title={`In the place of ${chosen.device.name}`}
          action="Fit this one"
          ready={!!name.trim() && !!reason.trim()}
          onClose={() => setOf('')}
          onDone={() => {
            if (
              record({
                type: 'switch.swapped',
                kit: chosen.kit.id,
                device: chosen.device.id,
                name: name.trim(),
                part,
                reason: reason.trim(),
              })
            ) {
              setOf('');
              setName('');
              setReason('');
            }
          }}
        >
          <chakra.div display="grid" gap="10px">
            <Labelled id="swap-part" label="It is a">
              <Choice id="swap-part" value={part} onChange={(e) => setPart(e.target.value)}>
                {chosen.fits.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </Choice>
            </Labelled>
            <Labelled id="swap-name" label="Called">
              <Entry id="swap-name" value={name} maxLength={80} autoComplete="off" onChange={(e) => setName(e.target.value)} />
            </Labelled>
            <Labelled id="swap-reason" label="Why">
              <Entry id="swap-reason" value={reason} maxLength={200} autoComplete="off" onChange={(e) => setReason(e.target.value)} />
            </Labelled>
          </chakra.div>
        </FormDialog>
      )}
    </>
  );
}

/** What this order has that no sheet says: its own parts and steps, what is left out of its kits, ways for wires. */
export function OwnParts() {
  const { order, given, sheets, record } = useOrder();
  const units = useUnits();
  const [editing, setEditing] = useState(false);
  const [leaving, setLeaving] = useState<{ kit: string; device: string; name: string } | null>(null);
  const sealed = order.status !== 'open';
  const { own, leftOut = [], swapped = [], ways = [], spots = [] } = order;
  const placeName = (id: string) => sheets.model.places.find((p) => p.id === id)?.name ?? id;
  if (sealed && !own && !leftOut.length && !swapped.length && !ways.length && !spots.length) return null;
  const line = { display: 'flex', alignItems: 'center', gap: '12px', py: '6px', borderBottomWidth: '1px', borderColor: 'rule' } as const;
  return (
    <>
      <H3>On this order alone</H3>
      {own && (
        <chakra.div {...line}>
          <chakra.span flex="1">
            {[...own.devices.map((d) => d.name), ...own.steps.map((s) => s.title)].join(', ') || own.summary}
          </chakra.span>
          {!sealed && <Act onClick={() => setEditing(true)}>Change it</Act>}
        </chakra.div>
      )}
      {leftOut.map((l) => (
        <chakra.div key={`${l.kit}/${l.device}`} {...line}>
          <chakra.span flex="1">
            <b>Left out:</b> {l.name}, because {l.reason}
          </chakra.span>
          {!sealed && (
            <Act
              look="quiet"
              aria-label={`Put ${l.name} back`}
              onClick={() => record({ type: 'device.putBack', kit: l.kit, device: l.device })}
            >
              Put it back
            </Act>
          )}
        </chakra.div>
      ))}
      {swapped.map((s) => (
        <chakra.div key={`${s.kit}/${s.device}`} {...line}>
          <chakra.span flex="1">
            <b>Another switch:</b> {s.name} in the place of {s.was}, because {s.reason}
          </chakra.span>
          {!sealed && (
            <Act
              look="quiet"
              aria-label={`${s.was} as its box has it`}
              onClick={() => record({ type: 'switch.restored', kit: s.kit, device: s.device })}
            >
              As its box has it
            </Act>
          )}
        </chakra.div>
      ))}
      {ways.map((w) => (
        <chakra.div key={`${w.from}..${w.to}`} {...line}>
          <chakra.span flex="1">
            <b>A way for wires:</b> {placeName(w.from)} to {placeName(w.to)}, {showQuantity(w.lengthMm ?? 0, 'smallLength', units)}
          </chakra.span>
          {!sealed && (
            <Act look="quiet" onClick={() => record({ type: 'way.removed', from: w.from, to: w.to })}>
              Take off
            </Act>
          )}
        </chakra.div>
      ))}
      {spots.map((p) => (
        <chakra.div key={p.id} {...line}>
          <chakra.span flex="1">
            <b>A place:</b> {p.name}
          </chakra.span>
          {!sealed && (
            <Act look="quiet" aria-label={`No place ${p.name}`} onClick={() => record({ type: 'place.removed', id: p.id })}>
              Take off
            </Act>
          )}
        </chakra.div>
      ))}
      {!sealed && (
        <chakra.details>
          <chakra.summary cursor="pointer" color="accent" py="8px">
            A part, a step, a reading, a place or a way that no sheet says; or leave something out
          </chakra.summary>
          <chakra.div display="grid" gap="12px" mb="8px">
            {!own && (
              <Act width="fit-content" onClick={() => setEditing(true)}>
                <Plus size={18} aria-hidden /> A part or step of its own
              </Act>
            )}
            <NewWay />
            <NewPlace />
            {given.kits.some((k) => k.id !== OWN_KIT && k.devices.length) && (
              <Labelled id="leave-out" label="Leave out of a kit">
                <Choice
                  id="leave-out"
                  value=""
                  onChange={(e) => {
                    const [kit, device] = e.target.value.split('/') as [string, string];
                    const found = given.kits.find((k) => k.id === kit)?.devices.find((d) => d.id === device);
                    if (found) setLeaving({ kit, device, name: found.name });
                  }}
                >
                  <option value="">choose what is left out</option>
                  {given.kits
                    .filter((k) => k.id !== OWN_KIT)
                    .flatMap((k) =>
                      k.devices
                        .filter((d) => !leftOut.some((l) => l.kit === k.id && l.device === d.id))
                        .map((d) => (
                          <option key={`${k.id}/${d.id}`} value={`${k.id}/${d.id}`}>
                            {k.name}: {d.name}
                          </option>
                        )),
                    )}
                </Choice>
              </Labelled>
            )}
            <SwapSwitch />
          </chakra.div>
        </chakra.details>
      )}
      {leaving && (
        <ReasonDialog
          open
          title={`Why is ${leaving.name} left out?`}
          action="Leave it out"
          onClose={() => setLeaving(null)}
          onReason={(reason) => {
            record({ type: 'device.leftOut', kit: leaving.kit, device: leaving.device, reason });
            setLeaving(null);
          }}
        />
      )}
      {editing && <OwnEditor onClose={() => setEditing(false)} />}
    </>
  );
}
