import { chakra } from '@chakra-ui/react';
import { handoverSheet, sayFitted } from '#core/order/handover-sheet';
import { sayLots } from '#core/order/lots';
import { localTime, sayHere } from '#core/quantity/say-here';
import { VERDICT_WORD } from '#core/verdict';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { useOrder } from '../useOrder';
import { Head, Table, Top } from './Paper';

/** So many open points stand on the owner's page; the rest in the appendix. */
const MOST_OPEN = 6;

/** What the owner takes along: where feeds and fuses are, how it is used, what to expect, what to mind. */
export function OwnersPage({ title }: { title: string }) {
  const { order, sheets, assessment, settings } = useOrder();
  const sheet = handoverSheet(order, sheets, assessment, []);
  const said = (text: string) => sayHere(text, settings);
  const feeds = [...new Map(assessment.wiring.circuits.flatMap((c) => (c.feed ? [[c.feed.name, c.feed]] : []))).values()];
  const marks: PlaceMark[] = feeds.map((f, i) => ({ place: f.place, text: String(i + 1), tone: 'quiet', title: f.name }));
  const number = (feed: string | null) => feeds.findIndex((f) => f.name === feed) + 1 || '';
  const fused = sheet.circuits.filter((c) => c.fuseA !== null);
  return (
    <>
      <Top title={title}>
        <p>
          Taken in {localTime(order.openedAt, settings.timeZone)}.{' '}
          {order.sealedAt ? `Handed over ${localTime(order.sealedAt, settings.timeZone)}.` : 'Not handed over yet.'}
        </p>
      </Top>
      <UnitDrawing model={sheets.model} views={['side']} height={150} marks={marks} />
      <Head>Fitted</Head>
      <p>{sayFitted(sheet)}</p>
      {sheet.lots && <p>Serial and lot numbers: {sayLots(sheet.lots)}</p>}
      {sheet.forTheOwner.length > 0 && <Head>How to use it</Head>}
      {sheet.forTheOwner.map((t) => (
        <p key={t}>· {said(t)}</p>
      ))}
      {fused.length > 0 && (
        <>
          <Head>Fuses</Head>
          <Table
            head={['', 'Guards', 'Fuse', 'Fed from']}
            rows={fused.map((c) => [number(c.feed), c.circuit, `${c.fuseA} A ${c.fuseColour}`, c.feed])}
          />
        </>
      )}
      <Head>What to expect</Head>
      <p>{said(sheet.power.says)}.</p>
      {sheet.power.days.map((d) => (
        <p key={d.title}>
          {d.title}: {said(d.says)}.
        </p>
      ))}
      {sheet.open.length > 0 && (
        <>
          <Head>{sheet.open.length === 1 ? 'One point is open' : `${sheet.open.length} points are open`}</Head>
          {sheet.open.slice(0, MOST_OPEN).map((p) => (
            <p key={p.says}>
              {VERDICT_WORD[p.verdict]}: {said(p.says)}
            </p>
          ))}
          {sheet.open.length > MOST_OPEN && <p>and {sheet.open.length - MOST_OPEN} more, in the appendix</p>}
        </>
      )}
      <Head>Cautions</Head>
      {sheet.ownerCautions.map((c) => (
        <p key={c}>· {c}</p>
      ))}
      <Head>Received, with every control shown</Head>
      {sheet.signature ? (
        <>
          <chakra.svg viewBox="0 0 600 200" width="180px" height="60px" role="img" aria-label={`Signature of ${sheet.signature.name}`}>
            <path d={sheet.signature.strokes} fill="none" stroke="currentColor" strokeWidth="5" strokeLinecap="round" />
          </chakra.svg>
          <p>
            {sheet.signature.name}, {localTime(sheet.signature.at, settings.timeZone)}
          </p>
        </>
      ) : (
        <p>Not signed.</p>
      )}
    </>
  );
}
