import { chakra } from '@chakra-ui/react';
import { memo, useMemo } from 'react';
import { unitView } from '#core/drawing/view';
import type { Role, Shape } from '#core/drawing/shape';
import type { Verdict } from '#model/common';
import type { UnitModel, ViewName } from '#model/unit-model';
import { colourOf } from '../app/theme';
import { wireFill } from '../marks/WireSwatch';

/** Something marked at a place of the unit. */
export interface PlaceMark {
  place: string;
  /** short text in the mark: a number or letter */
  text?: string;
  tone?: Verdict | 'accent' | 'quiet';
  title: string;
  on?: boolean;
  onPick?: () => void;
}
/** A wire as routed, through places in turn. */
export interface WirePath {
  id: string;
  places: string[];
  colour: string;
  on?: boolean;
  /** current runs in it */
  live?: boolean;
  title?: string;
  onPick?: () => void;
}
/** A run that a wire may be led along, to be picked. */
export interface PickRun {
  id: string;
  from: string;
  to: string;
  title: string;
  on: boolean;
  onPick: () => void;
}

const STYLE: Record<Role, { fill?: string; stroke: string; width: string; dash?: string }> = {
  body: { fill: 'raised', stroke: 'ink', width: '2px' },
  frame: { stroke: 'ink', width: '2px' },
  detail: { stroke: 'quiet', width: '1px' },
  tyre: { fill: 'tyre', stroke: 'ink', width: '1.8px' },
  glass: { fill: 'glass', stroke: 'quiet', width: '1.1px' },
  seat: { fill: 'seat', stroke: 'quiet', width: '1.2px' },
  ghost: { stroke: 'quiet', width: '1.1px', dash: '5 4' },
};
const TONE = { holds: 'holds', tight: 'tight', fails: 'fails', unknown: 'unknown', accent: 'accent', quiet: 'quiet' } as const;
const NAME: Record<ViewName, string> = { side: 'from its right', top: 'from above', front: 'from the front', rear: 'from the rear' };

/** The strokes of a view, each as its role is drawn. */
export function Outline({ shapes }: { shapes: readonly Shape[] }) {
  return shapes.map((s, i) => {
    const st = STYLE[s.role];
    return (
      <path
        key={i}
        d={s.d}
        fill={st.fill ? colourOf(st.fill) : 'none'}
        stroke={colourOf(st.stroke)}
        strokeWidth={st.width}
        strokeDasharray={st.dash}
        strokeLinejoin="round"
        strokeLinecap="round"
        vectorEffect="non-scaling-stroke"
      />
    );
  });
}

/** The scaled drawing that carries an order, with a station's layer of marks and wires on it. */
export function UnitDrawing({
  model,
  views = ['side', 'top'],
  marks = [],
  wires = [],
  runs = [],
  height = 210,
}: {
  model: UnitModel;
  views?: ViewName[];
  marks?: PlaceMark[];
  wires?: WirePath[];
  runs?: PickRun[];
  height?: number;
}) {
  const drawn = useMemo(() => views.map((v) => unitView(model, v)), [model, views.join()]); // eslint-disable-line react-hooks/exhaustive-deps
  const place = useMemo(() => new Map(model.places.map((p) => [p.id, p])), [model]);
  return (
    <chakra.div display="grid" gridTemplateColumns={`repeat(${views.length}, minmax(0, 1fr))`} gap="12px">
      {drawn.map((v) => {
        // sizes in the drawing's millimetres that come out the same on every unit
        const mm = Math.max(v.box.w / 420, v.box.h / height);
        const spread = spreadMarks(marks, (id) => (place.get(id) ? v.at(place.get(id)!) : null), mm);
        return (
          <chakra.figure key={v.name} m={0} minW={0}>
            <chakra.svg
              viewBox={`${v.box.x} ${v.box.y} ${v.box.w} ${v.box.h}`}
              width="100%"
              height={`${height}px`}
              role="img"
              aria-label={`${model.maker} ${model.name} seen ${NAME[v.name]}`}
            >
              <Outline shapes={v.shapes} />
              {runs.map((r) => {
                const [a, b] = [place.get(r.from), place.get(r.to)];
                if (!a || !b) return null;
                const d = `M${v.at(a).join(' ')}L${v.at(b).join(' ')}`;
                return (
                  <chakra.g
                    key={r.id}
                    onClick={r.onPick}
                    cursor="pointer"
                    data-run={r.id}
                    role="button"
                    aria-label={r.title}
                    aria-pressed={r.on}
                  >
                    <title>{r.title}</title>
                    <chakra.path
                      d={d}
                      stroke="accent"
                      strokeWidth={r.on ? '5px' : '2px'}
                      strokeDasharray="4 4"
                      vectorEffect="non-scaling-stroke"
                    />
                    <path d={d} stroke="transparent" strokeWidth="14" vectorEffect="non-scaling-stroke" />
                  </chakra.g>
                );
              })}
              {wires.map((w) => {
                const d = w.places
                  .map((id) => place.get(id))
                  .filter((p) => p !== undefined)
                  .map((p, i) => `${i ? 'L' : 'M'}${v.at(p).join(' ')}`)
                  .join('');
                return (
                  <chakra.g key={w.id} onClick={w.onPick} cursor={w.onPick ? 'pointer' : undefined} data-path={w.id}>
                    {w.title && <title>{w.title}</title>}
                    {w.onPick && <path d={d} fill="none" stroke="transparent" strokeWidth="12" vectorEffect="non-scaling-stroke" />}
                    <chakra.path
                      d={d}
                      fill="none"
                      stroke="ink"
                      strokeWidth={w.on ? '6px' : '3.4px'}
                      strokeLinejoin="round"
                      vectorEffect="non-scaling-stroke"
                      opacity={w.on === false ? 0.35 : 1}
                    />
                    <path
                      d={d}
                      fill="none"
                      stroke={wireFill(w.colour)}
                      strokeWidth={w.on ? 3.6 : 1.8}
                      strokeLinejoin="round"
                      vectorEffect="non-scaling-stroke"
                      opacity={w.on === false ? 0.35 : 1}
                    />
                    {w.live && (
                      <chakra.path
                        d={d}
                        fill="none"
                        stroke="raised"
                        strokeWidth="1.6px"
                        strokeDasharray="3 9"
                        vectorEffect="non-scaling-stroke"
                        className="flow"
                      />
                    )}
                  </chakra.g>
                );
              })}
              {spread.map(({ mark, at: [x, y], from }, i) => (
                <chakra.g key={i} color={TONE[mark.tone ?? 'accent']} cursor={mark.onPick ? 'pointer' : undefined} onClick={mark.onPick}>
                  <title>{mark.title}</title>
                  {(from[0] !== x || from[1] !== y) && (
                    <path
                      d={`M${from[0]} ${from[1]}L${x} ${y}`}
                      stroke="currentColor"
                      strokeWidth="1.2"
                      vectorEffect="non-scaling-stroke"
                    />
                  )}
                  {mark.on && (
                    <circle cx={x} cy={y} r={15 * mm} fill="none" stroke="currentColor" strokeWidth="3" vectorEffect="non-scaling-stroke" />
                  )}
                  <circle cx={x} cy={y} r={(mark.text ? 9.5 : 5) * mm} fill="currentColor" />
                  {mark.text && (
                    <chakra.text
                      x={x}
                      y={y + 4.4 * mm}
                      textAnchor="middle"
                      fontSize={`${12.5 * mm}px`}
                      fontWeight={700}
                      fill="raised"
                      fontFamily="body"
                    >
                      {mark.text}
                    </chakra.text>
                  )}
                </chakra.g>
              ))}
            </chakra.svg>
          </chakra.figure>
        );
      })}
    </chakra.div>
  );
}

type Spread = { mark: PlaceMark; at: [number, number]; from: [number, number] };

/** Moves marks that would cover each other apart, each with a line back to its place. */
function spreadMarks(marks: PlaceMark[], at: (id: string) => [number, number] | null, mm: number): Spread[] {
  const out: Spread[] = [];
  for (const mark of marks) {
    const from = at(mark.place);
    if (!from) continue;
    const gap = (mark.text ? 21 : 9) * mm;
    let spot: [number, number] = from;
    for (let k = 0; k < 24 && out.some((o) => Math.hypot(o.at[0] - spot[0], o.at[1] - spot[1]) < gap); k++) {
      const r = gap * (1 + Math.floor(k / 8));
      const a = (k % 8) * (Math.PI / 4) - Math.PI / 2;
      spot = [from[0] + r * Math.cos(a), from[1] + r * Math.sin(a)];
    }
    out.push({ mark, at: spot, from });
  }
  return out;
}

/** What outlines are drawn of, by model: lists show the same few again and again. */
const sides = new WeakMap<UnitModel, { box: ReturnType<typeof unitView>['box']; shapes: { d: string; fill: string }[] }>();
function sideOf(model: UnitModel) {
  let side = sides.get(model);
  if (!side) {
    const { box, shapes } = unitView(model, 'side');
    const drawn = shapes.filter((s) => s.role !== 'ghost' && s.role !== 'detail');
    const fillOf = (role: Role) => (STYLE[role].fill ? colourOf(STYLE[role].fill) : 'none');
    sides.set(model, (side = { box, shapes: drawn.map((s) => ({ d: s.d, fill: fillOf(s.role) })) }));
  }
  return side;
}

/** A small outline of a kind of unit, for plates and lists. */
export const Silhouette = memo(function Silhouette({
  model,
  width = 72,
  height = 40,
}: {
  model: UnitModel;
  width?: number;
  height?: number;
}) {
  const { box, shapes } = sideOf(model);
  return (
    <svg viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`} width={width} height={height} className="silhouette" aria-hidden>
      {shapes.map((s, i) => (
        <path key={i} d={s.d} fill={s.fill} />
      ))}
    </svg>
  );
});
