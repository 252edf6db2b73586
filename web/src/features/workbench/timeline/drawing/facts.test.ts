import { describe, expect, it } from '@jest/globals';
import { beginFacts, fact } from './facts';

const wait = (ms: number): void => {
  const until = performance.now() + ms;
  while (performance.now() < until);
};

describe('facts', () => {
  it('are computed once, and not before there is time', () => {
    const kept = new Map<string, number>();
    let made = 0;
    const slow = (): number => {
      wait(4);
      return (made += 1);
    };
    beginFacts();
    expect(fact(kept, 'a', slow)).toBe(1);
    expect(fact(kept, 'b', slow)).toBeUndefined();
    // What is known can be told at any time.
    expect(fact(kept, 'a', slow)).toBe(1);
    beginFacts();
    expect(fact(kept, 'b', slow)).toBe(2);
    expect(fact(kept, 'b', slow)).toBe(2);
    expect(made).toBe(2);
  });
});
