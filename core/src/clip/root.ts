import { derivation, Memory } from '../memory/memory';
import { quatConjugate, quatMultiply, quatTwistY } from '../math/quaternion';
import { shortestTurn } from '../math/floorMove';
import { smoothGaussian, unwrapAngles } from '../math/smoothing';
import type { Role } from '../skeleton/roles';
import { jointOfRole } from '../skeleton/skeleton';
import type { Clip } from './clip';
import { jointTracks } from './jointTracks';

/** Width in seconds of the Gaussian that calms the heading; sway and single steps pass, jitter does not. */
export const HEADING_SIGMA_SECONDS = 0.1;

/** Length of the unit forward vector's shadow on the floor below which hips and shoulders no longer tell it. */
const SHORT_SHADOW = 0.5;

/** Cosine of the trunk's angle to the vertical above which a body stands upright, and faces where its front is. */
const STANDS_UPRIGHT = 0.5;

/** The heading of every sample in radians, unwrapped and smoothed. */
const smoothHeadings = (clip: Clip, memory = new Memory()): Float64Array =>
  smoothGaussian(rawHeadings(clip, memory), HEADING_SIGMA_SECONDS * clip.rate);

const track = derivation('root track', 5000, (memory, clip: Clip): Float64Array => {
  const heading = smoothHeadings(clip, memory);
  const root = new Float64Array(clip.frames * 3);
  const stride = clip.translated.length * 3;
  for (let f = 0; f < clip.frames; f++) {
    root[f * 3] = clip.translations[f * stride]!;
    root[f * 3 + 1] = clip.translations[f * stride + 2]!;
    root[f * 3 + 2] = heading[f]!;
  }
  return root;
});

/**
 * The root of every sample: x and z of the root bone in metres and the smoothed, unwrapped heading in radians. Where another
 * joint carries the travel, that joint's. Frames x 3.
 */
export const rootTrack = (clip: Clip, memory = new Memory()): Float64Array =>
  clip.travelBone ? clip.travelBone.root : memory.recall(track, clip);

/**
 * Unwrapped heading of every sample in radians, not smoothed: across = (left hip - right hip) +
 * (left shoulder - right shoulder), forward = across x up on the floor. Where the body lies so that forward's
 * shadow is short, the root bone's own turn away from its rest pose is followed instead, starting from the last
 * sure heading. Where it comes back, plus or minus forward, whichever is nearer: a body that wheels over sideways has
 * its across vector the other way round. Once it stands upright again, forward is forward. What the two ways differ by
 * at the end of such a stretch is spread over it, so that the heading never jumps by itself.
 */
export const rawHeadings = (clip: Clip, memory = new Memory()): Float64Array => memory.recall(raw, clip);

const raw = derivation('raw headings', 5000, (_, clip: Clip): Float64Array => {
  const twists = unwrapAngles(rootBoneTwists(clip));
  const out = new Float64Array(clip.frames);
  const across = acrossVectors(clip);
  const upright = across && uprightness(clip);
  let sure = -1;
  let stood = 0;
  for (let f = 0; f < clip.frames; f++) {
    const x = across ? across[f * 3]! : 0;
    const y = across ? across[f * 3 + 1]! : 0;
    const z = across ? across[f * 3 + 2]! : 0;
    const followed = f === 0 ? twists[0]! : out[f - 1]! + twists[f]! - twists[f - 1]!;
    if (Math.hypot(x, z) < SHORT_SHADOW * (Math.hypot(x, y, z) || 1)) {
      out[f] = followed;
      continue;
    }
    const last = f === 0 ? null : sure === f - 1 ? out[f - 1]! : followed;
    out[f] = headingNear(Math.atan2(-z, x), last, upright![f]!);
    const gap = out[f]! - followed;
    if (sure < f - 1) spread(out, sure, f, gap);
    // Gone over sideways and come up forwards, a body faces the other way: it has turned while it did not stand.
    else if (f > 0 && Math.abs(out[f]! - out[f - 1]!) > Math.PI / 2)
      spread(out, stood, f, out[f]! - out[f - 1]!);
    sure = f;
    if (upright![f]! > STANDS_UPRIGHT) stood = f;
  }
  return out;
});

/** The heading `forward`, or its opposite where that is nearer to `last` and the body does not stand upright. */
function headingNear(forward: number, last: number | null, upright: number): number {
  if (last === null) return forward;
  const gap = shortestTurn(forward - last);
  if (upright > STANDS_UPRIGHT || Math.abs(gap) <= Math.PI / 2) return last + gap;
  return last + gap - Math.sign(gap) * Math.PI;
}

/** Adds a difference bit by bit to the samples between two sure ones; to all before the first sure one as it is. */
function spread(headings: Float64Array, from: number, to: number, difference: number): void {
  for (let f = from + 1; f < to; f++)
    headings[f]! += from < 0 ? difference : (difference * (f - from)) / (to - from);
}

/** How upright the trunk is at each sample: cosine of its angle to the vertical, hips to shoulders (or to the head). */
function uprightness(clip: Clip): Float64Array {
  const joint = (role: Role): number => jointOfRole(clip.skeleton, role);
  const tops = [joint('leftUpperArm'), joint('rightUpperArm')].filter((j) => j >= 0);
  const feet = [joint('leftUpperLeg'), joint('rightUpperLeg')].filter((j) => j >= 0);
  if (joint('leftFrontUpperLeg') >= 0) return quadrupedUpright(clip);
  if (tops.length === 0 || feet.length === 0) return new Float64Array(clip.frames).fill(1);
  const joints = [...tops, ...feet];
  const places = jointTracks(clip, joints);
  return Float64Array.from({ length: clip.frames }, (_, f) => {
    const way = [0, 0, 0];
    joints.forEach((_j, i) => {
      const share = i < tops.length ? 1 / tops.length : -1 / feet.length;
      for (let k = 0; k < 3; k++) way[k]! += share * places[(f * joints.length + i) * 3 + k]!;
    });
    return way[1]! / (Math.hypot(...way) || 1);
  });
}

/** The trunk of a four-legged body lies along the floor: it is upright when its root bone's own up is. */
function quadrupedUpright(clip: Clip): Float64Array {
  const joints = clip.skeleton.names.length;
  const { rootBone } = clip.skeleton;
  const q = new Float64Array(4);
  const rest = new Float64Array(4);
  quatConjugate(clip.skeleton.rest.rotations, rootBone * 4, rest, 0);
  return Float64Array.from({ length: clip.frames }, (_, f) => {
    quatMultiply(clip.rotations, (f * joints + rootBone) * 4, rest, 0, q, 0);
    return 1 - 2 * (q[0]! * q[0]! + q[2]! * q[2]!);
  });
}

/** Sum of the across vectors of hips and shoulders, frames x 3; null where the skeleton has no such roles. */
function acrossVectors(clip: Clip): Float64Array | null {
  const pairs = (['UpperLeg', 'UpperArm', 'FrontUpperLeg'] as const)
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

/** Turn about the vertical of the root bone relative to its rest pose, each sample, in radians. */
function rootBoneTwists(clip: Clip): Float64Array {
  const joints = clip.skeleton.names.length;
  const { rootBone } = clip.skeleton;
  const rest = new Float64Array(4);
  const q = new Float64Array(4);
  quatConjugate(clip.skeleton.rest.rotations, rootBone * 4, rest, 0);
  return Float64Array.from({ length: clip.frames }, (_, f) => {
    quatMultiply(clip.rotations, (f * joints + rootBone) * 4, rest, 0, q, 0);
    return quatTwistY(q, 0);
  });
}
