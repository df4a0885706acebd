import type { UnitModel } from '#model/unit-model';
import { hullLines } from './hull-lines';
import { circle, line, pts, rect, rounded } from './outline';
import { form, pair, s, type Shape, type Views } from './shape';

/** A boat with a hull: open, with a side console, or with a console amidships under a top. Sizes are shares of the model's dimensions. */
export function hullBoat(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, wheelMm: d } = m.dims;
  const { aft, bow, keel, amidships, screen, top: roof } = hullLines(m);
  const [c0, c1] = amidships ? [0.44 * L, 0.54 * L] : [0.5 * L, 0.58 * L];
  const gunwale = (x: number) => aft + (bow - aft) * Math.max(0, x / L) ** 2;
  const side: Shape[] = [
    s('ghost', line([-420, 0], [L + 260, 0])),
    // helm seat behind the console, cushions at the stern
    form(
      'seat',
      40,
      c0 - 0.12 * L,
      aft - 40,
      c0 - 0.03 * L,
      aft - 40,
      c0 - 0.03 * L,
      aft + 0.2 * d,
      c0 - 0.1 * L,
      aft + 0.2 * d,
      c0 - 0.105 * L,
      aft + 0.65 * d,
      c0 - 0.13 * L,
      aft + 0.65 * d,
    ),
    form('body', 50, c0, aft - 60, c0 + 0.01 * L, screen - 0.28 * d, c1 - 0.02 * L, screen - 0.22 * d, c1, aft - 60),
    form(
      'glass',
      16,
      c0 + 0.02 * L,
      screen - 0.3 * d,
      c0 + 0.015 * L,
      screen,
      c0 + 0.045 * L,
      screen + 0.02 * d,
      c1 - 0.01 * L,
      screen - 0.26 * d,
    ),
    s('detail', circle(c0 - 0.005 * L, screen - 0.32 * d, 0.22 * d)),
    ...(roof === null
      ? []
      : [
          form('body', 40, c0 - 0.14 * L, roof - 70, c0 - 0.1 * L, roof, c1 + 0.08 * L, roof, c1 + 0.12 * L, roof - 60),
          ...[c0 - 0.06 * L, c1 + 0.04 * L].map((x) => s('body', line([x, roof - 60], [x + 0.02 * L, gunwale(x) - 20]))),
          s('detail', line([c0 - 0.05 * L, roof - 70], [c1 + 0.05 * L, gunwale(c1) + 40])),
        ]),
    // hull, rub rail, strakes
    s(
      'body',
      rounded(
        [
          ...pts(0, keel * 0.8, 0.72 * L, keel, 0.9 * L, keel * 0.35, L, bow),
          ...[0.86, 0.7, 0.5, 0.3, 0.12].map((t): [number, number, number] => [t * L, gunwale(t * L), 10]),
          [0, aft, 30],
        ],
        60,
      ),
    ),
    s('detail', line([20, aft - 0.13 * d], ...[0.2, 0.4, 0.6, 0.8, 0.96].map((t): [number, number] => [t * L, gunwale(t * L) - 0.13 * d]))),
    s('detail', line([40, 0.12 * d], [0.6 * L, 0.12 * d], [0.9 * L, 0.4 * d])),
    // bow rail
    s(
      'body',
      rounded(
        pts(
          0.66 * L,
          gunwale(0.66 * L),
          0.68 * L,
          gunwale(0.68 * L) + 0.3 * d,
          0.95 * L,
          gunwale(0.95 * L) + 0.3 * d,
          0.985 * L,
          gunwale(0.985 * L),
        ),
        40,
        false,
      ),
    ),
    s('detail', line([0.82 * L, gunwale(0.82 * L) + 0.3 * d], [0.82 * L, gunwale(0.82 * L)])),
    // outboard
    form('body', 80, -130, aft - 20, -60, aft + 0.5 * d, -330, aft + 0.56 * d, -430, aft + 0.36 * d, -380, aft - 20),
    form('body', 20, -330, aft - 20, -170, aft - 20, -200, -0.7 * d, -330, -0.75 * d),
    form('detail', 40, -410, -0.8 * d, -130, -0.8 * d, -160, -0.98 * d, -400, -0.98 * d),
    s('detail', line([-430, -0.66 * d], [-430, -1.1 * d])),
  ];
  const hw = W / 2;
  const outline = (inset: number) =>
    pts(
      40 + inset * 0.4,
      hw * 0.92 - inset,
      0.5 * L,
      hw - inset,
      0.8 * L,
      hw * 0.76 - inset,
      L - inset * 1.6,
      0,
      0.8 * L,
      -hw * 0.76 + inset,
      0.5 * L,
      -hw + inset,
      40 + inset * 0.4,
      -hw * 0.92 + inset,
    );
  const helmY = amidships ? 0 : -0.45 * hw;
  const top: Shape[] = [
    s('body', rounded(outline(0), 160)),
    s('detail', rounded(outline(0.09 * W), 140)),
    s('seat', rect(0.03 * L, -0.6 * hw, 0.12 * L, 0.6 * hw, 80)),
    ...pair((k) => [form('seat', 90, 0.62 * L, k * 0.7 * hw, 0.86 * L, k * 0.4 * hw, 0.86 * L, k * 0.14 * hw, 0.62 * L, k * 0.34 * hw)]),
    form('body', 60, c0, helmY + 0.3 * hw, c1, helmY + 0.26 * hw, c1, helmY - 0.26 * hw, c0, helmY - 0.3 * hw),
    s('detail', circle(c0 - 0.01 * L, helmY, 0.14 * hw)),
    s('seat', rect(c0 - 0.13 * L, helmY - 0.26 * hw, c0 - 0.04 * L, helmY + 0.26 * hw, 80)),
    ...(amidships ? [] : [s('seat', rect(c0 - 0.13 * L, 0.2 * hw, c0 - 0.04 * L, 0.7 * hw, 80))]),
    ...(roof === null ? [] : [s('ghost', rect(c0 - 0.14 * L, -0.6 * hw, c1 + 0.12 * L, 0.6 * hw, 120))]),
    form('body', 90, -60, 190, -420, 150, -420, -150, -60, -190),
  ];
  return { side, top };
}
