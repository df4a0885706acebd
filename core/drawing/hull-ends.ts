import type { UnitModel } from '#model/unit-model';
import { hullLines } from './hull-lines';
import { circle, line, mirrored, pts, rect, type Pt } from './outline';
import { form, half, pair, s, type Ends, type Shape } from './shape';

/** A boat with a hull end on: a vee into the water, a console amidships or to starboard, a top where it has one. */
export function hullEnds(m: UnitModel): Ends {
  const { lengthMm: L, widthMm: W, wheelMm: d } = m.dims;
  const { aft, bow, keel, amidships, screen, top: roof } = hullLines(m);
  const hw = W / 2;
  const water = s('ghost', line([-hw - 260, 0], [hw + 260, 0]));
  /** the console stands to starboard: the viewer's left from ahead, right from astern */
  const helm = (k: 1 | -1): Shape[] => {
    const at = amidships ? 0 : k * 0.45 * hw;
    const w = 0.3 * hw;
    return [
      form('body', 40, at - w, aft - 60, at - w, screen - 0.26 * d, at + w, screen - 0.26 * d, at + w, aft - 60),
      form('glass', 30, at - w * 0.95, screen - 0.26 * d, at - w * 0.85, screen, at + w * 0.85, screen, at + w * 0.95, screen - 0.26 * d),
    ];
  };
  const cover: Shape[] =
    roof === null
      ? []
      : [
          ...pair((k) => [s('body', line([k * 0.5 * hw, roof - 50], [k * 0.42 * hw, aft]))]),
          half('body', 50, 0, roof, 0.6 * hw, roof - 20, 0.66 * hw, roof - 90, 0, roof - 70),
        ];
  const bowForm = pts(0, bow, 0.45 * hw, bow - 0.1 * d, 0.98 * hw, aft + 0.1 * d, 0.9 * hw, 0.1 * d, 0.5 * hw, -0.12 * d, 0, keel);
  const transom = pts(
    0,
    aft - 0.06 * d,
    0.3 * hw,
    aft - 0.04 * d,
    0.9 * hw,
    aft,
    0.96 * hw,
    aft - 0.2 * d,
    0.88 * hw,
    0.02 * d,
    0,
    keel * 0.8,
  );
  const chair = (k: 1 | -1): Shape => {
    const at = amidships ? 0 : k * 0.45 * hw;
    return s('seat', rect(at - 0.22 * hw, aft - 60, at + 0.22 * hw, aft + 0.6 * d, 70));
  };
  const front: Shape[] = [
    water,
    s('ghost', rect(-90, -0.75 * d, 90, aft, 40)),
    chair(-1),
    ...cover,
    ...helm(-1),
    half('body', 60, ...bowForm.flat()),
    s('detail', line([0, bow], [0, keel])),
    ...pair((k) => [
      s('detail', line([0, bow - 0.16 * d], [k * 0.5 * hw, bow - 0.26 * d], [k * 0.96 * hw, aft - 0.04 * d])),
      s('detail', line([0, 0.1 * d], [k * 0.6 * hw, 0.16 * d], [k * 0.92 * hw, 0.24 * d])),
      s('body', line([k * 0.86 * hw, aft + 0.1 * d], [k * 0.8 * hw, aft + 0.4 * d], [k * 0.3 * hw, bow + 0.2 * d], [0, bow + 0.22 * d])),
    ]),
  ];
  const rear: Shape[] = [
    water,
    ...helm(1).slice(1),
    chair(1),
    ...cover,
    half('body', 60, ...transom.flat()),
    ...pair((k) => [s('detail', line([k * 0.2 * hw, aft - 0.2 * d], [k * 0.94 * hw, aft - 0.2 * d]))]),
    form('body', 20, -90, aft - 20, -70, -0.72 * d, 70, -0.72 * d, 90, aft - 20),
    s('detail', circle(0, -0.85 * d, 0.2 * d)),
    ...[0, 1, 2].map((i) => {
      const a = (i / 3) * 2 * Math.PI + Math.PI / 2;
      return s('detail', line([0, -0.85 * d], [Math.cos(a) * 0.2 * d, -0.85 * d + Math.sin(a) * 0.2 * d]));
    }),
    s('body', rect(-150, -0.68 * d, 150, -0.64 * d, 6)),
    half('body', 70, 0, aft + 0.56 * d, 130, aft + 0.52 * d, 190, aft + 0.3 * d, 170, aft - 20, 0, aft - 40),
    s('detail', line([-150, aft + 0.15 * d], [150, aft + 0.15 * d])),
  ];
  const flank: Pt[] = pts(60, 0.15 * d, 60, aft, L * 0.7, aft + 0.2 * d, L * 0.97, bow, L * 0.9, 0.4 * d, L * 0.6, 0.15 * d);
  return {
    front,
    rear,
    faces: {
      front: [mirrored(bowForm)],
      rear: [
        mirrored(transom),
        ...(roof === null ? [] : [pts(-0.6 * hw, roof - 120, 0.6 * hw, roof - 120, 0.6 * hw, roof + 800, -0.6 * hw, roof + 800)]),
      ],
      side: [flank],
    },
  };
}
