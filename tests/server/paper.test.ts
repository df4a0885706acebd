import { describe, expect, it } from 'vitest';
import { assess } from '#core/order/assess';
import { handoverSheet } from '#core/order/handover-sheet';
import { DEFAULT_SETTINGS } from '#model/settings';
import { handoverPdf } from '#server/documents/handover-pdf';
import { pdfPages } from '../pdf-text';
import { after, demoOrder } from '../demo-sheets';

async function paper(
  model: string,
  kits: string[],
  units: 'imperial' | 'metric',
  change = (o: ReturnType<typeof demoOrder>['order']) => o,
) {
  const made = demoOrder(model, kits, { identity: '1M8GDM9AXKP042788' });
  const order = change(made.order);
  const sheet = handoverSheet(order, made.sheets, assess(order, made.sheets, DEFAULT_SETTINGS), []);
  return pdfPages(await handoverPdf(sheet, made.sheets.model, { shop: 'Skerry Point', units, timeZone: 'America/Denver' }));
}

describe('the hand-over sheet on paper', () => {
  it('holds unit, kits, feeds and fuses, splices, readings, cautions, time and numbered pages', async () => {
    const pages = await paper('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar'], 'imperial');
    const all = pages.join(' ');
    for (const text of [
      'Aldermoor Drover 4',
      '1M8GDM9AXKP042788',
      'Order 7',
      'For Lio',
      'Skerry Point',
      'Brindlow Winch 3,200 lb',
      'Power: Tight',
      'Feeds and fuses',
      'bus bar, constant stud',
      '15 A blue',
      'Splices',
      'BN/WH',
      'crimp shrink',
      'Tug test of each crimp',
      'at least 10 lbf',
      'General road equipment',
      'UVC ch. 12',
      'never hook the line back on itself',
      'The local code and a licensed or certified person decide',
      'minutes spent',
      'Not signed.',
    ])
      expect(all).toContain(text);
    pages.forEach((p, i) => expect(p).toContain(`page ${i + 1} of ${pages.length}`));
    expect(all).toMatch(/\d+ ft( \d+ in)?/);
  });
  it('the first page is the owner’s: controls, fuses, cautions, what to expect, signature; the rest is for the next installer', async () => {
    const [first, second] = await paper('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar'], 'imperial');
    for (const text of [
      'Fitted',
      'Fuses',
      'What to expect',
      'points are open',
      'Cautions',
      'Received, with every control shown',
      'page 1 of',
    ])
      expect(first).toContain(text);
    expect(first).not.toMatch(/Splices|Readings|For the next installer/);
    expect(second).toContain('For the next installer');
  });
  it('is in the shop’s units', async () => {
    const all = (await paper('drover-2', ['roof-bar'], 'metric')).join(' ');
    expect(all).toMatch(/at least [\d.]+ N/);
    expect(all).toMatch(/[\d.]+ m /);
    expect(all).not.toMatch(/ lbf/);
  });
  it('shows what was read, skipped, set by hand, found, signed and passed', async () => {
    const all = (
      await paper('skarn-600', ['navigator'], 'imperial', (o) =>
        after(
          o,
          {
            type: 'reading.taken',
            step: 'prove/parked',
            reading: 'amps',
            label: 'x',
            value: 0.0125,
            expected: { low: 0, high: 0.02, unit: 'A', why: '' },
            verdict: 'holds',
            origin: { how: 'typed' },
            settles: null,
          },
          { type: 'step.skipped', step: 'navigator/mount', title: 'Mount', reason: 'was on already', next: null },
          { type: 'wire.overridden', circuit: 'navigator/feed', field: 'lengthM', value: 2, reason: 'round the tank' },
          { type: 'finding.added', text: 'Hood latch is worn' },
          { type: 'proof.overridden', proof: 'prove/charging', title: 'Charging', reason: 'no fuel aboard' },
          { type: 'handover.signed', name: 'Petra', strokes: 'M10 10L200 100' },
        ),
      )
    ).join(' ');
    for (const text of [
      '12.5 mA',
      'skipped: was on already',
      'lengthM 2 (tor: round the tank)',
      'Hood latch is worn',
      'Passed without proof',
      'no fuel aboard',
      'Petra, 2026-03-02',
      'times in America/Denver',
    ])
      expect(all).toContain(text);
  });
  it('an order without kits still prints', async () => {
    expect((await paper('sandbar-21', [], 'metric')).join(' ')).toContain('None.');
  });
});
