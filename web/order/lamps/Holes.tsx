import { chakra } from '@chakra-ui/react';
import { FileDown, Printer } from 'lucide-react';
import { useState } from 'react';
import { extent, holeSheets, templateStrokes, type Layer } from '#core/lighting/hole-sheet';
import { showQuantity, showUnit } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { Act, FileLink } from '../../app/ui';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';

const LOOK: Record<Layer, { colour: string; width: string; dash?: string }> = {
  part: { colour: 'quiet', width: '1.2px', dash: '3 3' },
  trace: { colour: 'ink', width: '2px' },
  cut: { colour: 'fails', width: '1.6px', dash: '7 4' },
  drill: { colour: 'ink', width: '1.6px' },
  pilot: { colour: 'quiet', width: '1px' },
  centre: { colour: 'quiet', width: '0.8px', dash: '10 3 2 3' },
  ruler: { colour: 'ink', width: '1px' },
  text: { colour: 'ink', width: '0' },
};

/** Hole and cut-out sheets of the order's parts, to be printed at 1:1 or cut by a machine. */
export function Holes() {
  const { order, sheets } = useOrder();
  const units = useUnits();
  const list = holeSheets(order, sheets);
  const [at, setAt] = useState(0);
  const [mirror, setMirror] = useState(false);
  const s = list[Math.min(at, list.length - 1)];
  if (!s) return <p>No part of the chosen kits gives a cut-out or bolts on its sheet.</p>;
  const small = (x: number) => showQuantity(x, 'smallLength', units);
  const { w, h } = extent(s);
  const flip = mirror !== false;
  const base = `/api/orders/${order.id}/holes/${s.kit}/${s.device}/sheet`;
  const q = flip ? '?mirror=yes' : '';
  const kitName = (id: string) => sheets.kits.find((k) => k.id === id)?.name ?? id;
  return (
    <chakra.div display="grid" gridTemplateColumns="260px minmax(0, 1fr)" gap="16px">
      <div>
        <FileLink href={`/api/orders/${order.id}/holes.pdf`} target="_blank" width="100%" justifyContent="center">
          <Printer size={18} aria-hidden /> All {list.length} sheets
        </FileLink>
        <chakra.ul listStyleType="none" p={0} mt="8px">
          {list.map((x, i) => (
            <li key={`${x.kit}/${x.device}`}>
              <Act
                look="quiet"
                width="100%"
                justifyContent="flex-start"
                whiteSpace="normal"
                textAlign="left"
                on={x === s}
                aria-pressed={x === s}
                onClick={() => setAt(i)}
              >
                <span>
                  {x.name}
                  <chakra.span display="block" fontSize="13px" color="quiet" fontWeight={400}>
                    {kitName(x.kit)}
                  </chakra.span>
                </span>
              </Act>
            </li>
          ))}
        </chakra.ul>
      </div>
      <div>
        <chakra.div display="flex" gap="8px" flexWrap="wrap" alignItems="center">
          <chakra.h3 fontSize="18px" flex="1">
            {s.name}
            {s.mirrored !== flip && ', mirrored for the other side'}
          </chakra.h3>
          <Act on={mirror} aria-pressed={mirror} onClick={() => setMirror(!mirror)}>
            Flip it over
          </Act>
          <FileLink href={`${base}.pdf${q}`} target="_blank">
            <Printer size={18} aria-hidden /> PDF 1:1
          </FileLink>
          <FileLink href={`${base}.svg${q}`} target="_blank">
            <FileDown size={18} aria-hidden /> SVG
          </FileLink>
          <FileLink href={`${base}.dxf${q}`}>
            <FileDown size={18} aria-hidden /> DXF
          </FileLink>
        </chakra.div>
        <chakra.svg
          viewBox={`${-w / 2 - 12} ${-h / 2 - 6} ${w + 24} ${h + 12}`}
          width="100%"
          maxHeight="330px"
          role="img"
          aria-label={`Template of ${s.name}`}
          bg="raised"
          borderWidth="1px"
          borderColor="rule"
          mt="8px"
        >
          <g transform={flip ? 'scale(-1 1)' : undefined}>
            {templateStrokes(s).map((k, i) => {
              const look = LOOK[k.layer];
              const line = {
                fill: 'none',
                stroke: look.colour,
                strokeWidth: look.width,
                strokeDasharray: look.dash,
                vectorEffect: 'non-scaling-stroke' as const,
              };
              if (k.kind === 'line') return <chakra.path key={i} d={`M${k.x1} ${-k.y1}L${k.x2} ${-k.y2}`} {...line} />;
              if (k.kind === 'circle') return <chakra.circle key={i} cx={k.x} cy={-k.y} r={k.r} {...line} />;
              if (k.kind === 'rect') return <chakra.rect key={i} x={-k.w / 2} y={-k.h / 2} width={k.w} height={k.h} rx={k.r} {...line} />;
              return (
                <chakra.text
                  as="text"
                  key={i}
                  x={flip ? -k.x : k.x}
                  y={-k.y}
                  transform={flip ? 'scale(-1 1)' : undefined}
                  fontSize={`${k.size * 1.8}px`}
                  textAnchor={flip && k.anchor === 'start' ? 'end' : k.anchor}
                  fill="ink"
                  fontFamily="mono"
                >
                  {k.text}
                </chakra.text>
              );
            })}
          </g>
        </chakra.svg>
        <chakra.p fontSize="14px" color="quiet">
          Solid: trace. Red dashes: cut inside it. Thin dashes: the part’s own outline. Circles: drill, with the pilot inside; figures in
          millimetres. Seen from outside.
        </chakra.p>
        <H3>Where</H3>
        <p>
          {Math.abs(s.at.y) < 1 ? 'On the centre line' : `${small(Math.abs(s.at.y))} ${s.at.y > 0 ? 'left' : 'right'} of the centre line`},{' '}
          {small(s.at.z)} up from the ground.
        </p>
        <H3>How</H3>
        {s.notes.map((t) => (
          <p key={t}>· {t}.</p>
        ))}
        {s.holes.map((x, i) => (
          <chakra.p key={i} fontFamily="mono" fontSize="15px">
            {x.what}: drill {showUnit(x.mm, 'mm', units)}
            {x.pilotMm < x.mm ? `, pilot ${showUnit(x.pilotMm, 'mm', units)}` : ''}
          </chakra.p>
        ))}
        <H3>Behind it</H3>
        {s.behind.length ? s.behind.map((t) => <p key={t}>· {t}</p>) : <p>Nothing is known to be there: look all the same.</p>}
      </div>
    </chakra.div>
  );
}
