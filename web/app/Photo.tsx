import { chakra, Dialog, Portal } from '@chakra-ui/react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Camera } from 'lucide-react';
import { useOutbox, usePending } from './context';
import { BadPicture, heldPhoto, holdPhoto } from '../device/photos';
import { inShop } from './place';
import { Act } from './ui';

/** Where a picture is shown from: this device while it waits to be sent, the record afterwards. */
function useSource(id: string, onDevice: boolean): { src: string | null; waiting: boolean } {
  const sending = usePending().some((p) => p.state !== 'sent' && 'photo' in p.command && p.command.photo === id);
  const waiting = sending || onDevice;
  const [held, setHeld] = useState<string | null>(null);
  useEffect(() => {
    if (!waiting) return;
    let url: string | null = null;
    void heldPhoto(id).then((blob) => {
      if (blob) setHeld((url = URL.createObjectURL(blob)));
    });
    return () => {
      if (url) URL.revokeObjectURL(url);
      setHeld(null);
    };
  }, [id, waiting]);
  return { src: waiting ? held : inShop(`/api/photos/${id}`), waiting: sending };
}

/** A picture as large as a thumb; touched, as large as the screen. `held`: it is on this device only. */
export function Photo({ id, note = '', held = false }: { id: string; note?: string; held?: boolean }) {
  const { src, waiting } = useSource(id, held);
  const [open, setOpen] = useState(false);
  const name = note || 'picture';
  return (
    <chakra.figure m={0} width="112px">
      <chakra.button
        type="button"
        onClick={() => setOpen(true)}
        aria-label={`Look at ${name}`}
        cursor="zoom-in"
        borderWidth="1px"
        borderColor="rule"
        borderRadius="kadro"
        overflow="hidden"
        width="112px"
        height="84px"
        bg="sunk"
      >
        {src && <chakra.img src={src} alt={name} width="100%" height="100%" objectFit="cover" loading="lazy" />}
      </chakra.button>
      <chakra.figcaption fontSize="14px" color={waiting ? 'tightText' : 'quiet'} overflowWrap="anywhere">
        {waiting ? 'waiting' : note}
      </chakra.figcaption>
      <Dialog.Root open={open} onOpenChange={(e) => setOpen(e.open)} placement="center" size="cover">
        <Portal>
          <Dialog.Backdrop />
          <Dialog.Positioner>
            <Dialog.Content bg="raised" color="ink" borderRadius="kadro" p="12px" maxW="96vw" width="auto">
              <Dialog.Title fontSize="16px" mb="8px">
                {name}
              </Dialog.Title>
              {src && <chakra.img src={src} alt={name} maxW="100%" maxH="78vh" objectFit="contain" mx="auto" />}
              <Act mt="8px" minHeight="48px" onClick={() => setOpen(false)}>
                Close
              </Act>
            </Dialog.Content>
          </Dialog.Positioner>
        </Portal>
      </Dialog.Root>
    </chakra.figure>
  );
}

/** Takes a picture with the tablet’s camera, or from a file. */
export function TakePhoto({
  onPhoto,
  disabled,
  big = false,
  children,
}: {
  onPhoto: (id: string) => void;
  disabled?: boolean;
  big?: boolean;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  const outbox = useOutbox();
  const [busy, setBusy] = useState(false);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        hidden
        aria-hidden
        data-photo
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (!file) return;
          setBusy(true);
          holdPhoto(file)
            .then(onPhoto)
            .catch((x: unknown) => {
              if (!(x instanceof BadPicture)) throw x;
              outbox.tell(x.message);
            })
            .finally(() => setBusy(false));
        }}
      />
      <Act big={big} minHeight="48px" disabled={disabled || busy} onClick={() => input.current?.click()}>
        <Camera size={22} aria-hidden /> {children}
      </Act>
    </>
  );
}
