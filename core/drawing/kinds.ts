import type { UnitModel } from '#model/unit-model';
import { arch, circle, line, rect, rounded, type Pt } from './outline';

/** How a stroke is drawn: a body's filled outline, an open bold line, a lesser line, a tyre, glass, upholstery, or something hidden or not part of the unit. */
export type Role = 'body' | 'frame' | 'detail' | 'tyre' | 'glass' | 'seat' | 'ghost';
export interface Shape {
  d: string;
  role: Role;
}
export interface Views {
  side: Shape[];
  top: Shape[];
}

/** A shape; an outline that is not closed hides nothing behind it. */
const s = (role: Role, d: string): Shape => ({ role: role === 'body' && !d.endsWith('Z') ? 'frame' : role, d });

function wheelSide(x: number, r: number, chunky: boolean): Shape[] {
  const out = [s('tyre', circle(x, r, r)), s('detail', circle(x, r, r * (chunky ? 0.52 : 0.8))), s('detail', circle(x, r, r * 0.14))];
  const spokes = chunky ? 6 : 5;
  for (let i = 0; i < spokes; i++) {
    const a = (i / spokes) * 2 * Math.PI;
    out.push(
      s(
        'detail',
        line(
          [x + Math.cos(a) * r * 0.14, r + Math.sin(a) * r * 0.14],
          [x + Math.cos(a) * r * (chunky ? 0.52 : 0.8), r + Math.sin(a) * r * (chunky ? 0.52 : 0.8)],
        ),
      ),
    );
  }
  if (chunky)
    for (let i = 0; i < 16; i++) {
      const a = ((i + 0.5) / 16) * 2 * Math.PI;
      out.push(
        s(
          'detail',
          line(
            [x + Math.cos(a) * r * 0.84, r + Math.sin(a) * r * 0.84],
            [x + Math.cos(a + 0.07) * r * 0.98, r + Math.sin(a + 0.07) * r * 0.98],
          ),
        ),
      );
    }
  return out;
}

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

function sideBySide(m: UnitModel): Views {
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

function golfCart(m: UnitModel): Views {
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
  if (seats > 2) top.push(s('seat', rect(-0.23 * wb, -0.38 * W, 0.02 * wb, 0.38 * W, 60)));
  return { side, top };
}

function motorcycle(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelbaseMm: wb, wheelMm, rearOverhangMm: ro } = m.dims;
  const [R, F, r] = [-ro, L - ro, wheelMm / 2];
  const head: Pt = [0.79 * wb, 0.72 * H];
  const side: Shape[] = [
    ...wheelSide(0, r, false),
    ...wheelSide(wb, r, false),
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
    s('body', arch(wb, r, r * 1.1)),
    // headlamp, screen, bars, mirror
    s('body', circle(0.9 * wb, 0.675 * H, 0.072 * H)),
    s(
      'glass',
      rounded(
        [
          [0.86 * wb, 0.74 * H],
          [0.93 * wb, 0.76 * H],
          [0.8 * wb, 0.93 * H],
          [0.775 * wb, 0.92 * H],
        ],
        20,
      ),
    ),
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
  ];
  return { side, top };
}

function boat(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelMm: d } = m.dims;
  const deck = 0.62 * d;
  const rail = deck + 660;
  const side: Shape[] = [
    s('ghost', line([-420, 0], [L + 260, 0])),
    s(
      'body',
      rounded(
        [
          [0, -0.38 * d],
          [L * 0.86, -0.38 * d],
          [L * 0.97, 0.1 * d],
          [L, 0.5 * d],
          [L * 0.97, 0.6 * d],
          [0, 0.6 * d],
        ],
        150,
      ),
    ),
    s('detail', line([120, 0.1 * d], [L * 0.93, 0.12 * d])),
    s('body', rect(-60, deck, L - 60, deck + 90, 20)),
    // fence with gates
    s(
      'body',
      rounded(
        [
          [60, deck + 90],
          [60, rail],
          [L * 0.4, rail],
          [L * 0.4, deck + 90],
        ],
        40,
        false,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [L * 0.47, deck + 90],
          [L * 0.47, rail],
          [L - 120, rail],
          [L - 120, deck + 90],
        ],
        60,
        false,
      ),
    ),
    s('detail', line([60, deck + 380], [L * 0.4, deck + 380])),
    s('detail', line([L * 0.47, deck + 380], [L - 120, deck + 380])),
    s('detail', rect(L * 0.41, deck + 100, L * 0.46, rail - 30, 10)),
    // console and seat
    s(
      'body',
      rounded(
        [
          [L * 0.5, rail],
          [L * 0.49, rail + 170],
          [L * 0.53, rail + 240],
          [L * 0.56, rail],
        ],
        40,
        false,
      ),
    ),
    s(
      'glass',
      rounded(
        [
          [L * 0.535, rail + 200],
          [L * 0.56, rail + 390],
          [L * 0.55, rail + 400],
          [L * 0.52, rail + 220],
        ],
        10,
      ),
    ),
    s('detail', circle(L * 0.48, rail + 130, 150)),
    s(
      'seat',
      rounded(
        [
          [L * 0.4, rail - 30],
          [L * 0.45, rail - 30],
          [L * 0.45, rail + 60],
          [L * 0.42, rail + 60],
          [L * 0.41, rail + 340],
          [L * 0.39, rail + 340],
        ],
        40,
      ),
    ),
    // canopy on bows
    s(
      'body',
      rounded(
        [
          [L * 0.12, H - 60],
          [L * 0.3, H],
          [L * 0.5, H - 10],
          [L * 0.62, H - 90],
          [L * 0.5, H - 60],
          [L * 0.3, H - 50],
        ],
        70,
      ),
    ),
    s('body', line([L * 0.35, rail], [L * 0.13, H - 60])),
    s('body', line([L * 0.35, rail], [L * 0.6, H - 80])),
    s('detail', line([L * 0.35, rail], [L * 0.37, H - 50])),
    // outboard
    s(
      'body',
      rounded(
        [
          [-120, deck + 60],
          [-60, deck + 420],
          [-330, deck + 470],
          [-430, deck + 330],
          [-380, deck + 60],
        ],
        80,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [-330, deck + 60],
          [-170, deck + 60],
          [-200, -0.7 * d],
          [-330, -0.75 * d],
        ],
        20,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [-410, -0.8 * d],
          [-130, -0.8 * d],
          [-160, -0.98 * d],
          [-400, -0.98 * d],
        ],
        40,
      ),
    ),
    s('detail', line([-430, -0.66 * d], [-430, -1.1 * d])),
  ];
  const hw = W / 2;
  const top: Shape[] = [
    s(
      'ghost',
      rounded(
        [
          [0, hw - 60],
          [L * 0.94, hw - 60],
          [L, hw - 60 - d / 2],
          [L * 0.94, hw - 60 - d],
          [0, hw - 60 - d],
        ],
        120,
      ),
    ),
    s(
      'ghost',
      rounded(
        [
          [0, -hw + 60],
          [L * 0.94, -hw + 60],
          [L, -hw + 60 + d / 2],
          [L * 0.94, -hw + 60 + d],
          [0, -hw + 60 + d],
        ],
        120,
      ),
    ),
    s(
      'body',
      rounded(
        [
          [-60, hw - 40],
          [L * 0.9, hw - 40],
          [L - 60, hw * 0.55],
          [L - 60, -hw * 0.55],
          [L * 0.9, -hw + 40],
          [-60, -hw + 40],
        ],
        220,
      ),
    ),
    s(
      'detail',
      rounded(
        [
          [60, hw - 130],
          [L * 0.89, hw - 130],
          [L - 160, hw * 0.52],
          [L - 160, -hw * 0.52],
          [L * 0.89, -hw + 130],
          [60, -hw + 130],
        ],
        200,
      ),
    ),
    s('seat', rect(L * 0.08, hw - 620, L * 0.38, hw - 150, 80)),
    s('seat', rect(L * 0.56, hw - 620, L * 0.88, hw - 150, 80)),
    s('seat', rect(L * 0.6, -hw + 150, L * 0.88, -hw + 620, 80)),
    s('seat', rect(L * 0.05, -hw + 150, L * 0.22, -hw + 620, 80)),
    s(
      'body',
      rounded(
        [
          [L * 0.47, -hw + 160],
          [L * 0.56, -hw + 160],
          [L * 0.56, -hw + 900],
          [L * 0.5, -hw + 900],
        ],
        70,
      ),
    ),
    s('seat', rect(L * 0.36, -hw + 280, L * 0.43, -hw + 780, 90)),
    s('detail', circle(L * 0.465, -hw + 530, 160)),
    s('ghost', rect(L * 0.12, -hw + 90, L * 0.62, hw - 90, 120)),
    s(
      'body',
      rounded(
        [
          [-80, 190],
          [-420, 150],
          [-420, -150],
          [-80, -190],
        ],
        90,
      ),
    ),
  ];
  return { side, top };
}

function snowMachine(m: UnitModel): Views {
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

const DRAW: Record<UnitModel['kind'], (m: UnitModel) => Views> = {
  'side-by-side': sideBySide,
  'golf-cart': golfCart,
  motorcycle,
  boat,
  'snow-machine': snowMachine,
};

/** The unit's original line drawing, side (from its right, front to the right) and top (front to the right, left side up), in millimetres of its frame. */
export const drawUnit = (m: UnitModel): Views => DRAW[m.kind](m);
