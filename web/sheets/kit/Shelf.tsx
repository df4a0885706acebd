import { chakra } from '@chakra-ui/react';
import { SHELF, SHELF_GROUPS, type ShelfPart } from '#core/shelf/parts';
import { Act } from '../../app/ui';

/** Generic parts, to be put into the box by a touch. */
export function Shelf({ onTake }: { onTake: (p: ShelfPart) => void }) {
  return (
    <section aria-label="Parts shelf">
      <chakra.h2 fontSize="16px" hideBelow="xl">
        From the parts shelf
      </chakra.h2>
      {SHELF_GROUPS.map((g) => (
        <chakra.div key={g} mt="8px">
          <chakra.h3 fontSize="13px" color="quiet">
            {g}
          </chakra.h3>
          <chakra.div display="flex" flexWrap="wrap" gap="4px">
            {SHELF.filter((p) => p.group === g).map((p) => (
              <Act
                key={p.id}
                minHeight="36px"
                px="8px"
                fontSize="14px"
                whiteSpace="normal"
                textAlign="left"
                data-shelf={p.id}
                onClick={() => onTake(p)}
              >
                {p.name}
              </Act>
            ))}
          </chakra.div>
        </chakra.div>
      ))}
    </section>
  );
}
