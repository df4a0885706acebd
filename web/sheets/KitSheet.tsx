import { chakra } from '@chakra-ui/react';
import { awgName } from '#core/wire/resistance';
import { sayInUnits, showQuantity } from '#core/quantity/quantity';
import { sayEnd } from '#core/wiring/ends';
import { readTarget, sayTarget } from '#core/wiring/target';
import { targetsOf } from '#model/box';
import type { Kit } from '#model/kit';
import { useUnits } from '../app/context';
import { WireSwatch } from '../marks/WireSwatch';
import { H3 } from '../order/Station';
import { Table } from './Table';

export function KitSheet({ kit, modelName }: { kit: Kit; modelName: (id: string) => string }) {
  const device = (id: string) => kit.devices.find((d) => d.id === id)?.name ?? id;
  const units = useUnits();
  /** An option of a variant, as `VARIANT:OPTION`, in words. */
  const choice = (when: string) => {
    const [variant, option] = when.split(':') as [string, string];
    return kit.variants.find((v) => v.id === variant)?.options.find((o) => o.id === option)?.name ?? when;
  };
  const end = (e: string) => sayTarget(kit, readTarget(e));
  return (
    <>
      <p>{kit.summary}</p>
      <H3>Fits</H3>
      <Table
        heads={['Units', 'Years', 'Builds', 'Mount', 'Note']}
        rows={kit.fits.map((f) => [
          (f.models?.map(modelName) ?? f.kinds ?? ['any']).join(', '),
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
      <Table
        heads={['Count', 'Item', '']}
        rows={kit.contents.map((b) => [
          b.count,
          b.item,
          [
            b.when && `only ${choice(b.when)}`,
            b.fastener?.torqueNm !== undefined && sayInUnits(`${b.fastener.torqueNm} N·m`, units),
            b.fastener?.threadLocker && 'thread-locker',
            b.pad && `clean with ${b.pad.clean}, press ${b.pad.pressS} s${b.pad.cureH ? `, leave ${b.pad.cureH} h` : ''}`,
          ]
            .filter(Boolean)
            .join('; '),
        ])}
      />
      {kit.besides.length > 0 && <p>Wanted besides: {kit.besides.map((b) => `${b.count} × ${b.item}`).join(', ')}.</p>}
      {kit.harnesses.map((h, i) => (
        <div key={i}>
          <H3>
            {h.name.charAt(0).toUpperCase() + h.name.slice(1)}
            {h.when ? `, only ${choice(h.when)}` : ''}
          </H3>
          <Table
            heads={['End', 'Is', 'Leg', 'Wires, and where they go']}
            num={[2]}
            rows={h.ends.map((e) => {
              const leg = h.legs.find((l) => l.from === e.id || l.to === e.id)!;
              const join = kit.joins.find((j) => j.harness === h.id && j.end === e.id && (!j.when || !h.when || j.when === h.when));
              return [
                <b key="e">{e.name}</b>,
                sayEnd(e.end),
                showQuantity(leg.lengthMm / 1000, 'length', units),
                e.wires.map((w) => {
                  const wire = h.wires.find((x) => x.id === w.wire)!;
                  const fuse = h.inline.find((x) => x.kind === 'fuse' && x.wire === w.wire && x.leg === leg.id);
                  return (
                    <chakra.div key={w.wire} display="flex" gap="8px" alignItems="center">
                      {w.cavity !== undefined && <chakra.span fontFamily="mono">{w.cavity}</chakra.span>}
                      <WireSwatch colour={wire.colour} width={26} />
                      <span>
                        {awgName(wire.awg)} AWG{fuse?.kind === 'fuse' ? `, ${fuse.ratingA} A fuse` : ''}:{' '}
                        {(join ? targetsOf(join, w.wire) : []).map(end).join(' and ') || 'capped'}
                      </span>
                    </chakra.div>
                  );
                }),
              ];
            })}
          />
        </div>
      ))}
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
