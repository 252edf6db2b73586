import { describe, expect, it } from '@jest/globals';
import { COMMANDS } from './commands';
import { matchesWords } from './matchesWords';

const best = (search: string): string[] =>
  COMMANDS.map((c) => ({ c, score: matchesWords(c.name, search, [c.words ?? '']) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .map(({ c }) => c.id);

describe('the palette', () => {
  it.each([
    ['cut', 'cut'],
    ['split', 'cut'],
    ['backwards', 'reverse'],
    ['onion', 'more ghosts'],
    ['mirror', 'mirror'],
    ['flip', 'mirror'],
    ['trim st', 'trim start'],
    ['blend', 'crossfade'],
    ['dark', 'theme'],
    ['center', 'frame'],
    ['next frame', 'on'],
  ])('finds %s as %s', (search, id) => {
    expect(best(search)[0]).toBe(id);
  });

  it('finds nothing by scattered letters', () => {
    expect(best('ctph')).toEqual([]);
    expect(best('rror')).toEqual([]);
  });

  it('wants every word', () => {
    expect(best('mirror teapot')).toEqual([]);
  });
});
