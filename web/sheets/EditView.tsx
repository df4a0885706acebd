import { chakra } from '@chakra-ui/react';
import { memo, useCallback, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { placeIn, unitView, type View } from '#core/drawing/view';
import { movePlace, snapped } from '#core/sheets/edit-model';
import type { Place, UnitModel, ViewName } from '#model/unit-model';
import { Outline } from '../drawing/UnitDrawing';

const NAME: Record<ViewName, string> = { side: 'From its right', top: 'From above', front: 'From the front', rear: 'From the rear' };
/** A place is drawn to a line that is so near, in pixels of the screen; and moved so far by a key, millimetres. */
const SNAP_PX = 6;
const KEY_MM = 5;
/** A touch takes what is so near to it; what is in hand already counts as so much nearer. */
const REACH_PX = 18;
const IN_HAND_PX = 3;
const KEYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** There may be hundreds of places: they are drawn without a style sheet of their own each. */
const [ACCENT, QUIET] = ['var(--chakra-colors-accent)', 'var(--chakra-colors-quiet)'];

/** One view of a model whose places are dragged, with a finger, a mouse or the arrow keys. */
export function EditView({
  model,
  name,
  picked,
  onPick,
  onMoved,
  marked = null,
  obstacle = null,
  height,
}: {
  model: UnitModel;
  name: ViewName;
  picked: string | null;
  onPick: (place: string) => void;
  onMoved: (next: UnitModel) => void;
  /** places that are filled, such as those under a panel: a touch picks then, and moves nothing */
  marked?: ReadonlySet<string> | null;
  /** what hides a light and is in hand */
  obstacle?: string | null;
  height: number;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ id: string; model: UnitModel; on: string[]; from: [number, number]; screen: DOMMatrix } | null>(null);
  const shown = drag?.model ?? model;
  const view = useMemo(() => unitView(model, name), [model, name]);
  const { x, y, w, h } = view.box;
  const behind = model.pictures?.[name];
  const mm = Math.max(w / 420, h / height);
  const onScreen = () => svg.current!.getScreenCTM()!.inverse();
  const at = (e: PointerEvent, screen: DOMMatrix): [number, number] => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(screen);
    return [p.x, p.y];
  };
  const move = (e: PointerEvent) => {
    if (!drag) return;
    // a tap that trembles moves nothing
    if (drag.model === model && Math.hypot(e.clientX - drag.from[0], e.clientY - drag.from[1]) < 4) return;
    const s = snapped(model, drag.id, placeIn[name](...at(e, drag.screen)), SNAP_PX * mm);
    setDrag({ ...drag, model: movePlace(model, drag.id, s.to), on: s.on });
  };
  /** What is nearest to a touch: places lie close, and what is in hand already is meant before what lies under it. */
  const take = (e: PointerEvent) => {
    const screen = onScreen();
    const [u, v] = at(e, screen);
    const off = (p: Place) => Math.hypot(view.at(p)[0] - u, view.at(p)[1] - v) - (p.id === picked ? IN_HAND_PX * mm : 0);
    const nearest = model.places.reduce<Place | null>((best, p) => (best === null || off(p) < off(best) ? p : best), null);
    if (nearest === null || off(nearest) > REACH_PX * mm) return;
    onPick(nearest.id);
    if (marked) return;
    svg.current!.setPointerCapture(e.pointerId);
    setDrag({ id: nearest.id, model, on: [], from: [e.clientX, e.clientY], screen });
  };
  const drop = () => {
    if (drag && drag.model !== model) onMoved(drag.model);
    setDrag(null);
  };
  const byKey = useCallback(
    (e: KeyboardEvent, id: string) => {
      const key = KEYS[e.key];
      if (marked && (e.key === 'Enter' || e.key === ' ')) {
        e.preventDefault();
        return onPick(id);
      }
      if (!key || marked) return;
      e.preventDefault();
      const [u, v] = view.at(model.places.find((q) => q.id === id)!);
      onMoved(movePlace(model, id, placeIn[name](u + key[0] * KEY_MM, v + key[1] * KEY_MM)));
    },
    [marked, model, name, onMoved, onPick, view],
  );
  // what stays where it is while something is dragged is not drawn again
  const moving = drag
    ? [drag.id, ...shown.places.filter((p, i) => p !== model.places[i] && p.id !== drag.id).map((p) => p.id)].join(' ')
    : '';
  const rest = { view, name, picked, marked, mm, onPick, byKey };
  return (
    <chakra.figure m={0} minW={0} bg="raised" borderWidth="1px" borderColor="rule" borderRadius="kadro" p="6px">
      <chakra.figcaption fontSize="13px" color="quiet" display="flex" justifyContent="space-between" gap="8px">
        <span>{NAME[name]}</span>
        <span aria-live="polite">{drag?.on.length ? `on ${drag.on.slice(0, 2).join(', ')}` : ''}</span>
      </chakra.figcaption>
      <svg
        ref={svg}
        viewBox={`${x} ${y} ${w} ${h}`}
        width="100%"
        height={height}
        data-view={name}
        style={{ touchAction: 'none', display: 'block' }}
        onPointerDown={take}
        onPointerMove={move}
        onPointerUp={drop}
        onPointerCancel={() => setDrag(null)}
      >
        <Ground view={view} behind={behind} obstacles={model.obstacles} obstacle={obstacle} />
        <Spots model={model} moving={moving} all {...rest} />
        {moving && <Spots model={shown} moving={moving} all={false} {...rest} />}
      </svg>
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

/** Places and the ways between them: those that are being moved, or all others. */
const Spots = memo(function Spots({
  model,
  view,
  name,
  moving,
  all,
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
  all: boolean;
  picked: string | null;
  marked: ReadonlySet<string> | null;
  mm: number;
  onPick: (place: string) => void;
  byKey: (e: KeyboardEvent, id: string) => void;
}) {
  const moved = new Set(moving.split(' '));
  const here = (...ids: string[]) => ids.some((id) => moved.has(id)) !== all;
  const spot = new Map(model.places.map((p) => [p.id, view.at(p)]));
  return (
    <g data-layer={`${name} ${all ? 'still' : 'moving'}`}>
      {model.runs
        .filter((r) => here(r.from, r.to))
        .map((r) => {
          const [a, b] = [spot.get(r.from), spot.get(r.to)];
          if (!a || !b) return null;
          const on = r.from === picked || r.to === picked;
          return (
            <path
              key={`${r.from}..${r.to}`}
              d={`M${a.join(' ')}L${b.join(' ')}`}
              stroke={ACCENT}
              strokeWidth={on ? 2.4 : 1}
              opacity={on ? 1 : 0.5}
              vectorEffect="non-scaling-stroke"
            />
          );
        })}
      {model.places
        .filter((p) => here(p.id))
        // what is in hand lies above
        .sort((a, b) => Number(a.id === picked) - Number(b.id === picked))
        .map((p) => {
          const [u, v] = spot.get(p.id)!;
          const on = marked ? marked.has(p.id) : p.id === picked;
          return (
            <g
              key={p.id}
              tabIndex={0}
              role="button"
              aria-label={p.name}
              aria-pressed={on}
              data-place={p.id}
              style={{ cursor: marked ? 'pointer' : 'grab', color: on ? ACCENT : QUIET }}
              onFocus={() => !marked && onPick(p.id)}
              onKeyDown={(e) => byKey(e, p.id)}
            >
              <title>{p.name}</title>
              <circle
                cx={u}
                cy={v}
                r={(on ? 8 : 5) * mm}
                fill={marked && !on ? 'transparent' : 'currentColor'}
                stroke="currentColor"
                strokeWidth={2 * mm}
              />
            </g>
          );
        })}
    </g>
  );
});
