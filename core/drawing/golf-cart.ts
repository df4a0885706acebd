import type { UnitModel } from '#model/unit-model';
import { circle, line, rect, rounded } from './outline';
import { s, wheelSide, type Shape, type Views } from './shape';

/** A golf cart: cowl and floor in one sweep, seat box, roof on struts, perhaps a rear seat. Sizes are shares of the model's dimensions. */
export function golfCart(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelbaseMm: wb, wheelMm, rearOverhangMm: ro, seats } = m.dims;
  const [R, F, r] = [-ro, L - ro, wheelMm / 2];
  const [floor, seatZ] = [0.16 * H, 0.4 * H];
  const side: Shape[] = [
    // rear body and seat box
    s(
      'body',
      rounded(
        [
          [R, 0.2 * H],
          [R, 0.4 * H],
          [0.1 * wb, 0.42 * H],
          [0.58 * wb, 0.38 * H],
          [0.63 * wb, floor],
          [r * 1.3, floor],
          [r * 1.15, r * 1.45],
          [0, r * 2.32],
          [-r * 1.15, r * 1.3],
        ],
        60,
      ),
    ),
    // floor and cowl, one sweep
    s(
      'body',
      rounded(
        [
          [0.6 * wb, floor],
          [0.86 * wb, floor],
          [0.91 * wb, 0.5 * H],
          [0.97 * wb, 0.52 * H],
          [F - 90, 0.37 * H],
          [F, 0.25 * H],
          [F - 50, 0.17 * H],
          [wb + r * 1.25, 0.15 * H],
          [wb + r * 1.1, r * 1.45],
          [wb, r * 2.3],
          [wb - r * 1.1, r * 1.4],
          [wb - r * 1.3, floor - 50],
          [0.6 * wb, floor - 50],
        ],
        70,
      ),
    ),
    s(
      'seat',
      rounded(
        [
          [0.14 * wb, seatZ],
          [0.6 * wb, seatZ - 10],
          [0.61 * wb, seatZ + 95],
          [0.14 * wb, seatZ + 105],
        ],
        45,
      ),
    ),
    s(
      'seat',
      rounded(
        [
          [0.08 * wb, seatZ + 100],
          [0.2 * wb, seatZ + 100],
          [0.12 * wb, seatZ + 470],
          [0.03 * wb, seatZ + 470],
        ],
        45,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [0.9 * wb, 0.48 * H],
          [0.81 * wb, 0.56 * H],
        ],
        0,
        false,
      ),
    ),
    s('detail', line([0.765 * wb, 0.52 * H], [0.835 * wb, 0.605 * H])),
    // roof on struts, windshield
    s(
      'body',
      rounded(
        [
          [-0.02 * wb, 0.965 * H],
          [0.98 * wb, 0.955 * H],
          [1.0 * wb, 0.985 * H],
          [0.9 * wb, H],
          [0.02 * wb, H],
          [-0.06 * wb, 0.985 * H],
        ],
        24,
      ),
    ),
    s('body', line([0.95 * wb, 0.51 * H], [0.86 * wb, 0.96 * H])),
    s('body', line([0.02 * wb, 0.42 * H], [0.02 * wb, 0.965 * H])),
    s(
      'glass',
      rounded(
        [
          [0.94 * wb, 0.53 * H],
          [0.965 * wb, 0.53 * H],
          [0.885 * wb, 0.955 * H],
          [0.865 * wb, 0.955 * H],
        ],
        6,
      ),
    ),
    s('detail', rect(F - 115, 0.345 * H, F - 45, 0.395 * H, 20)),
    s('detail', line([0.13 * wb, 0.35 * H], [0.57 * wb, 0.33 * H])),
  ];
  if (seats > 2)
    side.push(
      s(
        'seat',
        rounded(
          [
            [-0.22 * wb, seatZ + 20],
            [0.02 * wb, seatZ + 20],
            [0.02 * wb, seatZ + 100],
            [-0.22 * wb, seatZ + 100],
          ],
          40,
        ),
      ),
      s(
        'detail',
        rounded(
          [
            [R, 0.28 * H],
            [R - 120, 0.2 * H],
            [R - 120, 0.17 * H],
            [R + 40, 0.17 * H],
          ],
          10,
          false,
        ),
      ),
    );
  for (const x of [0, wb]) side.push(...wheelSide(x, r, false));

  const hw = W / 2;
  const tyre = 0.16 * W;
  const top: Shape[] = [];
  for (const x of [0, wb])
    for (const y of [1, -1]) top.push(s('tyre', rect(x - r, y * hw - (y > 0 ? tyre : 0), x + r, y * hw + (y > 0 ? 0 : tyre), 40)));
  top.push(
    s(
      'body',
      rounded(
        [
          [R, 0.42 * W],
          [0.12 * wb, 0.46 * W],
          [0.62 * wb, 0.46 * W],
          [0.84 * wb, 0.4 * W],
          [F - 130, 0.36 * W],
          [F, 0.2 * W],
          [F, -0.2 * W],
          [F - 130, -0.36 * W],
          [0.84 * wb, -0.4 * W],
          [0.62 * wb, -0.46 * W],
          [0.12 * wb, -0.46 * W],
          [R, -0.42 * W],
        ],
        110,
      ),
    ),
    s('seat', rect(0.16 * wb, -0.4 * W, 0.58 * wb, 0.4 * W, 70)),
    s('seat', rect(0.05 * wb, -0.4 * W, 0.14 * wb, 0.4 * W, 40)),
    s(
      'detail',
      rounded(
        [
          [0.9 * wb, 0.36 * W],
          [0.95 * wb, 0],
          [0.9 * wb, -0.36 * W],
        ],
        60,
        false,
      ),
    ),
    s('detail', circle(0.83 * wb, 0.22 * W, 150)),
    s('ghost', rect(-0.06 * wb, -0.47 * W, wb, 0.47 * W, 90)),
  );
  if (seats > 4) top.push(s('seat', rect(0.5 * wb, -0.38 * W, 0.68 * wb, 0.38 * W, 60)));
  if (seats > 2) top.push(s('seat', rect(-0.23 * wb, -0.38 * W, 0.02 * wb, 0.38 * W, 60)));
  return { side, top };
}
