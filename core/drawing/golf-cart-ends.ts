import type { UnitModel } from '#model/unit-model';
import { both, circle, line, mirrored, rect, type Pt } from './outline';
import { pair, s, type Ends, type Shape } from './shape';

/** A golf cart end on: small wheels tucked under, one rounded cowl, open sides, flat roof on four struts. */
export function golfCartEnds(m: UnitModel): Ends {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelMm: d, wheelbaseMm: wb, rearOverhangMm: ro, seats } = m.dims;
  const tw = 0.15 * W;
  const wheels = pair((k) => [
    s('tyre', rect(k * (0.46 * W - tw / 2) - tw / 2, 0, k * (0.46 * W - tw / 2) + tw / 2, d, 45)),
    ...[-0.25, 0, 0.25].map((t) => s('detail', line([k * (0.46 * W - tw / 2) + t * tw, 12], [k * (0.46 * W - tw / 2) + t * tw, d * 0.6]))),
  ]);
  const roof = [
    s(
      'body',
      both(
        [
          [0, H],
          [0.44 * W, 0.995 * H],
          [0.49 * W, 0.97 * H],
          [0.48 * W, 0.955 * H],
          [0, 0.96 * H],
        ],
        16,
      ),
    ),
    s('detail', line([-0.47 * W, 0.972 * H], [0.47 * W, 0.972 * H])),
  ];
  const struts = (from: number, y: number) => pair((k) => [s('body', line([k * y, from], [k * 0.42 * W, 0.957 * H]))]);
  const cowl: Pt[] = [
    [0, 0.53 * H],
    [0.26 * W, 0.52 * H],
    [0.42 * W, 0.46 * H],
    [0.465 * W, 0.36 * H],
    [0.46 * W, 0.24 * H],
    [0.36 * W, 0.175 * H],
    [0, 0.165 * H],
  ];
  const bench = (z: number) => [
    s('seat', rect(-0.4 * W, z, 0.4 * W, z + 0.1 * H, 40)),
    s('seat', rect(-0.4 * W, z + 0.12 * H, 0.4 * W, z + 0.25 * H, 45)),
    s('detail', line([0, z + 0.12 * H], [0, z + 0.25 * H])),
  ];
  const front: Shape[] = [
    ...wheels,
    ...bench(0.44 * H),
    s('detail', circle(0.21 * W, 0.575 * H, 165)),
    s('detail', circle(0.21 * W, 0.575 * H, 40)),
    s(
      'glass',
      both(
        [
          [0, 0.95 * H],
          [0.395 * W, 0.95 * H],
          [0.4 * W, 0.52 * H],
          [0, 0.53 * H],
        ],
        14,
      ),
    ),
    s('detail', line([-0.39 * W, 0.74 * H], [0.39 * W, 0.74 * H])),
    ...struts(0.48 * H, 0.415 * W),
    ...roof,
    s('body', both(cowl, 60)),
    // nose line, wheel openings, bumper
    s(
      'detail',
      both(
        [
          [0, 0.43 * H],
          [0.14 * W, 0.42 * H],
          [0.24 * W, 0.34 * H],
          [0.16 * W, 0.25 * H],
          [0, 0.24 * H],
        ],
        50,
      ),
    ),
    ...pair((k) => [s('detail', line([k * 0.26 * W, 0.505 * H], [k * 0.2 * W, 0.4 * H]))]),
    s('body', rect(-0.3 * W, 0.13 * H, 0.3 * W, 0.175 * H, 30)),
  ];
  const body: Pt[] = [
    [0, 0.45 * H],
    [0.4 * W, 0.44 * H],
    [0.46 * W, 0.38 * H],
    [0.455 * W, 0.25 * H],
    [0.38 * W, 0.2 * H],
    [0, 0.19 * H],
  ];
  const rear: Shape[] = [
    ...wheels,
    ...struts(0.43 * H, 0.41 * W),
    ...bench(0.47 * H),
    ...roof,
    s('body', both(body, 55)),
    ...(seats > 2
      ? [
          s('seat', rect(-0.4 * W, 0.4 * H, 0.4 * W, 0.46 * H, 30)),
          s('body', rect(-0.36 * W, 0.155 * H, 0.36 * W, 0.19 * H, 14)),
          ...pair((k) => [
            s('detail', line([k * 0.3 * W, 0.19 * H], [k * 0.3 * W, 0.4 * H])),
            s('body', line([k * 0.405 * W, 0.42 * H], [k * 0.405 * W, 0.6 * H])),
          ]),
        ]
      : [s('detail', rect(-0.28 * W, 0.3 * H, 0.28 * W, 0.42 * H, 30)), s('detail', line([-0.28 * W, 0.36 * H], [0.28 * W, 0.36 * H]))]),
    s('body', rect(-0.32 * W, 0.145 * H, 0.32 * W, 0.185 * H, 26)),
  ];
  const [R, F] = [-ro, L - ro];
  return {
    front,
    rear,
    faces: {
      front: [mirrored(cowl)],
      rear: [mirrored(body)],
      side: [
        [
          [R + 20, 0.22 * H],
          [R + 20, 0.4 * H],
          [0.55 * wb, 0.38 * H],
          [0.6 * wb, 0.2 * H],
        ],
        [
          [0.9 * wb, 0.2 * H],
          [0.93 * wb, 0.5 * H],
          [F - 90, 0.36 * H],
          [F - 30, 0.2 * H],
        ],
      ],
    },
  };
}
