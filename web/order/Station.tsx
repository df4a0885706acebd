import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { Verdict } from '#model/common';
import { VerdictMark } from '../marks/VerdictMark';

/** What a station shows first: its drawing, then the answer to its question in a sentence. */
export function Answer({ verdict, children, drawing }: { verdict: Verdict | null; children: ReactNode; drawing?: ReactNode }) {
  return (
    <chakra.section mb="16px">
      {drawing}
      <chakra.h2 display="flex" alignItems="center" gap="12px" fontSize="20px" mt={drawing ? '8px' : 0}>
        <VerdictMark verdict={verdict} size={30} />
        <span>{children}</span>
      </chakra.h2>
    </chakra.section>
  );
}

export const H3 = chakra('h3', { base: { fontSize: '17px', mt: '20px', mb: '8px' } });
