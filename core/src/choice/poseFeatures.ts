import type { Clip } from '../clip/clip';
import { jointTracks } from '../clip/jointTracks';
import { rootTrack } from '../clip/root';
import { shortestTurn } from '../math/floorMove';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { Role } from '../skeleton/roles';

/** Joints whose places and speeds stand for a moment; of four legs the paws take the place of the hands. */
const ROLES: readonly (readonly Role[])[] = [
  ['leftFoot'],
  ['rightFoot'],
  ['leftHand', 'leftFrontPaw'],
  ['rightHand', 'rightFrontPaw'],
  ['hips'],
  ['head'],
  ['chest', 'spine'],
];

/** Numbers of one moment: place and speed of each joint, and how the root moves and turns. */
export const FEATURES = ROLES.length * 6 + 3;

/** What a metre a second counts beside a metre, and a radian a second: each by its usual spread in the demonstration. */
const SPEED_WEIGHT = 0.12;
const TURN_WEIGHT = 0.05;

/** Moments of a clip a second. */
const MOMENTS_A_SECOND = 10;

/** Moments of a clip, and what they are like. */
export interface Moments {
  /** Samples from one moment to the next, a real number. */
  readonly step: number;
  readonly count: number;
  /** count x FEATURES, metres and what counts like them. */
  readonly features: Float32Array;
}

/**
 * What the moments of a clip are like (after Clavet, "Motion Matching and the Road to Next-Gen Animation", GDC 2016): places
 * and speeds of feet, hands, hips, chest and head relative to the heading. Two moments whose numbers lie near each other go
 * over into each other; see `featureDistance`.
 */
export const poseFeatures = (clip: Clip, memory: Memory): Moments => memory.recall(moments, clip);

const moments = derivation('pose features', 5000, (memory, clip: Clip): Moments => {
  const { roles } = clip.skeleton;
  const joints = ROLES.map((names) => names.map((r) => roles.indexOf(r)).find((j) => j >= 0) ?? -1);
  const used = joints.map((j) => Math.max(0, j));
  const places = jointTracks(clip, used);
  const root = rootTrack(clip, memory);
  const step = clip.rate / MOMENTS_A_SECOND;
  const count = Math.max(1, Math.floor((clip.frames - 1) / step) + 1);
  const features = new Float32Array(count * FEATURES);
  const around = Math.max(1, Math.round(clip.rate / 30));
  for (let m = 0; m < count; m++) {
    const f = Math.min(clip.frames - 1, Math.round(m * step));
    const [a, b] = [Math.max(0, f - around), Math.min(clip.frames - 1, f + around)];
    const perSecond = b > a ? clip.rate / (b - a) : 0;
    const [x, z, turn] = [root[f * 3]!, root[f * 3 + 1]!, root[f * 3 + 2]!];
    const [s, c] = [Math.sin(turn), Math.cos(turn)];
    const o = m * FEATURES;
    const write = (at: number, dx: number, dy: number, dz: number, weight: number): void => {
      features[at] = (dx * c - dz * s) * weight;
      features[at + 1] = dy * weight;
      features[at + 2] = (dx * s + dz * c) * weight;
    };
    for (let j = 0; j < joints.length; j++) {
      if (joints[j]! < 0) continue;
      const at = (frame: number, k: number): number => places[(frame * used.length + j) * 3 + k]!;
      const speed = (k: number): number => (at(b, k) - at(a, k)) * perSecond;
      write(o + j * 6, at(f, 0) - x, at(f, 1), at(f, 2) - z, 1);
      write(o + j * 6 + 3, speed(0), speed(1), speed(2), SPEED_WEIGHT);
    }
    const moved = (k: number): number => (root[b * 3 + k]! - root[a * 3 + k]!) * perSecond;
    write(o + joints.length * 6, moved(0), 0, moved(1), SPEED_WEIGHT);
    features[o + FEATURES - 2] = shortestTurn(root[b * 3 + 2]! - root[a * 3 + 2]!) * perSecond * TURN_WEIGHT;
  }
  return { step, count, features };
});

/** How far apart two moments are, metres of a joint's usual distance. */
export function featureDistance(a: Float32Array, i: number, b: Float32Array, j: number): number {
  let sum = 0;
  for (let k = 0, p = i * FEATURES, q = j * FEATURES; k < FEATURES; k++, p++, q++) {
    const d = a[p]! - b[q]!;
    sum += d * d;
  }
  return Math.sqrt(sum / ROLES.length);
}

/** The least distance of every moment of a clip from some moments of another. */
export function leastDistances(of: Moments, from: Moments, first: number, end: number): Float32Array {
  const out = new Float32Array(of.count).fill(Infinity);
  for (let m = 0; m < of.count; m++)
    for (let n = Math.max(0, first); n < Math.min(end, from.count); n++)
      out[m] = Math.min(out[m]!, featureDistance(of.features, m, from.features, n));
  return out;
}
