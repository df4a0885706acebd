import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Photo, TakePhoto } from '../../app/Photo';
import { useDraft } from '../../app/kept';
import { FormDialog, Labelled, Lines } from '../../app/ui';

/** Writes a finding in a few words, with a picture if one says it better. What was typed is kept when it is left. */
export function FindingDialog({
  open,
  onClose,
  onSave,
  draftKey,
  askAt,
}: {
  open: boolean;
  onClose: () => void;
  onSave: (text: string, photo: string | null) => boolean;
  draftKey: string;
  /** where the owner is asked for what must be put right at a price */
  askAt: string;
}) {
  const [text, setText] = useDraft(draftKey);
  const [photo, setPhoto] = useDraft(`${draftKey}.photo`);
  return (
    <FormDialog
      open={open}
      title="Finding"
      action="Record"
      ready={!!text?.trim()}
      onClose={onClose}
      onDone={() => {
        if (!onSave(text!.trim(), photo)) return;
        setText(null);
        setPhoto(null);
        onClose();
      }}
    >
      <Labelled label="What the next person on this model should know" id="finding">
        <Lines id="finding" value={text ?? ''} maxLength={500} onChange={(e) => setText(e.target.value || null)} autoFocus />
      </Labelled>
      <chakra.div display="flex" gap="12px" alignItems="center" mt="12px">
        <TakePhoto onPhoto={setPhoto}>{photo ? 'Another picture' : 'Add a picture'}</TakePhoto>
        {photo && <Photo id={photo} held />}
      </chakra.div>
      <chakra.p mt="12px">
        <Link to={askAt}>
          <chakra.span color="accent" fontWeight={600} minH="44px" display="inline-flex" alignItems="center">
            It costs work or parts to put right: ask the owner
          </chakra.span>
        </Link>
      </chakra.p>
    </FormDialog>
  );
}
