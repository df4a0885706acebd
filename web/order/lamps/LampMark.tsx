import { chakra } from '@chakra-ui/react';
import { memo } from 'react';
import type { Lamp } from '#core/lighting/lamp';
import type { Verdict } from '#model/common';
import { drawnSize, lampFill } from './lampLook';

/** Millimetres of a registration plate, 12 by 6 in. */
const PLATE = { w: 304, h: 152 };

/**
 * One lamp of an elevation in its colour, ringed and lettered by its verdict, at a point of the view. Kept as it is while
 * another lamp is dragged.
 */
export const LampMark = memo(function LampMark(p: {
  lamp: Lamp;
  verdict: Verdict | null;
  says: string;
  x: number;
  y: number;
  /** millimetres that a pixel takes */
  mm: number;
  side: boolean;
  rear: boolean;
  on: boolean;
  lit: boolean;
  movable: boolean;
  /** stands on a pole */
  pole: boolean;
}) {
  const { lamp, x, y, mm } = p;
  // never so small that it cannot be seen or touched
  const size = drawnSize(lamp);
  const h = Math.max(size.h, 7 * mm);
  const w = p.side ? Math.min(Math.max(size.w, 8 * mm), Math.max(60, 8 * mm)) : Math.max(size.w, 8 * mm);
  const reach = Math.max(w, h) / 2;
  const mirror = lamp.function.startsWith('mirror');
  const bad = p.verdict === 'fails' || p.verdict === 'unknown' ? p.verdict : null;
  const ring = (r: number, colour: string, dash?: string) => (
    <chakra.circle
      cx={x}
      cy={y}
      r={r}
      fill="none"
      stroke={colour}
      strokeWidth="2.2px"
      strokeDasharray={dash}
      vectorEffect="non-scaling-stroke"
    />
  );
  return (
    <chakra.g data-lamp={lamp.id} cursor={p.movable ? 'grab' : 'pointer'}>
      <title>{`${lamp.name}: ${p.says}`}</title>
      {p.pole && <chakra.path d={`M${x} ${y}V-1000`} stroke="ink" strokeWidth="1.6px" vectorEffect="non-scaling-stroke" />}
      {lamp.function === 'plate' && p.rear && (
        <chakra.rect
          x={x - PLATE.w / 2}
          y={y + h / 2 + 8}
          width={PLATE.w}
          height={PLATE.h}
          rx={8}
          fill="raised"
          stroke="ink"
          strokeWidth="1.2px"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {p.lit && <circle cx={x} cy={y} r={reach + 16 * mm} fill={lampFill(lamp)} opacity={0.45} />}
      <chakra.rect
        x={x - w / 2}
        y={y - h / 2}
        width={w}
        height={h}
        rx={Math.min(w, h) * 0.28}
        fill={mirror ? 'glass' : lampFill(lamp)}
        stroke="ink"
        strokeWidth={p.on ? '2.6px' : '1.5px'}
        vectorEffect="non-scaling-stroke"
      />
      {lamp.function.startsWith('reflector') && (
        <chakra.path
          d={`M${x - w / 2} ${y}H${x + w / 2}M${x} ${y - h / 2}V${y + h / 2}`}
          stroke="raised"
          strokeWidth="1px"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {bad && ring(reach + 6 * mm, bad, bad === 'fails' ? '9 3' : '3 3')}
      {bad && (
        <chakra.text
          as="text"
          x={x + reach + 8 * mm}
          y={y - reach - mm}
          fontSize={`${12.5 * mm}px`}
          fill={bad}
          fontFamily="mono"
          fontWeight={700}
          stroke="paper"
          strokeWidth={`${3 * mm}px`}
          paintOrder="stroke"
        >
          {bad === 'fails' ? 'F' : '?'}
        </chakra.text>
      )}
      {p.on && ring(reach + 10 * mm, 'accent')}
    </chakra.g>
  );
});
