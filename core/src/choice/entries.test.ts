import { describe, expect, it } from '@jest/globals';
import { sizedClip } from '../steps/variants';
import { Memory } from '../memory/memory';
import { figureClip, strideJoints } from '../testing/figure';
import { clipEntry, rankEntries } from './entries';
import { rankFollowers } from './followers';

const SPEED = 1.2 / 30;
const walkFrom = (phase: number, id: string, speed = SPEED) =>
  figureClip(
    61,
    (f) => ({ x: 0, y: 0.93, z: speed * f, turn: 0, joints: strideJoints((2 * Math.PI * (f + phase)) / 30) }),
    { id },
  );
const stand = figureClip(61, () => ({ x: 0, y: 0.93, z: 0, turn: 0, joints: strideJoints(0) }), {
  id: 'stand',
});
const memory = new Memory();
const walk = walkFrom(0, 'walk');
const clips = [stand, walkFrom(11, 'other'), walkFrom(4, 'fast', 2 * SPEED), walkFrom(20, 'late')];
const entries = clips.map((clip) => clipEntry(clip, memory));
const ranked = (before = walk, list = entries): string[] =>
  rankEntries(before, before.frames - 1, list, memory).map((i) => clips[i]!.id);

describe('entries', () => {
  it('rank clips as their whole motion does', () => {
    const exactly = rankFollowers(walk, walk.frames - 1, clips, memory).map((f) => f.clip.id);
    // Two of them are the very same walk, further on in its stride.
    expect(ranked().slice(0, 2).sort()).toEqual(exactly.slice(0, 2).sort());
    expect(ranked().slice(2)).toEqual(exactly.slice(2));
    expect(ranked(stand)[0]).toBe('stand');
  });

  it('hold the first second alone, the same for a body of any size', () => {
    const long = figureClip(
      301,
      (f) => ({ x: 0, y: 0.93, z: SPEED * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
      { id: 'long' },
    );
    expect(clipEntry(long, memory).features.length).toBe(clipEntry(walk, memory).features.length);
    const small = clipEntry(sizedClip(walk, 0.5, memory), memory);
    const own = clipEntry(walk, memory);
    own.features.forEach((v, i) => {
      // Turns, which have no length, alone differ.
      if ((i + 2) % 45 !== 0) expect(small.features[i]).toBeCloseTo(v, 4);
    });
  });

  it('of other bodies are left out', () => {
    const dog = { ...entries[0]!, legs: 4 };
    expect(rankEntries(walk, 60, [dog, entries[1]!], memory)).toEqual([1]);
    expect(rankEntries(walk, 60, [], memory)).toEqual([]);
  });
});
