import type { UnitModel } from '#model/unit-model';
import { circle, line, rect, rounded } from './outline';
import { s, type Shape, type Views } from './shape';

/** A pontoon boat: tubes, deck with fence and gate, console, canopy on bows, outboard. Sizes are shares of the model's dimensions. */
export function boat(m: UnitModel): Views {
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
