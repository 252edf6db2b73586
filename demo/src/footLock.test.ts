import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, Segment } from '@warper/core';
import { compile, evaluate, makePoseBuffer, makeWorldPose, measureSeams, poseToWorld } from '@warper/core';
import { KEEPER, keeperClips } from './demonstration';
import { skeletonOf } from './build';
import { libraryOf, sceneOf, segmentOf } from './testing';

const clips = keeperClips().map((c) => c.clip);
const library = libraryOf(clips, skeletonOf(KEEPER));
const named = (name: string) => clips.find((c) => c.name === name)!;

/** The same performance with its feet held, and without. */
function bothWays(segments: readonly Segment[]): { held: CharacterPlan; free: CharacterPlan } {
  const [held, free] = [true, false].map(
    (footLock) => compile(sceneOf(segments, footLock), library).characters[0]!,
  );
  return { held: held!, free: free! };
}

/** The largest distance of any joint between two performances, metres. */
function apart({ held, free }: ReturnType<typeof bothWays>, step = 1): number {
  const { skeleton } = held;
  const [a, b] = [makeWorldPose(skeleton), makeWorldPose(skeleton)];
  const [p, q] = [makePoseBuffer(skeleton), makePoseBuffer(skeleton)];
  let most = 0;
  for (let f = held.start; f < held.end; f += step) {
    poseToWorld(skeleton, evaluate(held, f, p), a);
    poseToWorld(skeleton, evaluate(free, f, q), b);
    for (let j = 0; j < skeleton.names.length; j++)
      most = Math.max(
        most,
        Math.hypot(...[0, 1, 2].map((k) => a.positions[j * 3 + k]! - b.positions[j * 3 + k]!)),
      );
  }
  return most;
}

const measured = (plan: CharacterPlan) => measureSeams(plan, 30)[0]!;

describe('holding the feet', () => {
  it('of an exact motion changes nothing, in its steps or after them', () => {
    expect(apart(bothWays([segmentOf(named('Walk'), 'a', { loop: true, repeat: 3 })]))).toBe(0);
    for (const name of ['Walk start', 'Walk stop', 'Idle', 'Wave'])
      expect([name, apart(bothWays([segmentOf(named(name), 'a')]), 0.5)]).toEqual([name, 0]);
    // On a foot that turns on the spot the held joint moves a little by itself.
    expect(apart(bothWays([segmentOf(named('Turn round'), 'a')]))).toBeLessThan(3e-3);
  });

  it('over a seam between like steps moves what the seam has moved, and makes it no worse', () => {
    const start = segmentOf(named('Walk start'), 'a');
    const walk = segmentOf(named('Walk'), 'b', { start: start.out - 8, loop: true, repeat: 3 });
    const { held, free } = bothWays([start, walk]);
    expect(measured(held).popCm).toBeLessThan(measured(free).popCm + 0.2);
    expect(apart({ held, free })).toBeLessThan(0.02);
  });
});
