import { chakra } from '@chakra-ui/react';
import { Printer } from 'lucide-react';
import { useState } from 'react';
import { aimCard } from '#core/lighting/aim';
import { parseQuantity, showQuantity } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { FileLink } from '../../app/ui';
import { Table } from '../../sheets/Table';
import { EditField } from '../EditField';
import { useOrder } from '../useOrder';

const NEAR_M = 7.62;

/** The aim card: for every lamp that is aimed, its lines on a wall at a distance. */
export function Aim() {
  const { order, assessment } = useOrder();
  const units = useUnits();
  const [distance, setDistance] = useState(NEAR_M);
  const card = aimCard(assessment.lamps.lamps, distance);
  const len = (m: number) => showQuantity(m, 'length', units);
  const small = (m: number) => showQuantity(m * 1000, 'smallLength', units);
  const top = Math.max(1, ...card.map((c) => c.mountM)) * 1.15;
  const half = Math.max(1, ...card.map((c) => Math.abs(c.sideM) + c.outM)) * 1.25;
  return (
    <>
      <chakra.div display="flex" gap="14px" alignItems="start" flexWrap="wrap" mb="8px">
        <chakra.div width="200px">
          <EditField
            id="aim-distance"
            draft={`${order.id}.aim-distance`}
            label="From lamps to wall"
            value={len(distance)}
            mono
            read={(t) => {
              const v = parseQuantity(t, 'length', units);
              if (v < 1 || v > 50) throw new Error(`from ${len(1)} to ${len(50)}`);
              return v;
            }}
            save={(v) => {
              setDistance(v);
              return true;
            }}
          />
        </chakra.div>
        <chakra.div pt="22px">
          <FileLink href={`/api/orders/${order.id}/aim.pdf?distance=${distance}`} target="_blank">
            <Printer size={18} aria-hidden /> Card, with strips at 1:1 for the wall
          </FileLink>
        </chakra.div>
      </chakra.div>
      {!card.length && <p>No lamp that is aimed has a known place on this unit.</p>}
      {card.length > 0 && (
        <chakra.svg
          viewBox={`${-half * 100} ${-top * 100} ${half * 200} ${top * 100 + 14}`}
          width="100%"
          maxHeight="330px"
          role="img"
          aria-label="Lines on the wall"
        >
          <chakra.rect
            x={-half * 100}
            y={-top * 100}
            width={half * 200}
            height={top * 100}
            fill="raised"
            stroke="rule"
            vectorEffect="non-scaling-stroke"
          />
          <chakra.path d={`M${-half * 100} 0H${half * 100}`} stroke="ink" strokeWidth="2px" vectorEffect="non-scaling-stroke" />
          <chakra.path d={`M0 ${-top * 100}V0`} stroke="quiet" strokeDasharray="9 3 2 3" vectorEffect="non-scaling-stroke" />
          {card.map((c) => {
            const x = -c.sideM * 100;
            const out = c.sideM >= 0 ? -c.outM * 100 : c.outM * 100;
            const w = 14;
            const y = (m: number) => -Math.max(0, m) * 100;
            return (
              <chakra.g key={c.lamp.id}>
                <title>{`${c.lamp.name}: ${small(Math.max(0, c.wallM))} on the wall`}</title>
                <chakra.rect x={x + out - w} y={y(c.highM)} width={2 * w} height={y(c.lowM) - y(c.highM)} fill="holds" opacity={0.22} />
                <chakra.path
                  d={`M${x - w} ${y(c.mountM)}h${2 * w}`}
                  stroke="quiet"
                  strokeWidth="1.4px"
                  strokeDasharray="4 3"
                  vectorEffect="non-scaling-stroke"
                />
                <chakra.path
                  d={`M${x + out - w} ${y(c.wallM)}h${2 * w}`}
                  stroke="accent"
                  strokeWidth="3px"
                  vectorEffect="non-scaling-stroke"
                />
                <chakra.text as="text" x={x + out + w + 3} y={y(c.wallM) + 2.5} fontSize="7px" fontFamily="mono" fill="ink">
                  {small(Math.max(0, c.wallM))}
                </chakra.text>
                <chakra.path
                  d={`M${x} ${y(c.mountM)}L${x + out} ${y(c.wallM)}`}
                  stroke="accent"
                  strokeWidth="1px"
                  vectorEffect="non-scaling-stroke"
                />
              </chakra.g>
            );
          })}
        </chakra.svg>
      )}
      {card.length > 0 && (
        <chakra.p fontSize="14px" color="quiet" mb="8px">
          The wall as seen from the unit. Dashed: height of the lamp. Bar: where the beam’s middle goes; the shaded band is what is allowed.
        </chakra.p>
      )}
      <Table
        heads={['Lamp', 'Up', 'Beam’s middle', 'Between', 'Falls', 'Meets the ground', 'Outward', 'Source']}
        num={[1, 2, 4, 5, 6]}
        rows={card.map((c) => [
          c.lamp.name,
          small(c.mountM),
          c.wallM > 0 ? small(c.wallM) : 'ground',
          `${small(Math.max(0, c.lowM))} to ${small(c.highM)}`,
          `${c.band.setPct} %, ${small(c.mountM - c.wallM)}`,
          c.reachM === null ? '–' : len(c.reachM),
          c.outM > 0 ? small(c.outM) : '–',
          c.band.source,
        ])}
      />
      <chakra.p mt="8px" fontSize="15px">
        Level ground, tyres right, the usual load aboard. High beams and bars are for use off the road unless your code says otherwise.
      </chakra.p>
    </>
  );
}
