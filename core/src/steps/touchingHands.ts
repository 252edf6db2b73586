import type { Clip } from '../clip/clip';
import { jointTracks } from '../clip/jointTracks';
import { makePoseBuffer, makeWorldPose, poseToWorld, sampleBetween, toParentSpace } from '../clip/pose';
import { quatRotate } from '../math/quaternion';
import type { Limb } from '../skeleton/reach';
import { reach } from '../skeleton/reach';
import type { Role } from '../skeleton/roles';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole, restHeight } from '../skeleton/skeleton';

/** Height of a body, metres, for which the distances below hold; they grow with it. */
const BODY = 1.7;
/** Distance of the wrists up to which hands touch each other, and from which on they have nothing to do with each other, metres. */
const HANDS = { near: 0.12, far: 0.26 };
/** Height of a wrist over the floor up to which a hand leans on it, and from which on it does not, metres. */
const FLOOR = { near: 0.1, far: 0.22 };
/** A hand holds on to something that stays: it is slower than this (metres a second) for so long (seconds), */
const STILL = { speed: 0.06, seconds: 0.25 };
/** while the chest goes at least so far (metres), and so many times further than the hand. */
const HELD = { metres: 0.04, times: 3 };
/** Seconds in which such a hold comes and goes. */
const EASE_SECONDS = 0.2;

interface Arms {
  readonly left: Limb;
  readonly right: Limb;
  readonly chest: number;
}

function armsOf(skeleton: Skeleton): Arms | null {
  const joint = (role: Role): number => jointOfRole(skeleton, role);
  const arm = (side: 'left' | 'right'): Limb => ({
    upper: joint(`${side}UpperArm`),
    lower: joint(`${side}LowerArm`),
    end: joint(`${side}Hand`),
  });
  const [left, right] = [arm('left'), arm('right')];
  const chest = Math.max(joint('chest'), joint('spine'));
  const all = [left.upper, left.lower, left.end, right.upper, right.lower, right.end, chest];
  return all.every((j) => j >= 0) ? { left, right, chest } : null;
}

/**
 * A clip that was carried over to another body, with its hands where they touched something in the source: the other hand, the floor,
 * or something that stayed where it was while the body moved, such as a rail. Longer or shorter arms, and wider shoulders, would put
 * them beside it. The arms bend in their own planes; what brings a hand there comes and goes with the distance, without a jump.
 *
 * @param clip on the new body, sample by sample what `source` is on its own
 */
export function touchHands(clip: Clip, source: Clip): Clip {
  const [own, arms] = [armsOf(source.skeleton), armsOf(clip.skeleton)];
  if (!own || !arms) return clip;
  const from = jointTracks(source, [own.left.end, own.right.end, own.chest]);
  const to = jointTracks(clip, [arms.left.end, arms.right.end]);
  const [sourceHeight, height] = [restHeight(source.skeleton), restHeight(clip.skeleton)];
  const size = sourceHeight / BODY;
  const scale = height / sourceHeight;
  const targets = to.slice();
  const isMoved = new Uint8Array(clip.frames);
  const move = (s: number, hand: number, k: number, place: number, weight: number): void => {
    if (weight <= 0) return;
    isMoved[s] = 1;
    targets[(s * 2 + hand) * 3 + k]! += weight * (place - targets[(s * 2 + hand) * 3 + k]!);
  };
  for (const hand of [0, 1]) holdOn(from, to, hand, source.rate, clip.frames, move);
  for (let s = 0; s < clip.frames; s++) {
    const at = (joint: number, k: number): number => from[(s * 3 + joint) * 3 + k]!;
    for (const hand of [0, 1]) move(s, hand, 1, at(hand, 1) * scale, nearness(at(hand, 1), FLOOR, size));
    const apart = [0, 1, 2].map((k) => at(0, k) - at(1, k));
    const weight = nearness(Math.hypot(apart[0]!, apart[1]!, apart[2]!), HANDS, size);
    if (weight <= 0) continue;
    for (const k of [0, 1, 2]) {
      const [left, right] = [targets[s * 6 + k]!, targets[s * 6 + 3 + k]!];
      const half = (apart[k]! * scale) / 2;
      move(s, 0, k, (left + right) / 2 + half, weight);
      move(s, 1, k, (left + right) / 2 - half, weight);
    }
  }
  return isMoved.some((v) => v > 0) ? withHands(clip, arms, targets, isMoved) : clip;
}

/** 1 where two things touch, 0 where they have nothing to do with each other, smooth in between. */
function nearness(distance: number, { near, far }: typeof HANDS, size: number): number {
  const u = Math.min(1, Math.max(0, (far * size - distance) / ((far - near) * size)));
  return u * u * (3 - 2 * u);
}

/** Keeps a hand where it is while it holds on to something that stays. */
function holdOn(
  from: Float64Array,
  to: Float64Array,
  hand: number,
  rate: number,
  frames: number,
  move: (s: number, hand: number, k: number, place: number, weight: number) => void,
): void {
  const distance = (s: number, t: number, joint: number): number =>
    Math.hypot(...[0, 1, 2].map((k) => from[(s * 3 + joint) * 3 + k]! - from[(t * 3 + joint) * 3 + k]!));
  const still = (s: number): boolean => distance(s, s + 1, hand) * rate < STILL.speed;
  const ease = Math.max(1, Math.round(EASE_SECONDS * rate));
  for (let s = 0; s + 1 < frames; s++) {
    if (!still(s)) continue;
    const start = s;
    while (s + 1 < frames && still(s)) s++;
    if (s - start < STILL.seconds * rate) continue;
    let [hands, body] = [0, 0];
    for (let t = start; t <= s; t++) {
      hands = Math.max(hands, distance(start, t, hand));
      body = Math.max(body, distance(start, t, 2));
    }
    if (body < HELD.metres || body < HELD.times * hands) continue;
    for (const k of [0, 1, 2]) {
      let sum = 0;
      for (let t = start; t <= s; t++) sum += to[(t * 2 + hand) * 3 + k]!;
      const place = sum / (s - start + 1);
      for (let t = Math.max(0, start - ease); t <= Math.min(frames - 1, s + ease); t++) {
        const out = Math.max(0, start - t, t - s) / (ease + 1);
        const u = 1 - out;
        move(t, hand, k, place, u * u * (3 - 2 * u));
      }
    }
  }
}

/** The clip with its hands brought to their targets, frames x (left, right) x 3, where they are moved. */
function withHands(clip: Clip, arms: Arms, targets: Float64Array, isMoved: Uint8Array): Clip {
  const { skeleton } = clip;
  const rotations = clip.rotations.slice();
  const joints = skeleton.names.length;
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const bendAxis = new Float64Array(3);
  for (let s = 0; s < clip.frames; s++) {
    if (isMoved[s] === 0) continue;
    const pose = toParentSpace(skeleton, sampleBetween(clip, s, s, 0, buffer));
    poseToWorld(skeleton, pose, world);
    [arms.left, arms.right].forEach((arm, hand) => {
      // A straight elbow bends forwards: about the body's left.
      bendAxis.set([1, 0, 0]);
      quatRotate(world.rotations, skeleton.rootBone * 4, bendAxis, 0, bendAxis, 0);
      const at = (s * 2 + hand) * 3;
      reach(skeleton.parents, arm, targets, at, bendAxis, pose.rotations, world.rotations, world.positions);
      for (const joint of [arm.upper, arm.lower, arm.end])
        rotations.set(pose.rotations.subarray(joint * 4, joint * 4 + 4), (s * joints + joint) * 4);
    });
  }
  return { ...clip, rotations };
}
