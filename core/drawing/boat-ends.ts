import type { UnitModel } from '#model/unit-model';
import { both, circle, line, rect, rounded, type Pt } from './outline';
import { pair, s, type Ends, type Shape } from './shape';

/** A pontoon boat end on: two tubes in the water, a flat deck across them, a fence, a canopy on bows. */
export function boatEnds(m: UnitModel): Ends {
  const { lengthMm: L, widthMm: W, heightMm: H, wheelMm: d } = m.dims;
  const deck = 0.62 * d;
  const rail = deck + 660;
  const [hw, tube] = [W / 2 - 40, W / 2 - 60 - d / 2];
  const fence = W / 2 - 90;
  const water = s('ghost', line([-W / 2 - 260, 0], [W / 2 + 260, 0]));
  const tubes = pair((k) => [s('body', circle(k * tube, 0.11 * d, d / 2)), s('detail', circle(k * tube, 0.11 * d, d * 0.36))]);
  const floor = s('body', rect(-hw, deck, hw, deck + 90, 20));
  const frame = pair((k) => [
    s('detail', line([k * tube - 120, 0.55 * d], [k * tube - 60, deck])),
    s('detail', line([k * tube + 120, 0.55 * d], [k * tube + 60, deck])),
  ]);
  const posts = pair((k) => [s('body', line([k * fence, rail], [k * (W / 2 - 150), H - 80]))]);
  const canopy = s(
    'body',
    both(
      [
        [0, H],
        [0.26 * W, H - 20],
        [W / 2 - 190, H - 60],
        [W / 2 - 120, H - 110],
        [W / 2 - 190, H - 100],
        [0, H - 60],
      ],
      60,
    ),
  );
  const panels = (gate: number): Shape[] => [
    ...pair((k) => [
      s('body', k > 0 ? rect(gate, deck + 90, fence, rail, 40) : rect(-fence, deck + 90, -gate, rail, 40)),
      s('detail', line([k * gate + k * 30, deck + 390], [k * fence - k * 30, deck + 390])),
      s('detail', line([k * (gate + fence) * 0.5, deck + 110], [k * (gate + fence) * 0.5, rail - 20])),
    ]),
    s('detail', rect(-gate + 25, deck + 110, gate - 25, rail - 40, 20)),
    s('detail', line([-gate + 25, deck + 390], [gate - 25, deck + 390])),
  ];
  const console_ = (k: 1 | -1): Shape[] => [
    s(
      'body',
      rounded(
        [
          [k * 0.19 * W, rail],
          [k * 0.2 * W, rail + 190],
          [k * 0.41 * W, rail + 190],
          [k * 0.42 * W, rail],
        ],
        40,
      ),
    ),
    s(
      'glass',
      rounded(
        [
          [k * 0.21 * W, rail + 190],
          [k * 0.23 * W, rail + 390],
          [k * 0.38 * W, rail + 390],
          [k * 0.4 * W, rail + 190],
        ],
        30,
      ),
    ),
  ];
  const chair = (k: 1 | -1) => s('seat', rect(k * 0.3 * W - 190, rail - 60, k * 0.3 * W + 190, rail + 330, 70));
  const front: Shape[] = [
    water,
    // the motor's leg between the tubes
    s('ghost', rect(-90, -0.75 * d, 90, deck, 40)),
    chair(-1),
    ...posts,
    ...console_(-1),
    ...frame,
    ...tubes,
    floor,
    ...panels(0.16 * W),
    canopy,
  ];
  const cowl: Pt[] = [
    [0, deck + 500],
    [130, deck + 480],
    [190, deck + 330],
    [170, deck + 60],
    [0, deck + 40],
  ];
  const rear: Shape[] = [
    water,
    ...console_(1).slice(1),
    chair(1),
    ...posts,
    ...frame,
    ...tubes,
    floor,
    ...panels(0.14 * W),
    s(
      'body',
      rounded(
        [
          [-90, deck + 60],
          [-70, -0.72 * d],
          [70, -0.72 * d],
          [90, deck + 60],
        ],
        20,
      ),
    ),
    s('detail', circle(0, -0.85 * d, 0.2 * d)),
    ...[0, 1, 2].map((i) => {
      const a = (i / 3) * 2 * Math.PI + Math.PI / 2;
      return s('detail', line([0, -0.85 * d], [Math.cos(a) * 0.2 * d, -0.85 * d + Math.sin(a) * 0.2 * d]));
    }),
    s('body', rect(-150, -0.68 * d, 150, -0.64 * d, 6)),
    s('body', both(cowl, 70)),
    s('detail', line([-150, deck + 210], [150, deck + 210])),
    canopy,
  ];
  // the console stands to starboard, the viewer's left from ahead and right from astern
  return {
    front,
    rear,
    faces: {
      front: [rectPoly(-fence, deck + 90, fence, rail + 20)],
      rear: [rectPoly(-fence, deck + 90, fence, rail + 20), rectPoly(-W / 2 + 120, H - 150, W / 2 - 120, H + 900)],
      side: [rectPoly(60, deck + 90, L - 120, rail + 20)],
    },
  };
}
const rectPoly = (a: number, b: number, c: number, e: number): Pt[] => [
  [a, b],
  [c, b],
  [c, e],
  [a, e],
];
