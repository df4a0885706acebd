import { chakra } from '@chakra-ui/react';
import { memo, useCallback, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { placeIn, unitView, type View } from '#core/drawing/view';
import { movePlace, snapped } from '#core/sheets/edit-model';
import type { Place, Run, UnitModel, ViewName } from '#model/unit-model';
import { Outline } from '../drawing/UnitDrawing';

const NAME: Record<ViewName, string> = { side: 'From its right', top: 'From above', front: 'From the front', rear: 'From the rear' };
/** A place is drawn to a line that is so near, in pixels of the screen; and moved so far by a key, millimetres. */
const SNAP_PX = 6;
const KEY_MM = 5;
/** A touch takes what is so near to it; what is in hand already counts as so much nearer. */
const REACH_PX = 18;
const LINE_REACH_PX = 9;
const IN_HAND_PX = 3;
const KEYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** There may be hundreds of places: they are drawn without a style sheet of their own each. */
const [ACCENT, QUIET] = ['var(--chakra-colors-accent)', 'var(--chakra-colors-quiet)'];

/** A way between two places, by its ends. */
export type WayEnds = Pick<Run, 'from' | 'to'>;

/** How far a point lies from the line between two others. */
function offLine([u, v]: readonly [number, number], [a, b]: readonly [number, number], [c, d]: readonly [number, number]): number {
  const [dx, dy] = [c - a, d - b];
  const along = dx || dy ? Math.min(1, Math.max(0, ((u - a) * dx + (v - b) * dy) / (dx * dx + dy * dy))) : 0;
  return Math.hypot(a + along * dx - u, b + along * dy - v);
}

/** One view of a model whose places are dragged, with a finger, a mouse or the arrow keys, and whose ways are taken by their lines. */
export function EditView({
  model,
  name,
  picked,
  onPick,
  onMoved,
  way = null,
  onWay,
  from = null,
  marked = null,
  obstacle = null,
  width,
  height,
}: {
  model: UnitModel;
  name: ViewName;
  picked: string | null;
  onPick: (place: string) => void;
  onMoved: (next: UnitModel) => void;
  /** the way in hand */
  way?: WayEnds | null;
  onWay: (way: WayEnds) => void;
  /** a place from which a way is being drawn: the next touch says where to, and moves nothing */
  from?: string | null;
  /** places that are filled, such as those under a panel: a touch picks then, and moves nothing */
  marked?: ReadonlySet<string> | null;
  /** what hides a light and is in hand */
  obstacle?: string | null;
  /** pixels that it is about to take, so that dots and words have their size */
  width: number;
  height: number;
}) {
  const svg = useRef<SVGSVGElement>(null);
  /** a touch that says where a way leads takes no place in hand */
  const led = useRef(false);
  const [drag, setDrag] = useState<{ id: string; model: UnitModel; on: string[]; began: [number, number]; screen: DOMMatrix } | null>(null);
  const shown = drag?.model ?? model;
  const view = useMemo(() => unitView(model, name), [model, name]);
  const { x, y, w, h } = view.box;
  const behind = model.pictures?.[name];
  const mm = Math.max(w / width, h / height);
  const onScreen = () => svg.current!.getScreenCTM()!.inverse();
  const at = (e: PointerEvent, screen: DOMMatrix): [number, number] => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(screen);
    return [p.x, p.y];
  };
  const move = (e: PointerEvent) => {
    if (!drag) return;
    // a tap that trembles moves nothing
    if (drag.model === model && Math.hypot(e.clientX - drag.began[0], e.clientY - drag.began[1]) < 4) return;
    const s = snapped(model, drag.id, placeIn[name](...at(e, drag.screen)), SNAP_PX * mm);
    setDrag({ ...drag, model: movePlace(model, drag.id, s.to), on: s.on });
  };
  /** What is nearest to a touch: places lie close, and what is in hand already is meant before what lies under it. */
  const take = (e: PointerEvent) => {
    const screen = onScreen();
    const [u, v] = at(e, screen);
    const off = (p: Place) => Math.hypot(view.at(p)[0] - u, view.at(p)[1] - v) - (p.id === picked ? IN_HAND_PX * mm : 0);
    const nearest = model.places.reduce<Place | null>((best, p) => (best === null || off(p) < off(best) ? p : best), null);
    if (nearest === null || off(nearest) > REACH_PX * mm) {
      if (!marked && from === null) takeLine([u, v]);
      return;
    }
    led.current = from !== null;
    onPick(nearest.id);
    if (marked || from !== null) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({ id: nearest.id, model, on: [], began: [e.clientX, e.clientY], screen });
  };
  /** The way whose line a touch falls on, beside all places. */
  const takeLine = (touched: readonly [number, number]) => {
    const spot = new Map(model.places.map((p) => [p.id, view.at(p)]));
    let [best, least] = [null as Run | null, LINE_REACH_PX * mm];
    for (const r of model.runs) {
      const [a, b] = [spot.get(r.from), spot.get(r.to)];
      const off = a && b ? offLine(touched, a, b) : Infinity;
      if (off <= least) [best, least] = [r, off];
    }
    if (best) onWay({ from: best.from, to: best.to });
  };
  const drop = () => {
    if (drag && drag.model !== model) onMoved(drag.model);
    setDrag(null);
  };
  const byKey = useCallback(
    (e: KeyboardEvent, id: string) => {
      const key = KEYS[e.key];
      if ((marked || from !== null) && (e.key === 'Enter' || e.key === ' ')) {
        e.preventDefault();
        return onPick(id);
      }
      if (!key || marked || from !== null) return;
      e.preventDefault();
      const [u, v] = view.at(model.places.find((q) => q.id === id)!);
      onMoved(movePlace(model, id, placeIn[name](u + key[0] * KEY_MM, v + key[1] * KEY_MM)));
    },
    [from, marked, model, name, onMoved, onPick, view],
  );
  // what stays where it is while something is dragged is not drawn again, and lies on a layer of its own
  const moving = drag
    ? [drag.id, ...shown.places.filter((p, i) => p !== model.places[i] && p.id !== drag.id).map((p) => p.id)].join(' ')
    : '';
  const held = way && model.runs.find((r) => r.from === way.from && r.to === way.to);
  const box = `${x} ${y} ${w} ${h}`;
  return (
    <chakra.figure m={0} minW={0} bg="raised" borderWidth="1px" borderColor="rule" borderRadius="kadro" p="6px">
      <chakra.figcaption fontSize="13px" color="quiet" display="flex" justifyContent="space-between" gap="8px">
        <span>{NAME[name]}</span>
        <span aria-live="polite">
          {drag?.on.length ? `on ${drag.on.slice(0, 2).join(', ')}` : from === null ? '' : 'where does it lead?'}
        </span>
      </chakra.figcaption>
      <chakra.div
        position="relative"
        data-view={name}
        style={{ touchAction: 'none', height }}
        onPointerDown={take}
        onMouseDown={(e) => led.current && e.preventDefault()}
        onPointerMove={move}
        onPointerUp={drop}
        onPointerCancel={() => setDrag(null)}
      >
        <svg ref={svg} viewBox={box} width="100%" height={height} style={{ display: 'block' }}>
          <Ground view={view} behind={behind} obstacles={model.obstacles} obstacle={obstacle} />
          <Still
            model={model}
            view={view}
            name={name}
            moving={moving}
            picked={picked}
            marked={marked}
            mm={mm}
            onPick={from === null ? onPick : null}
            byKey={byKey}
          />
          {held && <HeldWay model={model} way={held} view={view} mm={mm} />}
        </svg>
        {drag && (
          <svg
            viewBox={box}
            width="100%"
            height={height}
            style={{ position: 'absolute', inset: 0, pointerEvents: 'none', willChange: 'transform' }}
            aria-hidden
          >
            <Moving model={shown} view={view} moving={moving} mm={mm} />
          </svg>
        )}
      </chakra.div>
    </chakra.figure>
  );
}

/** What a view stands on: a photograph, the unit’s lines, and what hides a light. */
const Ground = memo(function Ground({
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
          href={`/api/photos/${behind.photo}`}
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
const Still = memo(function Still({
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
      <path d={hazardMarks(spot, runs, mm)} fill="var(--chakra-colors-raised)" stroke={QUIET} vectorEffect="non-scaling-stroke" />
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
function Moving({ model, view, moving, mm }: { model: UnitModel; view: View; moving: string; mm: number }) {
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
function HeldWay({ model, way, view, mm }: { model: UnitModel; way: Run; view: View; mm: number }) {
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
          fill="var(--chakra-colors-ink)"
          stroke="var(--chakra-colors-raised)"
          strokeWidth={4 * mm}
          paintOrder="stroke"
        >
          {way.hazards.join(', ')}
        </text>
      )}
    </g>
  );
}
