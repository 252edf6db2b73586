import { describe, expect, it } from '@jest/globals';
import { derivation, Memory } from './memory';

describe('the memory', () => {
  const made: unknown[][] = [];
  const pair = derivation('pair', 2, (_, a: unknown, b: unknown) => {
    made.push([a, b]);
    return { a, b };
  });

  it('makes a value once for the same inputs', () => {
    const memory = new Memory();
    const object = {};
    made.length = 0;
    expect(memory.recall(pair, object, 1)).toBe(memory.recall(pair, object, 1));
    expect(memory.recall(pair, {}, 1)).not.toBe(memory.recall(pair, object, 1));
    expect(made).toHaveLength(2);
  });

  it.each([
    ['1', 1],
    [null, 'null'],
    [undefined, null],
    [0, -0],
    ['a|', 'a'],
  ])('tells %p from %p', (a, b) => {
    const memory = new Memory();
    expect(memory.recall(pair, a, 0)).not.toBe(memory.recall(pair, b, 0));
  });

  it('does not mistake the end of one text for the beginning of the next', () => {
    const memory = new Memory();
    expect(memory.recall(pair, 'a|"1:b', 'c')).not.toBe(memory.recall(pair, 'a', 'b|"1:c'));
  });

  it('keeps no more than it says, and forgets what was unused for longest', () => {
    const memory = new Memory();
    const first = memory.recall(pair, 1, 1);
    memory.recall(pair, 2, 2);
    expect(memory.recall(pair, 1, 1)).toBe(first);
    memory.recall(pair, 3, 3);
    expect(memory.recall(pair, 1, 1)).toBe(first);
    expect(memory.size(pair)).toBe(2);
  });

  it('keeps what came to nothing', () => {
    const memory = new Memory();
    let times = 0;
    const nothing = derivation('nothing', 5, () => void times++);
    memory.recall(nothing);
    memory.recall(nothing);
    expect(times).toBe(1);
  });

  it('lets go of everything when dropped, and keeps nothing at scale 0', () => {
    const memory = new Memory();
    const first = memory.recall(pair, 1, 1);
    memory.drop();
    expect(memory.size()).toBe(0);
    expect(memory.recall(pair, 1, 1)).not.toBe(first);
    const none = new Memory(0);
    expect(none.recall(pair, 1, 1)).not.toBe(none.recall(pair, 1, 1));
    expect(none.size()).toBe(0);
  });

  it('interns equal contents as one object', () => {
    const memory = new Memory();
    const one = (value: object) => memory.intern(JSON.stringify(value), () => value);
    expect(one({ x: [1, 2] })).toBe(one({ x: [1, 2] }));
    expect(one({ x: [1, 3] })).not.toBe(one({ x: [1, 2] }));
  });
});
