import { chakra } from '@chakra-ui/react';
import { useUnits } from '../../app/context';
import { sayInUnits } from '#core/quantity/quantity';
import { useQuery } from '@tanstack/react-query';
import { Check, Plus } from 'lucide-react';
import { useState } from 'react';
import { restsOnAssumed } from '#core/known/pointer';
import { fitRule, mayFit, unanswered } from '#core/order/fit';
import { OWN_KIT } from '#model/own';
import { WISHES } from '#model/wish';
import { ofBuild } from '#core/order/earlier-findings';
import type { KitFit } from '#core/order/fit';
import { offered, queries } from '../../app/api';
import { Act, Entry, Sheet } from '../../app/ui';
import { Later } from '../../app/Later';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { VerdictMark } from '../../marks/VerdictMark';
import { Answer, H3 } from '../Station';
import { EarlierFindings } from '../EarlierFindings';
import { Rests } from '../known/Rests';
import { useOrder } from '../useOrder';
import { sayLeads } from '#core/wiring/box-work';
import { BoxLeads } from './BoxLeads';
import { Jobs } from './Jobs';
import { OwnParts } from './OwnParts';
import { Variants } from './Variants';

export function Fit() {
  const { order, sheets, assessment, ask, findings } = useOrder();
  const units = useUnits();
  const all = useQuery(queries.sheets).data;
  const [busy, setBusy] = useState('');
  const sealed = order.status !== 'open';
  const { fit } = assessment;
  const here = ofBuild(findings, order.unit.build);
  const marks: PlaceMark[] = fit.kits.flatMap((f, i) =>
    [...new Set(f.kit.devices.map((d) => d.place))].map((place) => ({
      place,
      text: String(i + 1),
      tone: f.verdict,
      title: `${f.kit.name}: ${sayInUnits(f.says, units)}`,
    })),
  );
  const add = async (kit: string) => {
    setBusy(kit);
    await ask({ type: 'kit.added', kit });
    setBusy('');
  };
  const others = offered(all?.kits)
    .filter((k) => !order.kits.some((o) => o.kit.id === k.ref.id))
    .map((k) => ({ ...k, rule: fitRule(k.sheet, sheets.model, order.unit.year, order.unit.build) }));
  // what answers a wish that is still open comes first
  const open = unanswered(order.wishes, sheets.kits);
  const answers = (k: (typeof others)[number]) => open.filter((w) => k.sheet.wishes.includes(w));
  const fitting = others
    .filter((k) => mayFit(k.sheet, sheets.model, order.unit.year, order.unit.build))
    .sort((a, b) => answers(b).length - answers(a).length);
  const hopeless = open.filter((w) => !fitting.some((k) => k.sheet.wishes.includes(w)));
  const name = (id: string) => all?.kits.find((k) => k.ref.id === id)?.sheet.name ?? id;
  const bad = fit.kits.filter((f) => f.verdict !== 'holds');
  return (
    <>
      <Answer verdict={fit.kits.length ? fit.verdict : null} drawing={<UnitDrawing model={sheets.model} marks={marks} />}>
        {!fit.kits.length
          ? order.jobs?.length
            ? `No kit: ${order.jobs.map((j) => j.title).join('; ')}.`
            : 'No kit chosen yet.'
          : bad.length
            ? `${bad[0]!.kit.name}: ${sayInUnits(bad[0]!.says, units)}.`
            : fit.kits.length === 1
              ? `${fit.kits[0]!.kit.name} belongs on this build.`
              : `All ${fit.kits.length} kits belong on this build.`}
      </Answer>
      <Rests />
      <Later>
        {here.length > 0 && (
          <Sheet mb="12px" borderColor="tight">
            <chakra.h3 fontSize="16px" mb="4px">
              Found on earlier units of this model
            </chakra.h3>
            <EarlierFindings findings={[...here].sort((a, b) => Number(!!a.outdated) - Number(!!b.outdated)).slice(0, 4)} />
          </Sheet>
        )}
        <chakra.div display="grid" gap="12px">
          {fit.kits.map((f, i) => (
            <KitRow
              key={f.kit.id}
              f={f}
              index={i + 1}
              sealed={sealed}
              name={name}
              can={(id) => fitting.some((k) => k.ref.id === id)}
              onAdd={add}
            />
          ))}
        </chakra.div>
        <Jobs />
        <OwnParts />
        {!sealed && (
          <>
            <H3>{restsOnAssumed(sheets.model) ? 'Kits that find their places on it' : 'Kits that fit this build'}</H3>
            {all && hopeless.length > 0 && (
              <chakra.p mb="6px" color="tightText">
                Wished for, and no kit here does it: {hopeless.map((w) => WISHES[w].toLowerCase()).join('; ')}.
              </chakra.p>
            )}
            <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
              {fitting.map((k) => (
                <chakra.li key={k.ref.id} display="flex" alignItems="center" gap="12px" py="8px" borderBottomWidth="1px" borderColor="rule">
                  <chakra.span flex="1">
                    <b>{k.sheet.name}</b>{' '}
                    {answers(k).length > 0 && (
                      <chakra.span fontWeight={600} color="accent">
                        {answers(k)
                          .map((w) => WISHES[w])
                          .join('; ')}
                        .{' '}
                      </chakra.span>
                    )}
                    <chakra.span color="quiet">
                      {k.sheet.maker}. {k.sheet.summary} {k.rule?.note ?? ''}
                    </chakra.span>
                  </chakra.span>
                  <Act disabled={busy === k.ref.id} onClick={() => void add(k.ref.id)} aria-label={`Add ${k.sheet.name}`}>
                    <Plus size={18} aria-hidden /> Add
                  </Act>
                </chakra.li>
              ))}
            </chakra.ul>
            <chakra.details mt="12px">
              <chakra.summary cursor="pointer" color="accent" py="8px">
                {others.length - fitting.length} kits do not fit, and why
              </chakra.summary>
              {others
                .filter((k) => !k.rule?.fits)
                .map((k) => (
                  <chakra.p key={k.ref.id} py="4px">
                    <b>{k.sheet.name}</b>:{' '}
                    {k.rule?.note ?? `its maker lists no fit for ${sheets.model.name}, ${order.unit.year}, this build`}
                  </chakra.p>
                ))}
            </chakra.details>
          </>
        )}
      </Later>
    </>
  );
}

function KitRow({
  f,
  index,
  sealed,
  name,
  can,
  onAdd,
}: {
  f: KitFit;
  index: number;
  sealed: boolean;
  name: (id: string) => string;
  can: (id: string) => boolean;
  onAdd: (id: string) => Promise<void>;
}) {
  const { record } = useOrder();
  const units = useUnits();
  const count = (item: number, n: number) => record({ type: 'box.counted', kit: f.kit.id, item, count: n });
  const { besides, left } = f;
  const open = f.box.filter((b) => b.counted === null).length;
  const short = f.box.filter((b) => b.counted !== null && b.counted < b.need).length;
  return (
    <Sheet>
      <chakra.div display="flex" gap="12px" alignItems="flex-start">
        <VerdictMark verdict={f.verdict} size={26} />
        <chakra.div flex="1" minW={0}>
          <chakra.h3 fontSize="17px">
            {index} · {f.kit.name}{' '}
            <chakra.span color="quiet" fontWeight={400}>
              {f.kit.maker}
            </chakra.span>
          </chakra.h3>
          <p>{sayInUnits(f.says, units)}</p>
          {f.rule?.mount && <chakra.p color="quiet">Mount: {sayInUnits(f.rule.mount, units)}</chakra.p>}
          {!sealed &&
            f.needs
              .flatMap((n) => n.anyOf)
              .filter(can)
              .map((id) => (
                <Act key={id} mt="6px" mr="8px" look="main" onClick={() => void onAdd(id)}>
                  <Plus size={18} aria-hidden /> Add {name(id)}
                </Act>
              ))}
          <Variants kit={f.kit} sealed={sealed} />
        </chakra.div>
        {!sealed && f.kit.id !== OWN_KIT && (
          <Act look="quiet" onClick={() => record({ type: 'kit.removed', kit: f.kit.id })} aria-label={`Take off ${f.kit.name}`}>
            Take off
          </Act>
        )}
      </chakra.div>
      {f.kit.id !== OWN_KIT && (
        <chakra.details mt="8px" open={open > 0 || short > 0 ? undefined : false}>
          <chakra.summary cursor="pointer" color="accent" py="8px" fontWeight={600}>
            In the box: {open ? `${open} of ${f.box.length} still to count` : short ? `${short} short` : 'all there'}
          </chakra.summary>
          <chakra.div display="flex" gap="8px" mb="6px">
            {open > 0 && !sealed && (
              <Act onClick={() => f.box.forEach((b) => b.counted === null && count(b.at, b.need))}>
                <Check size={18} aria-hidden /> The rest is all there
              </Act>
            )}
          </chakra.div>
          <chakra.ul listStyleType="none" p={0} display="grid" gridTemplateColumns="repeat(auto-fill, minmax(260px, 1fr))" gap="4px 16px">
            {f.box.map((b) => {
              const good = b.counted !== null && b.counted >= b.need;
              return (
                <chakra.li key={b.at} display="flex" alignItems="center" gap="8px">
                  <Act
                    on={good}
                    disabled={sealed}
                    aria-pressed={good}
                    minHeight="48px"
                    flex="1"
                    minW={0}
                    justifyContent="flex-start"
                    textAlign="left"
                    whiteSpace="normal"
                    lineHeight="1.2"
                    onClick={() => count(b.at, good ? 0 : b.need)}
                  >
                    <chakra.span fontFamily="mono">{b.need} ×</chakra.span> {b.item}
                  </Act>
                  <Entry
                    width="56px"
                    minHeight="48px"
                    textAlign="center"
                    inputMode="numeric"
                    aria-label={`Counted of ${b.item}`}
                    defaultValue={b.counted ?? ''}
                    key={b.counted ?? 'none'}
                    disabled={sealed}
                    placeholder="–"
                    fontFamily="mono"
                    onBlur={(e) => {
                      const t = e.target.value.trim();
                      const n = Number(t);
                      if (t !== '' && Number.isInteger(n) && n >= 0 && n <= 999 && n !== b.counted) count(b.at, n);
                      else e.target.value = b.counted === null ? '' : String(b.counted);
                    }}
                  />
                </chakra.li>
              );
            })}
          </chakra.ul>
          {besides.length > 0 && (
            <chakra.p mt="6px">
              <b>Not in the box, and wanted:</b> {besides.join(', ')}.
            </chakra.p>
          )}
          {left.length > 0 && (
            <chakra.p mt="6px" color="quiet">
              Left over as chosen: {left.join(', ')}.
            </chakra.p>
          )}
        </chakra.details>
      )}
      {f.ends.length > 0 && (
        <chakra.details mt="2px">
          <chakra.summary cursor="pointer" color="accent" py="8px" fontWeight={600}>
            What goes where: {sayLeads(f.ends)}
          </chakra.summary>
          <BoxLeads f={f} sealed={sealed} />
        </chakra.details>
      )}
    </Sheet>
  );
}
