import { chakra } from '@chakra-ui/react';
import { parkedDays } from '#core/energy/battery';
import type { Scan } from '#core/harness/scan';
import { figure } from '#core/quantity/quantity';
import { useOrder } from '../useOrder';
import { H3 } from '../Station';
import { Table as Sheet } from '../../sheets/Table';

/** The matrix of switches and loads: cells that are filled where something is powered. */
const Table = chakra('table', {
  base: { width: '100%', borderCollapse: 'collapse', fontSize: '15px', '& tr': { borderTopWidth: '1px', borderColor: 'rule' } },
});
const Head = chakra('th', {
  base: { textAlign: 'left', fontSize: '14px', fontWeight: 400, color: 'quiet', py: '4px', pr: '12px', verticalAlign: 'bottom' },
});
const Cell = chakra('td', {
  base: { py: '6px', pr: '12px', verticalAlign: 'top' },
  variants: { mono: { true: { fontFamily: 'mono', whiteSpace: 'nowrap' } } },
});

/** Every position of every switch against what it powers, and what stays alive with all off. */
export function Switches({ scan }: { scan: Scan | string | null }) {
  const { sheets, settings, assessment } = useOrder();
  const { battery } = sheets.model.electrical;
  // what is still being tried, or cannot be, the checks above say
  if (scan === null || typeof scan === 'string') return null;
  const loads = [...new Map(scan.panel.flatMap((r) => r.powered).map((p) => [p.id, p.name])).entries()];
  const soc = assessment.rest.soc ?? 0.9;
  const days = parkedDays(battery.capacityAh, soc, settings.reserveSoc, scan.parked.amps * 1000, settings.selfDischargePctPerMonth);
  return (
    <chakra.section aria-label="Switches">
      <H3 mt="4px">Every switch position, and what it powers</H3>
      {loads.length === 0 ? (
        <chakra.p color="quiet">Nothing is powered in any position.</chakra.p>
      ) : (
        <chakra.div overflowX="auto">
          <Table>
            <thead>
              <tr>
                <Head>Switch</Head>
                {loads.map(([id, name]) => (
                  <Head key={id} textAlign="center !important" minW="64px">
                    {name}
                  </Head>
                ))}
              </tr>
            </thead>
            <tbody>
              {scan.panel.map((r) => (
                <tr key={`${r.control} ${r.position}`}>
                  <Cell whiteSpace="nowrap">
                    {r.control ? `${r.control}: ` : ''}
                    <b>{r.position}</b>
                  </Cell>
                  {loads.map(([id]) => {
                    const p = r.powered.find((x) => x.id === id);
                    return (
                      <Cell key={id} mono textAlign="center" color={p ? 'ink' : 'quiet'} bg={p ? 'accentWash' : undefined}>
                        {p ? `${figure(p.volts, 3)} V` : '·'}
                      </Cell>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </Table>
        </chakra.div>
      )}
      <chakra.p color="quiet" fontSize="14px" mt="4px">
        Key at run, engine off, one switch thrown at a time; volts at each device.
      </chakra.p>
      <H3>Everything off, key out</H3>
      <chakra.div maxW="560px">
        <Sheet
          heads={['What still draws', 'mA']}
          num={[1]}
          rows={[
            ...scan.parked.alive.map((a) => [a.name, figure(a.amps * 1000, 2)]),
            [<b key="all">From the battery</b>, <b key="ma">{figure(scan.parked.amps * 1000, 3)}</b>],
            [
              `Days to the reserve of ${settings.reserveSoc * 100} %, from ${figure(soc * 100, 2)} % charge`,
              <b key="days">{Math.floor(days)} days</b>,
            ],
          ]}
        />
      </chakra.div>
    </chakra.section>
  );
}
