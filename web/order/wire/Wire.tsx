import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { figure, showQuantity } from '#core/quantity/quantity';
import type { PlannedCircuit } from '#core/circuit/wiring';
import { awgName } from '#core/wire/resistance';
import { useUnits } from '../../app/context';
import { Sheet } from '../../app/ui';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { MarginBar } from '../../marks/MarginBar';
import { Sum } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { FuseMark, WireSwatch } from '../../marks/WireSwatch';
import { Answer } from '../Station';
import { useOrder } from '../useOrder';
import { Overrides } from './Overrides';

export function Wire() {
  const { sheets, assessment } = useOrder();
  const { circuits, points } = assessment.wiring;
  const [open, setOpen] = useState<string | null>(null);
  const bad = circuits.filter((c) => c.verdict !== 'holds');
  const chosen = circuits.find((c) => c.id === open);
  const used = points.filter((p) => circuits.some((c) => c.feed?.id === p.id));
  const marks: PlaceMark[] = [
    ...used.map((p, i): PlaceMark => ({
      place: p.place,
      text: String.fromCharCode(65 + i),
      tone: 'accent',
      title: p.name,
      on: chosen?.feed?.id === p.id,
    })),
    ...(chosen
      ? chosen.circuit.devices.map((d): PlaceMark => ({
          place: chosen.kit.devices.find((x) => x.id === d)!.place,
          tone: chosen.verdict,
          title: d,
        }))
      : []),
  ];
  const letter = (c: PlannedCircuit) => (c.feed ? String.fromCharCode(65 + used.findIndex((p) => p.id === c.feed!.id)) : '–');
  return (
    <>
      <Answer
        verdict={circuits.length ? assessment.wiring.verdict : null}
        drawing={
          <UnitDrawing
            model={sheets.model}
            marks={marks}
            wires={circuits
              .filter((c) => c.route)
              .map((c) => ({ id: c.id, places: c.route!.places, colour: c.circuit.colour, on: open === null ? undefined : c.id === open }))}
          />
        }
      >
        {!circuits.length
          ? 'No kit brings a circuit yet.'
          : bad.length
            ? `${bad[0]!.circuit.name}: ${bad[0]!.problems[0] ?? 'a figure is missing'}.`
            : `${circuits.length} circuits fed, sized and fused.`}
      </Answer>
      <chakra.div display="grid" gap="8px">
        {circuits.map((c) => (
          <Row key={c.id} c={c} letter={letter(c)} open={open === c.id} onToggle={() => setOpen(open === c.id ? null : c.id)} />
        ))}
      </chakra.div>
      <chakra.p mt="16px" color="quiet" fontSize="14px">
        Fuse within 7 in of its source (ABYC E-11); support every 18 in at most. Never across steering or brake parts.
      </chakra.p>
    </>
  );
}

function Row({ c, letter, open, onToggle }: { c: PlannedCircuit; letter: string; open: boolean; onToggle: () => void }) {
  const units = useUnits();
  return (
    <Sheet p={0} borderColor={open ? 'accent' : 'rule'}>
      <chakra.button
        type="button"
        onClick={onToggle}
        aria-expanded={open}
        width="100%"
        textAlign="left"
        cursor="pointer"
        p="12px 16px"
        display="grid"
        gridTemplateColumns="28px minmax(150px, 1.3fr) minmax(150px, 1.3fr) 96px 136px minmax(110px, 1fr)"
        gap="4px 12px"
        alignItems="center"
      >
        <VerdictMark verdict={c.verdict} />
        <chakra.span minW={0}>
          <chakra.b display="block">{c.circuit.name}</chakra.b>
          <WireSwatch colour={c.circuit.colour} />
        </chakra.span>
        <chakra.span minW={0}>
          <chakra.span display="block">
            <chakra.b color="accent">{letter}</chakra.b> {c.feed?.name ?? 'no feed'}
          </chakra.span>
          <chakra.span color="quiet" fontSize="14px">
            {c.mode === 'relay'
              ? c.circuit.makes
                ? `woken by the ${c.trigger?.name ?? 'key wire'}`
                : `relay, triggered by ${c.trigger?.name ?? 'a keyed wire'}`
              : c.feed?.switching === 'keyed'
                ? 'keyed, direct'
                : 'constant, direct'}
          </chakra.span>
        </chakra.span>
        <chakra.span fontFamily="mono">
          {c.awg === null ? '?' : `${awgName(c.awg)} AWG`}
          <chakra.span display="block" fontSize="14px" color="quiet">
            {c.lengthM === null ? '? long' : showQuantity(c.lengthM, 'length', units)}
          </chakra.span>
        </chakra.span>
        {c.fuseA === null ? <span>? fuse</span> : <FuseMark ratingA={c.fuseA} colour={c.fuseColour!} />}
        <MarginBar
          margin={{ used: c.dropPct, limit: c.circuit.dropPct, unit: '%' }}
          show={(x) => figure(x, 2)}
          verdict={c.dropPct === null ? 'unknown' : c.dropPct > c.circuit.dropPct ? 'fails' : 'holds'}
          label={`Voltage drop of ${c.circuit.name}`}
        />
        {c.problems.length > 0 && (
          <chakra.span gridColumn="2 / -1" color={c.verdict === 'fails' ? 'fails' : 'tightText'}>
            {c.problems.join('; ')}
          </chakra.span>
        )}
      </chakra.button>
      {open && (
        <chakra.div
          px="16px"
          pb="16px"
          borderTopWidth="1px"
          borderColor="rule"
          display="grid"
          gridTemplateColumns="repeat(auto-fit, minmax(320px, 1fr))"
          gap="16px 24px"
        >
          <div>
            <Overrides c={c} />
          </div>
          <div>
            <chakra.h3 fontSize="16px" mt="12px" mb="6px">
              Feeds, best first
            </chakra.h3>
            <chakra.ul listStyleType="none" p={0}>
              {c.candidates.map((k) => (
                <chakra.li key={k.point.id} display="flex" gap="10px" py="6px" borderTopWidth="1px" borderColor="rule">
                  <VerdictMark verdict={k.accepted ? 'holds' : 'fails'} size={18} />
                  <span>
                    <b>{k.point.name}</b>: {k.reason}
                    {k.accepted && k.distanceM !== null && `; ${showQuantity(k.distanceM, 'length', units)}`}
                  </span>
                </chakra.li>
              ))}
            </chakra.ul>
            {c.route && c.route.hazards.length > 0 && (
              <chakra.p mt="8px">
                <b>On its way:</b> {c.route.hazards.join(', ')}. Sleeve it and tie it clear.
              </chakra.p>
            )}
            {c.crimp && <chakra.p mt="8px">Each crimp must hold {showQuantity(c.crimp.newtons, 'force', units)} for a minute.</chakra.p>}
            <Sum lines={c.sum} />
          </div>
        </chakra.div>
      )}
    </Sheet>
  );
}
