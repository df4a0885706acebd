import type { UnitModel } from '#model/unit-model';
import { arch, circle, line, rect, rounded, type Pt } from './outline';
import { form, pair, s, wheelSide, type Shape, type Views } from './shape';

/** What a motorcycle made for far has besides: a fairing before the knees and a case on each side. */
const touringSide = (wb: number, H: number, R: number): Shape[] => [
  form(
    'body',
    50,
    0.7 * wb,
    0.5 * H,
    0.84 * wb,
    0.42 * H,
    0.97 * wb,
    0.6 * H,
    0.95 * wb,
    0.74 * H,
    0.8 * wb,
    0.79 * H,
    0.74 * wb,
    0.62 * H,
  ),
  s('body', circle(0.92 * wb, 0.67 * H, 0.05 * H)),
  form('body', 50, R + 10, 0.38 * H, R + 10, 0.6 * H, 0.2 * wb, 0.6 * H, 0.26 * wb, 0.4 * H),
  s('detail', line([R + 20, 0.49 * H], [0.23 * wb, 0.49 * H])),
];
/** Glass before the bars. */
const screen = (wb: number, H: number): Shape =>
  form('glass', 20, 0.86 * wb, 0.74 * H, 0.93 * wb, 0.76 * H, 0.8 * wb, 0.93 * H, 0.775 * wb, 0.92 * H);
/** One made for rough ground has its front fender high above the wheel. */
const highFender = (wb: number, r: number): Shape =>
  form(
    'body',
    26,
    wb - 1.1 * r,
    2.2 * r,
    wb - 0.4 * r,
    2.46 * r,
    wb + 0.9 * r,
    2.32 * r,
    wb + 1.35 * r,
    2.0 * r,
    wb + 0.4 * r,
    2.24 * r,
    wb - 0.8 * r,
    2.12 * r,
  );

/** A motorcycle: two wheels, fork, tank, engine, seat, bars. Sizes are shares of the model's dimensions. */
export function motorcycle(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelbaseMm: wb, wheelMm, rearOverhangMm: ro } = m.dims;
  const [R, F, r] = [-ro, L - ro, wheelMm / 2];
  const [trail, touring] = [m.body === 'trail', m.body === 'touring'];
  const head: Pt = [0.79 * wb, 0.72 * H];
  const side: Shape[] = [
    ...wheelSide(0, r, trail),
    ...wheelSide(wb, r, trail),
    s('detail', circle(wb, r, r * 0.42)),
    // swingarm, fork, frame
    s(
      'body',
      rounded(
        [
          [-30, r - 35],
          [0.37 * wb, 0.34 * H],
          [0.37 * wb, 0.4 * H],
          [-30, r + 35],
        ],
        18,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [wb - 32, r - 20],
          [head[0] - 32, head[1] + 110],
          [head[0] + 30, head[1] + 120],
          [wb + 32, r],
        ],
        14,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [head[0] - 10, 0.68 * H],
          [0.72 * wb, 0.27 * H],
          [0.36 * wb, 0.25 * H],
          [0.33 * wb, 0.54 * H],
        ],
        60,
        false,
      ),
    ),
    // engine and exhaust
    s(
      'body',
      rounded(
        [
          [0.4 * wb, 0.22 * H],
          [0.7 * wb, 0.22 * H],
          [0.73 * wb, 0.34 * H],
          [0.62 * wb, 0.52 * H],
          [0.47 * wb, 0.5 * H],
          [0.37 * wb, 0.36 * H],
        ],
        50,
      ),
    ),
    s('detail', circle(0.47 * wb, 0.31 * H, 0.07 * H)),
    s('detail', line([0.55 * wb, 0.42 * H], [0.68 * wb, 0.39 * H])),
    s('detail', line([0.54 * wb, 0.46 * H], [0.66 * wb, 0.43 * H])),
    s(
      'body',
      rounded(
        [
          [0.72 * wb, 0.36 * H],
          [0.66 * wb, 0.19 * H],
          [0.3 * wb, 0.19 * H],
          [-0.14 * wb, 0.3 * H],
          [-0.16 * wb, 0.37 * H],
          [0.02 * wb, 0.345 * H],
          [0.3 * wb, 0.23 * H],
          [0.62 * wb, 0.23 * H],
        ],
        26,
      ),
    ),
    // tank, seat, tail
    s(
      'body',
      rounded(
        [
          [0.42 * wb, 0.595 * H],
          [0.46 * wb, 0.7 * H],
          [0.62 * wb, 0.8 * H],
          [0.76 * wb, 0.745 * H],
          [0.77 * wb, 0.63 * H],
        ],
        75,
      ),
    ),
    s(
      'seat',
      rounded(
        [
          [R + 120, 0.665 * H],
          [0.02 * wb, 0.7 * H],
          [0.16 * wb, 0.64 * H],
          [0.42 * wb, 0.61 * H],
          [0.44 * wb, 0.575 * H],
          [0.1 * wb, 0.58 * H],
          [R + 130, 0.63 * H],
        ],
        40,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [R + 20, 0.625 * H],
          [R + 130, 0.655 * H],
          [0.3 * wb, 0.57 * H],
          [0.27 * wb, 0.47 * H],
          [0.08 * wb, 0.53 * H],
        ],
        30,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [R + 60, 0.61 * H],
          [R, 0.46 * H],
        ],
        0,
        false,
      ),
    ),
    s('detail', arch(0, r, r * 1.12)),
    trail ? highFender(wb, r) : s('body', arch(wb, r, r * 1.1)),
    ...(touring ? touringSide(wb, H, R) : []),
    // headlamp, screen, bars, mirror
    s('body', circle(0.9 * wb, 0.675 * H, 0.072 * H)),
    ...(trail ? [] : [screen(wb, H)]),
    s(
      'body',
      rounded(
        [
          [head[0], head[1] + 120],
          [0.73 * wb, 0.86 * H],
          [0.655 * wb, 0.825 * H],
        ],
        25,
        false,
      ),
    ),
    s('detail', line([0.72 * wb, 0.85 * H], [0.7 * wb, 0.965 * H])),
    s(
      'detail',
      rounded(
        [
          [0.65 * wb, 0.94 * H],
          [0.71 * wb, 0.95 * H],
          [0.71 * wb, H],
          [0.65 * wb, 0.99 * H],
        ],
        16,
      ),
    ),
  ];
  const top: Shape[] = [
    s('tyre', rect(-r, -0.1 * W, r, 0.1 * W, 60)),
    s('tyre', rect(wb - r, -0.075 * W, wb + r, 0.075 * W, 50)),
    s(
      'body',
      rounded(
        [
          [0.42 * wb, 0.1 * W],
          [0.52 * wb, 0.2 * W],
          [0.7 * wb, 0.19 * W],
          [0.78 * wb, 0.09 * W],
          [0.78 * wb, -0.09 * W],
          [0.7 * wb, -0.19 * W],
          [0.52 * wb, -0.2 * W],
          [0.42 * wb, -0.1 * W],
        ],
        50,
      ),
    ),
    s(
      'seat',
      rounded(
        [
          [R + 60, 0.08 * W],
          [0.06 * wb, 0.15 * W],
          [0.34 * wb, 0.17 * W],
          [0.44 * wb, 0.09 * W],
          [0.44 * wb, -0.09 * W],
          [0.34 * wb, -0.17 * W],
          [0.06 * wb, -0.15 * W],
          [R + 60, -0.08 * W],
        ],
        50,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [0.66 * wb, 0.5 * W],
          [0.74 * wb, 0.3 * W],
          [0.77 * wb, 0.07 * W],
          [0.77 * wb, -0.07 * W],
          [0.74 * wb, -0.3 * W],
          [0.66 * wb, -0.5 * W],
        ],
        60,
        false,
      ),
    ),
    s('detail', rect(0.62 * wb, 0.38 * W, 0.7 * wb, 0.47 * W, 20)),
    s('detail', rect(0.62 * wb, -0.47 * W, 0.7 * wb, -0.38 * W, 20)),
    s(
      'body',
      rounded(
        [
          [0.82 * wb, 0.12 * W],
          [F - 320, 0.1 * W],
          [F - 320, -0.1 * W],
          [0.82 * wb, -0.12 * W],
        ],
        40,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [-0.16 * wb, -0.2 * W],
          [0.3 * wb, -0.22 * W],
          [0.3 * wb, -0.14 * W],
          [-0.16 * wb, -0.13 * W],
        ],
        20,
      ),
    ),
    s('detail', line([R, 0], [R + 70, 0])),
    ...(touring
      ? pair((k) => [form('body', 40, R + 10, k * 0.22 * W, R + 10, k * 0.5 * W, 0.22 * wb, k * 0.5 * W, 0.24 * wb, k * 0.22 * W)])
      : []),
  ];
  return { side, top };
}
