import { chakra } from '@chakra-ui/react';
import { cutMarks } from '#core/harness/draw';
import type { PlacedLink } from '#core/harness/layout';

/** The marks of a wire off the shelf, as a path. */
export const cutPath = (points: PlacedLink['points']): string =>
  cutMarks(points)
    .map(([a, z]) => `M${a.x} ${a.y}L${z.x} ${z.y}`)
    .join('');

/** What the lines of the schematic are. */
export function OriginLegend({ origins }: { origins: ReadonlySet<string | null> }) {
  const line = (kind: 'box' | 'shelf') => (
    <chakra.svg width="44px" height="14px" aria-hidden flex="none">
      {kind === 'box' && <chakra.path d="M2 7H42" stroke="quiet" strokeWidth={9} />}
      {kind === 'box' && <chakra.path d="M2 7H42" stroke="raised" strokeWidth={7.4} />}
      {kind === 'shelf' && (
        <chakra.path
          d={cutPath([
            { x: 2, y: 7 },
            { x: 42, y: 7 },
          ])}
          stroke="ink"
          strokeWidth={1.6}
        />
      )}
      <chakra.path d="M2 7H42" stroke="ink" strokeWidth={4} />
    </chakra.svg>
  );
  return (
    <chakra.div display="flex" flexWrap="wrap" columnGap="16px" fontSize="14px" lineHeight="1.25">
      {(
        [
          ['box', 'sheathed: out of a box'],
          ['shelf', 'ticked: off the shelf'],
        ] as const
      ).map(
        ([kind, words]) =>
          origins.has(kind) && (
            <chakra.span key={kind} display="inline-flex" alignItems="center" gap="6px">
              {line(kind)} {words}
            </chakra.span>
          ),
      )}
    </chakra.div>
  );
}
