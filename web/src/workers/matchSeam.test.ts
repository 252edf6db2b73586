import { describe, expect, it } from '@jest/globals';
import type { Scene } from '@warper/core';
import { PLAIN_CHARACTER, PLAIN_LANE, PLAIN_SEGMENT, compile, emptyScene, fixedLibrary } from '@warper/core';
import { readMotionFile } from '@warper/formats';
import { readFileSync } from 'node:fs';
import { matchSeam } from './matchSeam';

const read = async (name: string) =>
  (await readMotionFile(new Uint8Array(readFileSync(`demo/made/${name}`)), name)).clips[0]!;

/** A scene in which the walk starts and stops again. */
async function startAndStop() {
  const [start, stop] = [await read('keeper-walk-start.glb'), await read('keeper-walk-stop.glb')];
  const segments = [start, stop].map((clip, i) => ({
    ...PLAIN_SEGMENT,
    id: `s${i}`,
    name: clip.name,
    clip: clip.id,
    start: i * (start.frames - 8),
    out: clip.frames,
  }));
  const scene: Scene = {
    ...emptyScene('x', 30),
    characters: { c: { ...PLAIN_CHARACTER, id: 'c', name: 'c', body: 'b' } },
    characterOrder: ['c'],
    lanes: { l: { ...PLAIN_LANE, id: 'l', kind: 'body', character: 'c', segments: ['s0', 's1'] } },
    laneOrder: ['l'],
    segments: Object.fromEntries(segments.map((s) => [s.id, s])),
  };
  const clips = [start, stop];
  return compile(
    scene,
    fixedLibrary({ clip: (id) => clips.find((c) => c.id === id), body: () => start.skeleton }),
  );
}

describe('matching frames of a seam', () => {
  it('compares the moments within a second of it, reports its way there, and gives a map that its pairs lie on', async () => {
    const work = matchSeam(await startAndStop(), 's1', 3);
    const shares: number[] = [];
    let step = work.next();
    for (; !step.done; step = work.next()) shares.push(step.value);
    const match = step.value;
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(match.outgoing).toEqual({ start: 84 - 30, end: 84 });
    expect(match.incoming).toEqual({ start: 0, end: 30 });
    expect(match.distances).toHaveLength(match.outgoingMoments * match.incomingMoments);
    expect(match.pairs.length).toBeGreaterThan(0);
    for (const p of match.pairs) {
      const [row, column] = [p.out - match.outgoing.start, p.in - match.incoming.start];
      expect(match.distances[row * match.incomingMoments + column]! * 100).toBeCloseTo(p.distanceCm, 6);
    }
    // Made to go over into one another by way of a walk: one step of both is the same.
    expect(match.pairs[0]!.distanceCm).toBeLessThan(2);
  });

  it('says so where the seam is gone', async () => {
    expect(() =>
      matchSeam(
        compile(emptyScene('x'), fixedLibrary({ clip: () => undefined, body: () => undefined })),
        's',
        3,
      ).next(),
    ).toThrow(/no longer there/);
  });
});
