import { chakra } from '@chakra-ui/react';
import { figure } from '#core/quantity/quantity';
import type { DayResult } from '#core/energy/day';
import type { PowerSystem } from '#core/energy/system';
import { doubtsOf } from '#core/energy/chance';
import { Act } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { ShareBar } from '../../marks/ShareBar';
import { H3 } from '../Station';
import { Table } from '../../sheets/Table';
import { useOrder } from '../useOrder';
import { MANY, type ChanceState } from './usePowerWork';

const pct = (x: number) => (x === 0 || x === 1 ? `${x * 100} %` : x < 0.1 ? `${(x * 100).toFixed(2)} %` : `${(x * 100).toFixed(1)} %`);

/** The chance that a day ends without a start, with how sure that is, and which guess it hangs on. */
export function Chances({
  state,
  result,
  system,
  ageKnown,
}: {
  state: ChanceState;
  result: DayResult;
  system: PowerSystem;
  ageKnown: boolean;
}) {
  const { settings } = useOrder();
  const { units } = settings;
  const { chance, progress } = state;
  if (result.verdict === 'unknown') return <p>Not known: {result.says}. Tell the figure above, or a band, and the days are simulated.</p>;
  const doubts = doubtsOf(system, ageKnown);
  const share = chance?.fails.share ?? 0;
  const verdict = !chance
    ? null
    : share * 100 > settings.noStartFailPct
      ? 'fails'
      : share * 100 > settings.noStartTightPct
        ? 'tight'
        : 'holds';
  const what = system.starter
    ? 'do not start, or go flat,'
    : `fall under the ${Math.round(settings.packReserveSoc * 100)} % that the pack should keep`;
  const limit = (d: (typeof doubts)[number], x: number) =>
    d.key === 'startSoc'
      ? `${x > 0 ? '+' : '−'}${Math.abs(Math.round(x * 100))} points`
      : d.key === 'tempC'
        ? `${x > 0 ? '+' : '−'}${units === 'imperial' ? `${figure(Math.abs(x) * 1.8, 3)} °F` : `${Math.abs(x)} °C`}`
        : d.key === 'band'
          ? x === 0
            ? 'its low end'
            : 'its high end'
          : `× ${x}`;
  return (
    <>
      <chakra.div display="flex" alignItems="center" gap="12px" mb="6px">
        <VerdictMark verdict={verdict} size={26} />
        <chakra.p fontSize="18px" fontWeight={700}>
          {chance ? `${pct(share)} of such days ${what} by the next morning` : 'Days are being simulated …'}
        </chakra.p>
      </chakra.div>
      {chance && (
        <p>
          Between {pct(chance.fails.low)} and {pct(chance.fails.high)}, 19 times of 20, from {chance.days.toLocaleString('en-US')} simulated
          days of “{result.day.name}” with every guess drawn anew. Tight above {settings.noStartTightPct} %, fails above{' '}
          {settings.noStartFailPct} %.
        </p>
      )}
      <chakra.div display="flex" alignItems="center" gap="12px" my="10px" minH="40px">
        {progress ? (
          <>
            <chakra.progress
              value={progress.done}
              max={progress.of}
              width="260px"
              height="14px"
              style={{ accentColor: 'var(--chakra-colors-accent)' }}
              aria-label="Days simulated"
            />
            <chakra.span fontFamily="mono">
              {progress.done.toLocaleString('en-US')} of {progress.of.toLocaleString('en-US')}
            </chakra.span>
            <Act onClick={state.cancel}>Cancel</Act>
          </>
        ) : (
          <Act look={chance && chance.days < MANY ? 'main' : 'plain'} onClick={state.runMany}>
            Simulate {MANY.toLocaleString('en-US')} days
          </Act>
        )}
      </chakra.div>
      <H3>What is guessed, and which guess matters most</H3>
      <Table
        heads={['guess', 'from', 'to', 'explains of the outcome']}
        num={[1, 2]}
        rows={(chance ? chance.matters.map((m) => doubts.find((d) => d.key === m.key)!).filter(Boolean) : doubts).map((d) => {
          const x = chance?.matters.find((m) => m.key === d.key)?.share;
          return [d.name, limit(d, d.low), limit(d, d.high), x === undefined ? '…' : <ShareBar share={x} width="140px" />];
        })}
      />
      <chakra.p mt="8px" color="quiet" fontSize="14px">
        How far each may be off is common practice, no source. Measuring the one at the top narrows the answer most.
      </chakra.p>
    </>
  );
}
