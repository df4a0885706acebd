import type { UnitModel } from '#model/unit-model';
import { both, line, mirrored, rect, rounded, type Pt } from './outline';
import { pair, s, type Ends, type Shape } from './shape';

/** A snow machine end on: two skis wide apart, a wedge of a hood with a screen, the track between. */
export function snowMachineEnds(m: UnitModel): Ends {
  const { lengthMm: L, widthMm: W, heightMm: H, rearOverhangMm: ro } = m.dims;
  const bars = [
    s(
      'body',
      rounded(
        [
          [-0.36 * W, 0.83 * H],
          [-0.12 * W, 0.86 * H],
          [0.12 * W, 0.86 * H],
          [0.36 * W, 0.83 * H],
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
            [k * 0.25 * W, 0.832 * H],
            [k * 0.37 * W, 0.816 * H],
            [k * 0.37 * W, 0.842 * H],
            [k * 0.25 * W, 0.858 * H],
          ],
          10,
        ),
      ),
    ]),
  ];
  const screen = s(
    'glass',
    both(
      [
        [0, H],
        [0.12 * W, 0.97 * H],
        [0.2 * W, 0.75 * H],
        [0.19 * W, 0.64 * H],
        [0, 0.62 * H],
      ],
      50,
    ),
  );
  const skis = pair((k) => [
    s(
      'body',
      rounded(
        [
          [k * 0.36 * W, 0],
          [k * 0.36 * W, 55],
          [k * 0.4 * W, 120],
          [k * 0.46 * W, 120],
          [k * 0.5 * W, 55],
          [k * 0.5 * W, 0],
        ],
        22,
      ),
    ),
    s('body', rect(k * 0.43 * W - 24, 60, k * 0.43 * W + 24, 0.3 * H, 10)),
    s('detail', line([k * 0.41 * W, 0.27 * H], [k * 0.17 * W, 0.34 * H])),
    s('detail', line([k * 0.41 * W, 0.17 * H], [k * 0.14 * W, 0.2 * H])),
    s('detail', line([k * 0.4 * W, 0.2 * H], [k * 0.22 * W, 0.46 * H])),
  ]);
  const hood: Pt[] = [
    [0, 0.74 * H],
    [0.16 * W, 0.72 * H],
    [0.29 * W, 0.58 * H],
    [0.31 * W, 0.44 * H],
    [0.22 * W, 0.27 * H],
    [0.1 * W, 0.17 * H],
    [0, 0.16 * H],
  ];
  const front: Shape[] = [
    ...bars,
    screen,
    ...skis,
    s('body', both(hood, 45)),
    s(
      'detail',
      both(
        [
          [0, 0.6 * H],
          [0.12 * W, 0.6 * H],
          [0.17 * W, 0.52 * H],
          [0, 0.47 * H],
        ],
        18,
      ),
    ),
    ...pair((k) => [
      s('detail', line([k * 0.24 * W, 0.56 * H], [k * 0.12 * W, 0.36 * H])),
      s('detail', line([k * 0.14 * W, 0.7 * H], [k * 0.08 * W, 0.62 * H])),
    ]),
    s(
      'detail',
      both(
        [
          [0, 0.33 * H],
          [0.08 * W, 0.33 * H],
          [0.05 * W, 0.22 * H],
          [0, 0.22 * H],
        ],
        12,
      ),
    ),
  ];
  const tunnel: Pt[] = [
    [0, 0.66 * H],
    [0.17 * W, 0.64 * H],
    [0.19 * W, 0.47 * H],
    [0, 0.46 * H],
  ];
  const rear: Shape[] = [
    ...bars,
    screen,
    s(
      'body',
      both(
        hood.map(([y, z]): Pt => [y * 1.02, z]),
        45,
      ),
    ),
    ...skis,
    // track with its lugs, running boards, flap, seat
    s('tyre', rect(-0.17 * W, 0, 0.17 * W, 0.33 * H, 20)),
    ...[0.05, 0.11, 0.17, 0.23].map((z) => s('detail', line([-0.16 * W, z * H], [0.16 * W, z * H]))),
    ...pair((k) => [s('body', rect(k > 0 ? 0.17 * W : -0.36 * W, 0.28 * H, k > 0 ? 0.36 * W : -0.17 * W, 0.32 * H, 8))]),
    s(
      'seat',
      both(
        [
          [0, 0.74 * H],
          [0.13 * W, 0.73 * H],
          [0.16 * W, 0.64 * H],
          [0, 0.63 * H],
        ],
        30,
      ),
    ),
    s('body', both(tunnel, 18)),
    s(
      'body',
      both(
        [
          [0, 0.46 * H],
          [0.2 * W, 0.46 * H],
          [0.21 * W, 0.2 * H],
          [0, 0.19 * H],
        ],
        14,
      ),
    ),
    s('detail', line([-0.19 * W, 0.25 * H], [0.19 * W, 0.25 * H])),
  ];
  return {
    front,
    rear,
    faces: {
      front: [mirrored(hood)],
      rear: [mirrored(tunnel)],
      side: [
        [
          [-ro + 60, 0.46 * H],
          [-ro + 60, 0.62 * H],
          [L * 0.4, 0.5 * H],
          [L * 0.4, 0.4 * H],
        ],
      ],
    },
  };
}
