import { chakra } from '@chakra-ui/react';
import { Ellipsis } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Act } from '../app/ui';

/** Views that a station shows as choices; what is looked at less often stands behind *More*. */
const SHOWN = 4;

/**
 * What to see of a station, as a row of choices in the order of the work. `mark` is a figure beside the word, such as how many
 * there are to look at.
 */
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
  const rest = tabs.slice(SHOWN);
  const [more, setMore] = useState(false);
  const open = more || rest.some(([t]) => t === on);
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="6px" mt="-6px" mb="10px">
      <chakra.div role="tablist" aria-label={label} display="flex" flexWrap="wrap" gap="6px">
        {(open ? tabs : tabs.slice(0, SHOWN)).map(([t, word]) => (
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
      {rest.length > 0 && !open && (
        <Act
          look="quiet"
          minHeight="36px"
          aria-expanded={false}
          onClick={() => setMore(true)}
          title={rest.map(([, word]) => word).join(', ')}
        >
          <Ellipsis size={18} aria-hidden /> More
        </Act>
      )}
    </chakra.div>
  );
}
