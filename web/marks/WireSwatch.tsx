import { chakra } from '@chakra-ui/react';
import { WIRE_FILL } from '#core/harness/draw';

const FILL = WIRE_FILL;

export const wireFill = (colour: string): string => FILL[colour.split('/')[0]!] ?? '#888';

/** A length of wire in its true colour with its tracer, outlined so that white and yellow read. */
export function WireMark({ colour, width = 26 }: { colour: string; width?: number }) {
  const [base, tracer] = colour.split('/') as [string, string | undefined];
  const stripe = tracer ?? (base === 'GNYE' ? 'YE' : undefined);
  return (
    <chakra.svg width={`${width}px`} height="12px" viewBox={`0 0 ${width} 12`} aria-hidden flex="none" color="ink">
      <rect x="1" y="2" width={width - 2} height="8" rx="4" fill={FILL[base] ?? '#888'} stroke="currentColor" strokeWidth="1.3" />
      {stripe && <path d={`M5 6H${width - 5}`} stroke={FILL[stripe]} strokeWidth="3" strokeDasharray="7 5" />}
    </chakra.svg>
  );
}

/** A length of wire with its letters. */
export function WireSwatch({ colour, width = 44 }: { colour: string; width?: number }) {
  return (
    <chakra.span display="inline-flex" alignItems="center" gap="6px" fontFamily="mono" fontSize="14px">
      <WireMark colour={colour} width={width} />
      {colour}
    </chakra.span>
  );
}

const FUSE_FILL: Record<string, string> = {
  black: '#222',
  grey: '#8c9196',
  violet: '#7b46a5',
  pink: '#e69ab0',
  tan: '#c9a878',
  brown: '#7a4a21',
  red: '#c62f24',
  blue: '#2a62b8',
  yellow: '#efcd2f',
  clear: '#f4f4f4',
  green: '#2b8a48',
  orange: '#e07b1a',
};

/** A fuse in its colour, with its rating, its volts and the colour's name. */
export function FuseMark({ ratingA, colour, volts }: { ratingA: number; colour: string; volts: number | null }) {
  return (
    <chakra.span display="inline-flex" alignItems="center" gap="6px" whiteSpace="nowrap">
      <chakra.svg width="18px" height="18px" viewBox="0 0 18 18" aria-hidden flex="none" color="ink">
        <path d="M4 9V17M14 9V17" stroke="currentColor" strokeWidth="2" />
        <rect x="1" y="2" width="16" height="9" rx="2" fill={FUSE_FILL[colour] ?? 'transparent'} stroke="currentColor" strokeWidth="1.4" />
      </chakra.svg>
      <chakra.span fontFamily="mono">{ratingA} A</chakra.span>
      <chakra.span color={volts === null ? 'fails' : 'quiet'} fontSize="14px" lineHeight="1.3">
        {FUSE_FILL[colour] ? colour : 'bolt-down'}
        <br />
        {volts === null ? 'no such volts' : `${volts} V`}
      </chakra.span>
    </chakra.span>
  );
}
