import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { readHours, writeHours } from '#core/shop/hours';
import { WEEKDAYS, type WeekHours } from '#model/shop-week';
import { Entry } from '../app/ui';

const DAY: Record<(typeof WEEKDAYS)[number], string> = {
  mon: 'Monday',
  tue: 'Tuesday',
  wed: 'Wednesday',
  thu: 'Thursday',
  fri: 'Friday',
  sat: 'Saturday',
  sun: 'Sunday',
};
/** The hours of a week, a line a day. */
export function HoursOf({
  value,
  onChange,
  locked,
  name,
}: {
  value: WeekHours;
  onChange: (v: WeekHours) => void;
  locked: boolean;
  name: string;
}) {
  const [wrong, setWrong] = useState<Partial<Record<string, string>>>({});
  return (
    <chakra.div display="grid" gridTemplateColumns="100px minmax(0, 300px) minmax(0, 1fr)" gap="6px 12px" alignItems="center">
      {WEEKDAYS.map((d) => (
        <chakra.div key={d} display="contents">
          <chakra.label htmlFor={`${name}-${d}`}>{DAY[d]}</chakra.label>
          <Entry
            id={`${name}-${d}`}
            key={writeHours(value[d])}
            defaultValue={writeHours(value[d])}
            placeholder="closed"
            fontFamily="mono"
            disabled={locked}
            aria-invalid={wrong[d] ? true : undefined}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            onBlur={(e) => {
              try {
                const read = readHours(e.target.value);
                setWrong({ ...wrong, [d]: undefined });
                if (writeHours(read) !== writeHours(value[d])) onChange({ ...value, [d]: read });
              } catch (x) {
                setWrong({ ...wrong, [d]: (x as Error).message });
              }
            }}
          />
          <chakra.span color="fails" fontSize="14px">
            {wrong[d]}
          </chakra.span>
        </chakra.div>
      ))}
    </chakra.div>
  );
}
