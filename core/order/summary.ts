import type { Order, OrderStatus, Station } from '#model/order';
import { STATIONS } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { UnitKind } from '#model/common';
import { shortNeeds } from '../plan/needs';
import { workLeft, type WorkLeft } from '../shop/work-left';
import { isTraction } from '../wire-rules/high-volts';
import { owedAnswers } from './owed-answers';
import { currentStation, stepState, type Assessment, type StationMark } from './assess';

/** What the floor and the log show of an order without opening it; worked out at each write. */
export interface OrderSummary {
  unitName: string;
  kind: UnitKind;
  owner: string;
  identity: string;
  kits: { id: string; name: string }[];
  station: Station;
  stations: Record<Station, StationMark>;
  waitsFor: string;
  minutes: { planned: number; spent: number };
  powerSays: string;
  assignee: string | null;
  /** since times are learned: the model, and the minutes still to do, by kit */
  model?: string;
  left?: { kit: string; minutes: number }[];
  /** since a week is planned: the work still to do as it is done, and whether it is done at a traction pack */
  work?: WorkLeft[];
  packs?: boolean;
  /** whether work at the bench has begun */
  begun?: boolean;
  /** a part that is seen to be missing, empty when none is */
  part?: string;
}

/** An order as a list shows it. `matches` are the lines of its history that a search found. */
export interface ListedOrder {
  id: string;
  number: number;
  version: number;
  status: OrderStatus;
  promisedAt: string;
  updatedAt: string;
  summary: OrderSummary;
  /** minutes still to do as this shop works: what is likely, and the band that holds eight of ten */
  left?: { minutes: number; low: number; high: number };
  matches?: { at: string; by: string; says: string }[];
}

/** Minutes of the steps still to do, by kit; the unit’s own under the empty name. */
export function leftByKit(order: Order, a: Assessment): { kit: string; minutes: number }[] {
  const left = new Map<string, number>();
  for (const s of a.steps) if (stepState(order, s.id).status === 'todo') left.set(s.kit ?? '', (left.get(s.kit ?? '') ?? 0) + s.minutes);
  return [...left].map(([kit, minutes]) => ({ kit, minutes }));
}

/** The part that an order waits for: of a box, or at the bench of the shelf. */
function partFor(a: Assessment, station: Station): string {
  const missing = a.fit.kits.flatMap((k) => k.box).find((b) => b.counted !== null && b.counted < b.need);
  if (missing) return missing.item;
  return (station === 'bench' && shortNeeds(a.needs)[0]?.name) || '';
}

/** What an order waits for, in a few words: parts first, then what its station still owes. */
function waitsFor(order: Order, a: Assessment, station: Station): string {
  if (order.status !== 'open') return '';
  const part = partFor(a, station);
  if (part) return `parts: ${part}`;
  const owed = owedAnswers(order);
  if (owed.questions) return 'an answer for its owner';
  if (owed.extras) return 'its owner’s yes to what turned up';
  switch (station) {
    case 'fit':
      return a.fit.kits.find((k) => k.needs.length)?.says ?? a.stations.fit.owed;
    case 'power':
      return a.power.says;
    case 'wire':
    case 'lamps':
      return `${a.stations[station].owed} to settle`;
    case 'bench':
      return order.clocks.length || order.assignee ? `${a.stations.bench.owed} to go` : 'a bay';
    case 'handover':
      return a.blocks[0] ?? 'the owner';
    default:
      return a.stations[station].owed;
  }
}

export function summarise(order: Order, sheets: Sheets, a: Assessment): OrderSummary {
  const station = currentStation(order, a);
  return {
    unitName: `${sheets.model.maker} ${sheets.model.name}`,
    kind: sheets.model.kind,
    owner: order.owner,
    identity: order.unit.identity,
    kits: sheets.kits.map((k) => ({ id: k.id, name: k.name })),
    model: order.unit.model.id,
    left: leftByKit(order, a),
    work: workLeft(order, a),
    part: order.status === 'open' ? partFor(a, station) : '',
    packs: isTraction(sheets.model),
    begun: order.clocks.length > 0 || Object.values(order.steps).some((x) => x.status === 'done'),
    station,
    stations: Object.fromEntries(STATIONS.map((s) => [s, a.stations[s]])) as OrderSummary['stations'],
    waitsFor: waitsFor(order, a, station),
    minutes: a.minutes,
    powerSays: a.power.says,
    assignee: order.assignee,
  };
}
