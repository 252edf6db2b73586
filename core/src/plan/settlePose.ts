import type { Clip } from '../clip/clip';
import type { ScenePose } from '../clip/pose';
import { DECAY_SIZE, decayAt, turnAbout } from '../seam/settle';

/** The decaying differences of a settling seam: one rotation for each joint, one vector for each moving joint, the heading. */
export interface Settle {
  /** Frames after which nothing is left. */
  readonly frames: number;
  readonly secondsPerFrame: number;
  /** joints x 3, unit axes in the parent's space (the root bone's in scene space). */
  readonly turnAxes: Float64Array;
  /** joints x DECAY_SIZE, radians. */
  readonly turns: Float64Array;
  /** translated x 3, unit directions. */
  readonly placeAxes: Float64Array;
  /** translated x DECAY_SIZE, metres. */
  readonly places: Float64Array;
  /** Difference of the root's heading: its sign and its decay in radians. */
  readonly headingSign: number;
  readonly heading: Float64Array;
}

/** Adds what is left of the differences, `frame` frames after the cut, to a pose. */
export function settlePose(settle: Settle, frame: number, clip: Clip, out: ScenePose): void {
  if (frame >= settle.frames) return;
  const t = Math.max(0, frame) * settle.secondsPerFrame;
  const joints = clip.skeleton.names.length;
  for (let j = 0; j < joints; j++) {
    const angle = decayAt(settle.turns, j * DECAY_SIZE, t);
    if (angle !== 0) turnAbout(settle.turnAxes, j * 3, angle, out.rotations, j * 4);
  }
  const { translated } = clip;
  for (let i = 0; i < translated.length; i++) {
    const length = decayAt(settle.places, i * DECAY_SIZE, t);
    if (length === 0) continue;
    const p = translated[i]! * 3;
    for (let k = 0; k < 3; k++) out.translations[p + k]! += length * settle.placeAxes[i * 3 + k]!;
    if (i > 0) continue;
    out.root[0]! += length * settle.placeAxes[0]!;
    out.root[1]! += length * settle.placeAxes[2]!;
  }
  out.root[2]! += settle.headingSign * decayAt(settle.heading, 0, t);
}
