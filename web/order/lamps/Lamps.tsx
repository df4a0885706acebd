import { chakra } from '@chakra-ui/react';
import type { Verdict } from '#model/common';
import { LOCAL_CODE, type LampItem } from '#core/lighting/check';
import { showQuantity } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { Act } from '../../app/ui';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { VERDICT_COLOUR, VerdictMark } from '../../marks/VerdictMark';
import { Sum } from '../../marks/SumLines';
import { Answer, H3 } from '../Station';
import { useOrder } from '../useOrder';

export function Lamps() {
  const { sheets, assessment } = useOrder();
  const { lamps } = assessment;
  const items = lamps.packs.flatMap((p) => p.items);
  const marks = new Map<string, PlaceMark>();
  for (const i of items)
    for (const h of i.have) {
      if (!h.place) continue;
      const had = marks.get(h.place.id);
      const worse = !had || RANK[i.verdict] < RANK[had.tone as Verdict];
      marks.set(h.place.id, {
        place: h.place.id,
        tone: worse ? i.verdict : had.tone,
        title: `${had ? `${had.title}; ` : ''}${h.name}: ${i.says}`,
      });
    }
  const open = items.filter((i) => i.verdict !== 'holds');
  const missing = open.filter((i) => i.verdict === 'fails');
  return (
    <>
      <Answer verdict={lamps.required ? lamps.verdict : null} drawing={<UnitDrawing model={sheets.model} marks={[...marks.values()]} />}>
        {!lamps.required
          ? `No rule pack applies to the ${sheets.model.name}.`
          : open.length === 0
            ? `All ${lamps.required} items are met.`
            : `${lamps.met} of ${lamps.required} met${
                missing.length
                  ? `; missing or wrong: ${missing
                      .map((m) => m.rule.title.toLowerCase())
                      .slice(0, 3)
                      .join(', ')}${missing.length > 3 ? ` and ${missing.length - 3} more` : ''}`
                  : ''
              }${open.length > missing.length ? `; ${open.length - missing.length} not known` : ''}.`}
      </Answer>
      {lamps.packs.map(({ pack, items: list }) => (
        <chakra.section key={pack.id}>
          <H3 mb="2px">{pack.name}</H3>
          <chakra.p color="quiet" fontSize="14px" mb="8px">
            {pack.place}. {pack.edition}.
          </chakra.p>
          <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
            {[...list]
              .sort((a, b) => order(a) - order(b))
              .map((i) => (
                <Row key={i.id} item={i} />
              ))}
          </chakra.ul>
          <chakra.p mt="10px" fontWeight={600}>
            {pack.caution} {LOCAL_CODE}
          </chakra.p>
        </chakra.section>
      ))}
      {!lamps.packs.length && <chakra.p>{LOCAL_CODE}</chakra.p>}
    </>
  );
}

const RANK = { fails: 0, unknown: 1, tight: 2, holds: 3 };
const order = (i: LampItem) => RANK[i.verdict];

function Row({ item }: { item: LampItem }) {
  const { record, order: o } = useOrder();
  const units = useUnits();
  const { rule } = item;
  const tell = (value: boolean) => record({ type: 'fact.told', key: item.asks!.key, value, label: rule.title });
  const told = item.asks ? o.facts[item.asks.key] : undefined;
  const height =
    rule.kind === 'equipment' && rule.heightMm
      ? `${showQuantity(rule.heightMm.min, 'smallLength', units)} to ${showQuantity(rule.heightMm.max, 'smallLength', units)} from the ground`
      : null;
  return (
    <chakra.li
      display="grid"
      gridTemplateColumns="30px minmax(0, 1fr) auto"
      gap="12px"
      py="8px"
      borderBottomWidth="1px"
      borderColor="rule"
      alignItems="start"
    >
      <VerdictMark verdict={item.verdict} />
      <div>
        <p>
          <b>{rule.title}</b>: <chakra.span color={VERDICT_COLOUR[item.verdict]}>{item.says}</chakra.span>
        </p>
        <chakra.p color="quiet" fontSize="14px">
          {rule.source}
          {height && `; ${height}`}
          {item.margin?.used !== null && item.margin?.unit === 'mm' && `; at ${showQuantity(item.margin.used, 'smallLength', units)}`}
        </chakra.p>
        {item.sum.length > 1 && <Sum lines={item.sum} />}
      </div>
      {item.asks && o.status === 'open' && (
        <chakra.div display="flex" gap="6px" role="group" aria-label={item.asks.question}>
          <Act on={told === true} aria-pressed={told === true} onClick={() => tell(true)}>
            {rule.kind === 'proof' ? 'Proved' : 'It is there'}
          </Act>
          <Act on={told === false} aria-pressed={told === false} onClick={() => tell(false)}>
            {rule.kind === 'proof' ? 'Failed' : 'Not there'}
          </Act>
        </chakra.div>
      )}
    </chakra.li>
  );
}
