import type { Clip } from '@warper/core';
import { jointOfRole, defined } from '@warper/core';
import { jointTracks, rootTrack, smoothGaussian } from '@warper/core/kernels';

/** One moment of a clip's curves. */
export interface CurvePoint {
  readonly sample: number;
  /** Metres a second. */
  readonly speed: number;
  /** Metres over the floor. */
  readonly hips: number;
  /** Centimetres over the floor; undefined for a body without feet. */
  readonly leftFoot?: number;
  readonly rightFoot?: number;
}

/** Width of the Gaussian that calms the speed, seconds; a single step of a frame is no speed. */
const CALM_SECONDS = 0.05;
/** Points that are drawn at most. */
const MOST_POINTS = 400;

/** Speed of the root, height of the hips and of both feet along a clip. */
export function clipCurves(clip: Clip): CurvePoint[] {
  const root = rootTrack(clip);
  const last = clip.frames - 1;
  const speeds = Float64Array.from({ length: clip.frames }, (_, f) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(last, f + 1)];
    if (a === b) return 0;
    return (
      (Math.hypot(
        defined(root[b * 3]) - defined(root[a * 3]),
        defined(root[b * 3 + 1]) - defined(root[a * 3 + 1]),
      ) *
        clip.rate) /
      (b - a)
    );
  });
  const calm = smoothGaussian(speeds, CALM_SECONDS * clip.rate);
  const feet = (['left', 'right'] as const).map((side) => {
    const toes = jointOfRole(clip.skeleton, `${side}Toes`);
    return toes >= 0 ? toes : jointOfRole(clip.skeleton, `${side}Foot`);
  });
  const hasFeet = feet.every((j) => j >= 0);
  const joints = hasFeet ? [clip.skeleton.rootBone, ...feet] : [clip.skeleton.rootBone];
  const tracks = jointTracks(clip, joints);
  const step = Math.max(1, Math.ceil(clip.frames / MOST_POINTS));
  return Array.from({ length: Math.ceil(clip.frames / step) }, (_, i): CurvePoint => {
    const f = i * step;
    const height = (k: number): number => defined(tracks[(f * joints.length + k) * 3 + 1]);
    return {
      sample: f,
      speed: Math.max(0, defined(calm[f])),
      hips: height(0),
      ...(hasFeet ? { leftFoot: height(1) * 100, rightFoot: height(2) * 100 } : {}),
    };
  });
}
