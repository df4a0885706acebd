import { chakra } from '@chakra-ui/react';
import type { Harness, HarnessControl } from '#model/harness';

const Position = chakra('button', {
  base: {
    minHeight: '32px',
    px: '9px',
    fontSize: '14px',
    borderWidth: '1px',
    borderStyle: 'solid',
    borderColor: 'rule',
    bg: 'raised',
    cursor: 'pointer',
    whiteSpace: 'nowrap',
    marginLeft: '-1px',
    _first: { borderTopLeftRadius: 'kadro', borderBottomLeftRadius: 'kadro', marginLeft: 0 },
    _last: { borderTopRightRadius: 'kadro', borderBottomRightRadius: 'kadro' },
  },
  variants: { on: { true: { bg: 'accent', color: 'onAccent', borderColor: 'accent', fontWeight: 700 } } },
});

/** The key, the engine and every switch, as they stand; each can be turned. */
export function Controls({
  harness,
  positions,
  onSet,
}: {
  harness: Harness;
  positions: Readonly<Record<string, string>>;
  onSet: (control: string, position: string) => void;
}) {
  const first = (c: HarnessControl) => (c.id === 'unit#key' ? 0 : c.id === 'unit#engine' ? 1 : 2);
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="6px 14px" role="group" aria-label="Key and switches">
      {[...harness.controls]
        .sort((a, b) => first(a) - first(b))
        .map((c) => (
          <chakra.div key={c.id} role="group" aria-label={c.name} display="flex" alignItems="center" gap="6px">
            <chakra.span fontSize="14px" color="quiet">
              {c.name}
            </chakra.span>
            <chakra.span display="inline-flex">
              {c.positions.map((p) => {
                const on = (positions[c.id] ?? c.positions[0]!.id) === p.id;
                return (
                  <Position key={p.id} type="button" on={on} aria-pressed={on} onClick={() => onSet(c.id, p.id)}>
                    {p.name}
                  </Position>
                );
              })}
            </chakra.span>
          </chakra.div>
        ))}
    </chakra.div>
  );
}
