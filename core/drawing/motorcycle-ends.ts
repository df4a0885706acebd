import type { UnitModel } from '#model/unit-model';
import { both, circle, line, mirrored, rect, rounded, type Pt } from './outline';
import { form, half, pair, s, type Ends, type Shape } from './shape';

/** A motorcycle end on: one narrow wheel, fork legs, bars wide above it with mirrors, engine cases low. */
export function motorcycleEnds(m: UnitModel): Ends {
  const { widthMm: W, heightMm: H, wheelMm: d } = m.dims;
  const r = d / 2;
  const [trail, touring] = [m.body === 'trail', m.body === 'touring'];
  const luggage: Shape[] = touring
    ? pair((k) => [form('body', 40, k * 0.22 * W, 0.6 * H, k * 0.5 * W, 0.59 * H, k * 0.49 * W, 0.38 * H, k * 0.24 * W, 0.38 * H)])
    : [];
  const bars = [
    s(
      'body',
      rounded(
        [
          [-0.47 * W, 0.815 * H],
          [-0.3 * W, 0.83 * H],
          [-0.12 * W, 0.845 * H],
          [0.12 * W, 0.845 * H],
          [0.3 * W, 0.83 * H],
          [0.47 * W, 0.815 * H],
        ],
        30,
        false,
      ),
    ),
    ...pair((k) => [
      s(
        'seat',
        rounded(
          [
            [k * 0.34 * W, 0.812 * H],
            [k * 0.48 * W, 0.8 * H],
            [k * 0.48 * W, 0.828 * H],
            [k * 0.34 * W, 0.842 * H],
          ],
          12,
        ),
      ),
      s('detail', line([k * 0.31 * W, 0.835 * H], [k * 0.385 * W, 0.935 * H])),
      s(
        'body',
        rounded(
          [
            [k * 0.3 * W, 0.935 * H],
            [k * 0.46 * W, 0.945 * H],
            [k * 0.44 * W, 0.998 * H],
            [k * 0.32 * W, 0.99 * H],
          ],
          22,
        ),
      ),
      s('detail', line([k * 0.36 * W, 0.815 * H], [k * 0.46 * W, 0.795 * H])),
    ]),
  ];
  const cases = s(
    'body',
    both(
      [
        [0, 0.5 * H],
        [0.13 * W, 0.48 * H],
        [0.25 * W, 0.38 * H],
        [0.26 * W, 0.29 * H],
        [0.16 * W, 0.2 * H],
        [0, 0.19 * H],
      ],
      40,
    ),
  );
  const pegs = pair((k) => [s('body', line([k * 0.2 * W, 0.27 * H], [k * 0.36 * W, 0.275 * H]))]);
  const tank: Pt[] = [
    [0, 0.81 * H],
    [0.12 * W, 0.78 * H],
    [0.18 * W, 0.69 * H],
    [0.15 * W, 0.6 * H],
    [0, 0.58 * H],
  ];
  const tyre = (w: number) => [
    s('tyre', rect(-w, 0, w, d, w * 0.95)),
    ...[0.14, 0.27, 0.4].flatMap((t) => [s('detail', line([-w * 0.8, t * d + 26], [0, t * d], [w * 0.8, t * d + 26]))]),
  ];
  const nose: Pt[] = [
    [0, 0.79 * H],
    [0.13 * W, 0.77 * H],
    [0.15 * W, 0.66 * H],
    [0.1 * W, 0.585 * H],
    [0, 0.57 * H],
  ];
  const front: Shape[] = [
    ...pegs,
    ...luggage,
    cases,
    s('body', both(tank, 50)),
    ...tyre(58),
    ...pair((k) => [
      s('body', rect(k * 96 - 25, r - 40, k * 96 + 25, 0.76 * H, 12)),
      s('detail', circle(k * 96, r, 22)),
      s('detail', rect(k * 96 - 32, r * 0.75, k * 96 + 32, r * 1.25, 10)),
    ]),
    // fender over the tyre, triple clamp, screen
    s(
      'body',
      both(
        [
          [0, 2.14 * r],
          [60, 2.1 * r],
          [78, 1.72 * r],
          [64, 1.7 * r],
          [0, 1.74 * r],
        ],
        25,
      ),
    ),
    s('body', rect(-130, 0.735 * H, 130, 0.765 * H, 14)),
    ...(trail
      ? []
      : [
          s(
            'glass',
            both(
              [
                [0, 0.94 * H],
                [0.1 * W, 0.925 * H],
                [0.16 * W, 0.8 * H],
                [0.12 * W, 0.76 * H],
                [0, 0.75 * H],
              ],
              40,
            ),
          ),
        ]),
    ...bars,
    ...(touring
      ? [half('body', 60, 0, 0.8 * H, 0.2 * W, 0.78 * H, 0.3 * W, 0.66 * H, 0.22 * W, 0.5 * H, 0.1 * W, 0.5 * H, 0, 0.56 * H)]
      : []),
    s('body', both(nose, 40)),
  ];
  const tail: Pt[] = [
    [0, 0.665 * H],
    [0.1 * W, 0.655 * H],
    [0.13 * W, 0.61 * H],
    [0.08 * W, 0.555 * H],
    [0, 0.545 * H],
  ];
  const plate: Pt[] = [
    [0, 0.545 * H],
    [0.115 * W, 0.545 * H],
    [0.115 * W, 0.4 * H],
    [0, 0.4 * H],
  ];
  const stalks: Pt[][] = [1, -1].map((k): Pt[] => [
    [k * 0.08 * W, 0.595 * H],
    [k * 0.3 * W, 0.585 * H],
    [k * 0.3 * W, 0.535 * H],
    [k * 0.08 * W, 0.545 * H],
  ]);
  const rear: Shape[] = [
    ...pegs,
    ...bars,
    s('body', both(tank, 50)),
    cases,
    ...tyre(82),
    ...pair((k) => [s('body', rect(k * 118 - 22, r - 32, k * 118 + 22, r + 150, 14)), s('detail', circle(k * 118, r, 18))]),
    ...luggage,
    // silencer on the right, seat, tail, plate holder
    s('body', circle(-0.23 * W, 0.35 * H, 62)),
    s('detail', circle(-0.23 * W, 0.35 * H, 30)),
    s(
      'seat',
      both(
        [
          [0, 0.715 * H],
          [0.13 * W, 0.7 * H],
          [0.15 * W, 0.655 * H],
          [0, 0.65 * H],
        ],
        30,
      ),
    ),
    s('body', both(tail, 30)),
    s('detail', rect(-0.115 * W, 0.4 * H, 0.115 * W, 0.53 * H, 8)),
    s('detail', line([-0.04 * W, 0.545 * H], [-0.03 * W, 0.53 * H])),
    s('detail', line([0.04 * W, 0.545 * H], [0.03 * W, 0.53 * H])),
  ];
  const arms: Pt[][] = [1, -1].map((k): Pt[] => [
    [k * 0.06 * W, 0.76 * H],
    [k * 0.34 * W, 0.74 * H],
    [k * 0.34 * W, 0.56 * H],
    [k * 0.06 * W, 0.56 * H],
  ]);
  return { front, rear, faces: { front: [mirrored(nose), ...arms], rear: [mirrored(tail), mirrored(plate), ...stalks], side: [] } };
}
