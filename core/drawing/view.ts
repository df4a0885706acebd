import type { UnitModel, Place, ViewName } from '#model/unit-model';
import { drawEnds, drawUnit } from './kinds';
import type { Shape } from './shape';

/** One scaled view of a unit: its shapes and where its places fall, in SVG millimetres (down is positive). */
export interface View {
  name: ViewName;
  shapes: Shape[];
  box: { x: number; y: number; w: number; h: number };
  at: (p: Pick<Place, 'x' | 'y' | 'z'>) => [number, number];
}

const MARGIN = 0.05;

/** Bounds of a unit in a view, with a margin and room for what sticks out, such as an outboard. */
function bounds(m: UnitModel, name: ViewName): View['box'] {
  const { lengthMm: L, widthMm: W, heightMm: H, rearOverhangMm: ro, wheelMm: d } = m.dims;
  const boat = m.kind === 'boat';
  const pad = L * MARGIN;
  const x0 = -ro - (boat ? 480 : 0) - pad;
  const x1 = L - ro + pad + (boat ? 200 : 0);
  if (name === 'front' || name === 'rear') {
    const beside = Math.max(pad, boat ? 420 : 300);
    const low = boat ? 1.15 * d : 0;
    return { x: -W / 2 - beside, y: -H - pad, w: W + 2 * beside, h: H + low + 2 * pad };
  }
  if (name === 'top') return { x: x0, y: -W / 2 - pad, w: x1 - x0, h: W + 2 * pad };
  const low = boat ? 1.15 * d : 0;
  return { x: x0, y: -H - pad, w: x1 - x0, h: H + low + 2 * pad };
}

/** Where a point falls: seen from the front the unit's left is to the viewer's right. */
const AT: Record<ViewName, View['at']> = {
  side: (p) => [p.x, -p.z],
  top: (p) => [p.x, -p.y],
  front: (p) => [p.y, -p.z],
  rear: (p) => [-p.y, -p.z],
};

/** What a point of a view says of a place, in the unit's frame: two of its three coordinates. */
export const placeIn: Record<ViewName, (right: number, down: number) => Partial<Record<'x' | 'y' | 'z', number>>> = {
  side: (u, v) => ({ x: u, z: -v }),
  top: (u, v) => ({ x: u, y: -v }),
  front: (u, v) => ({ y: u, z: -v }),
  rear: (u, v) => ({ y: -u, z: -v }),
};

/** A view of a unit, from its model's dimensions. */
export function unitView(m: UnitModel, name: ViewName): View {
  return { name, shapes: name === 'front' || name === 'rear' ? drawEnds(m)[name] : drawUnit(m)[name], box: bounds(m, name), at: AT[name] };
}
