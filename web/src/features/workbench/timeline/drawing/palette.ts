import type { Grade } from '@warper/core';
import { hueColour, themeColour } from '../../../../parts/stage/colours';

/** The colours of the theme that is on, as the canvas wants them. */
export interface Palette {
  readonly paper: string;
  readonly raised: string;
  readonly rule: string;
  readonly ink: string;
  readonly soft: string;
  readonly signal: string;
  readonly grades: Readonly<Record<Grade, string>>;
  readonly hues: readonly string[];
}

let cached: { readonly theme: string; readonly palette: Palette } | null = null;

/** The palette of now; read from the page once for a theme. */
export function paletteNow(): Palette {
  const theme = document.documentElement.dataset.theme ?? '';
  if (cached?.theme === theme) return cached.palette;
  const palette = {
    paper: themeColour('--paper'),
    raised: themeColour('--raised'),
    rule: themeColour('--rule'),
    ink: themeColour('--ink'),
    soft: themeColour('--soft'),
    signal: themeColour('--signal'),
    grades: { good: themeColour('--good'), watch: themeColour('--watch'), bad: themeColour('--bad') },
    hues: Array.from({ length: 8 }, (_, hue) => hueColour(hue)),
  };
  cached = { theme, palette };
  return palette;
}
