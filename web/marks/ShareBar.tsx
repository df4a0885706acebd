import { chakra } from '@chakra-ui/react';

/** A share of something, as so much of a bar and in per cent. @param share from 0 to 1 */
export const ShareBar = ({ share, width }: { share: number; width: string }) => (
  <chakra.span display="inline-flex" alignItems="center" gap="8px">
    <chakra.span aria-hidden display="inline-block" width={width} height="10px" bg="sunk" borderRadius="3px" overflow="hidden">
      <chakra.span display="block" height="100%" bg="accent" style={{ width: `${Math.min(100, share * 100)}%` }} />
    </chakra.span>
    <chakra.span fontFamily="mono" minW="44px">
      {Math.round(share * 100)} %
    </chakra.span>
  </chakra.span>
);
