import type { UnitModel } from '#model/unit-model';
import { circle, line, mirrored, pts, rect, rounded, type Pt } from './outline';
import { form, half, pair, s, type Ends, type Shape } from './shape';

/** A quad end on: two fat tyres each side under fenders, a rack across, bars above. */
export function quadEnds(m: UnitModel): Ends {
  const { widthMm: W, heightMm: H, wheelMm: d } = m.dims;
  const tyre = (out: number, w: number): Shape[] =>
    pair((k) => {
      const [a, b] = [k * (out - w), k * out];
      return [
        s('tyre', rect(Math.min(a, b), 0, Math.max(a, b), d, 0.22 * d)),
        ...[0.16, 0.32, 0.48, 0.64].map((t) => s('detail', line([a + k * 24, t * d + 24], [(a + b) / 2, t * d], [b - k * 24, t * d + 24]))),
      ];
    });
  const bars: Shape[] = [
    s(
      'body',
      rounded(
        pts(-0.4 * W, 0.93 * H, -0.18 * W, 0.94 * H, -0.08 * W, 0.84 * H, 0.08 * W, 0.84 * H, 0.18 * W, 0.94 * H, 0.4 * W, 0.93 * H),
        30,
        false,
      ),
    ),
    ...pair((k) => [form('seat', 12, k * 0.3 * W, 0.915 * H, k * 0.42 * W, 0.91 * H, k * 0.42 * W, 0.95 * H, k * 0.3 * W, 0.955 * H)]),
    half('body', 24, 0, 0.97 * H, 0.08 * W, 0.96 * H, 0.1 * W, 0.86 * H, 0, 0.83 * H),
  ];
  const rack = (z: number, w: number): Shape[] => [
    s('body', rect(-w, z - 14, w, z + 14, 10)),
    ...pair((k) => [s('body', line([k * w * 0.7, z], [k * w * 0.6, z - 0.09 * H]))]),
  ];
  const nose: Pt[] = pts(0, 0.68 * H, 0.2 * W, 0.66 * H, 0.36 * W, 0.62 * H, 0.34 * W, 0.52 * H, 0.14 * W, 0.46 * H, 0, 0.45 * H);
  const front: Shape[] = [
    ...tyre(W / 2, 0.23 * W),
    // arms, skid plate, tank behind
    ...pair((k) => [
      s('detail', line([k * 0.1 * W, 0.3 * H], [k * 0.3 * W, d / 2])),
      s('detail', line([k * 0.12 * W, 0.38 * H], [k * 0.3 * W, d * 0.62])),
    ]),
    half('body', 30, 0, 0.46 * H, 0.14 * W, 0.44 * H, 0.12 * W, 0.24 * H, 0, 0.22 * H),
    half('body', 40, 0, 0.82 * H, 0.13 * W, 0.78 * H, 0.18 * W, 0.64 * H, 0, 0.6 * H),
    ...pair((k) => [
      form(
        'body',
        50,
        k * 0.2 * W,
        0.66 * H,
        k * 0.47 * W,
        0.62 * H,
        k * 0.49 * W,
        0.53 * H,
        k * 0.42 * W,
        0.54 * H,
        k * 0.3 * W,
        0.56 * H,
      ),
    ]),
    ...bars,
    half('body', 40, ...nose.flat()),
    ...pair((k) => [form('glass', 18, k * 0.16 * W, 0.56 * H, k * 0.33 * W, 0.55 * H, k * 0.34 * W, 0.62 * H, k * 0.18 * W, 0.63 * H)]),
    ...[0.06, 0, -0.06].map((x) => s('detail', line([x * W, 0.48 * H], [x * W, 0.6 * H]))),
    ...rack(0.72 * H, 0.34 * W),
    s('body', rounded(pts(-0.22 * W, 0.47 * H, -0.2 * W, 0.32 * H, 0.2 * W, 0.32 * H, 0.22 * W, 0.47 * H), 40, false)),
  ];
  const tail: Pt[] = pts(0, 0.66 * H, 0.3 * W, 0.65 * H, 0.34 * W, 0.58 * H, 0.2 * W, 0.52 * H, 0, 0.52 * H);
  const plate: Pt[] = pts(-0.11 * W, 0.52 * H, 0.11 * W, 0.52 * H, 0.11 * W, 0.4 * H, -0.11 * W, 0.4 * H);
  const rear: Shape[] = [
    ...bars,
    ...tyre(W / 2, 0.27 * W),
    s('body', rect(-0.24 * W, d * 0.42, 0.24 * W, d * 0.58, 30)),
    s('body', circle(0, d * 0.5, 0.13 * d)),
    half('body', 30, 0, 0.5 * H, 0.12 * W, 0.48 * H, 0.1 * W, 0.28 * H, 0, 0.26 * H),
    half('seat', 50, 0, 0.76 * H, 0.13 * W, 0.74 * H, 0.16 * W, 0.66 * H, 0, 0.65 * H),
    ...pair((k) => [
      form(
        'body',
        50,
        k * 0.24 * W,
        0.66 * H,
        k * 0.46 * W,
        0.63 * H,
        k * 0.49 * W,
        0.54 * H,
        k * 0.4 * W,
        0.55 * H,
        k * 0.28 * W,
        0.57 * H,
      ),
    ]),
    half('body', 40, ...tail.flat()),
    s('detail', rect(-0.1 * W, 0.6 * H, 0.1 * W, 0.635 * H, 8)),
    s('detail', rounded(plate, 8)),
    ...rack(0.71 * H, 0.36 * W),
  ];
  const flank = (k: 1 | -1): Pt[] => pts(k * 0.2 * W, 0.68 * H, k * 0.5 * W, 0.68 * H, k * 0.5 * W, 0.5 * H, k * 0.2 * W, 0.5 * H);
  return {
    front,
    rear,
    faces: { front: [mirrored(nose), flank(1), flank(-1)], rear: [mirrored(tail), plate, flank(1), flank(-1)], side: [] },
  };
}
