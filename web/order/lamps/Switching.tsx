import { chakra } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { sayState } from '#core/harness/scan';
import { UNIT_CONTROLS } from '#core/harness/unit-controls';
import type { LampItem } from '#core/lighting/item';
import { RANK } from '#core/verdict';
import type { Harness } from '#model/harness';
import { VerdictMark } from '../../marks/VerdictMark';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { Controls } from '../wire/Controls';
import { Elevation, ELEVATION, elevations, type DrawnLamp, type ElevationName } from './Elevation';
import { faceOf } from '#core/lighting/placing';
import { litWith, throwSwitch } from '#core/lighting/switching';
import { isDrawn } from './lampLook';
import { Answered } from './Answered';
import { ItemWords } from './ItemLine';
import { stateQuery } from './stateQuery';
import { Act } from '../../app/ui';

/** Every rule about switching, proved in every state of the switches, with the unit's lamps lit as the switches stand. */
export function Switching() {
  const { assessment, sheets, order } = useOrder();
  const { lamps: check, wiring } = assessment;
  const { table } = check.given;
  const rank = (i: LampItem) => (i.verdict === null ? -1 : RANK[i.verdict]);
  const items = check.packs
    .flatMap(({ pack, items: list }) => list.filter((i) => i.rule?.kind === 'logic').map((i) => ({ pack, i })))
    .sort((a, b) => rank(b.i) - rank(a.i));
  const [positions, setPositions] = useState<Readonly<Record<string, string>>>({});
  const [beat, setBeat] = useState(true);
  const views = useMemo(() => elevations(sheets.model), [sheets.model]);
  // the switches that lamps hang on, with the unit's own that no harness holds
  const controls = useMemo(() => {
    const used = new Set(Object.keys(table?.states[0]?.controls ?? {}));
    const own = UNIT_CONTROLS.map((c) => ({ ...c, id: `unit#${c.id}`, of: 'unit', place: null })).filter(
      (c) => !wiring.harness.controls.some((h) => h.id === c.id),
    );
    return [...wiring.harness.controls, ...own].filter((c) => used.has(c.id));
  }, [table, wiring.harness]);
  const harness: Harness = useMemo(() => ({ ...wiring.harness, controls }), [wiring.harness, controls]);
  const lit = table ? litWith(table, controls, positions, beat) : new Set<string>();
  const set = (control: string, position: string) => setPositions((p) => throwSwitch(controls, p, control, position));
  const show = (i: LampItem) => {
    setPositions(i.failing!.controls);
    setBeat(i.failing!.beat);
  };
  const drawn = (n: ElevationName): DrawnLamp[] =>
    check.lamps
      .filter((l) => isDrawn(l) && faceOf(l.function, l.at, check.unit.lengthMm, check.unit.rearOverhangMm) === n)
      .map((l) => ({ lamp: l, verdict: null, says: lit.has(l.id) ? 'lit' : 'dark' }));
  const scale = Math.min(520 / (views.front.box.w + views.rear.box.w), 250 / views.front.box.h);
  const shining = check.lamps.filter((l) => lit.has(l.id));
  return (
    <>
      {table && (
        <chakra.div display="grid" gridTemplateColumns="auto minmax(0, 1fr)" gap="14px" alignItems="start">
          <chakra.div display="flex" gap="8px">
            {(['front', 'rear'] as const).map((n) => (
              <chakra.figure key={n} m={0}>
                <Elevation
                  view={views[n]}
                  name={n}
                  lamps={drawn(n)}
                  picked={null}
                  bands={[]}
                  legal={[]}
                  pxPerMm={scale}
                  lit={lit}
                  movable={false}
                  onPick={() => undefined}
                  onDrag={() => undefined}
                  onDrop={() => undefined}
                />
                <chakra.figcaption fontSize="14px" color="quiet" textAlign="center">
                  {ELEVATION[n]}
                </chakra.figcaption>
              </chakra.figure>
            ))}
          </chakra.div>
          <div>
            <Controls harness={harness} positions={positions} onSet={set} />
            {table.states.some((s) => !s.beat) && (
              <chakra.div display="flex" gap="6px" alignItems="center" mt="8px">
                <chakra.span fontSize="14px" color="quiet">
                  Flasher
                </chakra.span>
                <Act minHeight="32px" on={beat} aria-pressed={beat} onClick={() => setBeat(true)}>
                  on its beat
                </Act>
                <Act minHeight="32px" on={!beat} aria-pressed={!beat} onClick={() => setBeat(false)}>
                  between beats
                </Act>
              </chakra.div>
            )}
            <chakra.p mt="10px" role="status" fontWeight={600}>
              Lit: {shining.map((l) => l.name).join(', ') || 'nothing'}
            </chakra.p>
            <chakra.p fontSize="14px" color="quiet">
              All {table.states.length} states of these switches were tried
              {table.chatter ? `; relays chatter in ${table.chatter} of them` : ''}. Volts, fuses and back-feeds are tried at Wire.
            </chakra.p>
          </div>
        </chakra.div>
      )}
      <H3>{items.length ? 'Proved in every state' : 'No chosen pack asks how lamps are switched'}</H3>
      <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
        {items.map(({ pack, i }) => (
          <chakra.li
            key={`${pack.id}/${i.id}`}
            display="grid"
            gridTemplateColumns="30px minmax(0, 1fr) auto"
            alignItems="start"
            gap="12px"
            py="7px"
            borderBottomWidth="1px"
            borderColor="rule"
          >
            <VerdictMark verdict={i.verdict} />
            <div>
              <ItemWords item={i} />
              {i.failing && <chakra.p fontSize="15px">Fails with {sayState(harness, i.failing)}.</chakra.p>}
              {i.remedies.map((r) => (
                <chakra.p key={r} fontSize="15px">
                  {r}
                </chakra.p>
              ))}
              <chakra.p fontSize="14px" color="quiet">
                {pack.name}, {i.source}
              </chakra.p>
            </div>
            <chakra.div display="flex" gap="6px" alignItems="start">
              {i.failing && (
                <>
                  <Act minHeight="36px" onClick={() => show(i)}>
                    Set the switches so
                  </Act>
                  <Link to={`/orders/${order.id}/wire?${stateQuery(i.failing)}`}>
                    <chakra.span display="inline-flex" alignItems="center" minHeight="36px" px="10px" color="accent" fontWeight={600}>
                      On the schematic
                    </chakra.span>
                  </Link>
                </>
              )}
              <Answered item={i} />
            </chakra.div>
          </chakra.li>
        ))}
      </chakra.ul>
    </>
  );
}
