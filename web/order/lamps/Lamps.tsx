import { chakra } from '@chakra-ui/react';
import { useSearchParams } from 'react-router';
import { LOCAL_CODE } from '#core/lighting/check';
import { sayInUnits } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { Answer } from '../Station';
import { Tabs } from '../Tabs';
import { Later } from '../../app/Later';
import { Rests } from '../known/Rests';
import { useOrder } from '../useOrder';
import { Aim } from './Aim';
import { Flash } from './Flash';
import { FromAbove } from './FromAbove';
import { Holes } from './Holes';
import { Packs } from './Packs';
import { Place } from './Place';
import { Switching } from './Switching';
import { Weight } from './Weight';

const TABS = [
  ['place', 'Places'],
  ['above', 'From above'],
  ['switching', 'Switching'],
  ['holes', 'Holes'],
  ['packs', 'Rule packs'],
  ['flash', 'Flash rate'],
  ['aim', 'Aim'],
  ['weight', 'Weight'],
] as const;
type Tab = (typeof TABS)[number][0];
const NAVIGATION = /^(sidelight|masthead|stern|all-round)/;

/** Whether every lamp is there, in its place, bright and quick enough, and switched as it must be. */
export function Lamps() {
  const { assessment } = useOrder();
  const { lamps } = assessment;
  const units = useUnits();
  const [params, setParams] = useSearchParams();
  const afloat = lamps.unit.kind === 'boat' || lamps.lamps.some((l) => NAVIGATION.test(l.function));
  const signals = lamps.flasher !== null || lamps.lamps.some((l) => l.function.startsWith('turn-'));
  const tabs = TABS.filter(([t]) => (t !== 'above' || afloat) && (t !== 'flash' || signals));
  const tab: Tab = tabs.find(([t]) => t === params.get('show'))?.[0] ?? 'place';
  const show = (t: Tab) => setParams(t === 'place' ? {} : { show: t }, { replace: true });
  const items = lamps.packs.flatMap((p) => p.items);
  const failing = items.filter((i) => i.verdict === 'fails');
  const unknown = items.filter((i) => i.verdict === 'unknown');
  const asks = lamps.proposals.filter((p) => p.asks && !p.chosen);
  const logic = failing.filter((i) => i.rule?.kind === 'logic').length;
  return (
    <>
      <Answer verdict={lamps.required ? lamps.verdict : null}>
        {!lamps.packs.length
          ? `No rule pack is chosen for this unit${asks.length ? `; one waits for a fact: ${asks[0]!.asks!.question}` : ''}.`
          : failing.length
            ? `${failing[0]!.title}: ${sayInUnits(failing[0]!.says, units)}${failing.length > 1 ? `; ${failing.length - 1} more to put right` : ''}. ${lamps.met} of ${lamps.required} met.`
            : unknown.length
              ? `${lamps.met} of ${lamps.required} met, none fails; ${unknown.length} still to be proved.`
              : `All ${lamps.required} items are met.`}
      </Answer>
      <Rests station="lamps" />
      <Tabs
        label="What to see of the lamps"
        tabs={tabs}
        on={tab}
        onShow={show}
        mark={{ switching: logic > 0 && logic, packs: asks.length > 0 && '?' }}
      />
      <Later>
        {tab === 'place' && <Place />}
        {tab === 'above' && <FromAbove />}
        {tab === 'switching' && <Switching />}
        {tab === 'flash' && <Flash />}
        {tab === 'aim' && <Aim />}
        {tab === 'holes' && <Holes />}
        {tab === 'weight' && <Weight />}
        {tab === 'packs' && <Packs />}
      </Later>
      <chakra.p mt="14px" fontWeight={600} fontSize="15px">
        {[...new Set(lamps.packs.map((p) => p.pack.caution))].join(' ')} {LOCAL_CODE}
      </chakra.p>
    </>
  );
}
