import type { UnitModel } from '#model/unit-model';
import { circle, line, mirrored, pts, rect, rounded, type Pt } from './outline';
import { form, half, pair, s, type Ends, type Shape } from './shape';

/** A scooter end on: a shield wide enough for the knees, bars above it, a small wheel below. */
export function scooterEnds(m: UnitModel): Ends {
  const { widthMm: W, heightMm: H, wheelMm: d } = m.dims;
  const tyre = (w: number): Shape[] => [
    s('tyre', rect(-w, 0, w, d, w * 0.95)),
    ...[0.16, 0.36, 0.56].map((t) => s('detail', line([-w * 0.8, t * d + 22], [0, t * d], [w * 0.8, t * d + 22]))),
  ];
  const bars: Shape[] = [
    s('body', rounded(pts(-0.47 * W, 0.81 * H, -0.2 * W, 0.83 * H, 0.2 * W, 0.83 * H, 0.47 * W, 0.81 * H), 30, false)),
    ...pair((k) => [
      form('seat', 12, k * 0.32 * W, 0.8 * H, k * 0.48 * W, 0.79 * H, k * 0.48 * W, 0.825 * H, k * 0.32 * W, 0.84 * H),
      s('detail', line([k * 0.28 * W, 0.84 * H], [k * 0.37 * W, 0.94 * H])),
      form('body', 22, k * 0.3 * W, 0.94 * H, k * 0.46 * W, 0.945 * H, k * 0.44 * W, 0.998 * H, k * 0.32 * W, 0.99 * H),
    ]),
  ];
  const cowl = half('body', 26, 0, 0.88 * H, 0.14 * W, 0.87 * H, 0.18 * W, 0.8 * H, 0.1 * W, 0.76 * H, 0, 0.755 * H);
  const shield: Pt[] = pts(
    0,
    0.78 * H,
    0.16 * W,
    0.76 * H,
    0.3 * W,
    0.66 * H,
    0.32 * W,
    0.4 * H,
    0.22 * W,
    0.26 * H,
    0.12 * W,
    0.36 * H,
    0,
    0.4 * H,
  );
  const front: Shape[] = [
    ...tyre(0.085 * W),
    ...bars,
    half('body', 40, ...shield.flat()),
    half('body', 30, 0, 2.3 * (d / 2), 0.1 * W, 2.2 * (d / 2), 0.12 * W, 1.7 * (d / 2), 0.09 * W, 1.68 * (d / 2), 0, 1.75 * (d / 2)),
    half('glass', 20, 0, 0.7 * H, 0.11 * W, 0.69 * H, 0.13 * W, 0.62 * H, 0, 0.59 * H),
    cowl,
  ];
  const tail: Pt[] = pts(0, 0.62 * H, 0.18 * W, 0.6 * H, 0.22 * W, 0.5 * H, 0.14 * W, 0.44 * H, 0, 0.43 * H);
  const plate: Pt[] = pts(-0.13 * W, 0.43 * H, 0.13 * W, 0.43 * H, 0.13 * W, 0.3 * H, -0.13 * W, 0.3 * H);
  const rear: Shape[] = [
    ...bars,
    ...pair((k) => [form('body', 30, k * 0.2 * W, 0.64 * H, k * 0.3 * W, 0.6 * H, k * 0.3 * W, 0.28 * H, k * 0.2 * W, 0.26 * H)]),
    cowl,
    ...tyre(0.095 * W),
    s('body', rect(0.06 * W, 0.16 * H, 0.24 * W, 0.36 * H, 40)),
    s('body', circle(-0.2 * W, 0.26 * H, 0.08 * W)),
    half('seat', 40, 0, 0.665 * H, 0.15 * W, 0.655 * H, 0.18 * W, 0.61 * H, 0, 0.6 * H),
    half('body', 40, ...tail.flat()),
    s('detail', rounded(plate, 8)),
    s('detail', rect(-0.1 * W, 0.52 * H, 0.1 * W, 0.57 * H, 10)),
  ];
  const flank = (k: 1 | -1): Pt[] => pts(k * 0.14 * W, 0.58 * H, k * 0.34 * W, 0.58 * H, k * 0.34 * W, 0.44 * H, k * 0.14 * W, 0.44 * H);
  return {
    front,
    rear,
    faces: { front: [mirrored(shield), flank(1), flank(-1)], rear: [mirrored(tail), plate, flank(1), flank(-1)], side: [] },
  };
}
