import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Entry, FormDialog, Labelled, Lines } from '../../app/ui';
import { SignaturePad } from '../handover/SignaturePad';

export interface Agreed {
  how: 'signed' | 'told';
  name: string;
  strokes: string | null;
  reason: string;
}

/** The owner agrees or declines at the desk: they sign on the tablet, or told whoever records it. */
export function AgreeDialog({
  title,
  yes,
  owner,
  onClose,
  onDone,
}: {
  title: string;
  /** agrees; else declines */
  yes: boolean;
  owner: string;
  onClose: () => void;
  onDone: (agreed: Agreed) => void;
}) {
  const [name, setName] = useState(owner);
  const [strokes, setStrokes] = useState('');
  const [reason, setReason] = useState('');
  const signed = strokes.length >= 10;
  return (
    <FormDialog
      open
      title={title}
      action={yes ? (signed ? 'Agreed, signed' : 'Agreed, as they told me') : 'Declined'}
      ready={!!name.trim()}
      onClose={onClose}
      onDone={() => onDone({ how: signed ? 'signed' : 'told', name: name.trim(), strokes: signed ? strokes : null, reason: reason.trim() })}
    >
      <Labelled label="Who" id="agree-name">
        <Entry id="agree-name" value={name} maxLength={80} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      {yes ? (
        <chakra.div mt="10px">
          <chakra.p fontSize="14px" color="quiet" mb="4px">
            Sign here; left empty, it is recorded that they told you
          </chakra.p>
          <SignaturePad onChange={setStrokes} />
        </chakra.div>
      ) : (
        <chakra.div mt="10px">
          <Labelled label="Why, if they say" id="agree-reason">
            <Lines id="agree-reason" value={reason} maxLength={300} onChange={(e) => setReason(e.target.value)} />
          </Labelled>
        </chakra.div>
      )}
    </FormDialog>
  );
}
