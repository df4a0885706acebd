import { chakra } from '@chakra-ui/react';
import { format } from 'date-fns';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { ImpossibleInput } from '#core/errors';
import type { DaysOff } from '#model/shop-week';
import { Act, Entry } from '../app/ui';

/** Bytes of a calendar that are read. */
const MOST_CALENDAR = 2_000_000;

/** Days off, each from a day to a day. */
export function Off({
  value,
  onChange,
  locked,
  name,
  act = 'Not there',
}: {
  act?: string;
  value: readonly DaysOff[];
  onChange: (v: DaysOff[]) => void;
  locked: boolean;
  name: string;
}) {
  const [fresh, setFresh] = useState({ from: '', to: '', why: '' });
  return (
    <>
      {value.map((d, i) => (
        <chakra.div key={`${d.from} ${i}`} display="flex" gap="10px" alignItems="center" minH="36px">
          <chakra.span fontFamily="mono">{d.from === d.to ? d.from : `${d.from} to ${d.to}`}</chakra.span>
          <span>{d.why}</span>
          {!locked && (
            <Act
              type="button"
              look="quiet"
              aria-label={`Take ${d.from} off the list of ${name}`}
              onClick={() => onChange(value.filter((_, k) => k !== i))}
            >
              <X size={16} aria-hidden />
            </Act>
          )}
        </chakra.div>
      ))}
      {!locked && (
        <chakra.div display="flex" gap="8px" flexWrap="wrap" alignItems="center">
          <Entry
            type="date"
            width="160px"
            aria-label={`First day, ${name}`}
            value={fresh.from}
            onChange={(e) => setFresh({ ...fresh, from: e.target.value })}
          />
          <Entry
            type="date"
            width="160px"
            aria-label={`Last day, ${name}`}
            value={fresh.to}
            min={fresh.from}
            onChange={(e) => setFresh({ ...fresh, to: e.target.value })}
          />
          <Entry
            width="180px"
            aria-label={`Why, ${name}`}
            placeholder="why"
            value={fresh.why}
            onChange={(e) => setFresh({ ...fresh, why: e.target.value })}
          />
          <Act
            type="button"
            disabled={!fresh.from}
            onClick={() => {
              onChange([...value, { ...fresh, to: fresh.to || fresh.from }].sort((a, b) => (a.from < b.from ? -1 : 1)));
              setFresh({ from: '', to: '', why: '' });
            }}
          >
            <Plus size={16} aria-hidden /> {act}
          </Act>
        </chakra.div>
      )}
    </>
  );
}

/** A calendar file of holidays: its days join those that are there. */
export function HolidaysIn({ value, onChange }: { value: readonly DaysOff[]; onChange: (v: DaysOff[]) => void }) {
  const [says, setSays] = useState<{ text: string; bad: boolean } | null>(null);
  const read = async (file: File) => {
    try {
      if (file.size > MOST_CALENDAR) throw new ImpossibleInput('that file is larger than any calendar of holidays');
      // loaded when a calendar is read
      const { readClosed } = await import('#core/shop/read-closed');
      const { days, timed } = readClosed(await file.text(), format(new Date(), 'yyyy-MM-dd'));
      const fresh = days.filter((d) => !value.some((v) => v.from === d.from && v.to === d.to));
      if (fresh.length) onChange([...value, ...fresh].sort((a, b) => (a.from < b.from ? -1 : 1)));
      setSays({
        text: `${fresh.length} new of ${days.length} days ahead${timed ? `; ${timed} entries with hours left out` : ''}.`,
        bad: false,
      });
    } catch (e) {
      if (!(e instanceof ImpossibleInput)) throw e;
      setSays({ text: `${file.name}: ${e.message}.`, bad: true });
    }
  };
  return (
    <chakra.label display="flex" gap="10px" alignItems="center" mt="8px" flexWrap="wrap">
      Holidays from a calendar file
      <input
        type="file"
        accept=".ics,text/calendar"
        aria-label="Holidays from a calendar file"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          if (file) void read(file);
          e.target.value = '';
        }}
      />
      {says && (
        <chakra.span role={says.bad ? 'alert' : 'status'} color={says.bad ? 'fails' : 'quiet'}>
          {says.text}
        </chakra.span>
      )}
    </chakra.label>
  );
}
