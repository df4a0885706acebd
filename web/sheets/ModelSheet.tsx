import { chakra } from '@chakra-ui/react';
import { runLength } from '#core/circuit/route';
import { showQuantity } from '#core/quantity/quantity';
import type { UnitModel } from '#model/unit-model';
import { useUnits } from '../app/context';
import { UnitDrawing } from '../drawing/UnitDrawing';
import { WireSwatch } from '../marks/WireSwatch';
import { H3 } from '../order/Station';
import { KnownValues } from './KnownValues';
import { Table } from './Table';

export function ModelSheet({ model, revision }: { model: UnitModel; revision: number }) {
  const units = useUnits();
  const mm = (x: number) => showQuantity(x, 'smallLength', units);
  const ft = (x: number) => showQuantity(x / 1000, 'length', units);
  const place = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  const { electrical: e } = model;
  return (
    <>
      <UnitDrawing
        model={model}
        marks={model.places.map((p) => ({
          place: p.id,
          tone: model.powerPoints.some((q) => q.place === p.id) ? 'accent' : 'quiet',
          title: p.name,
        }))}
        height={230}
      />
      <chakra.p mt="8px">
        {model.kind.replaceAll('-', ' ')},{' '}
        {model.years.from === model.years.to ? model.years.from : `${model.years.from} to ${model.years.to}`}, {model.dims.seats} seats,{' '}
        {ft(model.dims.lengthMm)} long, {ft(model.dims.widthMm)} wide, {ft(model.dims.heightMm)} high,{' '}
        {showQuantity(model.massKg, 'mass', units)}.
      </chakra.p>
      <KnownValues model={model} revision={revision} />
      <H3>Builds</H3>
      <Table heads={['Build', 'Note']} rows={model.builds.map((b) => [b.name, b.note ?? ''])} />
      <H3>Power</H3>
      <p>
        {e.systemV} V. {e.battery.name}: {e.battery.count} × {e.battery.voltsEach} V {e.battery.chemistry}, {e.battery.capacityAh} Ah.
        Parked draw {e.parkedMa} mA.
      </p>
      {e.source.kind !== 'none' && (
        <Table
          heads={[`${e.source.kind}, rpm`, 'A']}
          num={[1]}
          rows={e.source.curve.map(([r, a]) => [
            `${r}${r === (e.source.kind !== 'none' && e.source.idleRpm) ? ' (idle)' : r === (e.source.kind !== 'none' && e.source.workingRpm) ? ' (working)' : ''}`,
            a,
          ])}
        />
      )}
      <H3>Its own needs</H3>
      <Table heads={['Load', 'Idle, W', 'Working, W']} num={[1, 2]} rows={e.ownLoads.map((l) => [l.name, l.idleW, l.workingW])} />
      <H3>Power points</H3>
      <Table
        heads={['Point', 'Where', 'Switching', 'V', 'Fuse, A', 'Used, A']}
        num={[3, 4, 5]}
        rows={model.powerPoints.map((p) => [p.name, place(p.place), p.switching, p.volts, p.fuseA ?? p.limitA ?? '–', p.usedA])}
      />
      {model.grounds.length > 0 && (
        <>
          <H3>Grounds</H3>
          <Table
            heads={['Ground', 'Where', 'Back to the battery, mΩ']}
            num={[2]}
            rows={model.grounds.map((g) => [g.name, place(g.place), Number((g.ohms * 1000).toPrecision(3))])}
          />
        </>
      )}
      {model.factoryWires.length > 0 && (
        <>
          <H3>Factory wires that may be joined to</H3>
          <Table
            heads={['Wire', 'Colour', 'Where', 'Live when', 'Fuse, A', 'Used, A']}
            num={[4, 5]}
            rows={model.factoryWires.map((w) => [
              w.name,
              <WireSwatch key="c" colour={w.colour} width={30} />,
              place(w.place),
              w.live.map((c) => c.replace(':', ' ').replaceAll('|', ' or ')).join(', and '),
              w.fuseA ?? '–',
              w.usedA,
            ])}
          />
        </>
      )}
      <H3>Runs</H3>
      <Table
        heads={['From', 'To', 'Length', 'On the way']}
        num={[2]}
        rows={model.runs.map((r) => [place(r.from), place(r.to), ft(runLength(model, r)), r.hazards.join(', ') || 'clear'])}
      />
      <H3>Panels</H3>
      <Table
        heads={['Panel', 'After', 'Hides', 'Fasteners', 'Off, min', 'On, min']}
        num={[4, 5]}
        rows={model.panels.map((p) => [
          p.name,
          p.after.map((a) => model.panels.find((x) => x.id === a)?.name).join(', '),
          p.hides.map(place).join(', '),
          p.fasteners.map((f) => `${f.count} × ${f.kind}`).join(', '),
          p.offMinutes,
          p.onMinutes,
        ])}
      />
      <H3>Places</H3>
      <Table heads={['Place', 'x', 'y', 'z']} num={[1, 2, 3]} rows={model.places.map((p) => [p.name, mm(p.x), mm(p.y), mm(p.z)])} />
    </>
  );
}
