import { describe, expect, it } from 'vitest';
import { eventWords, OrderQuery, wordsOf } from './search';

describe('the words under which an order is found', () => {
  it.each([
    ['Seat bolt is 8 mm, not 10!', ['seat', 'bolt', '8', 'mm', 'not', '10']],
    ['Hallan’s Größe, ÉCLAIR', ['hallan', 's', 'große', 'eclair']],
    ['12.45 V … 0.3 V.', ['12.45', 'v', '0.3']],
    ['the of and', []],
    ['x'.repeat(90), ['x'.repeat(40)]],
    ['bar bar BAR', ['bar']],
  ])('%s', (text, words) => expect(wordsOf(text)).toEqual(words.map((w) => w.normalize('NFKD').replace(/\p{M}/gu, ''))));

  it('marks what one may look for by itself', () => {
    const reading = (verdict: 'holds' | 'fails') =>
      eventWords(
        {
          type: 'reading.taken',
          step: 's',
          reading: 'r',
          label: 'Parked draw',
          value: 0.2,
          expected: { low: 0, high: 0.01, unit: 'A', why: '' },
          verdict,
          origin: { how: 'typed' },
          settles: null,
        },
        'tor',
      );
    expect(reading('fails')).toEqual(expect.arrayContaining(['parked', 'draw', '0.2', 'mark:out-of-band', 'by:tor']));
    expect(reading('holds')).not.toContain('mark:out-of-band');
    expect(eventWords({ type: 'finding.added', text: 'Nut', photo: 'a'.repeat(64) }, 'tor')).toEqual([
      'finding',
      'nut',
      'mark:finding',
      'mark:picture',
    ]);
    expect(eventWords({ type: 'kit.added', kit: { id: 'roof-bar', revision: 1 }, name: 'Roof bar' }, 'wyn')).toContain('kit:roof-bar');
  });
  it('a typed colon is no mark', () => expect(wordsOf('mark:finding kit:roof-bar')).toEqual(['mark', 'finding', 'kit', 'roof', 'bar']));
  it('a period is two days', () => {
    expect(OrderQuery.safeParse({ from: '2026-03-01', to: '2026-03-31' }).success).toBe(true);
    expect(OrderQuery.safeParse({ from: 'March' }).success).toBe(false);
  });
});
