/** The colour of one of the eight hues in the theme that is on. */
export const hueColour = (hue: number): string => themeColour(`--hue-${hue}`);

/** A colour of the theme by the name of its variable. */
export const themeColour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#888888';
