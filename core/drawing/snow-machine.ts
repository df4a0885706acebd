import type { UnitModel } from '#model/unit-model';
import { circle, line, rect, rounded } from './outline';
import { s, type Shape, type Views } from './shape';

/** A snow machine: track, tunnel, hood, windshield, skis. Sizes are shares of the model's dimensions. */
export function snowMachine(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelbaseMm: wb, wheelMm, rearOverhangMm: ro } = m.dims;
  const [R, F] = [-ro, L - ro];
  const t = wheelMm / 2;
  const side: Shape[] = [
    s(
      'tyre',
      rounded(
        [
          [R + 60, 0.5 * t],
          [R + 240, 30],
          [0.5 * wb, 30],
          [0.66 * wb, 1.15 * t],
          [0.58 * wb, 1.95 * t],
          [R + 240, 1.75 * t],
        ],
        190,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [R + 260, 150],
          [0.46 * wb, 150],
        ],
        0,
        false,
      ),
    ),
    ...[0.02, 0.2, 0.38].map((k) => s('detail', circle(k * wb, 130, 75))),
    s('detail', circle(R + 300, t * 1.05, 110)),
    s('detail', circle(0.56 * wb, t * 1.35, 100)),
    // ski and strut
    s(
      'body',
      rounded(
        [
          [0.7 * wb, 40],
          [F - 260, 30],
          [F - 60, 210],
          [F - 110, 230],
          [F - 300, 95],
          [0.7 * wb, 80],
        ],
        70,
      ),
    ),
    s('body', line([0.9 * wb, 80], [0.8 * wb, 0.5 * H])),
    s('detail', line([0.62 * wb, 0.3 * H], [0.9 * wb, 110])),
    // hood, belly, tunnel
    s(
      'body',
      rounded(
        [
          [0.5 * wb, 0.36 * H],
          [0.6 * wb, 0.22 * H],
          [0.86 * wb, 0.27 * H],
          [F - 480, 0.44 * H],
          [F - 500, 0.58 * H],
          [0.84 * wb, 0.73 * H],
          [0.63 * wb, 0.76 * H],
          [0.55 * wb, 0.6 * H],
        ],
        90,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [0.62 * wb, 0.7 * H],
          [0.8 * wb, 0.55 * H],
          [0.84 * wb, 0.36 * H],
        ],
        90,
        false,
      ),
    ),
    s(
      'glass',
      rounded(
        [
          [0.7 * wb, 0.77 * H],
          [0.82 * wb, 0.74 * H],
          [0.67 * wb, H],
          [0.63 * wb, 0.985 * H],
        ],
        30,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [R, 0.46 * H],
          [R + 60, 0.53 * H],
          [0.54 * wb, 0.48 * H],
          [0.54 * wb, 0.4 * H],
          [R + 120, 0.41 * H],
        ],
        30,
      ),
    ),
    s(
      'seat',
      rounded(
        [
          [R + 200, 0.53 * H],
          [R + 200, 0.63 * H],
          [0.06 * wb, 0.66 * H],
          [0.44 * wb, 0.6 * H],
          [0.54 * wb, 0.49 * H],
        ],
        70,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [0.63 * wb, 0.75 * H],
          [0.57 * wb, 0.88 * H],
          [0.5 * wb, 0.85 * H],
        ],
        30,
        false,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [F - 640, 0.56 * H],
          [F - 510, 0.5 * H],
          [F - 500, 0.56 * H],
          [F - 600, 0.62 * H],
        ],
        20,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [R, 0.45 * H],
          [R - 10, 0.24 * H],
        ],
        0,
        false,
      ),
    ),
  ];
  const top: Shape[] = [
    s('tyre', rect(R + 60, -0.17 * W, 0.64 * wb, 0.17 * W, 60)),
    s(
      'body',
      rounded(
        [
          [0.5 * wb, 0.22 * W],
          [0.66 * wb, 0.36 * W],
          [0.84 * wb, 0.32 * W],
          [F - 480, 0.12 * W],
          [F - 480, -0.12 * W],
          [0.84 * wb, -0.32 * W],
          [0.66 * wb, -0.36 * W],
          [0.5 * wb, -0.22 * W],
        ],
        110,
      ),
    ),
    s(
      'seat',
      rounded(
        [
          [R + 200, 0.13 * W],
          [0.4 * wb, 0.15 * W],
          [0.56 * wb, 0.08 * W],
          [0.56 * wb, -0.08 * W],
          [0.4 * wb, -0.15 * W],
          [R + 200, -0.13 * W],
        ],
        60,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [0.5 * wb, 0.33 * W],
          [0.56 * wb, 0.24 * W],
          [0.62 * wb, 0],
          [0.56 * wb, -0.24 * W],
          [0.5 * wb, -0.33 * W],
        ],
        60,
        false,
      ),
    ),
    s(
      'glass',
      rounded(
        [
          [0.7 * wb, 0.2 * W],
          [0.75 * wb, 0],
          [0.7 * wb, -0.2 * W],
          [0.66 * wb, -0.18 * W],
          [0.7 * wb, 0],
          [0.66 * wb, 0.18 * W],
        ],
        30,
      ),
    ),
  ];
  for (const y of [0.42, -0.42])
    top.push(
      s(
        'body',
        rounded(
          [
            [0.7 * wb, y * W - 55],
            [F - 200, y * W - 60],
            [F - 60, y * W],
            [F - 200, y * W + 60],
            [0.7 * wb, y * W + 55],
          ],
          50,
        ),
      ),
      s('detail', line([0.9 * wb, y * W], [0.8 * wb, y * W * 0.7])),
    );
  return { side, top };
}
