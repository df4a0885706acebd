import type { Harness } from '#model/harness';

type UnitControl = Omit<Harness['controls'][number], 'of' | 'place'>;
const control = (id: string, name: string, positions: [string, string][], momentary = false): UnitControl => ({
  id,
  name,
  positions: positions.map(([p, word]) => ({ id: p, name: word })),
  momentary,
});

/** What every unit has to turn, press or throw. The first position is the one at rest. */
export const UNIT_CONTROLS: readonly UnitControl[] = [
  control('key', 'Key', [
    ['off', 'off'],
    ['acc', 'accessory'],
    ['run', 'run'],
  ]),
  control('engine', 'Engine', [
    ['off', 'off'],
    ['idle', 'idle'],
    ['working', 'working'],
  ]),
  control('lights', 'Lamps', [
    ['off', 'off'],
    ['on', 'on'],
  ]),
  control(
    'brake',
    'Brake',
    [
      ['released', 'released'],
      ['pressed', 'pressed'],
    ],
    true,
  ),
  control('turn', 'Signals', [
    ['off', 'off'],
    ['left', 'left'],
    ['right', 'right'],
  ]),
  control('hazard', 'Hazard', [
    ['off', 'off'],
    ['on', 'on'],
  ]),
  control('beam', 'Beam', [
    ['low', 'low'],
    ['high', 'high'],
  ]),
  control('gear', 'Gear', [
    ['neutral', 'neutral'],
    ['forward', 'forward'],
    ['reverse', 'reverse'],
  ]),
  control(
    'horn',
    'Horn',
    [
      ['off', 'off'],
      ['pressed', 'pressed'],
    ],
    true,
  ),
];
