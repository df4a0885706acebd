import { chakra } from '@chakra-ui/react';
import { JOINT_WORD } from '#core/circuit/joint';
import { runKey } from '#core/circuit/route';
import type { PlannedCircuit } from '#core/wiring/planned';
import { figure, parseQuantity, showQuantity } from '#core/quantity/quantity';
import { awgName } from '#core/wire/resistance';
import { FUSE_SIZES, fuseColour } from '#core/wire/fuse';
import { GAUGES } from '#core/wire/tables';
import type { OverrideField } from '#model/override';
import type { Joint } from '#model/kit';
import { useUnits, usePerson } from '../../app/context';
import { Choice, Labelled } from '../../app/ui';
import { VERDICT_WORD } from '#core/verdict';
import { EditField } from '../EditField';
import { useOrder } from '../useOrder';
import { useByHand } from './useByHand';

/** What Kadro chose for a circuit, each changeable by hand, with what the change does. */
export function Overrides({ c }: { c: PlannedCircuit }) {
  const { order, sheets, record } = useOrder();
  const units = useUnits();
  const { role } = usePerson();
  const { change: byHand, dialog } = useByHand();
  const sealed = order.status !== 'open' || role === 'desk';
  const by = (f: OverrideField) => c.overrides.find((o) => o.field === f);
  const put = (field: OverrideField, value: number | string) => byHand({ circuit: c.id, field, value });
  const change = (field: OverrideField, value: number | string) => {
    const back =
      field === 'feed'
        ? c.chosen.feed === value
        : field === 'mode'
          ? c.chosen.mode === value
          : field === 'awg'
            ? c.chosen.awg === value
            : field === 'fuseA'
              ? c.chosen.fuseA === value
              : field === 'joint'
                ? c.circuit.joint === value
                : false;
    if (back && by(field)) return record({ type: 'wire.override-cleared', circuit: c.id, field });
    return put(field, value);
  };
  const effect = (f: OverrideField, own: string) => {
    const o = by(f);
    if (!o) return `Kadro’s choice`;
    return (
      <chakra.span color="tightText">
        by hand ({o.by}); Kadro chose {own}.{' '}
        {!sealed && (
          <chakra.button
            type="button"
            color="accent"
            textDecoration="underline"
            cursor="pointer"
            minH="24px"
            onClick={() => record({ type: 'wire.override-cleared', circuit: c.id, field: f })}
          >
            Back to it
          </chakra.button>
        )}
      </chakra.span>
    );
  };
  const name = (id: string | null) => c.candidates.find((k) => k.point.id === id)?.point.name ?? 'none';
  const placeName = (id: string) => sheets.model.places.find((p) => p.id === id)?.name ?? id;
  const drop = (x: number | null) => (x === null ? '?' : `${figure(x, 2)} %`);
  return (
    <chakra.div display="grid" gap="12px" mt="12px">
      {c.overrides.length > 0 && (
        <chakra.p p="8px 12px" bg="accentWash" borderRadius="kadro" role="status">
          <b>What the hand changes:</b> drop {drop(c.chosen.dropPct)} to {drop(c.dropPct)}, {VERDICT_WORD[c.chosen.verdict].toLowerCase()}{' '}
          to <b>{VERDICT_WORD[c.verdict].toLowerCase()}</b>.
        </chakra.p>
      )}
      <Labelled label="Feed" id={`feed-${c.id}`} note={effect('feed', name(c.chosen.feed))}>
        <Choice id={`feed-${c.id}`} value={c.feed?.id ?? ''} disabled={sealed} onChange={(e) => change('feed', e.target.value)}>
          {!c.feed && <option value="">none will do</option>}
          {c.candidates.map((k) => (
            <option key={k.point.id} value={k.point.id}>
              {k.accepted ? '' : 'unsafe: '}
              {k.point.name}
            </option>
          ))}
        </Choice>
      </Labelled>
      <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="12px">
        <Labelled label="How" id={`mode-${c.id}`} note={effect('mode', c.chosen.mode)}>
          <Choice id={`mode-${c.id}`} value={c.mode} disabled={sealed} onChange={(e) => change('mode', e.target.value)}>
            <option value="direct">direct</option>
            <option value="relay">through a relay</option>
            <option value="plug">with a plug to pull</option>
          </Choice>
        </Labelled>
        <EditField
          id={`length-${c.id}`}
          draft={`${order.id}.length.${c.id}`}
          label="Length one way, measured"
          disabled={sealed}
          value={c.lengthM === null ? '' : showQuantity(c.lengthM, 'length', units)}
          mono
          note={(t) =>
            t === (c.lengthM === null ? '' : showQuantity(c.lengthM, 'length', units))
              ? effect('lengthM', c.chosen.lengthM === null ? 'none' : showQuantity(c.chosen.lengthM, 'length', units))
              : undefined
          }
          read={(t) => {
            const m = parseQuantity(t, 'length', units);
            if (m <= 0 || m > 60) throw new Error('above 0 and at most 60 m');
            return m;
          }}
          save={(m) => put('lengthM', Number(m.toFixed(3)))}
        />
        <Labelled label="Gauge" id={`awg-${c.id}`} note={effect('awg', c.chosen.awg === null ? 'none' : `${awgName(c.chosen.awg)} AWG`)}>
          <Choice id={`awg-${c.id}`} value={c.awg ?? ''} disabled={sealed} onChange={(e) => change('awg', Number(e.target.value))}>
            {c.awg === null && <option value="">not known</option>}
            {GAUGES.map((g) => (
              <option key={g} value={g}>
                {awgName(g)} AWG
              </option>
            ))}
          </Choice>
        </Labelled>
        <Labelled label="Fuse" id={`fuse-${c.id}`} note={effect('fuseA', c.chosen.fuseA === null ? 'none' : `${c.chosen.fuseA} A`)}>
          <Choice id={`fuse-${c.id}`} value={c.fuseA ?? ''} disabled={sealed} onChange={(e) => change('fuseA', Number(e.target.value))}>
            {c.fuseA === null && <option value="">not known</option>}
            {FUSE_SIZES.filter((f) => f <= 200).map((f) => (
              <option key={f} value={f}>
                {f} A, {fuseColour(f)}
              </option>
            ))}
          </Choice>
        </Labelled>
      </chakra.div>
      <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="12px">
        <Labelled label="Joint" id={`joint-${c.id}`} note={effect('joint', JOINT_WORD[c.circuit.joint])}>
          <Choice id={`joint-${c.id}`} value={c.joint} disabled={sealed} onChange={(e) => change('joint', e.target.value)}>
            {(Object.keys(JOINT_WORD) as Joint[]).map((j) => (
              <option key={j} value={j}>
                {JOINT_WORD[j]}
              </option>
            ))}
          </Choice>
        </Labelled>
        <Labelled label="By way of" id={`route-${c.id}`} note={effect('route', 'the best way')}>
          <Choice
            id={`route-${c.id}`}
            value={c.via ?? ''}
            disabled={sealed}
            onChange={(e) =>
              e.target.value ? put('route', e.target.value) : record({ type: 'wire.override-cleared', circuit: c.id, field: 'route' })
            }
          >
            <option value="">the best way</option>
            {sheets.model.runs.map((r) => (
              <option key={runKey(r)} value={runKey(r)}>
                {placeName(r.from)} to {placeName(r.to)}
              </option>
            ))}
          </Choice>
        </Labelled>
      </chakra.div>
      {dialog}
    </chakra.div>
  );
}
