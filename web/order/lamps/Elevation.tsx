import { chakra } from '@chakra-ui/react';
import { memo, useId, useRef, type PointerEvent } from 'react';
import { unitView, type View } from '#core/drawing/view';
import type { Lamp } from '#core/lighting/lamp';
import type { PlaceBand } from '#core/lighting/placing';
import { showQuantity } from '#core/quantity/quantity';
import type { Verdict } from '#model/common';
import type { Point } from '#model/lamp';
import { useUnits } from '../../app/context';
import { Outline } from '../../drawing/UnitDrawing';
import { drawnSize } from './lampLook';
import { LampMark } from './LampMark';

export type ElevationName = 'front' | 'rear' | 'side';
export const ELEVATION: Record<ElevationName, string> = { front: 'From the front', rear: 'From the rear', side: 'From its right' };

export interface DrawnLamp {
  lamp: Lamp;
  verdict: Verdict | null;
  says: string;
}

const Body = memo(function Body({ view }: { view: View }) {
  return <Outline shapes={view.shapes} />;
});

/** The point of the unit's frame that a drag leads to, keeping what the view does not show. */
function led(name: ElevationName, at: Point, u: number, v: number): Point {
  const r = (x: number) => Math.round(x / 5) * 5 + 0;
  if (name === 'side') return { ...at, x: r(u), z: r(-v) };
  return { ...at, y: r(name === 'front' ? u : -u), z: r(-v) };
}

/** Lights of a boat that stand on a pole, above this height, millimetres. */
const POLE = /^(all-round|masthead)$/;
const RAIL_MM = 1100;
/** How far from a lamp's outline a touch still means it, pixels. */
const FINGER_PX = 16;

/** One elevation at a given scale: the body, lamps in their colours, and for the one picked its legal bands and its figures. */
export function Elevation({
  view,
  name,
  lamps,
  picked,
  bands,
  legal,
  pxPerMm,
  lit,
  movable,
  boat = false,
  onPick,
  onDrag,
  onDrop,
}: {
  view: View;
  name: ElevationName;
  lamps: readonly DrawnLamp[];
  picked: Lamp | null;
  bands: readonly PlaceBand[];
  /** places that keep every limit, to be washed over the body */
  legal: readonly (readonly [number, number])[];
  pxPerMm: number;
  /** lamps that shine just now, where that is shown */
  lit?: ReadonlySet<string>;
  movable: boolean;
  /** whites of a boat stand on poles */
  boat?: boolean;
  onPick: (id: string | null) => void;
  onDrag: (id: string, at: Point) => void;
  onDrop: () => void;
}) {
  const units = useUnits();
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ id: string; at: Point; dx: number; dy: number; moved: boolean } | null>(null);
  const hatch = useId();
  const { box } = view;
  // millimetres of the drawing that a screen's pixel takes, so that type comes out the same on every unit
  const mm = 1 / pxPerMm;
  const small = (x: number) => showQuantity(x, 'smallLength', units);

  const toFrame = (e: PointerEvent): [number, number] => {
    const r = svg.current!.getBoundingClientRect();
    return [box.x + ((e.clientX - r.left) / r.width) * box.w, box.y + ((e.clientY - r.top) / r.height) * box.h];
  };
  /** The lamp under a finger: the one whose own outline is nearest, within reach of a fingertip. */
  const under = (x: number, y: number): Lamp | null => {
    let best: { lamp: Lamp; d: number; c: number } | null = null;
    for (const { lamp } of lamps) {
      const [u, v] = view.at(lamp.at!);
      const { w, h } = drawnSize(lamp);
      const d = Math.hypot(Math.max(0, Math.abs(x - u) - w / 2), Math.max(0, Math.abs(y - v) - h / 2));
      const c = Math.hypot(x - u, y - v);
      if (d <= FINGER_PX * mm && (!best || d < best.d - 1e-6 || (d < best.d + 1e-6 && c < best.c))) best = { lamp, d, c };
    }
    return best?.lamp ?? null;
  };
  const down = (e: PointerEvent) => {
    const [x, y] = toFrame(e);
    const l = under(x, y);
    onPick(l?.id ?? null);
    if (!l || !movable || !l.at) return;
    const [u, v] = view.at(l.at);
    held.current = { id: l.id, at: l.at, dx: u - x, dy: v - y, moved: false };
    svg.current!.setPointerCapture(e.pointerId);
  };
  const move = (e: PointerEvent) => {
    const h = held.current;
    if (!h) return;
    const [x, y] = toFrame(e);
    const at = led(name, h.at, x + h.dx, y + h.dy);
    if (!h.moved && Math.hypot(at.x - h.at.x, at.y - h.at.y, at.z - h.at.z) < 8) return;
    h.moved = true;
    onDrag(h.id, at);
  };
  const up = () => {
    if (held.current?.moved) onDrop();
    held.current = null;
  };

  const p = picked?.at ? view.at(picked.at) : null;
  // bands belong to the views that the lamp is seen in
  const here = picked !== null && lamps.some((l) => l.lamp.id === picked.id);
  const zBands = bands.filter((b) => b.z);
  const yBands = name === 'side' || !here ? [] : bands.filter((b) => b.y);
  const low = Math.max(0, ...zBands.map((b) => b.z!.min ?? 0));
  const high = Math.min(...zBands.map((b) => b.z!.max ?? Infinity));
  const line = (x1: number, y1: number, x2: number, y2: number, dash?: string, colour = 'accent', width = 1.4) => (
    <chakra.path
      d={`M${x1} ${y1}L${x2} ${y2}`}
      stroke={colour}
      strokeWidth={`${width}px`}
      strokeDasharray={dash}
      vectorEffect="non-scaling-stroke"
    />
  );
  const word = (x: number, y: number, t: string, anchor: 'start' | 'middle' | 'end' = 'start', colour = 'ink', bold = false) => (
    <chakra.text
      as="text"
      x={x}
      y={y}
      fontSize={`${12.5 * mm}px`}
      textAnchor={anchor}
      fill={colour}
      fontFamily="mono"
      fontWeight={bold ? 700 : 500}
      stroke="paper"
      strokeWidth={`${3 * mm}px`}
      paintOrder="stroke"
    >
      {t}
    </chakra.text>
  );
  return (
    <chakra.svg
      ref={svg}
      viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`}
      width={`${box.w * pxPerMm}px`}
      height={`${box.h * pxPerMm}px`}
      role="group"
      aria-label={ELEVATION[name]}
      data-view={name}
      touchAction="none"
      display="block"
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      onPointerDown={down}
    >
      <defs>
        <pattern id={hatch} width={9 * mm} height={9 * mm} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <chakra.rect width={1.6 * mm} height={9 * mm} fill="fails" opacity={0.5} />
        </pattern>
      </defs>
      {p && here && zBands.length > 0 && (
        <chakra.rect
          x={box.x}
          width={box.w}
          y={Number.isFinite(high) ? -high : box.y}
          height={(Number.isFinite(high) ? high : -box.y) - low}
          fill="holds"
          opacity={0.13}
        />
      )}
      <Body view={view} />
      {line(box.x, 0, box.x + box.w, 0, undefined, 'ink', 1.2)}
      {name !== 'side' && line(0, box.y, 0, 0, '9 3 2 3', 'quiet', 0.8)}
      {p &&
        yBands.map((b) => (
          <g key={b.item}>
            {b.y!.min !== undefined && b.y!.min > 0 && (
              <rect x={-b.y!.min} y={p[1] - 90} width={2 * b.y!.min} height={180} fill={`url(#${hatch})`} />
            )}
            {b.y!.min !== undefined &&
              b.y!.min > 0 &&
              [1, -1].map((k) => <g key={k}>{line(k * b.y!.min!, p[1] - 150, k * b.y!.min!, p[1] + 150, '5 3')}</g>)}
          </g>
        ))}
      {legal.length > 0 && p && (
        <chakra.path
          d={legal.map(([u, z]) => `M${(name === 'rear' ? -u : u) - 5} ${-z - 5}h10v10h-10Z`).join('')}
          fill="holds"
          opacity={0.45}
        />
      )}
      {p && here && Number.isFinite(high) && -high > box.y && (
        <>
          {line(box.x, -high, box.x + box.w, -high, '6 4')}
          {word(box.x + box.w - 4 * mm, -high - 4 * mm, small(high), 'end', 'accent')}
        </>
      )}
      {p && here && low > 0 && (
        <>
          {line(box.x, -low, box.x + box.w, -low, '6 4')}
          {word(box.x + box.w - 4 * mm, -low + 13 * mm, small(low), 'end', 'accent')}
        </>
      )}
      {lamps.map(({ lamp, verdict, says }) => {
        const [x, y] = view.at(lamp.at!);
        return (
          <LampMark
            key={lamp.id}
            lamp={lamp}
            verdict={verdict}
            says={says}
            x={x}
            y={y}
            mm={mm}
            side={name === 'side'}
            rear={name === 'rear'}
            on={picked?.id === lamp.id}
            lit={lit?.has(lamp.id) ?? false}
            movable={movable}
            pole={boat && POLE.test(lamp.function) && lamp.at!.z > RAIL_MM}
          />
        );
      })}
      {p && picked && here && name !== 'side' && Math.abs(p[0]) > 20 && (
        // where its other side belongs
        <chakra.rect
          pointerEvents="none"
          x={-p[0] - drawnSize(picked).w / 2}
          y={p[1] - drawnSize(picked).h / 2}
          width={drawnSize(picked).w}
          height={drawnSize(picked).h}
          rx={6}
          fill="none"
          stroke="accent"
          strokeWidth="1.6px"
          strokeDasharray="3 3"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {p && picked && here && (
        <g pointerEvents="none">
          {line(p[0], p[1], p[0], 0, '2 3', 'ink', 1)}
          {word(p[0] + 5 * mm, p[1] / 2, small(picked.at!.z), 'start', 'ink', true)}
          {name !== 'side' && Math.abs(picked.at!.y) > 1 && (
            <>
              {line(0, p[1], p[0], p[1], '2 3', 'ink', 1)}
              {word(p[0] / 2, p[1] - 6 * mm, small(Math.abs(picked.at!.y)), 'middle', 'ink', true)}
            </>
          )}
        </g>
      )}
    </chakra.svg>
  );
}

/** The three elevations of a model, for drawing at one scale. */
export const elevations = (model: Parameters<typeof unitView>[0]): Record<ElevationName, View> => ({
  front: unitView(model, 'front'),
  rear: unitView(model, 'rear'),
  side: unitView(model, 'side'),
});
