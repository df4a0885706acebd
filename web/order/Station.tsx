import { chakra } from '@chakra-ui/react';
import { useState, type ReactNode } from 'react';
import type { Verdict } from '#model/common';
import { VERDICT_WORD } from '#core/verdict';
import { MEANS, VerdictMark } from '../marks/VerdictMark';

/** What a station shows first: its drawing, then the answer to its question in a sentence. */
export function Answer({ verdict, children, drawing }: { verdict: Verdict | null; children: ReactNode; drawing?: ReactNode }) {
  const [told, setTold] = useState(false);
  return (
    <chakra.section mb="16px">
      {drawing}
      <chakra.h2 display="flex" alignItems="center" gap="12px" fontSize="20px" mt={drawing ? '8px' : 0}>
        {verdict ? (
          <chakra.button
            type="button"
            cursor="pointer"
            aria-expanded={told}
            aria-label={`${VERDICT_WORD[verdict]}: what that means`}
            onClick={() => setTold(!told)}
            display="inline-flex"
            minW="36px"
            minH="36px"
            alignItems="center"
          >
            <VerdictMark verdict={verdict} size={30} />
          </chakra.button>
        ) : (
          <VerdictMark verdict={null} size={30} />
        )}
        <span>{children}</span>
      </chakra.h2>
      {told && verdict && (
        <chakra.p color="quiet" fontSize="15px" ml="48px">
          {MEANS[verdict]}
        </chakra.p>
      )}
    </chakra.section>
  );
}

export const H3 = chakra('h3', { base: { fontSize: '17px', mt: '20px', mb: '8px' } });
