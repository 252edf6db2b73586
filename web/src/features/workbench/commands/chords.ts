/**
 * Chords as text: `Mod`, `Shift` and `Alt` before a key, such as `Mod+Shift+Z`. A key is told by the character that it types, not by
 * its place on a keyboard, so that `?` and `/` are found on every layout. `Mod` is Control, or Command on a Mac.
 */

/** What of a keyboard event is looked at. */
export type Pressed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'> & {
  readonly getModifierState?: (key: string) => boolean;
};

const NAMED: Readonly<Record<string, string>> = {
  ' ': 'Space',
  ArrowLeft: 'Left',
  ArrowRight: 'Right',
  ArrowUp: 'Up',
  ArrowDown: 'Down',
};

const MODIFIERS = new Set([
  'Control',
  'Shift',
  'Alt',
  'AltGraph',
  'Meta',
  'CapsLock',
  'Dead',
  'Process',
  'Unidentified',
]);

/** The chord of a press; null for a modifier alone, or a letter still being composed. */
export function chordOf(event: Pressed): string | null {
  const { key, code } = event;
  if (MODIFIERS.has(key)) return null;
  const name = keyName(key, code);
  // Signs may need Shift or AltGr to be typed: what is typed counts.
  const sign = key.length === 1 && key !== ' ' && !/\p{L}/u.test(key);
  const typed = sign && (event.getModifierState?.('AltGraph') ?? false);
  const mod = (event.ctrlKey || event.metaKey) && !typed;
  const alt = event.altKey && !typed;
  const shift = event.shiftKey && !sign;
  return [mod && 'Mod', shift && 'Shift', alt && 'Alt', name].filter(Boolean).join('+');
}

function keyName(key: string, code: string): string {
  if (NAMED[key]) return NAMED[key];
  if (key.length !== 1) return key;
  // Alphabets without the letters of the chords go by the place of the key.
  if (/\p{L}/u.test(key) && !/[a-z]/i.test(key)) return /^Key([A-Z])$/.exec(code)?.[1] ?? key.toUpperCase();
  return key.toUpperCase();
}

const SHOWN: Readonly<Record<string, string>> = {
  Mod: 'Ctrl',
  Left: '←',
  Right: '→',
  Up: '↑',
  Down: '↓',
  '-': '−',
};

/** A chord as it is read: "Ctrl Shift Z", "Shift ←", "+". */
export const shownChord = (chord: string): string =>
  partsOf(chord)
    .map((part) => SHOWN[part] ?? part)
    .join(' ');

/** A chord for `aria-keyshortcuts`: "Control+Shift+Z". */
export const ariaChord = (chord: string): string =>
  partsOf(chord)
    .map((part) => (part === 'Mod' ? 'Control' : /^(Left|Right|Up|Down)$/.test(part) ? `Arrow${part}` : part))
    .join('+');

/** The plus sign is a key as well. */
const partsOf = (chord: string): string[] =>
  chord.endsWith('+') ? [...chord.slice(0, -1).split('+').filter(Boolean), '+'] : chord.split('+');
