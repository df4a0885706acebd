import { chakra } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { Entry, FormDialog, Labelled, Lines } from '../../app/ui';

/** Puts the time of a step right, with a reason: for a clock left running, or never started. */
export function TimeDialog(p: {
  open: boolean;
  title: string;
  seconds: number;
  onClose: () => void;
  onTime: (seconds: number, reason: string) => void;
}) {
  const [minutes, setMinutes] = useState('');
  const [reason, setReason] = useState('');
  useEffect(() => {
    if (p.open) setMinutes(String(Number((p.seconds / 60).toFixed(1))));
  }, [p.open, p.seconds]);
  const value = Number(minutes.replace(',', '.'));
  const bad = !minutes.trim() || !Number.isFinite(value) || value < 0 || value > 1440 ? 'Minutes from 0 to 1440, such as 7.5' : null;
  return (
    <FormDialog
      open={p.open}
      title={p.title}
      action="Put it right"
      ready={!bad && !!reason.trim()}
      onClose={p.onClose}
      onDone={() => {
        p.onTime(Math.round(value * 60), reason.trim());
        setReason('');
      }}
    >
      <Labelled label="Minutes it really took" id="took" error={bad}>
        <Entry id="took" value={minutes} inputMode="decimal" onChange={(e) => setMinutes(e.target.value)} autoFocus />
      </Labelled>
      <chakra.div mt="10px">
        <Labelled label="Why the clock was wrong" id="why-time">
          <Lines id="why-time" value={reason} maxLength={300} onChange={(e) => setReason(e.target.value)} />
        </Labelled>
      </chakra.div>
    </FormDialog>
  );
}
