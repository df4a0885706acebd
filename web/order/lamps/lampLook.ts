import type { LightColour } from '#model/common';
import type { Lamp } from '#core/lighting/lamp';

/** What a lamp's light looks like on paper; always with an ink outline, so that white reads. */
const FILL: Record<LightColour, string> = {
  white: '#FFFDF0',
  amber: '#F0A020',
  red: '#C7301F',
  green: '#1F8A4D',
  'selective-yellow': '#F2D43A',
};
export const lampFill = (l: Pick<Lamp, 'colour'>): string => (l.colour ? FILL[l.colour] : '#D9D9D2');

/** Width and height drawn for equipment whose size nobody gives, millimetres. */
export function drawnSize(l: Lamp): { w: number; h: number } {
  if (l.litMm) return l.litMm;
  if (l.function.startsWith('mirror')) return { w: 180, h: 130 };
  if (l.function.startsWith('reflector')) return { w: 70, h: 70 };
  return { w: 60, h: 60 };
}

/** Equipment that has a place on the outside of a unit and can be drawn there. */
const DRAWN =
  /^(headlamp|tail|stop|turn-(front|rear)|plate|reflector|mirror-(driver|passenger)|sidelight|masthead|stern|all-round|auxiliary|work-lamp|docking)/;
export const isDrawn = (l: Lamp): boolean =>
  l.at !== null && DRAWN.test(l.function) && !(l.function.startsWith('mirror') && l.from === 'factory' && !l.moved);

/** One word for a function, for lists. */
export const functionWord = (f: string): string =>
  ({
    'turn-front': 'front signal',
    'turn-rear': 'rear signal',
    'reflector-side': 'side reflector',
    'reflector-rear': 'rear reflector',
    'mirror-driver': 'driver’s mirror',
    'mirror-passenger': 'passenger’s mirror',
    'mirror-inside': 'inside mirror',
    'sidelight-port': 'port sidelight',
    'sidelight-starboard': 'starboard sidelight',
    'all-round': 'all-round white',
    'auxiliary-lamp': 'auxiliary lamp',
    'work-lamp': 'work lamp',
    'docking-lamp': 'docking lamp',
    plate: 'plate lamp',
    tail: 'tail lamp',
    stop: 'stop lamp',
  })[f] ?? f.replaceAll('-', ' ');
