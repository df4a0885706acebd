import { chakra } from '@chakra-ui/react';
import { figure, showQuantity, showUnit } from '#core/quantity/quantity';
import { JOINT_WORD } from '#core/circuit/joint';
import { PROTECTION } from '#core/circuit/route';
import type { PlannedCircuit, Wiring } from '#core/wiring/planned';
import { awgName } from '#core/wire/resistance';
import { FUSE_WITHIN_MM, SUPPORT_MM } from '#core/wire-rules/fuse-place';
import { ISOLATION_FACT, ISOLATION_QUESTION, isHighVoltage, PACK_WORK_V } from '#core/wire-rules/high-volts';
import { useUnits } from '../../app/context';
import { Act, Sheet } from '../../app/ui';
import { MarginBar } from '../../marks/MarginBar';
import { Sum } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { FuseMark, WireSwatch } from '../../marks/WireSwatch';
import { useOrder } from '../useOrder';
import { Overrides } from './Overrides';
import { Schools } from './Schools';

/** Every circuit with its feed, wire, fuse and drop, each to be opened: its feeds ranked, the schools, and what the hand may change. */
export function Circuits({ open, onOpen }: { open: string | null; onOpen: (id: string | null) => void }) {
  const { assessment, order, sheets, record } = useOrder();
  const units = useUnits();
  const mm = (x: number) => showUnit(x, 'mm', units);
  const { circuits, assignment } = assessment.wiring;
  const letters = feedLetters(assessment.wiring);
  return (
    <>
      {isHighVoltage(sheets.model) && (
        <Sheet mb="10px" borderColor="fails">
          <chakra.p mb="8px">
            This pack stands above {PACK_WORK_V} V while it charges. Nothing is planned on it until a lead says: {ISOLATION_QUESTION}.
          </chakra.p>
          {order.status === 'open' && (
            <Act
              on={order.facts[ISOLATION_FACT] === true}
              aria-pressed={order.facts[ISOLATION_FACT] === true}
              onClick={() =>
                record({
                  type: 'fact.told',
                  key: ISOLATION_FACT,
                  value: order.facts[ISOLATION_FACT] !== true,
                  label: ISOLATION_QUESTION,
                })
              }
            >
              It is so
            </Act>
          )}
        </Sheet>
      )}
      <chakra.p color="quiet" fontSize="14px" mb="10px">
        {circuits.length === 1 ? 'Its feed is chosen' : `Feeds are chosen for all ${circuits.length} circuits together`}, by what each costs
        in length, relays and room.{' '}
        {assignment.optimal
          ? `Proved best for the whole: no other choice costs less than ${figure(assignment.cost, 3)}.`
          : `Best found costs ${figure(assignment.cost, 3)}; none can cost less than ${figure(assignment.bound, 3)}.`}{' '}
        <chakra.span whiteSpace="nowrap">Common practice, no source.</chakra.span>
      </chakra.p>
      <chakra.div display="grid" gap="8px">
        {circuits.map((c) => (
          <Row
            key={c.id}
            c={c}
            letter={c.feed ? letters.get(c.feed.id)! : '–'}
            open={open === c.id}
            onToggle={() => onOpen(open === c.id ? null : c.id)}
          />
        ))}
      </chakra.div>
      <chakra.p mt="16px" color="quiet" fontSize="14px">
        Fuse within {mm(FUSE_WITHIN_MM.plain)} of its source; sheathed, {mm(FUSE_WITHIN_MM.sheathedFromPost)} from a battery post or{' '}
        {mm(FUSE_WITHIN_MM.sheathedFromOther)} from elsewhere; support every {mm(SUPPORT_MM)} at most (ABYC E-11). Never across steering or
        brake parts.
      </chakra.p>
    </>
  );
}

/** Where a circuit’s wire comes from, in words. */
const WIRE_FROM = { box: 'from the box', shelf: 'off the shelf', both: 'box and shelf' } as const;

/** A letter for each point that feeds something, as it is marked on the drawing. */
export function feedLetters(w: Wiring): Map<string, string> {
  const used = [...new Set(w.circuits.flatMap((c) => c.feed?.id ?? []))];
  return new Map(used.map((id, i) => [id, String.fromCharCode(65 + i)]));
}

function Row({ c, letter, open, onToggle }: { c: PlannedCircuit; letter: string; open: boolean; onToggle: () => void }) {
  const units = useUnits();
  return (
    <Sheet p={0} borderColor={open ? 'accent' : 'rule'}>
      <chakra.button
        type="button"
        onClick={onToggle}
        aria-expanded={open}
        width="100%"
        textAlign="left"
        cursor="pointer"
        p="12px 16px"
        display="grid"
        gridTemplateColumns="28px minmax(150px, 1.3fr) minmax(150px, 1.3fr) 96px 136px minmax(110px, 1fr)"
        gap="4px 12px"
        alignItems="center"
      >
        <VerdictMark verdict={c.verdict} />
        <chakra.span minW={0}>
          <chakra.b display="block">{c.circuit.name}</chakra.b>
          <WireSwatch colour={c.circuit.colour} />
        </chakra.span>
        <chakra.span minW={0}>
          <chakra.span display="block">
            <chakra.b color="accent">{letter}</chakra.b> {c.feed?.name ?? 'no feed'}
          </chakra.span>
          <chakra.span color="quiet" fontSize="14px">
            {c.mode === 'relay'
              ? c.circuit.makes
                ? `woken by the ${c.trigger?.name ?? 'key wire'}`
                : `${c.contactor && c.contactor.id !== 'relay-12' ? c.contactor.name : 'relay'}, triggered by ${c.trigger?.name ?? 'a keyed wire'}`
              : c.circuit.taps
                ? `joined, ${JOINT_WORD[c.joint]}`
                : c.feed?.switching === 'keyed'
                  ? 'keyed, direct'
                  : c.mode === 'plug'
                    ? 'constant, plug to pull'
                    : 'constant, direct'}
          </chakra.span>
        </chakra.span>
        <chakra.span fontFamily="mono">
          {c.awg === null ? '?' : `${awgName(c.awg)} AWG`}
          <chakra.span display="block" fontSize="14px" color="quiet">
            {c.lengthM === null ? (c.load.peakA === 0 ? '' : '? long') : showQuantity(c.lengthM, 'length', units)}
          </chakra.span>
          <chakra.span display="block" fontSize="14px" fontFamily="body" color="quiet">
            {WIRE_FROM[c.wireFrom]}
          </chakra.span>
        </chakra.span>
        {c.guardedBy ? (
          <chakra.span fontSize="14px">guarded there</chakra.span>
        ) : c.fuseA === null ? (
          <span>? fuse</span>
        ) : (
          <span>
            <FuseMark ratingA={c.fuseA} colour={c.fuseColour!} volts={c.fuseKind?.ratedV ?? null} />
            {c.fuseFrom === 'box' && (
              <chakra.span display="block" fontSize="14px" color="quiet">
                in its own lead
              </chakra.span>
            )}
          </span>
        )}
        {c.dropPct === null && c.load.peakA === 0 ? (
          <chakra.span fontSize="14px">carries nothing here</chakra.span>
        ) : (
          <MarginBar
            margin={{ used: c.dropPct, limit: c.circuit.dropPct, unit: '%' }}
            show={(x) => figure(x, 2)}
            verdict={c.dropPct === null ? 'unknown' : c.dropPct > c.circuit.dropPct ? 'fails' : 'holds'}
            label={`Voltage drop of ${c.circuit.name}`}
          />
        )}
        {c.problems.length > 0 && (
          <chakra.span gridColumn="2 / -1" color={c.verdict === 'fails' ? 'fails' : 'tightText'}>
            {c.problems.join('; ')}
          </chakra.span>
        )}
      </chakra.button>
      {open && (
        <chakra.div
          px="16px"
          pb="16px"
          borderTopWidth="1px"
          borderColor="rule"
          display="grid"
          gridTemplateColumns="repeat(auto-fit, minmax(320px, 1fr))"
          gap="16px 24px"
        >
          <div>
            <Overrides c={c} />
          </div>
          <div>
            <chakra.h3 fontSize="16px" mt="12px" mb="6px">
              {c.candidates.length ? 'Feeds, best first' : `Joined to the ${c.feed?.name ?? 'wire that nothing here has'}`}
            </chakra.h3>
            <chakra.ul listStyleType="none" p={0}>
              {c.candidates.map((k) => (
                <chakra.li key={k.point.id} display="flex" gap="10px" py="6px" borderTopWidth="1px" borderColor="rule">
                  <VerdictMark verdict={k.accepted ? 'holds' : 'fails'} size={18} />
                  <span>
                    <b>{k.point.name}</b>: {k.reason}
                    {k.accepted && k.distanceM !== null && `; ${showQuantity(k.distanceM, 'length', units)}`}
                  </span>
                </chakra.li>
              ))}
            </chakra.ul>
            {c.route && c.route.hazards.length > 0 && (
              <chakra.p mt="8px">
                <b>On its way:</b> {c.route.hazards.map((h) => `${h}: ${PROTECTION[h]}`).join('; ')}.
              </chakra.p>
            )}
            {c.crimp && c.wireFrom !== 'box' && (
              <chakra.p mt="8px">Each crimp must hold {showQuantity(c.crimp.newtons, 'force', units)} for a minute.</chakra.p>
            )}
            <Schools c={c} />
            <Sum lines={c.sum} />
          </div>
        </chakra.div>
      )}
    </Sheet>
  );
}
