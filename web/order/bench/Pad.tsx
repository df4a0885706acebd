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

/** A figure as it is typed, apart from what follows it. */
const parts = (text: string): [figure: string, unit: string] => {
  const m = /^([^\p{L}Ω]*)(.*)$/u.exec(text)!;
  return [m[1]!.trimEnd(), m[2]!];
};

/**
 * A number pad for one hand: appends to what is typed, takes back, puts the unit that the meter shows behind it, and takes the
 * reading. `units` has the usual one first; `word` is what a meter shows instead of a figure.
 */
export function Pad({
  text,
  onText,
  onEnter,
  units = [],
  word,
}: {
  text: string;
  onText: (t: string) => void;
  onEnter: () => void;
  units?: readonly string[];
  word?: string;
}) {
  const [figure, unit] = parts(text);
  const put = (f: string, u: string) => onText(u ? `${f} ${u}` : f);
  const press = (k: string) => {
    const [f, u] = text === word ? ['', ''] : [figure, unit];
    if (k === '−') return put(f.startsWith('-') ? f.slice(1) : `-${f}`, u);
    if (k === '.' && f.includes('.')) return;
    put(f + k, u);
  };
  const side = [...units, ...(word ? [word] : [])];
  const on = (u: string) => (text === word ? u === word : u === (unit || units[0]));
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns={side.length > 1 ? 'repeat(3, 64px) 64px 92px' : 'repeat(3, 64px) 92px'}
      gridTemplateRows="repeat(4, auto)"
      gap="6px"
      role="group"
      aria-label="Number pad"
    >
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
      {side.length > 1 &&
        side.map((u, i) => (
          <Key
            key={u}
            type="button"
            gridColumn="4"
            gridRow={i + 1}
            fontSize="20px"
            aria-pressed={on(u)}
            bg={on(u) ? 'accentWash' : 'raised'}
            borderColor={on(u) ? 'accent' : 'rule'}
            onClick={() => (u === word ? onText(word) : put(text === word ? '' : figure, u === units[0] ? '' : u))}
          >
            {u}
          </Key>
        ))}
      <Key
        type="button"
        gridColumn="-2"
        gridRow="1 / 3"
        onClick={() => onText(text === word ? '' : shorter(figure, unit))}
        aria-label="take back"
      >
        <Delete size={26} aria-hidden style={{ margin: 'auto' }} />
      </Key>
      <Key
        type="button"
        gridColumn="-2"
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

/** The last digit taken back; with none left, the unit too. */
const shorter = (figure: string, unit: string): string => {
  const left = figure.slice(0, -1);
  return left && unit ? `${left} ${unit}` : left;
};
