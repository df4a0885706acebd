import { useDraggable } from '@dnd-kit/core';
import type { ListedOrder } from '#core/order/summary';
import type { WeekPromise } from '#core/shop/week';
import type { UnitModel } from '#model/unit-model';
import { colourOf } from '../app/theme';
import { Silhouette } from '../drawing/UnitDrawing';
import { VerdictMark } from '../marks/VerdictMark';
import { fits, pct, pixels, whole, type Rows } from './week-looks';

/** What a unit is called in little room: its number and the last words of its name. */
export const shortName = (o: ListedOrder) => o.summary.unitName.split(' ').slice(1).join(' ') || o.summary.unitName;

/** A unit in its bay for a while: touched, it tells more; dragged to another bay, it stands there. */
export function Hold({
  o,
  p,
  says,
  who,
  model,
  from,
  to,
  on,
  onPick,
  movable,
  rows,
}: {
  o: ListedOrder;
  p: WeekPromise;
  says: string;
  who: string;
  model?: UnitModel;
  from: number;
  to: number;
  on: boolean;
  /** left out: it is only looked at */
  onPick?: () => void;
  movable: boolean;
  rows: Rows;
}) {
  const { large, low, text } = rows;
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: o.id, disabled: !movable });
  const wide = to - from;
  const name = shortName(o);
  const picture = large ? 96 : 64;
  // beside its mark and the edges
  const room = pixels(wide, rows) - (large ? 48 : 42);
  // on the wall a name that is cut is known better than a number
  const head = large || fits(name, room, text) ? name : String(o.number);
  const roomy = large ? wide > 0.14 : fits(head, room, text);
  const drawn = wide > (large ? 0.3 : 0.23) && !low && model !== undefined && fits(name, room - picture - 6, text);
  const short = large ? wide > 0.06 && name : whole(o.number);
  const As = onPick ? 'button' : 'div';
  return (
    <As
      ref={setNodeRef}
      {...listeners}
      {...(onPick ? { type: 'button' as const, onClick: onPick, 'aria-pressed': on } : { role: 'img', 'aria-label': says })}
      // what is written is its name; this is told besides, and is the name where nothing has room
      title={`${says}, ${o.summary.owner}`}
      data-says={says}
      className={`unit${on ? ' on' : ''}${roomy ? '' : ' tight'}${movable ? ' movable' : ''}${isDragging ? ' held' : ''}`}
      style={{
        // as short as can be, it still ends with the last day
        left: `min(calc(${pct(from)} + 1px), 100% - 10px)`,
        width: `calc(${pct(to - from)} - 2px)`,
        borderLeft: roomy ? undefined : `5px solid ${colourOf(p.verdict)}`,
        transform: transform ? `translate3d(${transform.x}px, ${transform.y}px, 0)` : undefined,
      }}
    >
      <span className="head">
        {roomy && <VerdictMark verdict={p.verdict} size={large ? 26 : 18} />}
        {roomy ? (
          <b className="cut">{head}</b>
        ) : (
          // what is too short for its number is told when it is touched
          short && (
            <b
              className={large ? undefined : 'number'}
              style={large ? { fontSize: low ? 14 : wide > 0.1 ? 18 : 15, lineHeight: low ? 1.1 : 1.15 } : undefined}
            >
              {short}
            </b>
          )
        )}
        {drawn && <Silhouette model={model} width={picture} height={large ? 40 : 30} />}
      </span>
      {roomy && !low && (
        <span className={drawn ? 'who cut beside' : 'who cut'} style={drawn ? { paddingRight: picture + 6 } : undefined}>
          {who}
        </span>
      )}
    </As>
  );
}
