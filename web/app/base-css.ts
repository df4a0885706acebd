import { defineGlobalStyles } from '@chakra-ui/react/styled-system';

/**
 * How elements look before anything is said of them. What is said of all elements is worked out for each one painted, and for its
 * pseudo-elements where they are named: so it is little, and names none.
 */
export const baseCss = defineGlobalStyles({
  '*': {
    margin: '0px',
    padding: '0px',
    font: 'inherit',
    wordWrap: 'break-word',
    boxSizing: 'border-box',
    borderWidth: '0px',
    borderStyle: 'solid',
    borderColor: 'border',
    WebkitTapHighlightColor: 'transparent',
  },
  html: {
    lineHeight: '1.5',
    textSizeAdjust: '100%',
    // not among the properties that Chakra knows
    ...({ WebkitFontSmoothing: 'antialiased' } as object),
    textRendering: 'optimizeLegibility',
    touchAction: 'manipulation',
    colorPalette: 'gray',
    height: '100%',
  },
  'body, #root': { height: '100%' },
  body: { position: 'relative', bg: 'paper', color: 'ink', fontFamily: 'body', fontSize: '16px', lineHeight: 1.4 },
  'img, svg, video, canvas, iframe, object': { display: 'block', verticalAlign: 'middle' },
  'img, video': { maxWidth: '100%', height: 'auto' },
  hr: { height: '0px', color: 'inherit', borderTopWidth: '1px' },
  'p, h1, h2, h3': { overflowWrap: 'break-word' },
  'h1, h2, h3': { fontWeight: 700, lineHeight: 1.2 },
  'ol, ul': { listStyle: 'none' },
  a: { color: 'inherit', textDecoration: 'inherit' },
  'b, strong': { fontWeight: 'bolder' },
  'i, em': { fontStyle: 'italic' },
  'code, kbd, pre': { fontSize: '1em', fontFamily: 'mono' },
  small: { fontSize: '80%' },
  'sub, sup': { fontSize: '75%', lineHeight: 0, position: 'relative', verticalAlign: 'baseline' },
  sub: { bottom: '-0.25em' },
  sup: { top: '-0.5em' },
  summary: { display: 'list-item' },
  table: { textIndent: '0px', borderColor: 'inherit', borderCollapse: 'collapse' },
  'button, [type="button"], [type="submit"]': { WebkitAppearance: 'button', backgroundColor: 'transparent', backgroundImage: 'none' },
  'button, input, select, textarea': { color: 'inherit' },
  'button, select': { textTransform: 'none' },
  textarea: { resize: 'vertical' },
  'input[type="text"], input[type="email"], input[type="search"], input[type="password"]': { WebkitAppearance: 'none' },
  'input[type="search"]': { WebkitAppearance: 'textfield', outlineOffset: '-2px' },
  'input[type="number"]': { appearance: 'textfield' },
  'input::-webkit-inner-spin-button, input::-webkit-outer-spin-button': { height: 'auto' },
  'input::placeholder, textarea::placeholder': { opacity: 'unset', color: 'quiet', userSelect: 'none' },
  'input::-webkit-search-decoration, input::-webkit-search-cancel-button': { WebkitAppearance: 'none' },
  'input::file-selector-button': { WebkitAppearance: 'button', font: 'inherit' },
  '[hidden]:where(:not([hidden="until-found"]))': { display: 'none !important' },
  // all that moves: dialogs, and current in a wire. Said of every element it would cost a fifth of what a screen's style does
  '[data-scope], .flow': { '@media (prefers-reduced-motion: reduce)': { animation: 'none !important', transition: 'none !important' } },
  ':focus-visible': { outline: '3px solid {colors.accent}', outlineOffset: '2px' },
  // on paper there are no menus: a paper of the device's own stands alone, any other screen without its rail and strip
  'body:has([data-paper]) #root, nav, [data-part=plate], aside': { '@media print': { display: 'none !important' } },
  'html, body, #root, #root > *': { '@media print': { height: 'auto !important' } },
  '#root *': { '@media print': { overflow: 'visible !important' } },
});
