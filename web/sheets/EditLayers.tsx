import { chakra } from '@chakra-ui/react';
import { memo, type KeyboardEvent } from 'react';
import type { View } from '#core/drawing/view';
import type { Run, UnitModel, ViewName } from '#model/unit-model';
import { colourOf } from '../app/theme';
import { Outline } from '../drawing/UnitDrawing';
import { inShop } from '../app/place';

/** There may be hundreds of places: they are drawn without a style sheet of their own each. */
const [ACCENT, QUIET, RAISED, INK] = (['accent', 'quiet', 'raised', 'ink'] as const).map(colourOf);

/** A way between two places, by its ends. */
export type WayEnds = Pick<Run, 'from' | 'to'>;

/** What a view stands on: a photograph, the unit’s lines, and what hides a light. */
export const Ground = memo(function Ground({
  view,
  behind,
  obstacles,
  obstacle,
}: {
  view: View;
  behind: NonNullable<UnitModel['pictures']>[ViewName];
  obstacles: UnitModel['obstacles'];
  obstacle: string | null;
}) {
  return (
    <>
      {behind && (
        <image
          href={inShop(`/api/photos/${behind.photo}`)}
          x={behind.box.x}
          y={behind.box.y}
          width={behind.box.w}
          height={behind.box.h}
          preserveAspectRatio="none"
          opacity={0.6}
        />
      )}
      {/* over a photograph only the strokes are drawn */}
      <chakra.g css={behind ? { '& path': { fill: 'none !important' } } : undefined}>
        <Outline shapes={view.shapes} />
      </chakra.g>
      {obstacles.map((o) => {
        const [[a, b], [c, d]] = [view.at(o.from), view.at(o.to)];
        const on = o.id === obstacle;
        return (
          <path
            key={o.id}
            data-obstacle={o.id}
            d={o.kind === 'bar' ? `M${a} ${b}L${c} ${d}` : `M${a} ${b}H${c}V${d}H${a}Z`}
            stroke={on ? ACCENT : QUIET}
            strokeDasharray="6 5"
            strokeWidth={on ? (o.kind === 'bar' ? 4 : 2.4) : 1}
            vectorEffect="non-scaling-stroke"
            fill="none"
          />
        );
      })}
    </>
  );
});

type Spot = ReadonlyMap<string, [number, number]>;
const line = (spot: Spot, r: WayEnds): string => {
  const [a, b] = [spot.get(r.from), spot.get(r.to)];
  return a && b ? `M${a[0]} ${a[1]}L${b[0]} ${b[1]}` : '';
};

/** Many lines are one element: there may be hundreds. */
const Lines = ({ d, strong = false }: { d: string; strong?: boolean }) => (
  <path d={d} stroke={ACCENT} fill="none" strokeWidth={strong ? 2.4 : 1} opacity={strong ? 1 : 0.5} vectorEffect="non-scaling-stroke" />
);

/** Half the height of the mark of what lies on a way, in pixels. */
const MARK_PX = 5;
/** A small triangle in the middle of each way that passes something. */
const hazardMarks = (spot: Spot, runs: readonly Run[], mm: number): string =>
  runs
    .map((r) => {
      const [a, b] = [spot.get(r.from), spot.get(r.to)];
      if (!r.hazards.length || !a || !b) return '';
      const m = MARK_PX * mm;
      return `M${(a[0] + b[0]) / 2 - m} ${(a[1] + b[1]) / 2 + m}h${2 * m}l${-m} ${-2 * m}z`;
    })
    .join('');

/** Places and the ways between them, but for those that are being moved. */
export const Still = memo(function Still({
  model,
  view,
  name,
  moving,
  picked,
  marked,
  mm,
  onPick,
  byKey,
}: {
  model: UnitModel;
  view: View;
  name: ViewName;
  /** places that are dragged, by a space */
  moving: string;
  picked: string | null;
  marked: ReadonlySet<string> | null;
  mm: number;
  /** null: a place that the keyboard comes to is not taken in hand by that */
  onPick: ((place: string) => void) | null;
  byKey: (e: KeyboardEvent, id: string) => void;
}) {
  const moved = new Set(moving.split(' '));
  const spot: Spot = new Map(model.places.map((p) => [p.id, view.at(p)]));
  const runs = model.runs.filter((r) => !moved.has(r.from) && !moved.has(r.to));
  const ofPicked = (r: Run) => r.from === picked || r.to === picked;
  const lines = (of: readonly Run[]) => of.map((r) => line(spot, r)).join('');
  return (
    <g data-layer={name}>
      <Lines d={lines(runs.filter((r) => !ofPicked(r)))} />
      <Lines d={lines(runs.filter(ofPicked))} strong />
      <path d={hazardMarks(spot, runs, mm)} fill={RAISED} stroke={QUIET} vectorEffect="non-scaling-stroke" />
      {[...model.places]
        // what is in hand lies above
        .sort((a, b) => Number(a.id === picked) - Number(b.id === picked))
        .map((p) => {
          const [u, v] = spot.get(p.id)!;
          const on = marked ? marked.has(p.id) : p.id === picked;
          const colour = on ? ACCENT : QUIET;
          return (
            <circle
              key={p.id}
              tabIndex={0}
              role="button"
              aria-label={p.name}
              aria-pressed={on}
              data-place={p.id}
              cx={u}
              cy={v}
              r={(on ? 8 : 5) * mm}
              fill={marked && !on ? 'transparent' : colour}
              stroke={colour}
              strokeWidth={2 * mm}
              cursor={marked ? 'pointer' : 'grab'}
              opacity={moved.has(p.id) ? 0 : 1}
              onFocus={() => !marked && onPick?.(p.id)}
              onKeyDown={(e) => byKey(e, p.id)}
            />
          );
        })}
    </g>
  );
});

/** What is dragged, with the ways that lead to it. */
export function Moving({ model, view, moving, mm }: { model: UnitModel; view: View; moving: string; mm: number }) {
  const moved = new Set(moving.split(' '));
  const runs = model.runs.filter((r) => moved.has(r.from) || moved.has(r.to));
  const near = new Set([...moved, ...runs.flatMap((r) => [r.from, r.to])]);
  const spot: Spot = new Map(model.places.filter((p) => near.has(p.id)).map((p) => [p.id, view.at(p)]));
  return (
    <>
      <Lines d={runs.map((r) => line(spot, r)).join('')} strong />
      {[...moved].map((id) => {
        const at = spot.get(id);
        return at && <circle key={id} cx={at[0]} cy={at[1]} r={8 * mm} fill={ACCENT} />;
      })}
    </>
  );
}

/** Size of the words on a way, in pixels. */
const WORDS_PX = 13;

/** The way in hand, with what it passes. */
export function HeldWay({ model, way, view, mm }: { model: UnitModel; way: Run; view: View; mm: number }) {
  const [a, b] = [way.from, way.to].map((id) => model.places.find((p) => p.id === id)).map((p) => p && view.at(p));
  if (!a || !b) return null;
  return (
    <g data-way={`${way.from}..${way.to}`} pointerEvents="none">
      <path d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`} stroke={ACCENT} strokeWidth={4} vectorEffect="non-scaling-stroke" />
      {way.hazards.length > 0 && (
        <text
          x={(a[0] + b[0]) / 2 + 9 * mm}
          y={(a[1] + b[1]) / 2 + 5 * mm}
          style={{ fontSize: `${WORDS_PX * mm}px` }}
          fill={INK}
          stroke={RAISED}
          strokeWidth={4 * mm}
          paintOrder="stroke"
        >
          {way.hazards.join(', ')}
        </text>
      )}
    </g>
  );
}
