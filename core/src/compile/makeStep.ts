import type { PoseBuffer, ScenePose } from '../clip/pose';
import { makePoseBuffer, makeWorldPose } from '../clip/pose';
import { curveWeight, minimumJerk } from '../math/curve';
import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove, shortestTurn } from '../math/floorMove';
import { quatRotate } from '../math/quaternion';
import type { Memory } from '../memory/memory';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import { blendBodies, fromRootSpace, toRootSpace } from '../plan/blendPoses';
import type { MadeStep, StepScratch } from '../plan/madeStep';
import { ANKLE_SIZE } from '../plan/madeStep';
import type { SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { segmentPose } from '../plan/segmentPose';
import type { Stepping } from '../scene/seam';
import type { FootTracks, Footfall } from '../seam/footfalls';
import {
  FOOT_MARGIN,
  MAX_STEP_LOWERING,
  SURE_STEP_REACH,
  chooseFootfalls,
  footPath,
} from '../seam/footfalls';
import type { Leg } from '../skeleton/legs';
import { legsOf } from '../skeleton/legs';
import type { Skeleton } from '../skeleton/skeleton';
import { smoothLowering } from '../steps/hipsLowering';
import { chainOfLegs, hangsOnRoot, legsInScene } from '../steps/legsInScene';
import type { Swing } from '../steps/swings';
import { ordinarySwing } from '../steps/swings';

/** Share of the overlap at either end over which the lowering comes and goes. */
const LOWERING_EASE = 0.25;

/**
 * The way of the root through a made step: the two sides' moves from frame to frame, each in its own root's frame, blended and put
 * one after the other, from where the outgoing side is. (length + 1) x 3.
 */
export function stepPath(outgoing: SegmentPlan, incoming: SegmentPlan): Float64Array {
  const length = incoming.overlap;
  const buffer = makePoseBuffer(incoming.clip.skeleton);
  const path = new Float64Array((length + 1) * 3);
  let place = rootAt(outgoing, incoming.start, buffer);
  let [out, coming] = [place, rootAt(incoming, incoming.start, buffer)];
  for (let f = 0; ; f++) {
    path.set([place.x, place.z, place.turn], f * 3);
    if (f >= length) return path;
    const [nextOut, nextComing] = [
      rootAt(outgoing, incoming.start + f + 1, buffer),
      rootAt(incoming, incoming.start + f + 1, buffer),
    ];
    const w = curveWeight('smooth', (f + 0.5) / length);
    place = composeMoves(place, between(moveTo(out, nextOut), moveTo(coming, nextComing), w));
    [out, coming] = [nextOut, nextComing];
  }
}

function rootAt(segment: SegmentPlan, frame: number, buffer: PoseBuffer): FloorMove {
  const { root } = segmentPose(segment, frame, true, buffer);
  return { x: root[0]!, z: root[1]!, turn: root[2]! };
}

/** The move from one root to the next, in the frame of the first. */
function moveTo(a: FloorMove, b: FloorMove): FloorMove {
  const move = composeMoves(invertMove(a), b);
  return { ...move, turn: shortestTurn(move.turn) };
}

const between = (a: FloorMove, b: FloorMove, w: number): FloorMove => ({
  x: a.x + w * (b.x - a.x),
  z: a.z + w * (b.z - a.z),
  turn: a.turn + w * (b.turn - a.turn),
});

/** Where a step's own way puts the incoming clip. */
export function stepMove(path: Float64Array, incomingRoot: FloorMove): FloorMove {
  const end = path.length - 3;
  return composeMoves({ x: path[end]!, z: path[end + 1]!, turn: path[end + 2]! }, invertMove(incomingRoot));
}

/** The path led over, by minimum jerk, to where the incoming side stands. */
function ledTo(path: Float64Array, target: FloorMove): Float64Array {
  const last = path.length / 3 - 1;
  const at = (f: number): FloorMove => ({ x: path[f * 3]!, z: path[f * 3 + 1]!, turn: path[f * 3 + 2]! });
  const left = moveTo(at(last), target);
  const out = path.slice();
  for (let f = 1; f <= last; f++) {
    const m = composeMoves(at(f), between(STILL, left, minimumJerk(f / last)));
    out.set([m.x, m.z, m.turn], f * 3);
  }
  return out;
}

/**
 * Makes the steps of a seam whose incoming side is placed.
 *
 * @param isAlong whether both sides are given where the outgoing one was recorded
 */
export function makeStep(
  outgoing: SegmentPlan,
  incoming: SegmentPlan,
  join: Stepping,
  rate: Rate,
  isAlong: boolean,
  memory: Memory,
): MadeStep {
  const { skeleton } = incoming.clip;
  const { overlap: length } = incoming;
  const fps = framesPerSecond(rate);
  const buffer = makePoseBuffer(skeleton);
  const path = ledTo(stepPath(outgoing, incoming), rootAt(incoming, incoming.start + length, buffer));
  const all = legsOf(skeleton);
  const legs = all.every((leg) => hangsOnRoot(skeleton, leg)) ? all : [];
  const scratch = makeStepScratch(skeleton, legs);
  const feet = readFeet(outgoing, incoming, legs, path, scratch);
  const ordinary = largerSwing(swingOf(outgoing, memory), swingOf(incoming, memory));
  const given = legs.map((leg) => join.footfalls[skeleton.roles[leg.ankle] ?? ''] ?? null);
  const footfalls = chooseFootfalls(feet, length, fps, ordinary, given);
  const lowering = hipsLowering(feet, footfalls, length, fps);
  return { path, isAlong, legs, feet: footfalls, lowering, ordinary, scratch };
}

const makeStepScratch = (skeleton: Skeleton, legs: readonly Leg[]): StepScratch => ({
  world: makeWorldPose(skeleton),
  chain: chainOfLegs(skeleton, legs),
  from: new Float64Array(legs.length * ANKLE_SIZE),
  to: new Float64Array(legs.length * ANKLE_SIZE),
  target: new Float64Array(3),
  rotation: new Float64Array(4),
  root: new Float64Array(3),
});

const swingOf = ({ clip, time }: SegmentPlan, memory: Memory): Swing =>
  ordinarySwing(clip, time.samplesPerFrame, memory);

const largerSwing = (a: Swing, b: Swing): Swing => ({
  speed: Math.max(a.speed, b.speed),
  acceleration: Math.max(a.acceleration, b.acceleration),
  pop: Math.max(a.pop, b.pop),
});

/** Reads where both sides have the feet, and where the hips of the blended body are. */
function readFeet(
  outgoing: SegmentPlan,
  incoming: SegmentPlan,
  legs: readonly Leg[],
  path: Float64Array,
  scratch: StepScratch,
): FootTracks[] {
  const { skeleton } = incoming.clip;
  const { rootBone } = skeleton;
  const { start, overlap } = incoming;
  const count = overlap + 1 + 2 * FOOT_MARGIN;
  const feet = legs.map(() => ({
    from: new Float64Array(count * 3),
    to: new Float64Array(count * 3),
    tipFrom: new Float64Array(count * 3),
    tipTo: new Float64Array(count * 3),
    plantedFrom: new Uint8Array(count),
    plantedTo: new Uint8Array(count),
    hip: new Float64Array(count * 3),
    reach: 0,
  }));
  const [a, b] = [makePoseBuffer(skeleton), makePoseBuffer(skeleton)];
  const { positions, rotations } = scratch.world;
  const writeTips = (to: (i: number) => Float64Array, at: number): void =>
    legs.forEach(({ ankle, tip }, i) => {
      const out = to(i);
      out.fill(0, at * 3, at * 3 + 3);
      if (tip >= 0) quatRotate(rotations, ankle * 4, skeleton.restTranslations, tip * 3, out, at * 3);
      for (let k = 0; k < 3; k++) out[at * 3 + k]! += positions[ankle * 3 + k]!;
    });
  const write = (
    pose: ScenePose,
    joint: (leg: Leg) => number,
    to: (i: number) => Float64Array,
    at: number,
  ): void => {
    legsInScene(skeleton, pose, scratch.chain, scratch.world);
    legs.forEach((leg, i) => {
      for (let k = 0; k < 3; k++) to(i)[at * 3 + k] = positions[joint(leg) * 3 + k]!;
    });
  };
  for (let n = 0; n < count; n++) {
    const f = n - FOOT_MARGIN;
    const frame = start + f;
    const out = segmentPose(outgoing, frame, true, a);
    write(
      out,
      (leg) => leg.ankle,
      (i) => feet[i]!.from,
      n,
    );
    writeTips((i) => feet[i]!.tipFrom, n);
    const coming = segmentPose(incoming, frame, true, b);
    write(
      coming,
      (leg) => leg.ankle,
      (i) => feet[i]!.to,
      n,
    );
    writeTips((i) => feet[i]!.tipTo, n);
    legs.forEach((leg, i) => {
      const planted = (side: SegmentPlan): number =>
        leg.planted.some((joint) => isPlanted(side, joint, frame)) ? 1 : 0;
      feet[i]!.plantedFrom[n] = planted(outgoing);
      feet[i]!.plantedTo[n] = planted(incoming);
    });
    const inside = Math.min(Math.max(f, 0), overlap);
    const body = toRootSpace(out, rootBone);
    blendBodies(null, frame, curveWeight('smooth', inside / overlap), body, toRootSpace(coming, rootBone));
    body.root.set(path.subarray(inside * 3, inside * 3 + 3));
    write(
      fromRootSpace(body, rootBone),
      (leg) => leg.upper,
      (i) => feet[i]!.hip,
      n,
    );
  }
  legs.forEach((leg, i) => {
    const bone = (p: number, q: number): number =>
      Math.hypot(...[0, 1, 2].map((k) => positions[p * 3 + k]! - positions[q * 3 + k]!));
    feet[i]!.reach = (bone(leg.upper, leg.lower) + bone(leg.lower, leg.ankle)) * SURE_STEP_REACH;
  });
  return feet;
}

/** How far the hips come down at each frame for every leg to reach its foot; nothing at either end. */
function hipsLowering(
  feet: readonly FootTracks[],
  footfalls: readonly Footfall[],
  length: number,
  rate: number,
): Float64Array {
  const needed = new Float64Array(length + 1);
  feet.forEach((foot, i) => {
    const path = footPath(foot, footfalls[i]!, length);
    for (let f = 0; f <= length; f++) {
      const o = (f + FOOT_MARGIN) * 3;
      const across = Math.hypot(path[o]! - foot.hip[o]!, path[o + 2]! - foot.hip[o + 2]!);
      const height = foot.hip[o + 1]! - path[o + 1]!;
      const reached = Math.sqrt(Math.max(0, foot.reach * foot.reach - across * across));
      needed[f] = Math.max(needed[f]!, height - reached);
    }
  });
  const ease = Math.max(1, LOWERING_EASE * length);
  return smoothLowering(needed, rate, MAX_STEP_LOWERING).map(
    (drop, f) => drop * minimumJerk(Math.min(f, length - f) / ease),
  );
}
