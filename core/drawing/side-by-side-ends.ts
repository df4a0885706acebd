import type { UnitModel } from '#model/unit-model';
import { both, circle, line, mirrored, rect, rounded, type Pt } from './outline';
import { pair, s, type Ends, type Shape } from './shape';

/** A chunky tyre seen end on, with its lugs. */
function tyreEnd(y: number, w: number, d: number): Shape[] {
  const out = [s('tyre', rect(y - w / 2, 0, y + w / 2, d, w * 0.28))];
  for (let i = 1; i < 7; i++) {
    const z = (d * i) / 7;
    out.push(s('detail', line([y - w * 0.42, z - 22], [y - w * 0.06, z])), s('detail', line([y + w * 0.06, z], [y + w * 0.42, z - 22])));
  }
  return out;
}

/** A side-by-side end on: wide on its tyres, hood or bed between them, cage and roof narrower above. */
export function sideBySideEnds(m: UnitModel): Ends {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelMm: d, wheelbaseMm: wb, rearOverhangMm: ro, cab } = m.dims;
  const [tw, r] = [0.17 * W, d / 2];
  const hub = W / 2 - tw;
  const wheels = pair((k) => tyreEnd(k * (W / 2 - tw / 2), tw, d));
  const arms = (z: number) =>
    pair((k) => [
      s('detail', line([k * 0.13 * W, z + 40], [k * hub, r + 40])),
      s('detail', line([k * 0.13 * W, z - 40], [k * hub, r - 40])),
    ]);
  const cage = (post: number) => [
    ...pair((k) => [s('body', line([k * 0.4 * W, post], [k * 0.335 * W, 0.965 * H]))]),
    s(
      'body',
      both(
        [
          [0, H],
          [0.31 * W, H],
          [0.38 * W, 0.96 * H],
          [0, 0.955 * H],
        ],
        24,
      ),
    ),
  ];
  const seats = pair((k) => [
    s('seat', rect(k * 0.2 * W - 0.13 * W, 0.46 * H, k * 0.2 * W + 0.13 * W, 0.7 * H, 60)),
    s('seat', rect(k * 0.2 * W - 0.07 * W, 0.71 * H, k * 0.2 * W + 0.07 * W, 0.79 * H, 30)),
  ]);
  const pane = s(
    'glass',
    both(
      [
        [0, 0.945 * H],
        [0.325 * W, 0.945 * H],
        [0.385 * W, 0.57 * H],
        [0, 0.565 * H],
      ],
      20,
    ),
  );
  const hood: Pt[] = [
    [0, 0.565 * H],
    [0.26 * W, 0.555 * H],
    [0.4 * W, 0.515 * H],
    [0.405 * W, 0.42 * H],
    [0.3 * W, 0.395 * H],
    [0.24 * W, 0.27 * H],
    [0.13 * W, 0.215 * H],
    [0, 0.21 * H],
  ];
  const flare = (k: 1 | -1, z: number) =>
    s(
      'body',
      rounded(
        [
          [k * 0.33 * W, z],
          [k * 0.46 * W, z - 0.02 * H],
          [k * 0.505 * W, z - 0.07 * H],
          [k * 0.5 * W, z - 0.1 * H],
          [k * 0.34 * W, z - 0.085 * H],
        ],
        40,
      ),
    );
  const front: Shape[] = [
    ...wheels,
    ...arms(0.24 * H),
    ...seats,
    ...(cab === 'full' ? [pane] : []),
    s('detail', circle(0.2 * W, 0.615 * H, 150)),
    ...cage(0.53 * H),
    s('body', both(hood, 45)),
    ...pair((k) => [flare(k, 0.5 * H)]),
    // grille, hood lines, bumper with skid
    s('detail', rect(-0.14 * W, 0.335 * H, 0.14 * W, 0.43 * H, 25)),
    ...[0.355, 0.38, 0.405].map((z) => s('detail', line([-0.13 * W, z * H], [0.13 * W, z * H]))),
    ...pair((k) => [s('detail', line([k * 0.1 * W, 0.555 * H], [k * 0.17 * W, 0.45 * H]))]),
    s(
      'body',
      rounded(
        [
          [-0.23 * W, 0.24 * H],
          [-0.2 * W, 0.315 * H],
          [0.2 * W, 0.315 * H],
          [0.23 * W, 0.24 * H],
        ],
        40,
        false,
      ),
    ),
    s(
      'detail',
      both(
        [
          [0, 0.235 * H],
          [0.12 * W, 0.235 * H],
          [0.06 * W, 0.165 * H],
          [0, 0.165 * H],
        ],
        15,
      ),
    ),
  ];
  const bed: Pt[] = [
    [0, 0.57 * H],
    [0.4 * W, 0.57 * H],
    [0.41 * W, 0.4 * H],
    [0.34 * W, 0.36 * H],
    [0, 0.35 * H],
  ];
  const rear: Shape[] = [
    ...wheels,
    ...arms(0.26 * H),
    ...seats,
    ...(cab === 'full' ? [pane] : []),
    ...cage(0.55 * H),
    s(
      'body',
      both(
        [
          [0, 0.36 * H],
          [0.2 * W, 0.36 * H],
          [0.15 * W, 0.24 * H],
          [0, 0.235 * H],
        ],
        25,
      ),
    ),
    s('body', both(bed, 24)),
    ...pair((k) => [flare(k, 0.475 * H)]),
    s('detail', rect(-0.3 * W, 0.39 * H, 0.3 * W, 0.545 * H, 18)),
    ...[0.43, 0.47, 0.51].map((z) => s('detail', line([-0.29 * W, z * H], [0.29 * W, z * H]))),
    s('detail', rect(-0.05 * W, 0.53 * H, 0.05 * W, 0.56 * H, 8)),
    // hitch, muffler
    s('detail', rect(-35, 0.2 * H, 35, 0.26 * H, 8)),
    s(
      'detail',
      rounded(
        [
          [-0.15 * W, 0.29 * H],
          [0.08 * W, 0.29 * H],
          [0.08 * W, 0.335 * H],
          [-0.15 * W, 0.335 * H],
        ],
        30,
      ),
    ),
  ];
  const [R, F] = [-ro, L - ro];
  return {
    front,
    rear,
    faces: {
      front: [
        mirrored(hood),
        [
          [0.33 * W, 0.5 * H],
          [0.5 * W, 0.43 * H],
          [0.5 * W, 0.4 * H],
          [0.33 * W, 0.41 * H],
        ],
        [
          [-0.33 * W, 0.5 * H],
          [-0.5 * W, 0.43 * H],
          [-0.5 * W, 0.4 * H],
          [-0.33 * W, 0.41 * H],
        ],
      ],
      rear: [
        mirrored(bed),
        [
          [0.33 * W, 0.5 * H],
          [0.5 * W, 0.42 * H],
          [0.5 * W, 0.38 * H],
          [0.33 * W, 0.4 * H],
        ],
        [
          [-0.33 * W, 0.5 * H],
          [-0.5 * W, 0.42 * H],
          [-0.5 * W, 0.38 * H],
          [-0.33 * W, 0.4 * H],
        ],
      ],
      side: [
        [
          [R, 0.36 * H],
          [R, 0.56 * H],
          [0.15 * wb, 0.56 * H],
          [0.15 * wb, 0.4 * H],
        ],
        [
          [0.78 * wb, 0.36 * H],
          [0.78 * wb, 0.55 * H],
          [F - 40, 0.46 * H],
          [F, 0.36 * H],
        ],
      ],
    },
  };
}
