import { defineGlobalStyles } from '@chakra-ui/react/styled-system';

/**
 * Marks and outlines stand on a screen by the dozen: their looks are said once for all, as what is said on each of them is read
 * again for each one painted.
 */
export const markCss = defineGlobalStyles({
  '.verdict': { display: 'inline-block', flex: 'none' },
  '.verdict text': { fontFamily: 'body', fontSize: '15px', fontWeight: 700 },
  '.verdict.none': { color: 'rule' },
  '.verdict-word': { display: 'inline-flex', alignItems: 'center', gap: '8px', flex: 'none', fontWeight: 700 },
  '.of-holds': { color: 'holds' },
  '.of-tight': { color: 'tightText' },
  '.of-fails': { color: 'fails' },
  '.of-unknown': { color: 'unknown' },
  '.flow': { animation: 'kadro-flow 0.9s linear infinite' },
  '.flow.back': { animationDirection: 'reverse' },
  '.margin-bar': { minWidth: 0 },
  '.margin-bar > svg': { overflow: 'visible' },
  '.margin-bar > span': { fontFamily: 'mono', fontSize: '14px', fontVariantNumeric: 'tabular-nums', color: 'ink' },
  '.silhouette': { flex: 'none', stroke: 'ink', strokeWidth: '1.3px', strokeLinejoin: 'round' },
  '.silhouette > path': { vectorEffect: 'non-scaling-stroke' },
});
