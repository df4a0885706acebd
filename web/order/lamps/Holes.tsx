import { chakra } from '@chakra-ui/react';
import { FileDown, Printer } from 'lucide-react';
import { useState } from 'react';
import { holeSheets } from '#core/lighting/hole-sheet';
import { showQuantity, showUnit } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { Act, FileLink } from '../../app/ui';
import { TemplateMark } from '../../marks/TemplateMark';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';

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
        <TemplateMark sheet={s} flip={flip} mt="8px" />
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
