import type { PoseBuffer, RootPose, ScenePose } from '../clip/pose';
import { sampleBetween, sampleTranslations, written } from '../clip/pose';
import { moveAt, multiplyMoves, powerMove, shortestTurn } from '../math/floorMove';
import { quatBetween, quatCopy, quatTurn } from '../math/quaternion';
import { blendSamples } from '../math/rotations';
import { splineAt } from '../math/spline';
import { ON_SAMPLE, cyclesIn, inCycle, samplesAt } from '../timeline/timeMap';
import { blendRootBones, fromRootSpace } from './blendPoses';
import { placeLandings } from './landings';
import { movePoint, movePose } from './movePose';
import type { SegmentPlan } from './plan';

/** Where a frame falls in a segment's clip; reused. */
interface Spot {
  first: number;
  second: number;
  t: number;
  /** Cycles already played. */
  cycles: number;
  /** The second sample belongs to the next cycle. */
  wraps: boolean;
  /** Samples by which the frame lies before (negative) or beyond what the clip has. */
  beyond: number;
}

const _spot: Spot = { first: 0, second: 0, t: 0, cycles: 0, wraps: false, beyond: 0 };

/** Frames since the segment's start at which its clip is read: bent in an overlap that is in step. */
function framesIn(segment: SegmentPlan, frame: number): number {
  const x = frame - segment.start;
  const { warpIn, warpOut } = segment;
  if (warpIn && x < warpIn.x[warpIn.x.length - 1]!) return splineAt(warpIn, x);
  if (warpOut && x > warpOut.x[0]!) return splineAt(warpOut, x);
  return x;
}

/** Finds the samples for a frame (real, scene frames); see the arithmetic of the cue sheet. */
function locate(segment: SegmentPlan, frame: number, out: Spot): Spot {
  const m = samplesAt(segment.time, framesIn(segment, frame));
  out.cycles = 0;
  out.wraps = false;
  out.beyond = 0;
  let s = m;
  if (segment.loop) {
    out.cycles = cyclesIn(m, segment.period);
    s = inCycle(m, segment.period);
  }
  s += segment.in;
  const last = segment.clip.frames - 1;
  if (!segment.loop && (s < 0 || s > last)) {
    out.beyond = s < 0 ? s : s - last;
    s = Math.min(Math.max(s, 0), last);
  }
  let first = Math.floor(s + ON_SAMPLE);
  out.t = s - first;
  if (out.t < ON_SAMPLE) out.t = 0;
  if (first > last) first = last;
  out.first = first;
  out.second = Math.min(first + 1, last);
  if (segment.loop && first + 1 >= segment.in + segment.period) {
    out.second = Math.ceil(segment.in);
    out.wraps = true;
  }
  return out;
}

/** The sample that a frame shows (the one before it, if it falls between two), -1 outside the clip's own samples. */
export function sampleAt(segment: SegmentPlan, frame: number): number {
  const spot = locate(segment, frame, _spot);
  return Math.abs(spot.beyond) <= ON_SAMPLE ? spot.first : -1;
}

/** The sample that a frame shows, and how far it is on to the next; NaN outside the clip's own samples. */
export function exactSampleAt(segment: SegmentPlan, frame: number): number {
  const spot = locate(segment, frame, _spot);
  return Math.abs(spot.beyond) <= ON_SAMPLE ? spot.first + spot.t : NaN;
}

/** Whether the clip has motion of its own at a frame: inside its samples, or anywhere on a loop. */
export function hasSamples(segment: SegmentPlan, frame: number): boolean {
  return Math.abs(locate(segment, frame, _spot).beyond) <= ON_SAMPLE;
}

const _cycle = new Float64Array(3);
const _next = new Float64Array(3);
const _place = new Float64Array(3);
const _other = new Float64Array(3);
const _quat = new Float64Array(4);

/**
 * Writes the pose and the root of a segment at a frame, placed in the scene.
 *
 * Before its first and beyond its last sample a clip holds its pose; with `carry` its root goes on at the speed it
 * had there.
 */
export function segmentPose(segment: SegmentPlan, frame: number, carry: boolean, out: PoseBuffer): ScenePose {
  const spot = locate(segment, frame, _spot);
  const pose = sampleBetween(segment.clip, spot.first, spot.second, spot.t, out);
  placePose(segment, spot, frame, carry, pose);
  return pose;
}

const _spotB: Spot = { first: 0, second: 0, t: 0, cycles: 0, wraps: false, beyond: 0 };
/**
 * Writes two segments' poses blended by weight w, as `blendPoses` would blend those of `segmentPose`, in one pass over
 * their samples. Of `other` only places, root and root bone are written.
 *
 * @returns null where the samples do not allow it, and nothing was written that counts
 */
export function segmentsBlended(
  a: SegmentPlan,
  b: SegmentPlan,
  frame: number,
  frameB: number,
  w: number,
  out: PoseBuffer,
  other: PoseBuffer,
): ScenePose | null {
  if (!a.smooth || !b.smooth || !isPlain(a) || !isPlain(b)) return null;
  const spot = locate(a, frame, _spot);
  const spotB = locate(b, frameB, _spotB);
  if (spot.wraps || spotB.wraps) return null;
  const joints = a.clip.skeleton.names.length;
  const { rootBone } = a.clip.skeleton;
  const q = rootBone * 4;
  const pose = sampleRelative(a, spot, out);
  blendRootBones(rootBone, a.clip.translated, w, pose, sampleRelative(b, spotB, other));
  quatCopy(pose.rotations, q, _quat, 0);
  const width = joints * 4;
  blendSamples(
    a.clip.rotations,
    spot.first * width,
    spot.second * width,
    spot.t,
    b.clip.rotations,
    spotB.first * width,
    spotB.second * width,
    spotB.t,
    joints,
    w,
    pose.rotations,
  );
  quatCopy(_quat, 0, pose.rotations, q);
  return fromRootSpace(pose, rootBone);
}

/** Whether a segment's root goes where its clip and its place send it, and nowhere else. */
const isPlain = (segment: SegmentPlan): boolean =>
  segment.travel !== 'in place' && segment.route === null && segment.landings === null;

/**
 * Samples all translations, the root in the scene, and of the rotations only the root bone's; the root bone relative to the
 * root, which does not depend on where the segment was placed.
 */
function sampleRelative(segment: SegmentPlan, spot: Spot, out: PoseBuffer): RootPose {
  const { clip, root } = segment;
  const { first, second, t } = spot;
  const { rootBone, names } = clip.skeleton;
  const q = rootBone * 4;
  const p = rootBone * 3;
  const width = names.length * 4;
  quatBetween(clip.rotations, first * width + q, clip.rotations, second * width + q, t, out.rotations, q);
  sampleTranslations(clip, first, second, t, out);
  const a = first * 3;
  const b = second * 3;
  const x = root[a]! + t * (root[b]! - root[a]!);
  const z = root[a + 1]! + t * (root[b + 1]! - root[a + 1]!);
  const turn = root[a + 2]! + t * shortestTurn(root[b + 2]! - root[a + 2]!);
  const s = Math.sin(turn);
  const c = Math.cos(turn);
  const dx = out.translations[p]! - x;
  const dz = out.translations[p + 2]! - z;
  out.translations[p] = dx * c - dz * s;
  out.translations[p + 1]! += segment.lift;
  out.translations[p + 2] = dx * s + dz * c;
  quatTurn(out.rotations, q, -turn);
  _place[0] = x;
  _place[1] = z;
  _place[2] = turn;
  multiplyMoves(placeOf(segment, spot), 0, _place, 0, out.root, 0);
  return written(out);
}

/** Where a cycle of a segment stands in the scene. */
function placeOf(segment: SegmentPlan, spot: Spot): Float64Array {
  if (spot.cycles === 0) return segment.move;
  powerMove(segment.cycle, spot.cycles, _cycle, 0);
  return multiplyMoves(segment.move, 0, _cycle, 0, _cycle, 0);
}

function placePose(segment: SegmentPlan, spot: Spot, frame: number, carry: boolean, out: ScenePose): void {
  const { clip, root } = segment;
  const { rootBone } = clip.skeleton;
  _next[0] = segment.cycle.x;
  _next[1] = segment.cycle.z;
  _next[2] = segment.cycle.turn;
  const a = spot.first * 3;
  _place[0] = root[a]!;
  _place[1] = root[a + 1]!;
  _place[2] = root[a + 2]!;
  if (spot.t > 0) {
    multiplyRoot(root, spot.second * 3, spot.wraps, _other);
    if (spot.wraps) rootBoneAcrossWrap(segment, spot, out);
    _place[0] += spot.t * (_other[0]! - _place[0]);
    _place[1] += spot.t * (_other[1]! - _place[1]);
    _place[2] += spot.t * shortestTurn(_other[2]! - _place[2]);
  }
  if (carry && spot.beyond !== 0) carryOn(segment, spot, out, rootBone);
  const move = placeOf(segment, spot);
  quatTurn(out.rotations, rootBone * 4, move[2]!);
  movePoint(move, out.translations, rootBone * 3);
  out.translations[rootBone * 3 + 1]! += segment.lift;
  multiplyMoves(move, 0, _place, 0, out.root, 0);
  if (segment.travel === 'in place') holdInPlace(segment, out, rootBone);
  if (segment.route) follow(segment, frame, out, rootBone);
  if (segment.landings) placeLandings(segment, segment.landings, frame, out);
}

/** Moves a pose along the bent way of its segment; before and after the segment the way leads on as it does at its ends. */
function follow(segment: SegmentPlan, frame: number, out: ScenePose, rootBone: number): void {
  moveAt(segment.route!, frame - segment.start, _other);
  movePose(_other, out, rootBone);
}

/** Root of a sample, moved on by one cycle where it belongs to the next. */
function multiplyRoot(root: Float64Array, at: number, wraps: boolean, out: Float64Array): void {
  out[0] = root[at]!;
  out[1] = root[at + 1]!;
  out[2] = root[at + 2]!;
  if (wraps) multiplyMoves(_next, 0, out, 0, out, 0);
}

/** Interpolates the root bone between the last sample of one cycle and the first of the next. */
function rootBoneAcrossWrap(segment: SegmentPlan, spot: Spot, out: ScenePose): void {
  const { clip } = segment;
  const { rootBone, names } = clip.skeleton;
  const width = clip.translated.length * 3;
  quatCopy(clip.rotations, (spot.second * names.length + rootBone) * 4, _quat, 0);
  quatTurn(_quat, 0, _next[2]!);
  quatBetween(
    clip.rotations,
    (spot.first * names.length + rootBone) * 4,
    _quat,
    0,
    spot.t,
    out.rotations,
    rootBone * 4,
  );
  for (let k = 0; k < 3; k++) _quat[k] = clip.translations[spot.second * width + k]!;
  movePoint(_next, _quat, 0);
  for (let k = 0; k < 3; k++) {
    const from = clip.translations[spot.first * width + k]!;
    out.translations[rootBone * 3 + k] = from + spot.t * (_quat[k]! - from);
  }
}

/** Moves pose and root on by the root's step at the clip's end, for every sample beyond it. */
function carryOn(segment: SegmentPlan, spot: Spot, out: ScenePose, rootBone: number): void {
  const { root } = segment;
  const last = segment.clip.frames - 1;
  const at = spot.beyond > 0 ? Math.max(1, last) : Math.min(1, last);
  if (last < 1) return;
  const a = (at - 1) * 3;
  // step = root(at) * root(at - 1)^-1, applied `beyond` times in scene space of the clip.
  const turn = root[a + 5]! - root[a + 2]!;
  const s = Math.sin(turn);
  const c = Math.cos(turn);
  const step = {
    x: root[a + 3]! - (root[a]! * c + root[a + 1]! * s),
    z: root[a + 4]! - (-root[a]! * s + root[a + 1]! * c),
    turn,
  };
  powerMove(step, spot.beyond, _other, 0);
  quatTurn(out.rotations, rootBone * 4, _other[2]!);
  movePoint(_other, out.translations, rootBone * 3);
  multiplyMoves(_other, 0, _place, 0, _place, 0);
}

/** Holds the root at its first place; with the facing the body turns back under it. */
function holdInPlace(segment: SegmentPlan, out: ScenePose, rootBone: number): void {
  if (segment.settings.holdFacing) {
    const turn = segment.held[2]! - out.root[2]!;
    _other[0] = 0;
    _other[1] = 0;
    _other[2] = turn;
    const p = rootBone * 3;
    out.translations[p]! -= out.root[0]!;
    out.translations[p + 2]! -= out.root[1]!;
    quatTurn(out.rotations, rootBone * 4, turn);
    movePoint(_other, out.translations, p);
    out.translations[p]! += out.root[0]!;
    out.translations[p + 2]! += out.root[1]!;
    out.root[2] = segment.held[2]!;
  }
  const x = segment.held[0]! - out.root[0]!;
  const z = segment.held[1]! - out.root[1]!;
  out.root[0] = segment.held[0]!;
  out.root[1] = segment.held[1]!;
  out.translations[rootBone * 3]! += x;
  out.translations[rootBone * 3 + 2]! += z;
}
