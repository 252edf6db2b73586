import { describe, expect, it } from '@jest/globals';
import type { Pressed } from './chords';
import { ariaChord, chordOf, shownChord } from './chords';
import { COMMANDS } from './commands';

const press = (key: string, held = '', code = ''): Pressed => ({
  key,
  code,
  ctrlKey: /C/.test(held),
  metaKey: /M/.test(held),
  shiftKey: /S/.test(held),
  altKey: /A/.test(held),
  getModifierState: (name) => name === 'AltGraph' && /G/.test(held),
});

describe('chords', () => {
  it('go by the character that is typed, whatever is held to type it', () => {
    // "/" stands alone on a US keyboard, over the 7 on a German one, over the colon on a French one.
    expect([press('/'), press('/', 'S', 'Digit7'), press('/', 'S', 'Period')].map(chordOf)).toEqual([
      '/',
      '/',
      '/',
    ]);
    expect([press('?', 'S', 'Slash'), press('?', 'S', 'Minus')].map(chordOf)).toEqual(['?', '?']);
    expect(chordOf(press('1', 'S', 'Digit1'))).toBe('1');
    expect(chordOf(press('[', 'CAG', 'Digit8'))).toBe('[');
    expect(chordOf(press('+', '', 'NumpadAdd'))).toBe('+');
  });

  it('tell letters and named keys with Shift from those without', () => {
    expect(chordOf(press('z', 'C'))).toBe('Mod+Z');
    expect(chordOf(press('Z', 'CS'))).toBe('Mod+Shift+Z');
    expect(chordOf(press('z', 'M'))).toBe('Mod+Z');
    expect(chordOf(press('ArrowLeft', 'S'))).toBe('Shift+Left');
    expect(chordOf(press(' '))).toBe('Space');
    expect(chordOf(press('G', 'S'))).toBe('Shift+G');
  });

  it('take the place of the key where the alphabet has no such letter', () => {
    expect(chordOf(press('с', '', 'KeyC'))).toBe('C');
    expect(chordOf(press('ö', '', 'Semicolon'))).toBe('Ö');
  });

  it('are nothing while only modifiers are held', () => {
    expect(['Shift', 'Control', 'AltGraph', 'Dead'].map((k) => chordOf(press(k)))).toEqual([
      null,
      null,
      null,
      null,
    ]);
  });

  it('are shown as they are read', () => {
    expect(['Mod+Shift+Z', 'Shift+Left', '+', 'Mod++', '-'].map(shownChord)).toEqual([
      'Ctrl Shift Z',
      'Shift ←',
      '+',
      'Ctrl +',
      '−',
    ]);
    expect(ariaChord('Mod+Left')).toBe('Control+ArrowLeft');
  });
});

describe('the commands', () => {
  it('have ids and keys of their own', () => {
    const ids = COMMANDS.map((c) => c.id);
    expect(new Set(ids).size).toBe(ids.length);
    const keys = COMMANDS.flatMap((c) => c.keys ?? []);
    expect(new Set(keys).size).toBe(keys.length);
  });
});
