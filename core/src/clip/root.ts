import { quatConjugate, quatMultiply, quatTwistY } from '../math/quaternion';
import { smoothGaussian, unwrapAngles } from '../math/smoothing';
import { jointOfRole, restPose } from '../skeleton/skeleton';
import type { Clip } from './clip';
import { jointTracks } from './track';

/** Width in seconds of the Gaussian that calms the heading; sway and single steps pass, jitter does not. */
export const HEADING_SIGMA_SECONDS = 0.1;

/** Length of the unit forward vector's shadow on the floor below which hips and shoulders no longer tell it. */
const UPRIGHT = 0.5;

const tracks = new WeakMap<Clip, Float64Array>();
const raws = new WeakMap<Clip, Float64Array>();

/**
 * The root of every sample: x and z of the carrier in metres and the calmed, unwrapped heading in radians.
 * Computed once; frames x 3.
 */
export function rootTrack(clip: Clip): Float64Array {
  let track = tracks.get(clip);
  if (!track) {
    const heading = smoothGaussian(rawHeadings(clip), HEADING_SIGMA_SECONDS * clip.rate);
    track = new Float64Array(clip.frames * 3);
    const stride = clip.translated.length * 3;
    for (let f = 0; f < clip.frames; f++) {
      track[f * 3] = clip.translations[f * stride]!;
      track[f * 3 + 1] = clip.translations[f * stride + 2]!;
      track[f * 3 + 2] = heading[f]!;
    }
    tracks.set(clip, track);
  }
  return track;
}

/**
 * Unwrapped heading of every sample in radians, not smoothed: across = (left hip - right hip) +
 * (left shoulder - right shoulder), forward = across x up on the floor. Where the body lies so that forward's
 * shadow is short, the carrier's own turn away from its rest pose is followed instead, starting from the last
 * sure heading; where it comes back, plus or minus forward, whichever is nearer to the last heading.
 */
export function rawHeadings(clip: Clip): Float64Array {
  const known = raws.get(clip);
  if (known) return known;
  const twists = unwrapAngles(carrierTwists(clip));
  const out = new Float64Array(clip.frames);
  const across = acrossVectors(clip);
  let last: number | null = null;
  for (let f = 0; f < clip.frames; f++) {
    const x = across ? across[f * 3]! : 0;
    const y = across ? across[f * 3 + 1]! : 0;
    const z = across ? across[f * 3 + 2]! : 0;
    const shadow = Math.hypot(x, z) / (Math.hypot(x, y, z) || 1);
    if (shadow < UPRIGHT) {
      out[f] = last === null ? twists[f]! : last + twists[f]! - twists[f - 1]!;
    } else {
      const forward = Math.atan2(-z, x);
      out[f] = last === null ? forward : nearestHeading(forward, last);
    }
    last = out[f]!;
  }
  raws.set(clip, unwrapAngles(out));
  return out;
}

/** The heading `forward` or its opposite, whichever is nearer to `last` (only for jumps of over 120 degrees). */
function nearestHeading(forward: number, last: number): number {
  const gap = forward - last - 2 * Math.PI * Math.round((forward - last) / (2 * Math.PI));
  return Math.abs(gap) > (2 * Math.PI) / 3 ? last + gap - Math.sign(gap) * Math.PI : last + gap;
}

/** Sum of the across vectors of hips and shoulders, frames x 3; null where the skeleton has no such roles. */
function acrossVectors(clip: Clip): Float64Array | null {
  const pairs = (['UpperLeg', 'UpperArm'] as const)
    .map((part) => [jointOfRole(clip.skeleton, `left${part}`), jointOfRole(clip.skeleton, `right${part}`)])
    .filter(([a, b]) => a! >= 0 && b! >= 0);
  if (pairs.length === 0) return null;
  const joints = pairs.flat();
  const positions = jointTracks(clip, joints);
  const out = new Float64Array(clip.frames * 3);
  for (let f = 0; f < clip.frames; f++) {
    for (let j = 0; j < joints.length; j += 2) {
      const left = (f * joints.length + j) * 3;
      for (let k = 0; k < 3; k++) out[f * 3 + k]! += positions[left + k]! - positions[left + 3 + k]!;
    }
  }
  return out;
}

/** Turn about the vertical of the carrier relative to its rest pose, each sample, in radians. */
function carrierTwists(clip: Clip): Float64Array {
  const joints = clip.skeleton.names.length;
  const { carrier } = clip.skeleton;
  const rest = new Float64Array(4);
  const q = new Float64Array(4);
  quatConjugate(restPose(clip.skeleton).rotations, carrier * 4, rest, 0);
  return Float64Array.from({ length: clip.frames }, (_, f) => {
    quatMultiply(clip.rotations, (f * joints + carrier) * 4, rest, 0, q, 0);
    return quatTwistY(q, 0);
  });
}
