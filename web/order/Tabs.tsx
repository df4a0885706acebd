import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Act } from '../app/ui';

/** What to see of a station, as a row of choices. `mark` is a figure beside the word, such as how many there are to look at. */
export function Tabs<T extends string>({
  label,
  tabs,
  on,
  onShow,
  mark = {},
}: {
  label: string;
  tabs: readonly (readonly [T, string])[];
  on: T;
  onShow: (tab: T) => void;
  mark?: Partial<Record<T, ReactNode>>;
}) {
  return (
    <chakra.div role="tablist" aria-label={label} display="flex" flexWrap="wrap" gap="6px" mt="-6px" mb="10px">
      {tabs.map(([t, word]) => (
        <Act key={t} role="tab" aria-selected={on === t} on={on === t} minHeight="36px" onClick={() => onShow(t)}>
          {word}
          {mark[t] && (
            <chakra.span bg="tight" color="raised" borderRadius="9px" px="6px" fontSize="13px">
              {mark[t]}
            </chakra.span>
          )}
        </Act>
      ))}
    </chakra.div>
  );
}
