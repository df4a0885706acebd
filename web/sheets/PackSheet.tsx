import { chakra } from '@chakra-ui/react';
import { LOCAL_CODE } from '#core/lighting/check';
import { showQuantity } from '#core/quantity/quantity';
import type { RulePack } from '#model/rule-pack';
import { useUnits } from '../app/context';
import { Table } from './Table';

export function PackSheet({ pack }: { pack: RulePack }) {
  const units = useUnits();
  return (
    <>
      <p>{pack.place}</p>
      <chakra.p color="quiet" mb="10px">
        Edition: {pack.edition}
      </chakra.p>
      <Table
        heads={['Item', 'Asks for', 'Height', 'Source']}
        rows={pack.items.map((i) => [
          i.title,
          i.kind === 'equipment'
            ? `${i.count} × ${i.anyOf.join(' or ')}${i.colour ? `, ${i.colour.join(' or ')}` : ''}${i.eachSide ? ', one each side' : ''}`
            : i.kind === 'proof'
              ? i.question
              : `${i.of} at most ${i.atMost}`,
          i.kind === 'equipment' && i.heightMm
            ? `${showQuantity(i.heightMm.min, 'smallLength', units)} to ${showQuantity(i.heightMm.max, 'smallLength', units)}`
            : '',
          i.source,
        ])}
      />
      <chakra.p mt="12px" fontWeight={600}>
        {pack.caution} {LOCAL_CODE}
      </chakra.p>
    </>
  );
}
