import { chakra } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { ImagePlus } from 'lucide-react';
import { call } from '../app/api';
import { Photo } from '../app/Photo';
import { Act, ServerAct } from '../app/ui';
import { heldPhoto, holdPhoto, letGoPhoto } from '../device/photos';

/**
 * Makes a picture small enough and puts it where sheets are kept; answers its name.
 * @throws BadPicture for what is none, or the server's own words
 */
export async function sendPicture(file: Blob): Promise<string> {
  const id = await holdPhoto(file);
  const bytes = await heldPhoto(id);
  await call(`/api/photos/${id}`, { method: 'PUT', bytes: bytes! });
  await letGoPhoto(id);
  return id;
}

/** Chooses a file of a picture; what is wrong with it is said beside. */
export function ChoosePicture({ label, onFile }: { label: string; onFile: (file: File) => Promise<void> }) {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept="image/*"
        hidden
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (!file) return;
          setBusy(true);
          setWrong(null);
          onFile(file)
            .catch((x: unknown) => setWrong((x as Error).message))
            .finally(() => setBusy(false));
        }}
      />
      <ServerAct disabled={busy} onClick={() => input.current?.click()}>
        <ImagePlus size={18} aria-hidden /> {label}
      </ServerAct>
      {wrong && (
        <chakra.span role="alert" color="fails">
          {wrong}
        </chakra.span>
      )}
    </>
  );
}

/** A picture that a sheet names, to be chosen or taken out. */
export function SheetPicture({ id, name, onPicture }: { id: string | null; name: string; onPicture: (id: string | null) => void }) {
  return (
    <chakra.div display="flex" gap="8px" alignItems="center" flexWrap="wrap">
      {id && <Photo id={id} note={name} />}
      <ChoosePicture label={id ? 'Another picture' : 'A picture of it'} onFile={async (f) => onPicture(await sendPicture(f))} />
      {id && (
        <Act look="quiet" onClick={() => onPicture(null)}>
          No picture
        </Act>
      )}
    </chakra.div>
  );
}
