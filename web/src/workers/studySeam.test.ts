import { describe, expect, it } from '@jest/globals';
import type { Scene } from '@warper/core';
import {
  PLAIN_CHARACTER,
  PLAIN_LANE,
  PLAIN_SEGMENT,
  applyEdit,
  compile,
  emptyScene,
  fixedLibrary,
  measureSeam,
} from '@warper/core';
import { readMotionFile } from '@warper/formats';
import { readFileSync } from 'node:fs';
import { studySeam } from './studySeam';

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
  const library = fixedLibrary({ clip: (id) => clips.find((c) => c.id === id), body: () => start.skeleton });
  return { scene, library };
}

describe('the study of a seam', () => {
  it('maps what could meet, and measures the seam plain and automatic as it then is', async () => {
    const { scene, library } = await startAndStop();
    const work = studySeam(scene, 's1', library);
    const shares: number[] = [];
    let step = work.next();
    for (; !step.done; step = work.next()) shares.push(step.value);
    const { map, plain, automatic } = step.value;
    expect(shares.every((s) => s > 0 && s < 1)).toBe(true);
    // Made to go over into one another by way of a walk: one step of both is the same.
    expect(Math.min(...map!.distancesCm)).toBeLessThan(2);
    expect(map!.pairs[0]!.measures.grade).toBe('good');
    for (const way of [plain!, automatic!, ...map!.pairs]) {
      const after = compile(applyEdit(scene, way.edit, library), library).characters[0]!;
      expect(measureSeam(after, 0, 30).popCm).toBeCloseTo(way.measures.popCm, 6);
    }
    expect(automatic!.measures.grade).toBe('good');
  });

  it('says so where the seam is gone', async () => {
    const { library } = await startAndStop();
    expect(() => studySeam(emptyScene('x'), 's', library).next()).toThrow(/no longer there/);
  });
});
