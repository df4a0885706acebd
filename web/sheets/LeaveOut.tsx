import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Entry, Labelled, ServerAct } from '../app/ui';

/** Asks why something that an order offered is left out of a sheet. */
export function LeaveOut({ label, busy, onReason }: { label: string; busy: boolean; onReason: (reason: string) => void }) {
  const [reason, setReason] = useState('');
  return (
    <chakra.form
      display="flex"
      gap="10px"
      alignItems="flex-end"
      mt="8px"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim()) onReason(reason.trim());
      }}
    >
      <chakra.div flex="1">
        <Labelled id="decline-reason" label={label}>
          <Entry id="decline-reason" value={reason} maxLength={200} autoComplete="off" onChange={(e) => setReason(e.target.value)} />
        </Labelled>
      </chakra.div>
      <ServerAct type="submit" disabled={!reason.trim() || busy}>
        Leave out
      </ServerAct>
    </chakra.form>
  );
}
