import { chakra } from '@chakra-ui/react';
import { sayState, type Finding, type FindingKind, type Scan } from '#core/harness/scan';
import type { Harness } from '#model/harness';
import type { Verdict } from '#model/common';
import { Act } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { H3 } from '../Station';

const WORD: Record<FindingKind, string> = {
  blown: 'Fuse opens',
  overload: 'Wire beyond what it may carry',
  short: 'Short',
  'low-volts': 'Too few volts',
  'back-feed': 'Back-feed',
  alive: 'Alive with the key off',
  chatter: 'Relay chatters',
  'at-limit': 'Supply at its limit',
  contact: 'Contact beyond its rating',
  'battery-loop': 'Loop of batteries',
  'no-answer': 'No steady state',
};
const GRADE: Partial<Record<FindingKind, Verdict>> = { 'low-volts': 'tight', 'at-limit': 'tight' };

/** What is wrong in any state of the switches, with a way to see each. */
export function Checks({
  harness,
  scan,
  faulty,
  onShow,
}: {
  harness: Harness;
  scan: Scan | string | null;
  faulty: boolean;
  onShow: (f: Finding) => void;
}) {
  return (
    <chakra.section aria-label="Checks">
      {harness.problems.length > 0 && (
        <>
          <H3 mt="4px">Not joined as it should be</H3>
          {harness.problems.map((p) => (
            <chakra.p key={p.text} display="flex" gap="10px" py="6px" borderTopWidth="1px" borderColor="rule">
              <VerdictMark verdict="fails" size={20} /> {p.text}
            </chakra.p>
          ))}
        </>
      )}
      <H3 mt="4px">Every state of key and switches</H3>
      {scan === null ? (
        <chakra.p color="quiet" role="status">
          Trying every state …
        </chakra.p>
      ) : typeof scan === 'string' ? (
        <chakra.p color="fails" role="alert">
          {scan}
        </chakra.p>
      ) : (
        <>
          <chakra.p color="quiet" mb="8px" role="status">
            {scan.complete
              ? `All ${scan.states} reachable states tried: key, engine, every switch, both beats of a flasher.`
              : `${scan.states} of ${scan.of} reachable states tried, spread evenly; the rest is not proved.`}
            {faulty && ' With the faults that are put in.'}
          </chakra.p>
          {!scan.findings.length && (
            <chakra.p display="flex" gap="10px" alignItems="center">
              <VerdictMark verdict="holds" size={24} /> No fuse opens, no wire is overloaded, nothing is fed backwards, nothing keyed lives
              with the key off.
            </chakra.p>
          )}
          {scan.findings.map((f) => (
            <chakra.div
              key={`${f.kind} ${f.at}`}
              display="grid"
              gridTemplateColumns="24px minmax(0, 1fr) auto"
              gap="10px"
              alignItems="center"
              py="8px"
              borderTopWidth="1px"
              borderColor="rule"
            >
              <VerdictMark verdict={GRADE[f.kind] ?? 'fails'} size={22} />
              <div>
                <b>{WORD[f.kind]}.</b> {f.text}.
                <chakra.span display="block" color="quiet" fontSize="14px">
                  Worst with {sayState(harness, f.state)}; in {f.states} {f.states === 1 ? 'state' : 'states'}.
                </chakra.span>
              </div>
              <Act onClick={() => onShow(f)}>Show it</Act>
            </chakra.div>
          ))}
        </>
      )}
      <chakra.p mt="16px" color="quiet" fontSize="14px">
        A model is no meter: prove it dead before touching it, and the local code and a licensed electrician have the last word.
      </chakra.p>
    </chakra.section>
  );
}
