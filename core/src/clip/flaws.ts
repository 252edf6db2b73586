import { Memory } from '../memory/memory';
import type { Clip } from './clip';
import { rootTrack } from './root';

/** A jump of the root within a clip. */
export interface RootJump {
  /** The sample that is jumped to. */
  readonly sample: number;
  readonly metres: number;
}

/** A step of the root is a jump where it is this long, and so many times as long as those around it. */
const JUMP = { metres: 0.12, times: 5 };
/** Steps on either side with which one is compared. */
const AROUND = 4;

/**
 * The places at which a clip's root jumps: steps of over 12 cm that are five times as long as the median of the steps
 * around them. A run is fast, but all its steps are.
 */
export function rootJumps(clip: Clip, memory = new Memory()): RootJump[] {
  const root = rootTrack(clip, memory);
  const stride = clip.translated.length * 3;
  const steps = Float64Array.from({ length: Math.max(0, clip.frames - 1) }, (_, s) =>
    Math.hypot(
      root[s * 3 + 3]! - root[s * 3]!,
      root[s * 3 + 4]! - root[s * 3 + 1]!,
      clip.translations[(s + 1) * stride + 1]! - clip.translations[s * stride + 1]!,
    ),
  );
  const jumps: RootJump[] = [];
  steps.forEach((metres, s) => {
    if (metres < JUMP.metres) return;
    const around = [...steps.subarray(Math.max(0, s - AROUND), s), ...steps.subarray(s + 1, s + 1 + AROUND)];
    const median = around.sort((a, b) => a - b)[around.length >> 1];
    if (median !== undefined && metres > JUMP.times * median) jumps.push({ sample: s + 1, metres });
  });
  return jumps;
}

/** Length of the root's way over the floor, metres. */
export function wayLength(clip: Clip, memory = new Memory()): number {
  const root = rootTrack(clip, memory);
  let length = 0;
  for (let s = 1; s < clip.frames; s++)
    length += Math.hypot(root[s * 3]! - root[s * 3 - 3]!, root[s * 3 + 1]! - root[s * 3 - 2]!);
  return length;
}
