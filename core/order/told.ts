import { CHARGING_STEP } from '../energy/measured';
import type { EventBody } from '../events/registry';

/**
 * What an event of one order tells whoever has the next unit of its model: kept apart from the record, so that an order opens
 * without reading the histories of all the others.
 */
export type Told =
  | { kind: 'finding'; text: string; step: string | null; photo: string | null }
  /** what was said since of a finding, by its key `ORDER:SEQ` */
  | { kind: 'judgement'; finding: string; still: boolean }
  /** what the bench read of the source while all was on */
  | { kind: 'measured'; what: 'volts' | 'amps'; value: number };

/** What an event tells, null where nothing. What is taken back later tells nothing any more: see `takesBack`. */
export function toldOf(body: EventBody): Told | null {
  switch (body.type) {
    case 'finding.added':
      return { kind: 'finding', text: body.text, step: body.step ?? null, photo: body.photo ?? null };
    case 'finding.judged':
      return { kind: 'judgement', finding: body.finding, still: body.still };
    case 'reading.taken':
      return body.step === CHARGING_STEP && (body.reading === 'volts' || body.reading === 'amps')
        ? { kind: 'measured', what: body.reading, value: body.value }
        : null;
    default:
      return null;
  }
}

/** The number of the event of the same order that this one takes back; null: none. */
export const takesBack = (body: EventBody): number | null => (body.type === 'action.undone' ? body.seq : null);
