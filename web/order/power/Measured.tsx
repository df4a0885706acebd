import { chakra } from '@chakra-ui/react';
import { measuredSource, SOURCE_FACTS } from '#core/energy/measured';
import { AGE_KEY } from '#core/energy/unit-system';
import { sourceAmps } from '#core/energy/source';
import { changedSheets } from '#core/order/agreed';
import { figure, parseQuantity } from '#core/quantity/quantity';
import { Act } from '../../app/ui';
import { Table } from '../../sheets/Table';
import { EditField } from '../EditField';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';

/** What the bench read of the source: it replaces the sheet's figures here, and the sheet's model is told. */
export function Measured() {
  const { order, given, record, measured } = useOrder();
  const { model } = changedSheets(order, given);
  const { source } = model.electrical;
  const open = order.status === 'open';
  const now = measuredSource(order, model);
  const fact = (key: string) => (typeof order.facts[key] === 'number' ? String(order.facts[key]) : '');
  const field = (key: string, label: string, unit: string, low: number, high: number) => (
    <EditField
      id={key}
      draft={`${order.id}.${key}`}
      label={`${label}, ${unit}`}
      value={fact(key)}
      mono
      disabled={!open}
      read={(t) => {
        const v = parseQuantity(t, unit === 'A' ? 'amps' : unit === 'V' ? 'volts' : 'plain', 'metric');
        if (v < low || v > high) throw new Error(`between ${low} and ${high} ${unit}`);
        return v;
      }}
      save={(v) => record({ type: 'fact.told', key, value: v, label })}
    />
  );
  const tell = now ? `Charging as measured: ${now.says.join('; ')}` : null;
  const told = tell !== null && order.findings.some((f) => f.text === tell);
  return (
    <>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(220px, 1fr))" gap="12px">
        {source.kind !== 'none' && (
          <>
            {field(SOURCE_FACTS.idle, `Source at idle (${source.idleRpm} rpm), everything on`, 'A', 0.1, 500)}
            {field(SOURCE_FACTS.working, `Source at ${source.workingRpm} rpm, everything on`, 'A', 0.1, 500)}
            {field(SOURCE_FACTS.volts, 'At the battery, charging', 'V', 10, 80)}
          </>
        )}
        {field(AGE_KEY, 'Age of the battery', 'years', 0, 15)}
      </chakra.div>
      {source.kind !== 'none' && (
        <>
          <H3>What counts now</H3>
          <Table
            heads={['', 'sheet', 'counts']}
            num={[1, 2]}
            rows={[
              [
                'source at idle',
                `${figure(sourceAmps(source, source.idleRpm))} A`,
                `${figure(sourceAmps(now?.source ?? source, source.idleRpm))} A`,
              ],
              [
                'source at working speed',
                `${figure(sourceAmps(source, source.workingRpm))} A`,
                `${figure(sourceAmps(now?.source ?? source, source.workingRpm))} A`,
              ],
              ['regulates at', `${source.regulatedV} V`, `${now?.source.regulatedV ?? source.regulatedV} V`],
            ]}
          />
          <chakra.p mt="8px">
            {now
              ? `${now.says.join('; ')}. Everything on this page is judged by it.`
              : 'Nothing measured yet: the sheet’s figures count. The bench’s charging step fills this in by itself; a clamp meter’s reading can be typed here.'}
          </chakra.p>
          {tell && open && (
            <Act mt="10px" disabled={told} onClick={() => record({ type: 'finding.added', text: tell })}>
              {told ? 'The model has been told' : 'Tell the model'}
            </Act>
          )}
          {measured.length > 0 && (
            <>
              <H3>On other units of this model</H3>
              <Table
                heads={['order', 'read', '']}
                num={[1]}
                rows={measured
                  .slice(0, 12)
                  .map((m) => [
                    m.number,
                    `${m.value} ${m.what === 'volts' ? 'V' : 'A'}`,
                    `${m.what === 'volts' ? 'at the battery' : 'from the source'}, at idle, everything on`,
                  ])}
              />
            </>
          )}
        </>
      )}
    </>
  );
}
