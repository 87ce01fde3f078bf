import { css, type CSSObject } from '@emotion/react';
import { theme } from './theme';

/** The theme has it, its type does not. */
const { generateStyleSheets } = theme as unknown as { generateStyleSheets: () => CSSObject[] };

/**
 * The component library's variables of the theme, as the style sheet variables.css holds them: written once by `npm run theme` and loaded like any
 * other, in place of 22 kB that each page would make anew and carry.
 */
export const variablesCss = (): string =>
  `/* Written by npm run theme from theme.ts; do not edit. */\n${css(...generateStyleSheets()).styles.replace(/;(?!\})|[{}]/g, '$&\n')}`;
