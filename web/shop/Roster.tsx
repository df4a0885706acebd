import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { freeId } from '#core/slug';
import { UnitKind } from '#model/common';
import type { PersonInShop } from '#model/person';
import type { Settings } from '#model/settings';
import { Skill, type Rostered, type ShopBay } from '#model/shop-week';
import { Act, Choice, Entry } from '../app/ui';
import { Off } from './DaysOff';
import { HoursOf } from './HoursOf';
import { useSetting } from './useSetting';

const SKILL: Record<Skill, string> = {
  'side-by-side': 'side-by-sides',
  'golf-cart': 'golf carts',
  motorcycle: 'motorcycles',
  quad: 'quads',
  boat: 'boats',
  'snow-machine': 'snow machines',
  packs: 'traction packs',
};

/** Several of a few, each a box to tick. */
function Ticks<T extends string>({
  of,
  word,
  value,
  onChange,
  locked,
}: {
  of: readonly T[];
  word: Record<T, string>;
  value: readonly T[];
  onChange: (v: T[]) => void;
  locked: boolean;
}) {
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="2px 16px">
      {of.map((x) => (
        <chakra.label key={x} display="flex" gap="6px" alignItems="center" minH="36px">
          <input
            type="checkbox"
            style={{ width: 18, height: 18 }}
            disabled={locked}
            checked={value.includes(x)}
            onChange={(e) => onChange(e.target.checked ? of.filter((o) => o === x || value.includes(o)) : value.filter((o) => o !== x))}
          />
          {word[x]}
        </chakra.label>
      ))}
    </chakra.div>
  );
}

const Card = ({ children, name }: { children: ReactNode; name: string }) => (
  <chakra.section aria-label={name} borderTopWidth="1px" borderColor="rule" py="10px">
    {children}
  </chakra.section>
);

/** Where units stand, and which kinds each bay takes. */
export function Bays({ value, onChange, locked }: { value: Settings['bays']; onChange: (v: ShopBay[]) => void; locked: boolean }) {
  const [name, setName] = useState('');
  return (
    <>
      {value.map((b, i) => {
        const put = (to: Partial<ShopBay>) => onChange(value.map((x, k) => (k === i ? { ...x, ...to } : x)));
        return (
          <Card key={b.id} name={b.name}>
            <chakra.div display="flex" gap="10px" alignItems="center">
              <Entry
                width="220px"
                aria-label={`Name of ${b.name}`}
                key={b.name}
                defaultValue={b.name}
                disabled={locked}
                onBlur={(e) => e.target.value.trim() !== b.name && put({ name: e.target.value.trim() })}
              />
              {!locked && value.length > 1 && (
                <Act
                  type="button"
                  look="quiet"
                  aria-label={`Take ${b.name} away`}
                  onClick={() => onChange(value.filter((_, k) => k !== i))}
                >
                  <X size={16} aria-hidden />
                </Act>
              )}
            </chakra.div>
            <Ticks of={UnitKind.options} word={SKILL} value={b.kinds} onChange={(kinds) => put({ kinds })} locked={locked} />
          </Card>
        );
      })}
      {!locked && (
        <chakra.div display="flex" gap="8px">
          <Entry width="220px" aria-label="Name of a new bay" value={name} onChange={(e) => setName(e.target.value)} />
          <Act
            type="button"
            disabled={!name.trim()}
            onClick={() => {
              onChange([
                ...value,
                {
                  id: freeId(
                    name,
                    value.map((b) => b.id),
                  ),
                  name: name.trim(),
                  kinds: [...UnitKind.options],
                },
              ]);
              setName('');
            }}
          >
            <Plus size={16} aria-hidden /> A bay
          </Act>
        </chakra.div>
      )}
    </>
  );
}

/** What one person works on, and when. */
export function Rota({
  person,
  roster,
  onChange,
  locked,
}: {
  person: PersonInShop;
  roster: readonly Rostered[];
  onChange: (v: Rostered[]) => void;
  locked: boolean;
}) {
  const said = roster.find((r) => r.person === person.id);
  const works = person.role === 'installer' || person.role === 'lead';
  const now: Rostered = said ?? { person: person.id, skills: works ? [...UnitKind.options] : [], hours: null, off: [] };
  const shop = useSetting('hours').value;
  const put = (to: Partial<Rostered>) => onChange([...roster.filter((r) => r.person !== person.id), { ...now, ...to }]);
  return (
    <Card name={person.name}>
      <chakra.div display="flex" gap="12px" alignItems="center">
        <chakra.b minW="100px">{person.name}</chakra.b>
        {!now.skills.length && <chakra.span color="quiet">does not work at the bench</chakra.span>}
      </chakra.div>
      <Ticks of={Skill.options} word={SKILL} value={now.skills} onChange={(skills) => put({ skills })} locked={locked} />
      {now.skills.length > 0 && (
        <>
          <chakra.label display="flex" gap="8px" alignItems="center" my="4px">
            Hours
            <Choice
              width="220px"
              disabled={locked}
              value={now.hours ? 'own' : 'shop'}
              onChange={(e) => put({ hours: e.target.value === 'own' ? shop! : null })}
            >
              <option value="shop">as the shop’s</option>
              <option value="own">of their own</option>
            </Choice>
          </chakra.label>
          {now.hours && <HoursOf name={person.id} value={now.hours} onChange={(hours) => put({ hours })} locked={locked} />}
          <Off name={person.name} value={now.off} onChange={(off) => put({ off })} locked={locked} />
        </>
      )}
    </Card>
  );
}
