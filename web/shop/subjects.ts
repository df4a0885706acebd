import { DEFAULT_SETTINGS, type Settings } from '#model/settings';

/** Settings that are figures. */
export type Figure = { [K in keyof Settings]: Settings[K] extends number ? K : never }[keyof Settings];

/** One figure that a shop decides: what it is, what it changes, and how it is written. */
export interface FigureField {
  field: Figure;
  label: string;
  does: string;
  unit: string;
  /** kept as a share of one, written in per cent */
  share?: boolean;
}
export interface Subject {
  id: string;
  name: string;
  /** what is decided here, in a sentence */
  says: string;
  groups: { title: string; fields: FigureField[] }[];
}

/** What a shop decides, by subject; people, the shop itself and its stock have forms of their own. */
export const FIGURE_SUBJECTS: Subject[] = [
  {
    id: 'rules',
    name: 'House rules',
    says: 'From which figure on Kadro says Tight or Fails. All of it is common practice, no source.',
    groups: [
      {
        title: 'The source and the battery',
        fields: [
          { field: 'tightShare', label: 'Tight above', does: 'of what the source has left is used', unit: '%', share: true },
          {
            field: 'parkedDays',
            label: 'Parked',
            does: 'days that a unit must stand and still start; under twice as many is Tight',
            unit: 'days',
          },
          { field: 'reserveSoc', label: 'Reserve', does: 'charge under which a start is not to be counted on', unit: '%', share: true },
          { field: 'engineOffHours', label: 'Engine off', does: 'hours of use before the reserve that an owner should have', unit: 'h' },
          { field: 'selfDischargePctPerMonth', label: 'Self-discharge', does: 'of the charge lost in 30 days', unit: '%' },
          { field: 'crankSpareV', label: 'Start', does: 'volts above the least: fewer is Tight', unit: 'V' },
          { field: 'packReserveSoc', label: 'Pack', does: 'charge that a traction pack should keep', unit: '%', share: true },
        ],
      },
      {
        title: 'The owner’s days',
        fields: [
          { field: 'repeatDays', label: 'In a row', does: 'days that must be possible without a charger in between', unit: 'days' },
          { field: 'noStartTightPct', label: 'Tight above', does: 'of simulated days end without a start', unit: '%' },
          { field: 'noStartFailPct', label: 'Fails above', does: 'of simulated days end without a start', unit: '%' },
        ],
      },
      {
        title: 'The order of work',
        fields: [
          { field: 'moveMinutes', label: 'A move', does: 'minutes from one end of a unit to another, with tools', unit: 'min' },
          { field: 'fishMinutes', label: 'Pulling through', does: 'minutes for a wire under a panel that stays on', unit: 'min' },
        ],
      },
    ],
  },
  {
    id: 'prices',
    name: 'Prices',
    says: 'What work and things are sold for; quotes, bills and remedies at Power follow.',
    groups: [
      {
        title: 'Prices',
        fields: [
          { field: 'labourPerHour', label: 'Work', does: 'an hour', unit: '' },
          { field: 'batteryPerAh', label: 'Battery', does: 'an ampere-hour', unit: '' },
          { field: 'isolatorPrice', label: 'Isolator', does: 'one', unit: '' },
          { field: 'relayPrice', label: 'Relay', does: 'one with its socket', unit: '' },
          { field: 'reducerPerA', label: 'Reducer', does: 'an ampere', unit: '' },
        ],
      },
    ],
  },
];

/** The chance at which a promise counts as kept; it stands with the week that it is about. */
export const PROMISE_CHANCE: FigureField = {
  field: 'promiseChance',
  label: 'A promise',
  does: 'of the times must hold before it is given',
  unit: '%',
  share: true,
};

/** A figure as it is written, and read back. */
export const writtenAs = (f: FigureField, x: number): string => String(Number((f.share ? x * 100 : x).toFixed(4)));
export const usual = (f: FigureField): string => writtenAs(f, DEFAULT_SETTINGS[f.field]);
/** @throws Error for what is no figure */
export function readAs(f: FigureField, text: string): number {
  const x = Number(text.trim().replace(/\s*%$/, '').replace(',', '.'));
  if (!text.trim() || !Number.isFinite(x)) throw new Error('type a figure');
  return f.share ? Number((x / 100).toFixed(6)) : x;
}
