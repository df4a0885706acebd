import { chakra } from '@chakra-ui/react';
import { useUnits } from '../../app/context';
import { useQuery } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { fitRule } from '#core/order/fit';
import { checkIdentity } from '#core/identity/check';
import { restCharge } from '#core/energy/unit-system';
import { WISHES, wishesFor, type WishId } from '#model/wish';
import { offered, queries } from '../../app/api';
import { Act, Choice, Labelled, ServerAct } from '../../app/ui';
import { Later } from '../../app/Later';
import { UnitDrawing } from '../../drawing/UnitDrawing';
import { Sum } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { EditField } from '../EditField';
import { Answer, H3 } from '../Station';
import { NewerSheet } from '../known/NewerSheet';
import { Rests } from '../known/Rests';
import { useOrder } from '../useOrder';
import { FittedForm } from './FittedForm';
import { SaidWires } from './FittedWires';
import { Earlier } from '../../orders/Earlier';
import { fromLocal, readMeter, readIdentity, readPhone, showMeter, readVolts, readWords, readYear, toLocal } from './fields';

export function Arrive() {
  const { order, sheets, assessment, record, ask } = useOrder();
  const units = useUnits();
  const { model } = sheets;
  const all = useQuery(queries.sheets).data;
  const sealed = order.status !== 'open';
  const patch = (p: Extract<Parameters<typeof record>[0], { type: 'arrive.changed' }>['patch']) =>
    record({ type: 'arrive.changed', patch: p });
  const draft = (f: string) => `${order.id}.${f}`;
  const suggested = offered(all?.kits).filter((k) => {
    const rule = fitRule(k.sheet, model, order.unit.year, order.unit.build);
    return rule?.fits && k.sheet.wishes.some((w) => order.wishes.includes(w as WishId)) && !order.kits.some((o) => o.kit.id === k.ref.id);
  });
  const factory = model.equipment
    .filter((e) => e.place)
    .map((e) => ({ place: e.place!, tone: 'quiet' as const, title: `${e.name}, from the factory` }));
  const bank = model.electrical.battery;
  return (
    <>
      <Answer
        verdict={assessment.stations.arrive.verdict}
        drawing={
          <UnitDrawing
            model={model}
            marks={[
              ...factory,
              { place: bank.place, text: 'B', tone: assessment.rest.verdict, title: `${bank.name}: ${assessment.rest.says}` },
            ]}
          />
        }
      >
        {assessment.identity.says.replace(/\.$/, '')}. {bank.name}: {assessment.rest.says}.
      </Answer>
      <NewerSheet />
      <Rests />
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(220px, 1fr))" gap="14px 16px">
        <EditField
          id="identity"
          draft={draft('identity')}
          label={model.identity === 'vin' ? 'VIN' : model.identity === 'hin' ? 'HIN' : 'Maker’s number'}
          value={order.unit.identity}
          mono
          disabled={sealed}
          read={readIdentity}
          save={(v) => patch({ identity: v })}
          note={(t) => {
            const c = checkIdentity(model.identity, t);
            return (
              <chakra.span display="inline-flex" gap="6px" alignItems="center">
                <VerdictMark verdict={c.verdict} size={18} /> {c.says}
              </chakra.span>
            );
          }}
        />
        <EditField
          id="rest"
          draft={draft('rest')}
          label={`${bank.name}: volts at rest`}
          value={order.restVolts === null ? '' : `${order.restVolts} V`}
          mono
          disabled={sealed}
          placeholder="12.6 V"
          read={readVolts}
          save={(v) => patch({ restVolts: v })}
          note={(t) => {
            try {
              const v = readVolts(t);
              const { soc, problem } = restCharge(sheets, v);
              return v === null
                ? `${bank.count > 1 ? `${bank.count} × ${bank.voltsEach} V, ` : ''}${bank.chemistry}`
                : (problem ?? `${Math.round(soc! * 100)} % charged, ${bank.chemistry}`);
            } catch {
              return undefined;
            }
          }}
        />
        <EditField
          id="owner"
          draft={draft('owner')}
          label="Owner"
          value={order.owner}
          disabled={sealed}
          read={readWords(80)}
          save={(v) => patch({ owner: v })}
        />
        <EditField
          id="phone"
          draft={draft('phone')}
          label="Telephone"
          value={order.phone}
          disabled={sealed}
          read={readPhone}
          save={(v) => patch({ phone: v })}
        />
        <EditField
          id="promised"
          draft={draft('promised')}
          label="Promised"
          type="datetime-local"
          value={toLocal(order.promisedAt)}
          disabled={sealed}
          read={fromLocal}
          save={(v) => patch({ promisedAt: v })}
        />
        <EditField
          id="meter"
          draft={draft('meter')}
          label={model.meter === 'hours' ? 'Hours' : 'Distance'}
          value={showMeter(order.unit.meterValue, model.meter, units)}
          mono
          disabled={sealed}
          read={(t) => readMeter(t, model.meter, units)}
          save={(v) => patch({ meterValue: v })}
        />
        <EditField
          id="year"
          draft={draft('year')}
          label={`Year, ${model.years.from} to ${model.years.to}`}
          value={String(order.unit.year)}
          mono
          disabled={sealed}
          read={readYear(model.years.from, model.years.to)}
          save={(v) => patch({ year: v })}
        />
        <Labelled label="Build" id="build" note={model.builds.find((b) => b.id === order.unit.build)?.note}>
          <Choice id="build" value={order.unit.build} disabled={sealed} onChange={(e) => patch({ build: e.target.value })}>
            {model.builds.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </Choice>
        </Labelled>
        <EditField
          id="condition"
          draft={draft('condition')}
          label="Condition as it came"
          value={order.condition}
          disabled={sealed}
          read={(t) => {
            if (t.length > 500) throw new Error(`${t.length} characters, at most 500`);
            return t.trim();
          }}
          save={(v) => patch({ condition: v })}
        />
      </chakra.div>
      <Later>
        <Earlier identity={order.unit.identity} owner={order.owner} except={order.id} />
        {assessment.rest.sum.length > 0 && <Sum lines={assessment.rest.sum} title="How the charge was judged" />}

        <H3>What must it be able to do when it leaves?</H3>
        <chakra.div display="flex" flexWrap="wrap" gap="8px">
          {[...new Set([...wishesFor(model.kind), ...order.wishes])].map((w) => {
            const on = order.wishes.includes(w);
            return (
              <Act
                key={w}
                on={on}
                aria-pressed={on}
                disabled={sealed}
                onClick={() => patch({ wishes: on ? order.wishes.filter((x) => x !== w) : [...order.wishes, w] })}
              >
                {WISHES[w]}
              </Act>
            );
          })}
        </chakra.div>
        {suggested.length > 0 && !sealed && (
          <chakra.ul mt="12px" listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
            {suggested.map((k) => (
              <chakra.li key={k.ref.id} display="flex" alignItems="center" gap="12px" py="8px" borderBottomWidth="1px" borderColor="rule">
                <chakra.span flex="1">
                  <b>{k.sheet.name}</b> <chakra.span color="quiet">{k.sheet.summary}</chakra.span>
                </chakra.span>
                <ServerAct onClick={() => void ask({ type: 'kit.added', kit: k.ref.id })} aria-label={`Add ${k.sheet.name}`}>
                  <Plus size={18} aria-hidden /> Add
                </ServerAct>
              </chakra.li>
            ))}
          </chakra.ul>
        )}

        <H3>Already fitted: it draws too</H3>
        {order.fitted.length === 0 && <chakra.p color="quiet">Nothing but what the factory fitted.</chakra.p>}
        <chakra.ul listStyleType="none" p={0}>
          {order.fitted.map((f) => (
            <chakra.li key={f.id} display="flex" alignItems="center" gap="12px" py="6px" borderBottomWidth="1px" borderColor="rule">
              <chakra.span flex="1">
                {f.name} <SaidWires wires={f.wires} />
              </chakra.span>
              <chakra.span fontFamily="mono">{f.watts === null ? '? W' : `${f.watts} W`}</chakra.span>
              {f.standbyMa > 0 && <chakra.span fontFamily="mono">{f.standbyMa} mA parked</chakra.span>}
              {!sealed && (
                <Act look="quiet" aria-label={`Take ${f.name} off the list`} onClick={() => record({ type: 'fitted.removed', id: f.id })}>
                  <X size={18} aria-hidden />
                </Act>
              )}
            </chakra.li>
          ))}
        </chakra.ul>
        {!sealed && (
          <FittedForm
            draftKey={draft('fitted')}
            onAdd={(item) => record({ type: 'fitted.added', item })}
            taken={order.fitted.map((f) => f.id)}
            places={sheets.model.places}
          />
        )}
      </Later>
    </>
  );
}
