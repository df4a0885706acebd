import { chakra } from '@chakra-ui/react';
import { DndContext, MouseSensor, TouchSensor, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import { format } from 'date-fns';
import { useMemo } from 'react';
import { onAxis, weekAxis, type AxisDay } from '#core/shop/week-axis';
import type { Week } from '#core/shop/week';
import type { WeekWork } from '#core/shop/week-shop';
import type { UnitModel } from '#model/unit-model';
import type { ListedOrder } from '#core/order/summary';
import { dayWord } from '../order/words';
import { Hold, shortName } from './Hold';
import { along, fits, lengths, pct, PICTURE, pixels, rowsOf, whole } from './week-looks';

/** A stretch shorter than this has no room for a number, px. */
const NUMBER = 32;
/** Days side by side. */
const DAYS = 3;

/** Every second hour of a day. */
function hoursOf(d: AxisDay): number[] {
  if (d.closed) return [];
  const first = new Date(d.from);
  first.setMinutes(0, 0, 0);
  const out: number[] = [];
  for (let t = first.getTime(); t < d.to; t += 3_600_000) if (t > d.from && new Date(t).getHours() % 2 === 0) out.push(t);
  return out;
}

/** Who does an order’s work, who most of it first. */
function whoOf(week: Week, order: string): string {
  const minutes = new Map<string, number>();
  const work = week.work.filter((w) => w.order === order);
  for (const w of work) w.people.forEach((id, i) => minutes.set(id, (minutes.get(id) ?? 0) + (i ? 0.1 : 1) * (w.to - w.from)));
  return [...minutes]
    .sort((a, b) => b[1] - a[1])
    .map(([id]) => week.people.find((x) => x.id === id)?.name ?? id)
    .join(', ');
}

/** One order’s work that follows on without a gap, as one stretch. */
function together(work: readonly WeekWork[]): WeekWork[] {
  const out: WeekWork[] = [];
  for (const w of [...work].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && last.order === w.order && w.from <= last.to) out[out.length - 1] = { ...last, to: Math.max(last.to, w.to) };
    else out.push(w);
  }
  return out;
}

/**
 * Bays by hours: the units where they stand and will stand, who works on what, and what each promise looks like.
 * @param large for a screen on the wall
 */
export function WeekPicture({
  week,
  orders,
  models,
  at,
  onPick,
  onMove,
  large = false,
}: {
  week: Week;
  orders: ReadonlyMap<string, ListedOrder>;
  /** by the unit’s whole name */
  models: ReadonlyMap<string, UnitModel>;
  at: string | null;
  /** left out: units are only looked at */
  onPick?: (order: string) => void;
  /** a unit is put into another bay by hand; left out: none is moved */
  onMove?: (order: string, bay: string) => void;
  large?: boolean;
}) {
  const axis = useMemo(() => weekAxis(week, DAYS), [week]);
  const verdict = new Map(week.promises.map((p) => [p.order, p]));
  // a finger that rests takes hold, one that moves scrolls
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  );
  const now = onAxis(axis, week.now);
  const rows = rowsOf(week, large);
  if (!axis.length) return <chakra.p color="quiet">The shop is closed for as far as is planned: see its hours under Shop, Week.</chakra.p>;
  return (
    <chakra.div role="group" aria-label="Bays by hours" css={PICTURE} style={lengths(rows)}>
      <Line>
        {axis.map((d) => (
          <span key={d.day} className="day" style={along(d.at, d.width)}>
            {d.closed ? '' : dayWord(d.from)}
          </span>
        ))}
      </Line>
      <Line height={rows.hours}>
        {axis.flatMap((d) =>
          hoursOf(d).map((h) => (
            <span key={h} className="hour" style={{ left: pct(onAxis(axis, h)) }}>
              {format(h, 'H')}
            </span>
          )),
        )}
      </Line>
      <div className="stack">
        <DndContext
          sensors={sensors}
          onDragEnd={({ active, over }) => {
            const held = week.holds.find((h) => h.order === active.id);
            if (over && held && over.id !== held.bay) onMove?.(held.order, String(over.id));
          }}
        >
          <div className="stack">
            <div className="over">
              {axis.map((d) => (
                <span key={d.day} className={d.closed ? 'tall edge shift' : 'tall edge'} style={along(d.at, d.width)}>
                  {d.closed}
                </span>
              ))}
            </div>
            {week.bays.map((bay) => (
              <BayLine key={bay.id} id={bay.id} name={bay.name} height={rows.bay}>
                {week.holds
                  .filter((h) => h.bay === bay.id && onAxis(axis, h.to) > onAxis(axis, h.from))
                  .map((h) => {
                    const o = orders.get(h.order);
                    const p = verdict.get(h.order);
                    if (!o || !p) return null;
                    return (
                      <Hold
                        key={h.order}
                        o={o}
                        p={p}
                        says={`${o.number} ${o.summary.unitName}, in ${bay.name} from ${format(h.from, 'EEE HH:mm')} to ${format(h.to, 'EEE HH:mm')}`}
                        who={whoOf(week, h.order)}
                        model={models.get(o.summary.unitName)}
                        from={onAxis(axis, h.from)}
                        to={onAxis(axis, h.to)}
                        on={at === h.order}
                        onPick={onPick && (() => onPick(h.order))}
                        movable={onMove !== undefined}
                        rows={rows}
                      />
                    );
                  })}
              </BayLine>
            ))}
          </div>
        </DndContext>
        {week.people.map((person) => (
          <Line key={person.id} name={person.name} height={rows.person} text={rows.personText} ruled person>
            {person.shifts.map(([a, b]) => {
              const [from, to] = [onAxis(axis, a), onAxis(axis, b)];
              return to > from && <span key={a} className="tall shift" style={along(from, to - from)} />;
            })}
            {person.off.map(({ day, why }) => {
              const d = axis.find((x) => x.day === day && !x.closed);
              return (
                d && (
                  <span key={day} className="away" style={along(d.at, d.width)}>
                    {why || 'away'}
                  </span>
                )
              );
            })}
            {together(week.work.filter((w) => w.people.includes(person.id) && onAxis(axis, w.to) > onAxis(axis, w.from))).map((w) => {
              const o = orders.get(w.order);
              const [from, to] = [onAxis(axis, w.from), onAxis(axis, w.to)];
              const wide = to - from;
              const room = pixels(wide, rows);
              const named = o !== undefined && (large ? wide > 0.06 : fits(shortName(o), room - 12, 0.86 * rows.personText));
              const numbered = o !== undefined && !named && !large && room > NUMBER;
              return (
                <span
                  key={`${w.order} ${w.from}`}
                  title={o ? `${o.number} ${o.summary.unitName}` : undefined}
                  className={`work${at === w.order ? ' on' : ''}${numbered ? ' number' : ''}`}
                  style={{ left: `calc(${pct(from)} + 1px)`, width: `calc(${pct(wide)} - 2px)` }}
                >
                  {named ? shortName(o) : numbered && whole(o.number)}
                </span>
              );
            })}
          </Line>
        ))}
        {now > 0 && (
          <div aria-hidden className="over">
            <span className="tall now" style={{ left: pct(now) }} />
          </div>
        )}
      </div>
    </chakra.div>
  );
}

/** A bay, onto which a unit may be dropped. */
function BayLine({ id, children, ...line }: { id: string; name: string; height: number; children: React.ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <chakra.div ref={setNodeRef} bg={isOver ? 'accentWash' : undefined}>
      <Line {...line} ruled>
        {children}
      </Line>
    </chakra.div>
  );
}

function Line({
  name = '',
  height = 26,
  text,
  ruled = false,
  person = false,
  children,
}: {
  name?: string;
  height?: number;
  text?: number;
  ruled?: boolean;
  person?: boolean;
  children: React.ReactNode;
}) {
  return (
    <div className={`line${ruled ? ' ruled' : ''}${person ? ' person' : ''}`} style={{ height, fontSize: text }}>
      <span className="name cut">{name}</span>
      <div className="here">{children}</div>
    </div>
  );
}
