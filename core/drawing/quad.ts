import type { UnitModel } from '#model/unit-model';
import { arch, circle, line, pts, rect, rounded } from './outline';
import { form, pair, s, wheelSide, type Shape, type Views } from './shape';

/** A quad: four fat tyres under fenders, a saddle, bars, racks before and behind. Sizes are shares of the model's dimensions. */
export function quad(m: UnitModel): Views {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelbaseMm: wb, wheelMm, rearOverhangMm: ro } = m.dims;
  const [R, F, r] = [-ro, L - ro, wheelMm / 2];
  const [seat, rack, fender] = [0.72 * H, 0.7 * H, 0.62 * H];
  const side: Shape[] = [
    ...wheelSide(0, r, true),
    ...wheelSide(wb, r, true),
    // engine, footwell, skid plate
    form('body', 30, 0.28 * wb, 0.28 * H, 0.72 * wb, 0.28 * H, 0.7 * wb, 0.54 * H, 0.34 * wb, 0.54 * H),
    s('detail', circle(0.46 * wb, 0.4 * H, 0.08 * H)),
    s('detail', line([0.58 * wb, 0.34 * H], [0.68 * wb, 0.34 * H])),
    s('detail', line([0.58 * wb, 0.4 * H], [0.68 * wb, 0.4 * H])),
    form('body', 18, 0.27 * wb, 0.24 * H, 0.76 * wb, 0.24 * H, 0.74 * wb, 0.29 * H, 0.3 * wb, 0.29 * H),
    // rear and front fenders
    s(
      'body',
      rounded(
        [
          ...pts(R, 0.5 * H, R + 30, fender, 0.1 * wb, rack - 40, 0.3 * wb, 0.58 * H, 0.31 * wb, 0.46 * H, 1.06 * r, 0.46 * H),
          ...pts(0.7 * r, 1.95 * r, -0.5 * r, 2.0 * r),
        ],
        50,
      ),
    ),
    s(
      'body',
      rounded(
        pts(
          0.72 * wb,
          0.46 * H,
          0.76 * wb,
          0.6 * H,
          0.94 * wb,
          rack - 30,
          F - 70,
          fender,
          F,
          0.53 * H,
          F - 60,
          0.49 * H,
          wb + 0.95 * r,
          1.6 * r,
          wb + 0.5 * r,
          2.0 * r,
          wb - 0.6 * r,
          1.98 * r,
          wb - 1.1 * r,
          0.46 * H,
        ),
        50,
      ),
    ),
    s('detail', arch(0, r, r * 1.1)),
    s('detail', arch(wb, r, r * 1.1)),
    // saddle and tank
    form(
      'seat',
      50,
      0.02 * wb,
      0.68 * H,
      0.06 * wb,
      seat + 20,
      0.4 * wb,
      seat - 10,
      0.6 * wb,
      0.7 * H,
      0.62 * wb,
      0.62 * H,
      0.2 * wb,
      0.6 * H,
    ),
    form('body', 40, 0.58 * wb, 0.62 * H, 0.62 * wb, 0.75 * H, 0.86 * wb, 0.82 * H, 0.96 * wb, 0.72 * H, 0.8 * wb, 0.58 * H),
    // bars, grip, pod
    s('body', line([0.86 * wb, 0.8 * H], [0.76 * wb, 0.95 * H])),
    form('seat', 14, 0.68 * wb, 0.91 * H, 0.78 * wb, 0.935 * H, 0.78 * wb, 0.97 * H, 0.68 * wb, 0.95 * H),
    form('body', 20, 0.8 * wb, 0.86 * H, 0.92 * wb, 0.84 * H, 0.9 * wb, 0.93 * H, 0.82 * wb, 0.95 * H),
    // racks
    s('body', line([R + 40, rack], [0.14 * wb, rack + 10])),
    s('body', line([R + 90, rack], [R + 90, fender])),
    s('body', line([0.06 * wb, rack], [0.06 * wb, fender])),
    s('body', line([1.0 * wb, rack + 10], [F - 60, rack])),
    s('body', line([1.06 * wb, rack], [1.06 * wb, fender])),
    s('body', line([F - 120, rack], [F - 120, fender - 20])),
    // lamp, bumper, tail, step
    form('glass', 16, F - 90, 0.57 * H, F - 20, 0.54 * H, F - 40, 0.6 * H, F - 110, 0.62 * H),
    s('body', rounded(pts(F - 90, 0.33 * H, F, 0.36 * H, F, 0.48 * H, F - 60, 0.5 * H), 30, false)),
    form('detail', 8, R, 0.58 * H, R + 40, 0.58 * H, R + 40, 0.64 * H, R, 0.64 * H),
    form('body', 12, 0.36 * wb, 0.3 * H, 0.66 * wb, 0.3 * H, 0.66 * wb, 0.325 * H, 0.36 * wb, 0.325 * H),
  ];
  const track = W / 2 - 0.13 * W;
  const top: Shape[] = [
    ...pair((k) => [
      s('tyre', rect(-r, k * track - 0.13 * W, r, k * track + 0.13 * W, 60)),
      s('tyre', rect(wb - r, k * track - 0.11 * W, wb + r, k * track + 0.11 * W, 60)),
      form('body', 60, R + 20, k * 0.1 * W, R + 30, k * 0.4 * W, 0.7 * r, k * 0.44 * W, 1.1 * r, k * 0.2 * W, 0.3 * wb, k * 0.12 * W),
      form(
        'body',
        60,
        wb - 1.15 * r,
        k * 0.14 * W,
        wb - 0.7 * r,
        k * 0.43 * W,
        wb + 0.7 * r,
        k * 0.42 * W,
        F - 20,
        k * 0.3 * W,
        F,
        k * 0.08 * W,
      ),
      // footwell
      form('detail', 20, 0.36 * wb, k * 0.15 * W, 0.36 * wb, k * 0.34 * W, 0.64 * wb, k * 0.34 * W, 0.64 * wb, k * 0.15 * W),
    ]),
    form(
      'body',
      70,
      0.56 * wb,
      0.12 * W,
      0.74 * wb,
      0.17 * W,
      0.98 * wb,
      0.14 * W,
      0.98 * wb,
      -0.14 * W,
      0.74 * wb,
      -0.17 * W,
      0.56 * wb,
      -0.12 * W,
    ),
    form('seat', 70, 0.0, 0.15 * W, 0.3 * wb, 0.16 * W, 0.6 * wb, 0.09 * W, 0.6 * wb, -0.09 * W, 0.3 * wb, -0.16 * W, 0.0, -0.15 * W),
    s(
      'body',
      rounded(
        pts(0.7 * wb, 0.4 * W, 0.78 * wb, 0.26 * W, 0.84 * wb, 0.06 * W, 0.84 * wb, -0.06 * W, 0.78 * wb, -0.26 * W, 0.7 * wb, -0.4 * W),
        50,
        false,
      ),
    ),
    ...pair((k) => [s('seat', line([0.7 * wb, k * 0.4 * W], [0.74 * wb, k * 0.33 * W]))]),
    // racks
    ...[0.15, 0.4, 0.65, 0.9].map((t) =>
      s('detail', line([R + 40 + t * (ro + 0.1 * wb), 0.33 * W], [R + 40 + t * (ro + 0.1 * wb), -0.33 * W])),
    ),
    ...[0.1, 0.4, 0.7].map((t) =>
      s('detail', line([1.02 * wb + t * (F - 1.02 * wb), 0.3 * W], [1.02 * wb + t * (F - 1.02 * wb), -0.3 * W])),
    ),
    ...pair((k) => [form('glass', 14, F - 110, k * 0.2 * W, F - 20, k * 0.16 * W, F - 60, k * 0.3 * W, F - 130, k * 0.32 * W)]),
  ];
  return { side, top };
}
