import { describe, expect, it } from '@jest/globals';
import { inSlices } from './inSlices';

/** Work of some steps, each of which takes a few milliseconds. */
function* slow(steps: number): Generator<number, string> {
  for (let i = 0; i < steps; i++) {
    const since = performance.now();
    while (performance.now() - since < 3);
    yield (i + 1) / steps;
  }
  return 'done';
}

describe('work in slices', () => {
  it('gives its result, reports growing shares, and lets others run in between', async () => {
    const shares: number[] = [];
    let others = 0;
    const timer = setInterval(() => others++, 1);
    expect(await inSlices(slow(20), (s) => shares.push(s), new AbortController().signal)).toBe('done');
    clearInterval(timer);
    expect(shares.length).toBeGreaterThan(2);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
    expect(others).toBeGreaterThan(0);
  });

  it('stops when it is told to', async () => {
    const stop = new AbortController();
    const result = inSlices(slow(2000), (share) => share > 0.005 && stop.abort(), stop.signal);
    expect(await result).toBeNull();
  });
});
