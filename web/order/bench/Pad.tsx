import { chakra } from '@chakra-ui/react';
import { Delete } from 'lucide-react';

const KEYS = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '−', '0', '.'];

const Key = chakra('button', {
  base: {
    minHeight: '52px',
    borderRadius: 'kadro',
    borderWidth: '1px',
    borderColor: 'rule',
    bg: 'raised',
    fontFamily: 'mono',
    fontSize: '24px',
    cursor: 'pointer',
    _active: { bg: 'accentWash' },
  },
});

/** A number pad for one hand: appends to what is typed, takes back, and takes the reading. */
export function Pad({ text, onText, onEnter }: { text: string; onText: (t: string) => void; onEnter: () => void }) {
  const press = (k: string) => {
    if (k === '−') return onText(text.startsWith('-') ? text.slice(1) : `-${text}`);
    if (k === '.' && text.includes('.')) return;
    onText(text + k);
  };
  return (
    <chakra.div display="grid" gridTemplateColumns="repeat(3, 64px) 92px" gap="6px" role="group" aria-label="Number pad">
      <chakra.div display="contents">
        {KEYS.map((k, i) => (
          <Key
            key={k}
            type="button"
            onClick={() => press(k)}
            gridColumn={(i % 3) + 1}
            gridRow={Math.floor(i / 3) + 1}
            aria-label={k === '−' ? 'change sign' : k}
          >
            {k}
          </Key>
        ))}
      </chakra.div>
      <Key type="button" gridColumn="4" gridRow="1 / 3" onClick={() => onText(text.slice(0, -1))} aria-label="take back">
        <Delete size={26} aria-hidden style={{ margin: 'auto' }} />
      </Key>
      <Key
        type="button"
        gridColumn="4"
        gridRow="3 / 5"
        onClick={onEnter}
        bg="accent"
        color="onAccent"
        fontFamily="body"
        fontSize="20px"
        fontWeight={700}
      >
        Read
      </Key>
    </chakra.div>
  );
}
