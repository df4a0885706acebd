import { chakra } from '@chakra-ui/react';
import { Camera } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { readLabel, type PartLabel } from '#core/supply/label';
import { Act, Entry } from '../app/ui';

const CameraScan = lazy(() => import('./CameraScan'));

/**
 * Takes labels one after another: from a scanner, which types what it reads and ends it with Enter, from the camera, or by hand.
 * @param said what became of the last one
 */
export function ScanField({ onLabel, said }: { onLabel: (label: PartLabel) => void; said: string }) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState('');
  const [camera, setCamera] = useState(false);
  const take = (read: string) => {
    if (!read.trim()) return;
    const label = readLabel(read);
    setWrong(label ? '' : `“${read.trim().slice(0, 60)}” is no label of a part.`);
    if (label) onLabel(label);
  };
  return (
    <chakra.div mb="12px">
      <chakra.form
        display="flex"
        gap="10px"
        alignItems="center"
        onSubmit={(e) => {
          e.preventDefault();
          take(text);
          setText('');
        }}
      >
        <Entry
          aria-label="Scan a label"
          placeholder="Scan a label here, or type what stands on it"
          maxW="420px"
          minHeight="48px"
          autoFocus
          autoComplete="off"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <Act type="button" minHeight="48px" aria-pressed={camera} on={camera} onClick={() => setCamera(!camera)}>
          <Camera size={20} aria-hidden /> {camera ? 'Camera off' : 'Camera'}
        </Act>
        <chakra.span role="status" fontWeight={600}>
          {!wrong && said}
        </chakra.span>
        {wrong && (
          <chakra.span role="alert" color="fails">
            {wrong}
          </chakra.span>
        )}
      </chakra.form>
      {camera && (
        <Suspense fallback={<p>Opening the camera …</p>}>
          <CameraScan onText={take} />
        </Suspense>
      )}
    </chakra.div>
  );
}
