import type { UnitModel } from '#model/unit-model';
import { arch, circle, line, rect, rounded } from './outline';
import { s, wheelSide, type Shape, type Views } from './shape';

const seatSide = (x: number, z: number, w: number, h: number): Shape[] => [
  s(
    'seat',
    rounded(
      [
        [x, z],
        [x + w, z + 30],
        [x + w, z + h * 0.24],
        [x + w * 0.2, z + h * 0.2],
        [x, z + h],
        [x - w * 0.22, z + h],
        [x - w * 0.14, z],
      ],
      60,
    ),
  ),
];

/** A side-by-side: bed, cab with cage and roof, hood, one or two rows of seats. Sizes are shares of the model's dimensions. */
export function sideBySide(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelbaseMm: wb, wheelMm, rearOverhangMm: ro, seats, cab } = m.dims;
  const [R, F, r] = [-ro, L - ro, wheelMm / 2];
  const rows = Math.max(1, Math.round(seats / 2));
  const [sill, belt, bedTop] = [0.2 * H, 0.53 * H, 0.56 * H];
  const [cabRear, dash, roofF, roofR] = [wb * 0.15, wb * 0.8, wb * 0.69, wb * 0.2];
  const side: Shape[] = [
    s(
      'body',
      rounded(
        [
          [R, 0.36 * H],
          [R, bedTop],
          [cabRear, bedTop],
          [cabRear, 0.4 * H],
          [0.62 * r, 0.36 * H],
        ],
        40,
      ),
    ),
    s('detail', line([R + 60, 0.49 * H], [cabRear - 50, 0.49 * H])),
    s('detail', line([R + 60, 0.43 * H], [cabRear - 50, 0.43 * H])),
    s(
      'body',
      rounded(
        [
          [cabRear, 0.4 * H],
          [cabRear, sill],
          [wb - r * 1.2, sill],
          [wb - r * 1.02, r * 1.55],
          [wb + r * 0.5, r * 1.72],
          [F - 40, 0.3 * H],
          [F, 0.4 * H],
          [F - 110, 0.47 * H],
          [dash, belt + 0.045 * H],
          [dash - 0.06 * wb, belt - 0.02 * H],
          [dash - 0.09 * wb, 0.3 * H],
          [cabRear + 0.1 * wb, 0.28 * H],
        ],
        70,
      ),
    ),
    s('detail', line([dash, belt + 0.03 * H], [F - 150, 0.45 * H])),
    s('detail', rect(F - 170, 0.395 * H, F - 45, 0.435 * H, 25)),
    s('detail', line([F - 25, 0.32 * H], [F + 30, 0.3 * H], [F + 30, 0.24 * H], [wb + r * 1.05, 0.22 * H])),
    // cage and roof
    s(
      'body',
      rounded(
        [
          [cabRear + 20, bedTop],
          [roofR, 0.97 * H],
          [roofF, 0.975 * H],
          [dash + 0.04 * wb, belt + 0.035 * H],
        ],
        70,
        false,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [roofR - 90, 0.965 * H],
          [roofF + 110, 0.955 * H],
          [roofF + 60, H],
          [roofR - 60, H],
        ],
        30,
      ),
    ),
    s('detail', line([dash - 0.02 * wb, belt + 0.02 * H], [dash - 0.1 * wb, belt + 0.11 * H])),
    s('detail', line([dash - 0.13 * wb, belt + 0.045 * H], [dash - 0.085 * wb, belt + 0.17 * H])),
  ];
  if (rows > 1) side.push(s('body', line([wb * 0.47, sill], [wb * 0.46, 0.97 * H])));
  if (cab === 'full')
    side.push(
      s(
        'glass',
        rounded(
          [
            [cabRear + 0.04 * wb, bedTop + 20],
            [roofR + 0.03 * wb, 0.94 * H],
            [roofF - 0.02 * wb, 0.945 * H],
            [dash - 0.02 * wb, belt + 0.06 * H],
          ],
          50,
        ),
      ),
      s('body', line([wb * 0.44, sill], [wb * 0.44, 0.96 * H])),
    );
  for (let i = 0; i < rows; i++) side.push(...seatSide(rows > 1 ? wb * (0.24 + i * 0.27) : wb * 0.34, 0.29 * H, 430, 0.37 * H));
  for (const x of [0, wb]) side.push(...wheelSide(x, r, true), s('body', arch(x, r + 10, r * 1.14)));

  const hw = W / 2;
  const tyre = 0.15 * W;
  const top: Shape[] = [];
  for (const x of [0, wb])
    for (const y of [1, -1]) top.push(s('tyre', rect(x - r, y * hw - (y > 0 ? tyre : 0), x + r, y * hw + (y > 0 ? 0 : tyre), 50)));
  top.push(
    s(
      'body',
      rounded(
        [
          [R, 0.34 * W],
          [cabRear, 0.36 * W],
          [cabRear + 80, 0.42 * W],
          [dash - 40, 0.42 * W],
          [wb - r * 1.1, 0.33 * W],
          [F - 160, 0.3 * W],
          [F, 0.2 * W],
          [F, -0.2 * W],
          [F - 160, -0.3 * W],
          [wb - r * 1.1, -0.33 * W],
          [dash - 40, -0.42 * W],
          [cabRear + 80, -0.42 * W],
          [cabRear, -0.36 * W],
          [R, -0.34 * W],
        ],
        80,
      ),
    ),
    s('detail', rect(R + 50, -0.3 * W, cabRear - 40, 0.3 * W, 40)),
    s('detail', line([dash, 0.38 * W], [dash + 60, 0], [dash, -0.38 * W])),
    s('detail', line([wb * 0.93, 0.28 * W], [F - 120, 0.17 * W])),
    s('detail', line([wb * 0.93, -0.28 * W], [F - 120, -0.17 * W])),
    s('ghost', rect(roofR - 90, -0.4 * W, roofF + 110, 0.4 * W, 80)),
    s('detail', circle(dash - 170, 0.23 * W, 150)),
  );
  for (let i = 0; i < rows; i++)
    for (const y of [0.21, -0.21]) {
      const x = rows > 1 ? wb * (0.22 + i * 0.27) : wb * 0.32;
      top.push(
        s('seat', rect(x, y * W - 210, x + 440, y * W + 210, 70)),
        s('detail', line([x + 110, y * W - 200], [x + 110, y * W + 200])),
      );
    }
  return { side, top };
}
