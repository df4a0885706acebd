import { chakra } from '@chakra-ui/react';
import { BrowserMultiFormatReader, type IScannerControls } from '@zxing/browser';
import { useEffect, useRef, useState } from 'react';

/** How long the same label is not read again, ms: it lies under the camera still. */
const SAME_MS = 2500;

/** What the camera reads, one label after another, until it is closed. */
export default function CameraScan({ onText }: { onText: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const tell = useRef(onText);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    tell.current = onText;
  });
  useEffect(() => {
    const reader = new BrowserMultiFormatReader();
    let controls: IScannerControls | null = null;
    let over = false;
    let last = { text: '', at: 0 };
    if (!navigator.mediaDevices) {
      setTrouble('This browser gives the camera to pages over TLS only: use a scanner, or type what stands on the label.');
      return;
    }
    reader
      .decodeFromConstraints({ video: { facingMode: 'environment' } }, video.current!, (result) => {
        const text = result?.getText();
        if (!text || (text === last.text && Date.now() - last.at < SAME_MS)) return;
        last = { text, at: Date.now() };
        tell.current(text);
      })
      .then((c) => {
        controls = c;
        if (over) c.stop();
      })
      .catch((e: Error) =>
        setTrouble(
          e.name === 'NotAllowedError'
            ? 'The camera is not allowed for this page: allow it in the browser, or use a scanner.'
            : 'No camera was found: use a scanner, or type what stands on the label.',
        ),
      );
    return () => {
      over = true;
      controls?.stop();
    };
  }, []);
  if (trouble)
    return (
      <chakra.p role="alert" color="fails" mt="6px">
        {trouble}
      </chakra.p>
    );
  return (
    <chakra.video
      ref={video}
      aria-label="What the camera sees"
      muted
      playsInline
      mt="8px"
      width="320px"
      height="240px"
      objectFit="cover"
      bg="sunk"
      borderRadius="kadro"
    />
  );
}
