import { chakra } from '@chakra-ui/react';
import { extent, templateStrokes, type HoleSheet, type Layer } from '#core/lighting/hole-sheet';

const LOOK: Record<Layer, { colour: string; width: string; dash?: string }> = {
  part: { colour: 'quiet', width: '1.2px', dash: '3 3' },
  trace: { colour: 'ink', width: '2px' },
  cut: { colour: 'fails', width: '1.6px', dash: '7 4' },
  drill: { colour: 'ink', width: '1.6px' },
  pilot: { colour: 'quiet', width: '1px' },
  centre: { colour: 'quiet', width: '0.8px', dash: '10 3 2 3' },
  ruler: { colour: 'ink', width: '1px' },
  text: { colour: 'ink', width: '0' },
};

/** A hole sheet as it looks from outside, or flipped over. */
export function TemplateMark({
  sheet: s,
  flip = false,
  height = '330px',
  text = 1,
  mt,
}: {
  sheet: HoleSheet;
  flip?: boolean;
  height?: string;
  /** how much larger its figures are, where the drawing is small */
  text?: number;
  mt?: string;
}) {
  const { w, h } = extent(s);
  return (
    <chakra.svg
      mt={mt}
      viewBox={`${-w / 2 - 12} ${-h / 2 - 6} ${w + 24} ${h + 12}`}
      width="100%"
      maxHeight={height}
      role="img"
      aria-label={`Template of ${s.name}`}
      bg="raised"
      borderWidth="1px"
      borderColor="rule"
    >
      <g transform={flip ? 'scale(-1 1)' : undefined}>
        {templateStrokes(s).map((k, i) => {
          const look = LOOK[k.layer];
          const line = {
            fill: 'none',
            stroke: look.colour,
            strokeWidth: look.width,
            strokeDasharray: look.dash,
            vectorEffect: 'non-scaling-stroke' as const,
          };
          if (k.kind === 'line') return <chakra.path key={i} d={`M${k.x1} ${-k.y1}L${k.x2} ${-k.y2}`} {...line} />;
          if (k.kind === 'circle') return <chakra.circle key={i} cx={k.x} cy={-k.y} r={k.r} {...line} />;
          if (k.kind === 'rect') return <chakra.rect key={i} x={-k.w / 2} y={-k.h / 2} width={k.w} height={k.h} rx={k.r} {...line} />;
          return (
            <chakra.text
              as="text"
              key={i}
              x={flip ? -k.x : k.x}
              y={-k.y}
              transform={flip ? 'scale(-1 1)' : undefined}
              fontSize={`${k.size * 1.8 * text}px`}
              textAnchor={flip && k.anchor === 'start' ? 'end' : k.anchor}
              fill="ink"
              fontFamily="mono"
            >
              {k.text}
            </chakra.text>
          );
        })}
      </g>
    </chakra.svg>
  );
}
