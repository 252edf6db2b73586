import { describe, expect, it } from '@jest/globals';
import { commandOf } from './commands';
import { commandOfChord, giveChord, keysOf, readKeys, writeKeys } from './ownKeys';

describe('keys of the user', () => {
  it('take the place of those that a command has by itself', () => {
    const own = giveChord({}, 'mirror', 'K');
    expect(commandOfChord('K', own)?.id).toBe('mirror');
    expect(commandOfChord('M', own)).toBeUndefined();
  });

  it('are taken from whatever had them', () => {
    const own = giveChord({}, 'mirror', 'Delete');
    expect(commandOfChord('Delete', own)?.id).toBe('mirror');
    expect(keysOf(commandOf('remove'), own)).toEqual(['Backspace']);
    expect(giveChord(own, 'mirror', 'Delete')).toEqual(own);
  });

  it('come back from their file, without those of unknown commands', () => {
    const own = giveChord({}, 'play', 'P');
    expect(readKeys(writeKeys({ ...own, gone: ['Y'] }))).toEqual(own);
  });

  it.each([
    ['{', /not JSON/],
    ['[]', /must be of type object/],
    ['{"format":"warper-keys","version":1,"keys":{"play":"P"}}', /keys.play must be an array/],
  ])('say what is wrong with a file: %s', (text, message) => {
    expect(() => readKeys(text)).toThrow(message);
  });
});
