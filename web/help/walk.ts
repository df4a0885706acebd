/** A stop of the walk through an order: a station, and what is seen there. `null`: the floor. */
export interface Stop {
  station: string | null;
  says: string;
}

/** Two minutes through one order, for who is here for the first time. */
export const WALK: readonly Stop[] = [
  {
    station: null,
    says: 'Floor: the units in the shop. A line is a unit; the squares are its stations, from Arrive to the bench. Touch one to open it.',
  },
  { station: 'arrive', says: 'Arrive: what stands here. Number and battery are judged as you type them; wishes propose kits.' },
  { station: 'fit', says: 'Fit: whether each kit belongs on this build, what must come before it, and what the box holds.' },
  { station: 'power', says: 'Power: whether the unit carries it on its owner’s day. Where it does not, “Make it hold” says what would.' },
  {
    station: 'wire',
    says: 'Wire: feed, gauge, fuse and way of each circuit are chosen. Turn the key and the switches: wires that are live move.',
  },
  {
    station: 'lamps',
    says: 'Lamps: each item of the rule packs with its figure. A lamp can be dragged; “Put it there” finds the nearest place.',
  },
  { station: 'plan', says: 'Plan: the order of work with each panel off once, and the minutes that saves.' },
  {
    station: 'bench',
    says: 'Bench: one step at a time. What a reading should be stands before you take it; one that holds brings the next step by itself. Undo takes back.',
  },
  {
    station: 'handover',
    says: 'Hand over: proofs, what is open, the signature, and the sheet: a page for the owner, the rest for the next installer.',
  },
];

/** The demo's unit that the walk goes through: the first of the floor that has work left at the bench. */
export const walkOrder = (orders: readonly { id: string; summary: { station: string } }[]): string | null =>
  (orders.find((o) => o.summary.station === 'bench') ?? orders[0])?.id ?? null;
