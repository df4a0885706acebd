import { chakra } from '@chakra-ui/react';
import { useEffect, useRef } from 'react';
import Pad from 'signature_pad';
import { Act } from '../../app/ui';

const [W, H] = [600, 200];

/** A place to sign with finger, pen or mouse. What is signed is answered as an SVG path on a 600 by 200 field. */
export function SignaturePad({ onChange }: { onChange: (path: string) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<Pad | null>(null);
  useEffect(() => {
    const c = canvas.current!;
    const p = new Pad(c, { penColor: getComputedStyle(c).color, minWidth: 1.4, maxWidth: 2.6 });
    pad.current = p;
    p.addEventListener('endStroke', () => {
      const scaleX = W / c.width;
      const scaleY = H / c.height;
      const path = p
        .toData()
        .map(
          (s) =>
            s.points.map((pt, i) => `${i ? 'L' : 'M'}${Math.round(pt.x * scaleX)} ${Math.round(pt.y * scaleY)}`).join('') +
            (s.points.length === 1 ? 'l1 1' : ''),
        )
        .join('');
      onChange(path.slice(0, 60_000));
    });
    return () => p.off();
  }, [onChange]);
  return (
    <chakra.div>
      <chakra.canvas
        ref={canvas}
        width={480}
        height={160}
        color="ink"
        bg="raised"
        borderWidth="1px"
        borderColor="quiet"
        borderRadius="kadro"
        css={{ width: '480px', height: '160px', touchAction: 'none', cursor: 'crosshair', maxWidth: '100%' }}
        aria-label="Sign here"
      />
      <Act
        look="quiet"
        onClick={() => {
          pad.current?.clear();
          onChange('');
        }}
      >
        Clear
      </Act>
    </chakra.div>
  );
}
