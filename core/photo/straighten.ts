import { depthAt, inverse, onPlane } from './plane';

/** A picture’s pixels, four bytes each, rows from the top. */
export interface Pixels {
  data: Uint8ClampedArray;
  width: number;
  height: number;
}

/** A part of a plane that is upright in it, in the plane’s unit. */
export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** What of a plane a photograph shows, no more than `within`; null where it shows nothing of that. */
export function shownBox(h: readonly number[], size: { width: number; height: number }, within: Box): Box | null {
  const corners = [
    [0, 0],
    [size.width, 0],
    [size.width, size.height],
    [0, size.height],
  ] as const;
  const front = Math.sign(depthAt(h, size.width / 2, size.height / 2));
  // a photograph that shows the plane’s horizon shows more than can be drawn
  const far = corners.some(([u, v]) => Math.sign(depthAt(h, u, v)) !== front);
  const at = corners.map(([u, v]) => onPlane(h, u, v));
  const span = (k: 'x' | 'y', low: number, length: number): [number, number] => {
    const all = at.map((p) => p[k]);
    return far ? [low, low + length] : [Math.max(low, Math.min(...all)), Math.min(low + length, Math.max(...all))];
  };
  const [x0, x1] = span('x', within.x, within.w);
  const [y0, y1] = span('y', within.y, within.h);
  return x1 > x0 && y1 > y0 ? { x: x0, y: y0, w: x1 - x0, h: y1 - y0 } : null;
}

/** Paper behind what a photograph does not show. */
const BLANK = 255;

/**
 * A part of a plane as seen straight on, out of a photograph of it: each of its pixels taken from where it lies there, between four.
 * @param width pixels of the answer; its height follows from the part’s shape
 */
export function straightened(from: Pixels, h: readonly number[], box: Box, width: number): Pixels {
  const height = Math.max(1, Math.round((width * box.h) / box.w));
  const back = inverse(h);
  const front = Math.sign(depthAt(h, from.width / 2, from.height / 2));
  const data = new Uint8ClampedArray(4 * width * height).fill(BLANK);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const { x: u, y: v } = onPlane(back, box.x + ((i + 0.5) / width) * box.w, box.y + ((j + 0.5) / height) * box.h);
      if (!(u >= 0 && v >= 0 && u < from.width && v < from.height) || Math.sign(depthAt(h, u, v)) !== front) continue;
      // a pixel’s colour is that of its middle
      const [x, y] = [Math.max(0, u - 0.5), Math.max(0, v - 0.5)];
      const [x0, y0] = [Math.floor(x), Math.floor(y)];
      const [x1, y1] = [Math.min(from.width - 1, x0 + 1), Math.min(from.height - 1, y0 + 1)];
      const [p, q] = [x - x0, y - y0];
      for (let c = 0; c < 3; c++) {
        const of = (a: number, b: number) => from.data[4 * (b * from.width + a) + c]!;
        data[4 * (j * width + i) + c] = (1 - q) * ((1 - p) * of(x0, y0) + p * of(x1, y0)) + q * ((1 - p) * of(x0, y1) + p * of(x1, y1));
      }
    }
  return { data, width, height };
}
