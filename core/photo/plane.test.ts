import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calc/door';
import { depthAt, inverse, onPlane, planeBy, turnedBy, type PlanePoint } from './plane';
import { shownBox, straightened, type Pixels } from './straighten';

/**
 * A pinhole camera before a flat thing: an independent way from the plane to the photograph, by three turns and a shift in space
 * and a division by depth, as physics has it.
 */
function camera(turn: readonly [number, number, number], shift: readonly [number, number, number], f = 1000) {
  const [a, b, c] = turn;
  return (x: number, y: number): { u: number; v: number } => {
    const [x1, y1] = [x * Math.cos(c) - y * Math.sin(c), x * Math.sin(c) + y * Math.cos(c)];
    const [x2, z2] = [x1 * Math.cos(b), -x1 * Math.sin(b)];
    const [y3, z3] = [y1 * Math.cos(a) - z2 * Math.sin(a), y1 * Math.sin(a) + z2 * Math.cos(a)];
    const z = z3 + shift[2];
    return { u: (f * (x2 + shift[0])) / z + 640, v: (f * (y3 + shift[1])) / z + 480 };
  };
}
const SPOTS = [
  [0, 0],
  [2000, 0],
  [2000, 1200],
  [0, 1200],
  [700, 500],
  [1500, 900],
  [300, 1000],
] as const;
const seen = (look: ReturnType<typeof camera>, spots: readonly (readonly [number, number])[]): PlanePoint[] =>
  spots.map(([x, y]) => ({ ...look(x, y), x, y }));
const anyCamera = fc
  .tuple(
    fc.tuple(
      fc.double({ min: -0.7, max: 0.7, noNaN: true }),
      fc.double({ min: -0.7, max: 0.7, noNaN: true }),
      fc.double({ min: -3, max: 3, noNaN: true }),
    ),
    fc.tuple(
      fc.double({ min: -900, max: 900, noNaN: true }),
      fc.double({ min: -600, max: 600, noNaN: true }),
      fc.double({ min: 3500, max: 9000, noNaN: true }),
    ),
  )
  .map(([turn, shift]) => camera(turn, shift));

describe('a plane on a photograph', () => {
  it('is found as a pinhole camera saw it, by four points or more, and every other point lies where it is', () => {
    fc.assert(
      fc.property(anyCamera, fc.integer({ min: 4, max: SPOTS.length }), (look, n) => {
        const { h, rms } = planeBy(seen(look, SPOTS.slice(0, n)));
        expect(rms).toBeLessThan(1e-5);
        for (const [x, y] of SPOTS) {
          const at = onPlane(h, look(x, y).u, look(x, y).v);
          expect(Math.hypot(at.x - x, at.y - y)).toBeLessThan(1e-4);
        }
        const there = onPlane(inverse(h), 1000, 600);
        expect(Math.hypot(there.x - look(1000, 600).u, there.y - look(1000, 600).v)).toBeLessThan(1e-6);
      }),
      { numRuns: 200 },
    );
  });
  it('by touches that tremble lies nearest to all: no plane a little turned is nearer, and it is not far off', () => {
    let seed = 7;
    const noise = () => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * 3;
    for (let k = 0; k < 20; k++) {
      const look = camera([0.3 - 0.03 * k, 0.4, 0.1 * k], [100, -50, 5000]);
      const points = seen(look, SPOTS).map((p) => ({ ...p, u: p.u + noise(), v: p.v + noise() }));
      const { h, rms } = planeBy(points);
      const off = (m: readonly number[]) =>
        Math.sqrt(
          points.reduce((s, p) => s + Math.hypot(onPlane(m, p.u, p.v).x - p.x, onPlane(m, p.u, p.v).y - p.y) ** 2, 0) / points.length,
        );
      expect(rms).toBeCloseTo(off(h), 9);
      for (let i = 0; i < 8; i++)
        for (const by of [-1e-5, 1e-5]) expect(off(h.map((x, j) => (j === i ? x * (1 + by) : x)))).toBeGreaterThanOrEqual(rms - 1e-9);
      // a pixel is some 5 mm here
      expect(rms).toBeLessThan(15);
    }
  });
  it('says what is wrong with points that tell no plane', () => {
    const four = seen(camera([0.2, 0.3, 0], [0, 0, 5000]), SPOTS.slice(0, 4));
    expect(() => planeBy(four.slice(0, 3))).toThrow('a plane needs four points');
    expect(() =>
      planeBy(
        seen(camera([0, 0, 0], [0, 0, 5000]), [
          [0, 0],
          [1, 0],
          [2, 0],
          [0, 5],
        ]),
      ),
    ).toThrow(/on one line/);
    expect(() => planeBy(four.map((p) => ({ ...p, u: 1, v: 1 })))).toThrow('the points are all the same');
    // two that were mistaken for each other: a bow tie
    const crossed = four.map((p, i) => ({
      ...p,
      ...(i === 2 ? { x: four[3]!.x, y: four[3]!.y } : i === 3 ? { x: four[2]!.x, y: four[2]!.y } : {}),
    }));
    expect(() => planeBy(crossed)).toThrow(/look at the order of the points/);
    expect(runCalculation('photo.plane', { points: four, ask: [{ u: four[1]!.u, v: four[1]!.v }] })).toMatchObject({
      at: [{ x: expect.closeTo(2000, 6) as number, y: expect.closeTo(0, 6) as number }],
    });
  });
  it('by two points is turned and sized, and nothing is bent', () => {
    const { h, rms } = turnedBy([
      { u: 100, v: 100, x: 0, y: 0 },
      { u: 100, v: 300, x: 1000, y: 0 },
    ]);
    expect(rms).toBeCloseTo(0, 9);
    // what was to the right of the line on the picture is so in the plane
    expect(onPlane(h, 0, 100)).toEqual({ x: expect.closeTo(0, 6) as number, y: expect.closeTo(500, 6) as number });
    expect(() => turnedBy([{ u: 1, v: 1, x: 0, y: 0 }])).toThrow(/two points/);
    expect(() =>
      turnedBy([
        { u: 1, v: 1, x: 0, y: 0 },
        { u: 1, v: 1, x: 9, y: 0 },
      ]),
    ).toThrow(/the same/);
  });
});

describe('a photograph straightened', () => {
  it('shows straight on what the camera saw aslant', () => {
    const look = camera([0.35, -0.4, 0.2], [-900, -500, 4200]);
    // a chequered board of 200 mm, seen by that camera
    const white = (x: number, y: number) => (Math.floor(x / 200) + Math.floor(y / 200)) % 2 === 0;
    const { h } = planeBy(seen(look, SPOTS));
    const photo: Pixels = { width: 1280, height: 960, data: new Uint8ClampedArray(4 * 1280 * 960) };
    for (let v = 0; v < 960; v++)
      for (let u = 0; u < 1280; u++) {
        const { x, y } = onPlane(h, u + 0.5, v + 0.5);
        photo.data.fill(white(x, y) ? 230 : 30, 4 * (v * 1280 + u), 4 * (v * 1280 + u) + 4);
      }
    const board = { x: 0, y: 0, w: 2000, h: 1200 };
    const flat = straightened(photo, h, board, 500);
    expect([flat.width, flat.height]).toEqual([500, 300]);
    let wrong = 0;
    let looked = 0;
    for (let j = 0; j < 300; j++)
      for (let i = 0; i < 500; i++) {
        const [x, y] = [(i + 0.5) * 4, (j + 0.5) * 4];
        const { u, v } = look(x, y);
        // not where squares meet, nor what is not on the picture
        const edge = (d: number) => Math.abs(((d + 100) % 200) - 100) < 12;
        if (edge(x) || edge(y) || u < 1 || v < 1 || u > 1279 || v > 959) continue;
        looked++;
        if (flat.data[4 * (j * 500 + i)]! > 128 !== white(x, y)) wrong++;
      }
    expect(looked).toBeGreaterThan(50_000);
    expect(wrong).toBe(0);
  });
  it('takes no more than is asked for, and nothing from behind the camera', () => {
    const flat = [1, 0, 0, 0, 1, 0, 0, 0, 1];
    expect(shownBox(flat, { width: 100, height: 50 }, { x: 20, y: -10, w: 500, h: 500 })).toEqual({ x: 20, y: 0, w: 80, h: 50 });
    expect(shownBox(flat, { width: 100, height: 50 }, { x: 200, y: 0, w: 500, h: 500 })).toBeNull();
    // a camera that looks along the floor sees to its end
    const floor = planeBy(seen(camera([1.3, 0, 0], [0, 300, 5000]), SPOTS));
    expect(depthAt(floor.h, 640, 0) * depthAt(floor.h, 640, 900)).toBeLessThan(0);
    const within = { x: -500, y: -500, w: 4000, h: 3000 };
    expect(shownBox(floor.h, { width: 1280, height: 960 }, within)).toEqual(within);
  });
});
