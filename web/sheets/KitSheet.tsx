import { chakra } from '@chakra-ui/react';
import { awgName } from '#core/wire/resistance';
import { functionWord } from '#core/harness/build';
import type { Kit } from '#model/kit';
import type { WireFunction } from '#model/parts';
import { WireSwatch } from '../marks/WireSwatch';
import { H3 } from '../order/Station';
import { Table } from './Table';

export function KitSheet({ kit }: { kit: Kit }) {
  const device = (id: string) => kit.devices.find((d) => d.id === id)?.name ?? id;
  const end = (e: string) => {
    if (e === 'ground') return 'ground';
    if (e.startsWith('feed:')) return `feed of ${kit.circuits.find((c) => c.id === e.slice(5))?.name ?? e.slice(5)}`;
    if (e.startsWith('wire:')) return `the unit’s ${functionWord(e.slice(5) as WireFunction)} wire`;
    const [d, t] = e.split('.') as [string, string];
    const found = kit.devices.find((x) => x.id === d);
    return `${found?.name ?? d}, ${found?.terminals.find((x) => x.id === t)?.name ?? t}`;
  };
  return (
    <>
      <p>{kit.summary}</p>
      <H3>Fits</H3>
      <Table
        heads={['Units', 'Years', 'Builds', 'Mount', 'Note']}
        rows={kit.fits.map((f) => [
          (f.models ?? f.kinds ?? ['any']).join(', '),
          f.years ? `${f.years.from} to ${f.years.to}` : 'all',
          f.builds?.join(', ') ?? 'all',
          f.fits ? (f.mount ?? '') : 'does not fit',
          f.note ?? '',
        ])}
      />
      {kit.needs.length > 0 && (
        <>
          <H3>Must come first</H3>
          {kit.needs.map((n, i) => (
            <p key={i}>
              {n.anyOf.join(' or ')}: {n.why}
            </p>
          ))}
        </>
      )}
      <H3>In the box</H3>
      <Table heads={['Count', 'Item']} rows={kit.contents.map((b) => [b.count, b.item])} />
      <H3>Devices</H3>
      <Table
        heads={['Device', 'Place', 'Does', 'W', 'Draws', 'Standby, mA']}
        num={[3, 5]}
        rows={kit.devices.map((d) => [
          d.name,
          d.place,
          d.equipment ? `${d.equipment.function}${d.equipment.colour ? `, ${d.equipment.colour}` : ''}` : '',
          d.load ? (d.load.watts ?? '?') : '–',
          d.load
            ? `${d.load.kind}${d.load.share < 1 ? `, ${Math.round(d.load.share * 100)} % of the time` : ''}${d.load.engineOff ? ', engine off too' : ''}`
            : '',
          d.standbyMa || '–',
        ])}
      />
      {kit.circuits.length > 0 && (
        <>
          <H3>Circuits</H3>
          <Table
            heads={['Circuit', 'Wire', 'Devices', 'Feed', 'Thinnest', 'Largest fuse, A']}
            num={[5]}
            rows={kit.circuits.map((c) => [
              c.name,
              <WireSwatch key="w" colour={c.colour} />,
              c.devices.map(device).join(', '),
              `${c.volts} V ${c.switching}, relay ${c.relay}`,
              `${awgName(c.awgMin)} AWG`,
              c.fuseMaxA ?? '–',
            ])}
          />
        </>
      )}
      {kit.leads.length > 0 && (
        <>
          <H3>Leads</H3>
          <Table
            heads={['Wire', 'From', 'To', 'Ends', 'Carries']}
            rows={kit.leads.map((l) => [
              <WireSwatch key="w" colour={l.colour} width={30} />,
              end(l.from),
              end(l.to),
              l.ends?.join(', ') ?? '',
              l.signal ? 'a signal' : l.bothWays ? 'current, either way' : 'current',
            ])}
          />
        </>
      )}
      <H3>Steps</H3>
      <Table
        heads={['Stage', 'Step', 'Tool', 'Reads', 'min']}
        num={[4]}
        rows={kit.steps.map((s) => [
          s.stage,
          <span key="t">
            <b>{s.title}</b>
            <br />
            {s.text}
          </span>,
          s.tool ?? '',
          s.readings.map((r) => r.label).join(', '),
          s.minutes,
        ])}
      />
      {kit.cautions.map((c) => (
        <chakra.p key={c} mt="8px" fontWeight={600}>
          {c}
        </chakra.p>
      ))}
    </>
  );
}
