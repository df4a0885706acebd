import { mates, sayConnector, type Connector, type WireEnd } from '#model/box';
import type { PowerPoint, PowerPointKind } from '#model/unit-model';

/** Points that a ring or a spade goes onto. */
const STUDS: readonly PowerPointKind[] = [
  'battery-post',
  'bus-bar-stud',
  'fuse-box-screw',
  'solenoid-post',
  'pack-tap',
  'switch-panel',
  'reducer-output',
  'switch-position',
];

/** How an end of a box meets a point of the unit: as it is, or with what besides. */
export type Meeting = { as: 'mates' | 'screws' | 'joined' } | { as: 'adapted'; why: string; buy: string[] };

/** The half that a connector wants, with what goes into it. */
export const otherHalf = (c: Connector): Connector => ({ ...c, gender: c.gender === 'plug' ? 'socket' : 'plug' });

/** What to buy so that a connector finds its other half: the half, its terminals, and in a sealed family seals and plugs for what stays empty. */
export function mateNeeds(c: Connector, used: number): string[] {
  const half = otherHalf(c);
  return [
    sayConnector(half).replace(/^a /, ''),
    `${used} × terminal for ${c.family} ${half.gender}`,
    ...(c.sealed ? [`${used} × wire seal for ${c.family}`] : []),
    ...(c.sealed && c.cavities > used ? [`${c.cavities - used} × cavity plug for ${c.family}`] : []),
  ];
}

/**
 * How an end meets a point: a plug goes only into its family, gender and cavity count, a ring onto a stud; anything else is
 * adapted, with what that takes by name.
 */
export function meets(end: WireEnd, point: Pick<PowerPoint, 'kind' | 'connector' | 'name'>, used: number): Meeting {
  switch (end.kind) {
    case 'connector':
      if (point.connector && mates(end, point.connector)) return { as: 'mates' };
      return {
        as: 'adapted',
        why: point.connector
          ? `${sayConnector(end)} does not go into ${point.name}, ${sayConnector(point.connector)}`
          : `${sayConnector(end)} finds no plug at ${point.name}`,
        buy: mateNeeds(point.connector ?? end, used),
      };
    case 'ring':
    case 'spade':
      if (STUDS.includes(point.kind)) return { as: 'screws' };
      return {
        as: 'adapted',
        why: `a ring does not go onto ${point.name}`,
        buy: point.connector ? mateNeeds(point.connector, used) : [`${used} × butt splice`],
      };
    default:
      return { as: 'joined' };
  }
}

/** An end in a few words. */
export function sayEnd(end: WireEnd): string {
  switch (end.kind) {
    case 'connector':
      return sayConnector(end).replace(/^a /, '');
    case 'ring':
      return `ring M${end.studMm}`;
    case 'spade':
      return `spade M${end.studMm}`;
    case 'blade':
      return `${end.gender} blade`;
    case 'butt':
      return 'butt splice';
    case 'tap':
      return 'piercing tap';
    case 'bare':
      return 'bare';
  }
}
/** Whether joining it takes a crimp: what is plugged or screwed on comes with its terminal. */
export const isJoined = (end: WireEnd): boolean => end.kind === 'bare' || end.kind === 'butt' || end.kind === 'tap';
