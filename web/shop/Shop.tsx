import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { NavLink, useParams } from 'react-router';
import { may, whoMay } from '#core/people/permissions';
import { INSULATIONS } from '#core/wire-rules/tables';
import { queries } from '../app/api';
import { usePerson } from '../app/context';
import { H3 } from '../order/Station';
import { Account } from './Account';
import { Charges } from './Charges';
import { Group } from './Group';
import { Messages } from './Messages';
import { Month } from './Month';
import { PriceBook } from './PriceBook';
import { People } from './People';
import { ChoiceSetting, FigureSetting, WordSetting } from './Setting';
import { Stock } from './Stock';
import { System } from './System';
import { FIGURE_SUBJECTS, PROMISE_CHANCE } from './subjects';
import { WeekSettings } from './WeekSettings';

const SUBJECTS = [
  ['house', 'The shop', 'Its name, its units and its clocks.'],
  ['account', 'My account', 'How you sign in, and where you are signed in.'],
  ['people', 'People', 'Who works here and may do what.'],
  ['week', 'Week', 'When the shop is open, where units stand, and who works on what. The Floor and every promised day follow from it.'],
  ['month', 'Month', 'What a period came to, from the record. Each figure opens the orders it is made of.'],
  ['group', 'All shops', 'What a period came to in every shop of the group. Each shop opens its own month.'],
  ...FIGURE_SUBJECTS.map((s) => [s.id, s.name, s.says] as const),
  ['messages', 'Messages', 'What owners of units are told without being called, in the words of the shop.'],
  ['wire', 'Wire', 'The wire that is cut here, and how it may be guarded.'],
  ['stock', 'Stock', 'Spools and offcuts, from which the cut list of each unit is laid out with the least waste.'],
  ['system', 'System', 'How the machines that hold the shop’s record do.'],
] as const;

const OF_NO_SETTINGS = new Set<string>(['account', 'people', 'month', 'group', 'system']);

const SubjectLink = chakra(NavLink, {
  base: {
    display: 'flex',
    alignItems: 'center',
    minHeight: '44px',
    px: '12px',
    borderRadius: 'kadro',
    '&.active': { bg: 'accentWash', fontWeight: 700 },
    _hover: { bg: 'raised' },
  },
});

const ZONES: readonly (readonly [string, string])[] = ['UTC', ...Intl.supportedValuesOf('timeZone').filter((z) => z !== 'UTC')].map((z) => [
  z,
  z,
]);

/** What a shop decides for itself, by subject; each line is kept where it is changed. */
export function Shop() {
  const subject = useParams().subject ?? 'house';
  const person = usePerson();
  const locked = !may(person.role, 'settings.change');
  const owns = (useQuery(queries.groups).data ?? []).length > 0;
  const [, name, says] = SUBJECTS.find(([id]) => id === subject) ?? SUBJECTS[0];
  const figures = FIGURE_SUBJECTS.find((s) => s.id === subject);
  return (
    <chakra.main height="100%" overflow="hidden" display="grid" gridTemplateColumns="180px minmax(0, 1fr)">
      <chakra.nav aria-label="Subjects" p="20px 8px 20px 16px" borderRightWidth="1px" borderColor="rule" overflowY="auto">
        <chakra.h1 fontSize="26px" mb="10px" px="12px">
          Shop
        </chakra.h1>
        {SUBJECTS.filter(([id]) => (id !== 'system' || may(person.role, 'system.see')) && (id !== 'group' || owns)).map(([id, word]) => (
          <SubjectLink key={id} to={`/shop/${id}`} className={id === subject ? 'active' : undefined}>
            {word}
          </SubjectLink>
        ))}
      </chakra.nav>
      <chakra.div overflowY="auto" p="20px 24px 60px" key={subject} tabIndex={0}>
        <chakra.h2 fontSize="22px">{name}</chakra.h2>
        <chakra.p color="quiet" mb="12px">
          {says}
          {locked && !OF_NO_SETTINGS.has(subject) && ` ${whoMay('settings.change')}`}
        </chakra.p>
        <chakra.div maxW="900px">
          {subject === 'account' && <Account />}
          {subject === 'people' && <People mayChange={may(person.role, 'people.change')} />}
          {subject === 'week' && (
            <>
              <FigureSetting of={PROMISE_CHANCE} locked={locked} />
              <WeekSettings locked={locked} />
            </>
          )}
          {subject === 'month' && <Month />}
          {subject === 'group' && <Group />}
          {subject === 'system' && (may(person.role, 'system.see') ? <System /> : <p>{whoMay('system.see')}</p>)}
          {subject === 'messages' && <Messages locked={locked} />}
          {subject === 'stock' && <Stock locked={locked} />}
          {subject === 'house' && (
            <>
              <WordSetting field="shop" label="Name" does="stands on paper" locked={locked} />
              <ChoiceSetting
                field="units"
                label="Units"
                does="of everything that is shown and printed; either may be typed"
                locked={locked}
                options={[
                  ['imperial', 'imperial (ft, in, lbf, mi, °F)'],
                  ['metric', 'metric (m, mm, N, km, °C)'],
                ]}
              />
              <ChoiceSetting field="timeZone" label="Clocks" does="times on paper are told by them" locked={locked} options={ZONES} />
            </>
          )}
          {figures?.groups.map((g) => (
            <chakra.section key={g.title} mb="18px">
              {figures.groups.length > 1 && <H3>{g.title}</H3>}
              {subject === 'prices' && (
                <WordSetting
                  field="currency"
                  label="Money"
                  does="its code in ISO 4217, such as EUR; quotes refuse any other"
                  locked={locked}
                />
              )}
              {g.fields.map((f) => (
                <FigureSetting key={f.field} of={f} locked={locked} />
              ))}
              {subject === 'rules' && g === figures.groups[0] && (
                <ChoiceSetting
                  field="steadyMustCarry"
                  label="A shortage"
                  does="with everything on, that the owner’s day makes up again. Usually Tight."
                  locked={locked}
                  options={[
                    [false, 'is Tight'],
                    [true, 'fails all the same'],
                  ]}
                />
              )}
            </chakra.section>
          ))}
          {subject === 'prices' && (
            <>
              <PriceBook locked={locked} />
              <Charges locked={locked} />
            </>
          )}
          {subject === 'wire' && (
            <>
              <ChoiceSetting
                field="wireInsulationC"
                label="Insulation"
                does="class of the wire cut here: what it may carry follows. Usually 105 °C."
                locked={locked}
                options={INSULATIONS.map((c) => [c, `${c} °C class`] as const)}
              />
              <ChoiceSetting
                field="wireStandard"
                label="Conductor"
                does="SAE wire is thinner than AWG of the same name. Usually AWG."
                locked={locked}
                options={[
                  ['awg', 'AWG'],
                  ['sae', 'SAE, the thinner one'],
                ]}
              />
              <ChoiceSetting
                field="fuse150"
                label="Fuse up to 150 %"
                does="of the wire’s amperes (ABYC E-11). Usually not."
                locked={locked}
                options={[
                  [false, 'not allowed'],
                  [true, 'allowed'],
                ]}
              />
            </>
          )}
        </chakra.div>
      </chakra.div>
    </chakra.main>
  );
}
