import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import type { Wiring } from '#core/circuit/wiring';
import { flowsOf, totalAmps } from '#core/circuit/flows';
import { bundleRows } from '#core/harness/bundles';
import { capRows, cutPlan, spliceRows, type CutRow } from '#core/harness/cut-list';
import { kitPlugs, pinTable, terminalTables } from '#core/harness/terminals';
import { figure, showQuantity } from '#core/quantity/quantity';
import { awgName } from '#core/wire/resistance';
import type { Harness } from '#model/harness';
import { useUnits } from '../../app/context';
import { FileLink, Sheet } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { WireSwatch } from '../../marks/WireSwatch';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { Cell, Head, Table } from './Table';

const FILES: [string, string][] = [
  ['schematic.pdf', 'Schematic, PDF'],
  ['schematic.svg', 'SVG'],
  ['cut-list.pdf', 'Cut list and splices, PDF'],
  ['cut-list.csv', 'Cut list, CSV'],
  ['splices.csv', 'Splices, CSV'],
  ['labels.pdf', 'Labels, PDF'],
  ['harness.json', 'Harness, JSON'],
];

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
  const { order, sheets, settings } = useOrder();
  const units = useUnits();
  const plan = useMemo(() => cutPlan(rows, settings.stock), [rows, settings.stock]);
  const splices = useMemo(() => spliceRows(harness, jointOf), [harness, jointOf]);
  const caps = useMemo(() => capRows(harness), [harness]);
  const tables = useMemo(() => terminalTables(harness), [harness]);
  const amps = useMemo(() => totalAmps(flowsOf(harness, [], [])), [harness]);
  const bundles = useMemo(() => bundleRows(harness, sheets.model, amps), [harness, sheets.model, amps]);
  const place = (id: string | null) => sheets.model.places.find((p) => p.id === id)?.name ?? '–';
  const stock = new Map(settings.stock.map((s) => [s.id, s]));
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
      <H3 mt="4px">Cut list, {rows.length} pieces</H3>
      <chakra.p color="quiet" fontSize="14px" mb="4px">
        {settings.stock.length === 0
          ? 'No spools or offcuts are listed on hand: list them under Shop to have the cuts laid on them.'
          : plan.unmet.length === 0
            ? `Cut from what is on hand, ${length(plan.wasteM)} left over on the pieces opened; ${plan.optimal ? 'proved the least' : `none leaves less than ${length(plan.boundM)}`}.`
            : `${plan.unmet.length} of ${rows.length} pieces have no spool or offcut of their gauge and colour on hand; the rest leaves ${length(plan.wasteM)} on the spools and offcuts opened${plan.optimal ? ', proved the least' : ''}.`}
      </chakra.p>
      <Table>
        <thead>
          <tr>
            {['', 'Wire', 'Length', 'From, end', 'To, end', 'Slide on first', 'Strip', 'Cut from'].map((h) => (
              <Head key={h}>{h}</Head>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.wire}>
              <Cell mono>
                <b>{r.label}</b>
              </Cell>
              <Cell whiteSpace="nowrap">
                <WireSwatch colour={r.colour} width={30} />
                <chakra.span fontFamily="mono" display="block">
                  {r.awg === null ? '?' : `${awgName(r.awg)} AWG`}
                </chakra.span>
              </Cell>
              <Cell mono>{length(r.lengthM)}</Cell>
              <Cell>
                {r.from}
                <chakra.span color="quiet" display="block" fontSize="14px">
                  {r.ends[0]}
                </chakra.span>
              </Cell>
              <Cell>
                {r.to}
                <chakra.span color="quiet" display="block" fontSize="14px">
                  {r.ends[1]}
                </chakra.span>
              </Cell>
              <Cell>{r.slideOn.join(', ')}</Cell>
              <Cell mono>{r.stripMm === null ? '–' : small(r.stripMm)}</Cell>
              <Cell color={from.has(r.wire) ? 'ink' : 'quiet'}>
                {stock.get(from.get(r.wire) ?? '')?.id ?? (settings.stock.length ? 'none on hand' : '–')}
              </Cell>
            </tr>
          ))}
        </tbody>
      </Table>

      <H3>Splice sheet</H3>
      <Table>
        <thead>
          <tr>
            {['Where', 'From the unit', 'Kit', 'Joint', 'Tug, held a minute'].map((h) => (
              <Head key={h}>{h}</Head>
            ))}
          </tr>
        </thead>
        <tbody>
          {splices.map((s, i) => (
            <tr key={i}>
              <Cell>
                {s.at}
                <chakra.span color="quiet" display="block" fontSize="14px">
                  {place(s.place)}
                </chakra.span>
              </Cell>
              <Cell>
                {s.from.map((c, k) => (/^[A-Z]{2}/.test(c) ? <WireSwatch key={k} colour={c} width={30} /> : <span key={k}>{c}</span>))}
              </Cell>
              <Cell>
                <chakra.span display="flex" flexWrap="wrap" gap="2px 10px">
                  {s.to.map((c, k) => (/^[A-Z]{2}/.test(c) ? <WireSwatch key={k} colour={c} width={30} /> : <span key={k}>{c}</span>))}
                </chakra.span>
              </Cell>
              <Cell>{s.joint}</Cell>
              <Cell mono>{s.pull ? showQuantity(s.pull.newtons, 'force', units) : '–'}</Cell>
            </tr>
          ))}
        </tbody>
      </Table>
      {caps.length > 0 && (
        <>
          <H3>Leads to cap and tie back</H3>
          <ul>
            {caps.map((c) => (
              <li key={c.lead}>
                {c.lead} ({place(c.place)})
              </li>
            ))}
          </ul>
        </>
      )}

      <H3>Bundles, run by run</H3>
      <Table>
        <thead>
          <tr>
            {['Run', 'Wires', 'Bundle', 'Loom', 'Ties', 'On the way', ''].map((h, i) => (
              <Head key={i}>{h}</Head>
            ))}
          </tr>
        </thead>
        <tbody>
          {bundles.map((b) => (
            <tr key={b.run}>
              <Cell>
                {b.from} to {b.to}
                <chakra.span color="quiet" display="block" fontSize="14px" fontFamily="mono">
                  {length(b.lengthMm / 1000)}
                </chakra.span>
              </Cell>
              <Cell mono>{b.wires.length}</Cell>
              <Cell mono>{small(b.bundleMm)}</Cell>
              <Cell mono>{b.loomMm === null ? '–' : small(b.loomMm)}</Cell>
              <Cell mono>{b.ties}</Cell>
              <Cell>
                {b.hazards.map((h, i) => `${h}: ${b.protect[i]}`).join('; ') || 'clear'}
                {b.holeMm !== null && `; hole ${small(b.holeMm)} with its grommet`}
              </Cell>
              <Cell>
                {b.warm.map((w) => (
                  <chakra.span key={w.wire} display="flex" gap="6px">
                    <VerdictMark verdict="tight" size={18} /> {w.name}: {figure(w.amps, 3)} A, {figure(w.mayA, 3)} A so many together
                  </chakra.span>
                ))}
              </Cell>
            </tr>
          ))}
        </tbody>
      </Table>
      <chakra.p color="quiet" fontSize="14px" mt="4px">
        Ties at most 18 in apart and bundling factors: ABYC E-11. Looms, holes and strip lengths: common practice, no source.
      </chakra.p>

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
      <H3>Relays and switches, terminal by terminal</H3>
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
            <Table>
              <tbody>
                {t.rows.map((r) => (
                  <tr key={r.terminal}>
                    <Cell width="110px">
                      <b>{r.terminal}</b>
                      {r.end && (
                        <chakra.span color="quiet" display="block" fontSize="14px">
                          {r.end}
                        </chakra.span>
                      )}
                    </Cell>
                    <Cell>
                      {r.wires.length
                        ? r.wires.map((w, i) => (
                            <chakra.div key={i} display="flex" gap="8px" flexWrap="wrap">
                              <WireSwatch colour={w.colour} width={26} />
                              <span>{w.goes}</span>
                            </chakra.div>
                          ))
                        : 'cap it'}
                    </Cell>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Sheet>
        ))}
      </chakra.div>
    </chakra.section>
  );
}
