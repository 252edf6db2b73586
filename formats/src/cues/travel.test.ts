import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Clip } from '@warper/core';
import { Memory, compile, defined, findSteps, restoreTravel } from '@warper/core';
import { jointTracks, rootTrack } from '@warper/core/kernels';
import { readMotionFile } from '../read';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';

const load = (path: string): Promise<Uint8Array> =>
  Promise.resolve(new Uint8Array(readFileSync(new URL(`../../../demo/made/${path}`, import.meta.url))));
const read = async (name: string): Promise<Clip> =>
  defined((await readMotionFile(await load(name), name)).clips[0]);
/** The clip as a segment plays it that is straightened and looped. */
async function straightened(name: string): Promise<Clip> {
  const { scene, library } = await assembleCues(
    parseCueSheet({
      format: 'warper-cues',
      version: 1,
      rate: 30,
      characters: [{ name: 'Keeper', cues: [{ clip: name, repeat: 3, straighten: true }] }],
    }),
    load,
  );
  return defined(defined(compile(scene, library).characters[0]).segments[0]).clip;
}
/** How far the toes move while they are planted, centimetres, of the step with the most of it. */
function toesMove(clip: Clip): number {
  const tips = findSteps(clip, new Memory()).joints.filter((j) => j.tip);
  const tracks = jointTracks(
    clip,
    tips.map((j) => j.joint),
  );
  const at = (frame: number, column: number, k: number): number =>
    defined(tracks[(frame * tips.length + column) * 3 + k]);
  let most = 0;
  tips.forEach(({ spans }, column) => {
    for (const { start, end } of spans)
      for (let f = start; f < end; f++)
        most = Math.max(
          most,
          Math.hypot(at(f, column, 0) - at(start, column, 0), at(f, column, 2) - at(start, column, 2)),
        );
  });
  return most * 100;
}

describe('planted toes', () => {
  it('stay within a millimetre where travel is rebuilt from the feet of a walk', async () => {
    for (const name of ['keeper-walk.glb', 'keeper-walk-in-place.glb', 'visitor-walk.glb'])
      expect(toesMove(restoreTravel(await read(name)).clip)).toBeLessThan(0.1);
  });

  it('stay within a millimetre where a drifting walk is made straight, which it then is', async () => {
    const drifting = await read('keeper-walk-drifting.glb');
    const straight = await straightened('keeper-walk-drifting.glb');
    expect(toesMove(straight)).toBeLessThan(0.1);
    const turn = (clip: Clip): number => {
      const root = rootTrack(clip);
      return ((defined(root[(clip.frames - 1) * 3 + 2]) - defined(root[2])) * 180) / Math.PI;
    };
    expect(Math.abs(turn(drifting))).toBeGreaterThan(4);
    expect(Math.abs(turn(straight))).toBeLessThan(0.5);
  });
});
