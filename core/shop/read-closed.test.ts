import { describe, expect, it } from 'vitest';
import { readClosed } from './read-closed';

const calendar = (...entries: string[][]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//test//EN',
    ...entries.flatMap((e) => ['BEGIN:VEVENT', ...e, 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n');

describe('days closed, read from a calendar', () => {
  it('are its entries of whole days, of one day and of several (DTEND is the day after, RFC 5545 3.6.1)', () => {
    const text = calendar(
      ['UID:1', 'DTSTART;VALUE=DATE:20261224', 'DTEND;VALUE=DATE:20261227', 'SUMMARY:Midwinter'],
      ['UID:2', 'DTSTART;VALUE=DATE:20260501', 'SUMMARY:Boat fair'],
      ['UID:3', 'DTSTART;VALUE=DATE:20250101', 'DTEND;VALUE=DATE:20250102', 'SUMMARY:Over'],
      ['UID:4', 'DTSTART:20260601T080000Z', 'DTEND:20260601T090000Z', 'SUMMARY:Has hours'],
    );
    expect(readClosed(text, '2026-03-02')).toEqual({
      days: [
        { from: '2026-05-01', to: '2026-05-01', why: 'Boat fair' },
        { from: '2026-12-24', to: '2026-12-26', why: 'Midwinter' },
      ],
      timed: 1,
    });
  });
  it('that come again are there each time, two years ahead', () => {
    const text = calendar(['UID:1', 'DTSTART;VALUE=DATE:20200101', 'RRULE:FREQ=YEARLY', 'SUMMARY:New Year']);
    expect(readClosed(text, '2026-03-02').days.map((d) => d.from)).toEqual(['2027-01-01', '2028-01-01']);
    const fourth = calendar(['UID:1', 'DTSTART;VALUE=DATE:20251127', 'RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH', 'SUMMARY:Fourth Thursday']);
    // the fourth Thursdays of November 2026 and 2027
    expect(readClosed(fourth, '2026-03-02').days.map((d) => d.from)).toEqual(['2026-11-26', '2027-11-25']);
  });
  it.each([
    ['words', 'no calendar at all', /no calendar/],
    ['nothing', '', /no calendar|no entry/],
    ['an empty calendar', calendar(), /no entry/],
  ])('says what it cannot read: %s', (_, text, says) => {
    expect(() => readClosed(text, '2026-03-02')).toThrow(says);
  });
});
