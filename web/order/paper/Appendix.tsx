import { chakra } from '@chakra-ui/react';
import { handoverSheet } from '#core/order/handover-sheet';
import { figure, showQuantity } from '#core/quantity/quantity';
import { localTime, sayHere } from '#core/quantity/say-here';
import { VERDICT_WORD } from '#core/verdict';
import { expectedText, showReading } from '#core/quantity/reading-units';
import { useOrder } from '../useOrder';
import { Head, Table, Top } from './Paper';

/** A figure that is not broken from its unit. */
const Whole = chakra('span', { base: { whiteSpace: 'nowrap' } });

/** What the next installer needs: circuits, splices, readings, open points, findings. */
export function Appendix({ title }: { title: string }) {
  const { order, sheets, assessment, settings } = useOrder();
  const { units, timeZone } = settings;
  const sheet = handoverSheet(order, sheets, assessment, []);
  const said = (text: string) => sayHere(text, settings);
  return (
    <>
      <Top title={title} />
      <Head>Feeds and fuses</Head>
      <Table
        head={['Circuit', 'Feed', 'AWG', 'One way', 'Fuse', 'Drop %', 'By hand']}
        rows={sheet.circuits.map((c) => [
          c.circuit,
          c.feed,
          c.awg,
          c.oneWayM === null ? '–' : showQuantity(c.oneWayM, 'length', units),
          c.fuseA === null ? '–' : `${c.fuseA} A ${c.fuseColour}`,
          c.dropPct === null ? '–' : figure(c.dropPct, 2),
          c.byHand.map((o) => `${o.field} ${o.value} (${o.by})`).join('; '),
        ])}
      />
      <Head>Splices</Head>
      <Table
        head={['Circuit', 'Kit colour', 'Unit colour', 'Joint', 'At', 'Holds']}
        rows={sheet.splices.map((x) => [
          x.circuit,
          x.kitColour,
          x.unitColour ?? '–',
          x.joint.replaceAll('-', ' '),
          x.place,
          x.pullN === null ? '–' : showReading(x.pullN, 'N', units),
        ])}
      />
      <Head>Readings</Head>
      <Table
        head={['Step', 'Reading', 'Read', 'Expected', 'Verdict', 'Who', 'When']}
        rows={sheet.steps.flatMap((s) =>
          s.readings.flatMap((r) =>
            r.value === null
              ? []
              : [
                  [
                    s.title,
                    said(r.label),
                    <Whole key="read">{showReading(r.value, r.unit, units)}</Whole>,
                    <Whole key="expected">{expectedText({ low: r.low, high: r.high, unit: r.unit, why: '' }, units)}</Whole>,
                    r.verdict ? VERDICT_WORD[r.verdict] : '–',
                    r.by,
                    r.at ? localTime(r.at, timeZone) : '–',
                  ],
                ],
          ),
        )}
      />
      {sheet.open.length > 0 && <Head>Open points</Head>}
      {sheet.open.map((p) => (
        <p key={p.says}>
          {VERDICT_WORD[p.verdict]}: {said(p.says)}
        </p>
      ))}
      {sheet.findings.length > 0 && <Head>Found on this unit</Head>}
      {sheet.findings.map((f) => (
        <p key={f.at}>
          {localTime(f.at, timeZone)} {f.by}: {f.text}
        </p>
      ))}
      <Head>Cautions at work</Head>
      {sheet.cautions.map((c) => (
        <p key={c}>· {c}</p>
      ))}
    </>
  );
}
