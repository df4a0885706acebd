import { chakra } from '@chakra-ui/react';
import { CopyPlus, Pencil } from 'lucide-react';
import { useState } from 'react';
import { LOCAL_CODE } from '#core/lighting/check';
import { sayRule } from '#core/lighting/say-rule';
import { may } from '#core/people/permissions';
import { showQuantity } from '#core/quantity/quantity';
import type { RulePack } from '#model/rule-pack';
import { usePerson, useUnits } from '../app/context';
import { Act } from '../app/ui';
import { PackEditor } from './PackEditor';
import { Table } from './Table';

/** A rule pack as it is: place, edition, every item with what it asks for and its source; to be copied or edited. */
export function PackSheet({ pack, ids }: { pack: RulePack; ids: readonly string[] }) {
  const units = useUnits();
  const person = usePerson();
  const [editing, setEditing] = useState<'copy' | 'edit' | null>(null);
  if (editing)
    return <PackEditor key={`${pack.id}-${editing}`} pack={pack} copy={editing === 'copy'} ids={ids} onClose={() => setEditing(null)} />;
  return (
    <>
      <chakra.div display="flex" gap="8px" mb="10px" alignItems="center" flexWrap="wrap">
        <chakra.p flex="1">
          {pack.place}. Edition: {pack.edition}
        </chakra.p>
        {may(person.role, 'sheets.import') && (
          <>
            <Act look="main" onClick={() => setEditing('copy')}>
              <CopyPlus size={18} aria-hidden /> Copy it for our place
            </Act>
            <Act onClick={() => setEditing('edit')}>
              <Pencil size={18} aria-hidden /> Edit
            </Act>
          </>
        )}
      </chakra.div>
      {pack.bad?.map((b) => (
        <chakra.p key={b.index} color="fails" role="alert">
          Item {b.index + 1}, “{b.id}”, cannot be judged: {b.message}.
        </chakra.p>
      ))}
      <Table
        heads={['Item', 'Asks for', 'Source']}
        rows={pack.items.map((i) => [
          i.title,
          `${sayRule(i, (x) => showQuantity(x, 'smallLength', units))}${i.when ? '; not for every unit' : ''}`,
          i.source,
        ])}
      />
      <chakra.p mt="12px" fontWeight={600}>
        {pack.caution} {LOCAL_CODE}
      </chakra.p>
    </>
  );
}
