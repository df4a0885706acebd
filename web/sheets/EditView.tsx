import { chakra } from '@chakra-ui/react';
import { useCallback, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { touchedPlace, touchedRun } from '#core/drawing/touched';
import { placeIn, unitView } from '#core/drawing/view';
import { movePlace, snapped } from '#core/sheets/edit-model';
import type { UnitModel, ViewName } from '#model/unit-model';
import { Ground, HeldWay, Moving, Still, type WayEnds } from './EditLayers';

const NAME: Record<ViewName, string> = { side: 'From its right', top: 'From above', front: 'From the front', rear: 'From the rear' };
/** A place is drawn to a line that is so near, in pixels of the screen; and moved so far by a key, millimetres. */
const SNAP_PX = 6;
const KEY_MM = 5;
/** A touch takes what is so near to it; what is in hand already counts as so much nearer. */
const REACH_PX = 18;
const LINE_REACH_PX = 9;
const IN_HAND_PX = 3;
const KEYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

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
  const take = (e: PointerEvent) => {
    const screen = onScreen();
    const touch = at(e, screen);
    const place = touchedPlace(model, view, touch, REACH_PX * mm, { id: picked, nearer: IN_HAND_PX * mm });
    if (!place) {
      const run = marked || from !== null ? null : touchedRun(model, view, touch, LINE_REACH_PX * mm);
      return run && onWay({ from: run.from, to: run.to });
    }
    led.current = from !== null;
    onPick(place.id);
    if (marked || from !== null) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({ id: place.id, model, on: [], began: [e.clientX, e.clientY], screen });
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
