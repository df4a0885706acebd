import { both, circle, line, pts, rounded, type Pt } from './outline';

/** How a stroke is drawn: a body's filled outline, an open bold line, a lesser line, a tyre, glass, upholstery, or something hidden or not part of the unit. */
export type Role = 'body' | 'frame' | 'detail' | 'tyre' | 'glass' | 'seat' | 'ghost';
export interface Shape {
  d: string;
  role: Role;
}
export interface Views {
  side: Shape[];
  top: Shape[];
}
/**
 * A unit seen from its front and its rear, x to the viewer's right, and the faces of its body that a lamp can be mounted on:
 * polygons of y and z for front and rear, of x and z for the side, millimetres.
 */
export interface Ends {
  front: Shape[];
  rear: Shape[];
  faces: Record<'front' | 'rear' | 'side', Pt[][]>;
}

/** A shape; an outline that is not closed hides nothing behind it. */
export const s = (role: Role, d: string): Shape => ({ role: role === 'body' && !d.endsWith('Z') ? 'frame' : role, d });

/** A closed shape with rounded corners through points given by their coordinates in turn. */
export const form = (role: Role, radius: number, ...xy: number[]): Shape => s(role, rounded(pts(...xy), radius));
/** The same on both sides of the centre line, from its right half, top to bottom. */
export const half = (role: Role, radius: number, ...xy: number[]): Shape => s(role, both(pts(...xy), radius));
/** What stands on both sides: made for the one and for the other. */
export const pair = (make: (side: 1 | -1) => Shape[]): Shape[] => [...make(1), ...make(-1)];

/** A wheel seen from the side: a chunky one has lugs and a small rim, a slick one spokes to its edge. */
export function wheelSide(x: number, r: number, chunky: boolean): Shape[] {
  const out = [s('tyre', circle(x, r, r)), s('detail', circle(x, r, r * (chunky ? 0.52 : 0.8))), s('detail', circle(x, r, r * 0.14))];
  const spokes = chunky ? 6 : 5;
  for (let i = 0; i < spokes; i++) {
    const a = (i / spokes) * 2 * Math.PI;
    out.push(
      s(
        'detail',
        line(
          [x + Math.cos(a) * r * 0.14, r + Math.sin(a) * r * 0.14],
          [x + Math.cos(a) * r * (chunky ? 0.52 : 0.8), r + Math.sin(a) * r * (chunky ? 0.52 : 0.8)],
        ),
      ),
    );
  }
  if (chunky)
    for (let i = 0; i < 16; i++) {
      const a = ((i + 0.5) / 16) * 2 * Math.PI;
      out.push(
        s(
          'detail',
          line(
            [x + Math.cos(a) * r * 0.84, r + Math.sin(a) * r * 0.84],
            [x + Math.cos(a + 0.07) * r * 0.98, r + Math.sin(a + 0.07) * r * 0.98],
          ),
        ),
      );
    }
  return out;
}
