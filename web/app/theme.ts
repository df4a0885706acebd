import { createSystem, defineConfig } from '@chakra-ui/react';
import { defaultBaseConfig } from '@chakra-ui/react/preset-base';
import {
  animationStyles,
  breakpoints,
  cssVarsPrefix,
  cssVarsRoot,
  dialogSlotRecipe,
  keyframes,
  layerStyles,
  semanticTokens,
  textStyles,
  tokens,
} from '@chakra-ui/react/theme';
import { markCss } from '../marks/mark-css';
import { baseCss } from './base-css';
import { quickSystem } from './quick-system';

const pair = (light: string, dark: string) => ({ value: { _light: light, _dark: dark } });

/** Chakra's theme with the recipes of what is used here: those of sixty other components would be loaded with the first view. */
const chakraTheme = defineConfig({
  preflight: false,
  cssVarsPrefix,
  cssVarsRoot,
  theme: {
    breakpoints,
    keyframes,
    tokens,
    semanticTokens,
    slotRecipes: { dialog: dialogSlotRecipe },
    textStyles,
    layerStyles,
    animationStyles,
  },
});

/** Kadro's own colours and type on Chakra's system. Tight's text is darker than its fill so that it reads on paper. */
export const system = quickSystem(
  createSystem(
    defaultBaseConfig,
    chakraTheme,
    defineConfig({
      globalCss: { ...baseCss, ...markCss },
      theme: {
        keyframes: { 'kadro-flow': { to: { strokeDashoffset: '-24' } } },
        tokens: {
          fonts: {
            body: { value: "'Atkinson Hyperlegible Next', sans-serif" },
            heading: { value: "'Atkinson Hyperlegible Next', sans-serif" },
            mono: { value: "'Spline Sans Mono', monospace" },
          },
          radii: { kadro: { value: '6px' } },
        },
        semanticTokens: {
          colors: {
            paper: pair('#F7F5EF', '#12191B'),
            raised: pair('#FFFFFF', '#1A2427'),
            sunk: pair('#EFECE3', '#0D1315'),
            ink: pair('#16262B', '#EAF0EE'),
            quiet: pair('#52646A', '#A5B5B8'),
            rule: pair('#D4D2C8', '#38484D'),
            accent: pair('#0B5E6B', '#6CCBD6'),
            onAccent: pair('#FFFFFF', '#0A1A1D'),
            accentWash: pair('#DDECEC', '#15363C'),
            holds: pair('#1F6F4A', '#71CB9F'),
            tight: pair('#A86A0B', '#E6B25A'),
            tightText: pair('#855203', '#E6B25A'),
            fails: pair('#A3301F', '#F29382'),
            unknown: pair('#6A6F78', '#ABB2BA'),
            glass: pair('#DCE9EA', '#22393E'),
            seat: pair('#E9E5DA', '#28332F'),
            tyre: pair('#DEDBD1', '#2B3336'),
          },
        },
      },
    }),
  ),
);

/** A colour of the theme, for what is drawn too often to have a style sheet of its own each time. */
export const colourOf = (token: string): string => system.token.var(`colors.${token}`);
/** The same of a font: `body` or `mono`. */
export const fontOf = (token: string): string => system.token.var(`fonts.${token}`);
