import type { SystemStyleObject } from '@chakra-ui/react';
import type { CSSProperties } from 'react';
import type { Week } from '#core/shop/week';

/** A share of the width as CSS has it. */
export const pct = (x: number) => `${(100 * x).toFixed(3)}%`;
/** From one share of the width to another. */
export const along = (from: number, width: number): CSSProperties => ({ left: pct(from), width: pct(width) });

/** A number that has a place to break before it: where it does not fit, it goes on in a second line, which is out of sight. */
export const whole = (n: number) => `\u200B${n}`;

/** How the week’s picture looks: of hundreds of elements, each at a place of its own, all at once. */
export const PICTURE: SystemStyleObject = {
  fontSize: 'var(--text)',
  '& .line': { display: 'grid', gridTemplateColumns: 'var(--label) minmax(0, 1fr)', borderColor: 'rule' },
  '& .ruled': { borderTopWidth: '1px' },
  '& .name': { alignSelf: 'center', fontWeight: 600 },
  '& .person > .name': { fontWeight: 400 },
  '& .here': { position: 'relative' },
  // what ends with the last day is too short to be drawn at its length: it is cut there
  '& .person > .here': { overflow: 'clip', lineHeight: 'var(--person)' },
  '& .cut': { whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis', minWidth: 0 },
  '& :is(.day, .hour, .tall, .away, .work, .unit)': { position: 'absolute' },
  // what goes through several lines is drawn once, over where their pictures stand
  '& .stack': { position: 'relative' },
  '& .over': { position: 'absolute', top: 0, bottom: 0, left: 'var(--label)', right: 0, pointerEvents: 'none' },
  '& .day': { paddingLeft: '6px', whiteSpace: 'nowrap', overflow: 'hidden', fontWeight: 600 },
  '& .hour': { transform: 'translateX(-50%)', color: 'quiet', fontFamily: 'mono', fontSize: 'var(--small)' },
  '& .tall': { top: 0, bottom: 0 },
  '& .edge': { borderLeft: '1px solid', borderColor: 'quiet', fontSize: '0.86em', color: 'quiet' },
  '& .now': { borderLeft: '2px solid', borderColor: 'accent' },
  '& .shift': { bg: 'sunk' },
  '& .away': { paddingLeft: '6px', color: 'quiet', fontSize: '0.9em' },
  // a person’s work stands in its line with a little air
  '& .work': {
    top: 'var(--air)',
    bottom: 'var(--air)',
    border: '1px solid',
    borderColor: 'quiet',
    borderRadius: '3px',
    padding: '0 4px',
    fontSize: '0.86em',
    lineHeight: 'var(--work)',
    whiteSpace: 'nowrap',
    overflow: 'hidden',
    textOverflow: 'ellipsis',
    bg: 'raised',
  },
  '& .work.on': { bg: 'accent', color: 'onAccent' },
  '& .unit': {
    top: '4px',
    bottom: '4px',
    display: 'flex',
    flexDirection: 'column',
    justifyContent: 'center',
    textAlign: 'left',
    lineHeight: 1.25,
    border: '1px solid',
    borderColor: 'ink',
    borderRadius: 'kadro',
    padding: '0 6px',
    overflow: 'hidden',
    bg: 'raised',
  },
  '& .unit.on': { borderWidth: '2px', borderColor: 'accent', bg: 'accentWash' },
  '& .unit.tight': { padding: '0 2px' },
  '& button.unit': { cursor: 'pointer' },
  '& .unit.movable': { cursor: 'grab' },
  '& .unit.held': { zIndex: 3, opacity: 0.85 },
  '& .unit > .head': { display: 'flex', gap: '6px', alignItems: 'center', minWidth: 0 },
  '& .head > .cut': { flex: 1 },
  // a number is there whole or not at all, see `whole`
  '& .number': { fontFamily: 'mono', fontSize: '12px', letterSpacing: '-0.04em', whiteSpace: 'normal', overflow: 'hidden' },
  '& .head > .number': { flex: 1, height: '14px', lineHeight: '14px' },
  '& .unit > .who': { color: 'quiet', fontSize: '0.9em', maxWidth: '100%' },
  '& .unit > .beside': { marginTop: '-8px' },
};

/** Lengths that the picture is drawn by, px. */
export interface Rows {
  /** on the wall */
  large: boolean;
  bay: number;
  person: number;
  /** the line of the hours */
  hours: number;
  /** what stands before each line */
  label: number;
  /** how large is written: what is in bays and days, in a person’s line, and the hours */
  text: number;
  personText: number;
  small: number;
  /** a bay has room for one line only */
  low: boolean;
}
/** What a bay on the wall needs for two lines. */
const TWO_LINES = 63;

/** @param large on the wall: so that all bays, everybody and the next promises have room */
export function rowsOf(week: Week, large: boolean): Rows {
  if (!large) return { large, bay: 54, person: 32, hours: 20, label: 96, text: 15, personText: 15, small: 13, low: false };
  const room = innerHeight - 300;
  const person = Math.max(28, Math.min(52, (0.45 * room) / Math.max(1, week.people.length)));
  const bay = Math.max(40, Math.min(120, (room - person * week.people.length) / Math.max(1, week.bays.length)));
  const personText = Math.min(22, 0.64 * person);
  return { large, bay, person, hours: 28, label: 150, text: 22, personText, small: 18, low: bay < TWO_LINES };
}

/** How wide a share of the picture is, px; what stands beside it on the screen is left out. */
export const pixels = (wide: number, { label, large }: Rows): number => wide * (innerWidth - (large ? 56 : 116) - label);

/** Whether a name has room, about: bold letters are hardly wider. */
export const fits = (name: string, room: number, size: number): boolean => name.length * 0.59 * size < room;

/** Lengths as `PICTURE` asks for them; `--air`: above and below a person’s work, `--work`: its height. */
export function lengths({ label, person, text, small }: Rows): CSSProperties {
  const air = person < 32 ? 2 : 5;
  const all = { label, person, text, small, air, work: person - 2 * air - 3 };
  return Object.fromEntries(Object.entries(all).map(([name, px]) => [`--${name}`, `${px}px`])) as CSSProperties;
}
