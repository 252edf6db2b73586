import type { Clip } from '@warper/core';
import { jointTracks, rootTrack, shortestTurn } from '@warper/core/kernels';

/** What is measured of a baked file, without asking the program that wrote it. */
export interface Measured {
  /** Largest |step - mean of the steps around it| of any joint over the given frames, centimetres. */
  readonly popCm: number;
  /** Largest step of any joint, centimetres a frame. */
  readonly stepCm: number;
  /** Largest turn of the heading between frames, degrees. */
  readonly turnDegrees: number;
}

/** Measures frames [from, to) of a clip. */
export function measure(clip: Clip, from: number, to: number): Measured {
  const joints = clip.skeleton.names.map((_, i) => i);
  const tracks = jointTracks(clip, joints);
  const at = (f: number, j: number, k: number): number => tracks[(f * joints.length + j) * 3 + k]!;
  let [pop, step, turn] = [0, 0, 0];
  const root = rootTrack(clip);
  for (let f = Math.max(2, from); f < Math.min(to, clip.frames - 1); f++) {
    turn = Math.max(turn, Math.abs(shortestTurn(root[f * 3 + 2]! - root[f * 3 - 1]!)));
    for (const j of joints) {
      const s = [0, 1, 2].map((k) => at(f, j, k) - at(f - 1, j, k));
      const mean = [0, 1, 2].map(
        (k) => (at(f - 1, j, k) - at(f - 2, j, k) + at(f + 1, j, k) - at(f, j, k)) / 2,
      );
      step = Math.max(step, Math.hypot(...s));
      pop = Math.max(pop, Math.hypot(...s.map((v, k) => v - mean[k]!)));
    }
  }
  return { popCm: pop * 100, stepCm: step * 100, turnDegrees: (turn * 180) / Math.PI };
}
