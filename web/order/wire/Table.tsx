import { chakra } from '@chakra-ui/react';

/** A plain table with ruled rows. */
export const Table = chakra('table', {
  base: { width: '100%', borderCollapse: 'collapse', fontSize: '15px', '& tr': { borderTopWidth: '1px', borderColor: 'rule' } },
});
export const Head = chakra('th', {
  base: { textAlign: 'left', fontSize: '14px', fontWeight: 400, color: 'quiet', py: '4px', pr: '12px', verticalAlign: 'bottom' },
});
export const Cell = chakra('td', {
  base: { py: '6px', pr: '12px', verticalAlign: 'top' },
  variants: { mono: { true: { fontFamily: 'mono', whiteSpace: 'nowrap' } } },
});
