import { chakra } from '@chakra-ui/react';
import { useMemo, type ReactNode } from 'react';
import type { Wiring } from '#core/wiring/planned';
import { bundleRows } from '#core/harness/bundles';
import { cutSides } from '#core/wiring/factory-cuts';
import { keptCuts } from '#core/supply/kept-cuts';
import { capRows, cutPlan, spliceRows, type CutRow } from '#core/harness/cut-list';
import { kitPlugs, pinTable, terminalTables } from '#core/harness/terminals';
import { figure, showQuantity } from '#core/quantity/quantity';
import { awgName } from '#core/wire/resistance';
import type { Harness } from '#model/harness';
import { useUnits } from '../../app/context';
import { Act, FileLink, Sheet } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { WireSwatch } from '../../marks/WireSwatch';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { Table } from '../../sheets/Table';

const FILES: [string, string][] = [
  ['schematic.pdf', 'Schematic, PDF'],
  ['schematic.svg', 'SVG'],
  ['cut-list.pdf', 'Cut list and splices, PDF'],
  ['cut-list.csv', 'Cut list, CSV'],
  ['splices.csv', 'Splices, CSV'],
  ['labels.pdf', 'Labels, PDF'],
  ['harness.json', 'Harness, JSON'],
];

const Mono = chakra('span', { base: { fontFamily: 'mono', whiteSpace: 'nowrap' } });
/** What a cell says, and what belongs to it beneath. */
function Two({ first, second }: { first: ReactNode; second: string | null }) {
  return (
    <>
      {first}
      {second && (
        <chakra.span color="quiet" display="block" fontSize="14px">
          {second}
        </chakra.span>
      )}
    </>
  );
}
/** Wires by their colours; what is no colour is said in words. */
function Colours({ list }: { list: readonly string[] }) {
  return (
    <chakra.span display="flex" flexWrap="wrap" gap="2px 10px">
      {list.map((c, i) => (/^[A-Z]{2}/.test(c) ? <WireSwatch key={i} colour={c} width={30} /> : <span key={i}>{c}</span>))}
    </chakra.span>
  );
}

/** What this page holds, and how much of each: touched, it goes there. */
function Contents({ parts }: { parts: readonly (readonly [id: string, word: string, count: number])[] }) {
  return (
    <chakra.nav aria-label="On this page" display="flex" flexWrap="wrap" gap="0 4px" ml="-8px" mb="4px">
      {parts
        .filter(([, , count]) => count > 0)
        .map(([id, word, count]) => (
          <Act key={id} look="quiet" onClick={() => document.getElementById(id)?.scrollIntoView()}>
            {word} <Mono color="quiet">{count}</Mono>
          </Act>
        ))}
    </chakra.nav>
  );
}

/** What to cut, what to slide on first, what is joined to what, and how it is bound. */
export function CutJoin({
  harness,
  rows,
  wiring,
  jointOf,
}: {
  harness: Harness;
  rows: readonly CutRow[];
  wiring: Wiring;
  jointOf: (circuit: string | null) => string;
}) {
  const { order, sheets, settings, assessment } = useOrder();
  const { ends } = assessment;
  const units = useUnits();
  const kept = useMemo(() => keptCuts(settings.cuts, order.id), [settings.cuts, order.id]);
  const plan = useMemo(() => cutPlan(rows, settings.stock, kept), [rows, settings.stock, kept]);
  const splices = useMemo(() => spliceRows(harness, ends, jointOf), [harness, ends, jointOf]);
  const caps = useMemo(() => {
    const { kits, model } = assessment.sheets;
    return capRows(harness, ends, cutSides(kits, model));
  }, [harness, ends, assessment.sheets]);
  const tables = useMemo(() => terminalTables(harness), [harness]);
  const bundles = useMemo(() => bundleRows(harness, sheets.model, wiring.amps), [harness, sheets.model, wiring.amps]);
  const place = (id: string | null) => sheets.model.places.find((p) => p.id === id)?.name ?? '–';
  const from = new Map(plan.assignments.map((a) => [a.cut, a.stock]));
  const plugs = [
    ...wiring.points.filter((p) => wiring.circuits.some((c) => c.feed?.id === p.id)).flatMap((p) => pinTable(p) ?? []),
    ...kitPlugs(harness),
  ];
  const length = (m: number | null) => (m === null ? '?' : showQuantity(m, 'length', units));
  const small = (mm: number) => showQuantity(mm, 'smallLength', units);
  return (
    <chakra.section aria-label="Cut and join">
      <chakra.div display="flex" flexWrap="wrap" gap="6px" mb="10px">
        {FILES.map(([file, word]) => (
          <FileLink
            key={file}
            href={`/api/orders/${order.id}/wiring/${file}`}
            target={file.endsWith('pdf') || file.endsWith('svg') ? '_blank' : undefined}
            minHeight="36px"
            fontSize="15px"
          >
            {word}
          </FileLink>
        ))}
      </chakra.div>
      <Contents
        parts={[
          ['cut-list', 'Cut list', rows.length],
          ['splices', 'Splices', splices.length],
          ['caps', 'Leads to cap', caps.length],
          ['bundles', 'Bundles', bundles.length],
          ['plugs', 'Plugs', plugs.length],
          ['terminals', 'Relays and switches', tables.length],
        ]}
      />
      <H3 id="cut-list" mt="4px">
        {rows.length ? `Cut list, ${rows.length} ${rows.length === 1 ? 'piece' : 'pieces'}` : 'Nothing is cut'}
      </H3>
      <chakra.p color="quiet" fontSize="14px" mb="4px">
        {!rows.length
          ? 'Every wire of this order comes ready out of a box: see Fit for what goes where.'
          : settings.stock.length === 0
            ? 'No spools or offcuts are listed on hand: list them under Shop to have the cuts laid on them.'
            : plan.unmet.length === 0
              ? kept.size
                ? `Cut from what is on hand, as it was laid out with the wire of the other open orders; ${length(plan.wasteM)} left over on the pieces opened.`
                : `Cut from what is on hand, ${length(plan.wasteM)} left over on the pieces opened; ${plan.optimal ? 'no other way leaves less' : `no way leaves less than ${length(plan.boundM)}`}.`
              : `${plan.unmet.length} of ${rows.length} pieces have no spool or offcut of their gauge and colour on hand; the rest leaves ${length(plan.wasteM)} on the spools and offcuts opened${plan.optimal ? ', and no other way leaves less' : ''}.`}
      </chakra.p>
      {rows.length > 0 && (
        <Table
          heads={['', 'Wire', 'Length', 'From, end', 'To, end', 'Slide on first', 'Strip', 'Cut from']}
          rows={rows.map((r) => [
            <b key="label">{r.label}</b>,
            <Two key="wire" first={<WireSwatch colour={r.colour} width={30} />} second={r.awg === null ? '?' : `${awgName(r.awg)} AWG`} />,
            <Mono key="length">{length(r.lengthM)}</Mono>,
            <Two key="from" first={r.from} second={r.ends[0]} />,
            <Two key="to" first={r.to} second={r.ends[1]} />,
            r.slideOn.join(', '),
            <Mono key="strip">{r.stripMm === null ? '–' : small(r.stripMm)}</Mono>,
            from.get(r.wire) ?? (settings.stock.length ? 'none on hand' : '–'),
          ])}
        />
      )}

      <H3 id="splices">{splices.length ? 'Splice sheet' : 'Nothing is spliced'}</H3>
      <Table
        heads={['Where', 'From the unit', 'Kit', 'Joint', 'Tug, held a minute']}
        rows={splices.map((s) => [
          <Two key="at" first={s.at} second={place(s.place)} />,
          <Colours key="from" list={s.from} />,
          <Colours key="to" list={s.to} />,
          <Two key="joint" first={s.joint} second={s.warning} />,
          <Mono key="pull">{s.pull ? showQuantity(s.pull.newtons, 'force', units) : '–'}</Mono>,
        ])}
      />
      {caps.length > 0 && (
        <>
          <H3 id="caps">Leads to cap and tie back</H3>
          <ul>
            {caps.map((c) => (
              <li key={c.lead}>
                {c.lead} ({place(c.place)})
              </li>
            ))}
          </ul>
        </>
      )}

      <H3 id="bundles">Bundles, run by run</H3>
      <Table
        heads={['Run', 'Wires', 'Bundle', 'Loom', 'Ties', 'On the way', '']}
        num={[1, 2, 3, 4]}
        rows={bundles.map((b) => [
          <Two key="run" first={`${b.from} to ${b.to}`} second={length(b.lengthMm / 1000)} />,
          b.wires.length,
          small(b.bundleMm),
          b.loomMm === null ? '–' : small(b.loomMm),
          b.ties,
          `${b.hazards.map((h, i) => `${h}: ${b.protect[i]}`).join('; ') || 'clear'}${b.holeMm === null ? '' : `; hole ${small(b.holeMm)} with its grommet`}`,
          b.warm.map((w) => (
            <chakra.span key={w.wire} display="flex" gap="6px">
              <VerdictMark verdict="tight" size={18} /> {w.name}: {figure(w.amps, 3)} A, {figure(w.mayA, 3)} A so many together
            </chakra.span>
          )),
        ])}
      />
      <chakra.p color="quiet" fontSize="14px" mt="4px">
        Ties at most 18 in apart and bundling factors: ABYC E-11. Looms, holes and strip lengths: common practice, no source.
      </chakra.p>

      <div id="plugs" />
      {plugs.map((t) => (
        <Sheet key={t.id} mt="16px">
          <chakra.h3 fontSize="17px" mb="6px">
            {t.name}, {t.plug}
          </chakra.h3>
          <chakra.div display="flex" gap="40px" flexWrap="wrap">
            {(
              [
                ['Seen from the wire side', t.wireSide],
                ['Seen from its face', t.face],
              ] as const
            ).map(([word, list]) => (
              <div key={word}>
                <chakra.p color="quiet" fontSize="14px">
                  {word}
                </chakra.p>
                <chakra.div display="flex" borderWidth="2px" borderColor="ink" borderRadius="6px" mt="4px">
                  {list.map((pin) => (
                    <chakra.div
                      key={pin.pin}
                      p="8px 14px"
                      borderLeftWidth="1px"
                      borderColor="rule"
                      _first={{ borderLeftWidth: 0 }}
                      textAlign="center"
                    >
                      <chakra.b fontFamily="mono">{pin.pin}</chakra.b>
                      <div>{pin.colour && <WireSwatch colour={pin.colour} width={30} />}</div>
                      <chakra.span fontSize="14px">{pin.use}</chakra.span>
                    </chakra.div>
                  ))}
                </chakra.div>
              </div>
            ))}
          </chakra.div>
        </Sheet>
      ))}
      <H3 id="terminals">Relays and switches, terminal by terminal</H3>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fill, minmax(340px, 1fr))" gap="12px">
        {tables.map((t) => (
          <Sheet key={t.id} p="12px">
            <chakra.h4 fontSize="16px" fontWeight={700}>
              {t.name}
              <chakra.span color="quiet" fontWeight={400} fontSize="14px">
                {' '}
                {place(t.place)}
              </chakra.span>
            </chakra.h4>
            <Table
              heads={['Terminal', 'Wire, and where it goes']}
              rows={t.rows.map((r) => [
                <Two key="terminal" first={<b>{r.terminal}</b>} second={r.end} />,
                r.wires.length
                  ? r.wires.map((w, i) => (
                      <chakra.div key={i} display="flex" gap="8px" flexWrap="wrap">
                        <WireSwatch colour={w.colour} width={26} />
                        <span>{w.goes}</span>
                      </chakra.div>
                    ))
                  : 'cap it',
              ])}
            />
          </Sheet>
        ))}
      </chakra.div>
    </chakra.section>
  );
}
