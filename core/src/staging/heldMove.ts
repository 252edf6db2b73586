import { poseToWorld } from '../clip/pose';
import { quatConjugate, quatFromAxis, quatMultiply, quatRotate, quatTwistY } from '../math/quaternion';
import { blendRigid, carryTo, moveByRigid, multiplyRigid, readRigid, stillRigid } from '../math/rigid';
import type { CharacterPlan } from '../plan/plan';
import type { HoldPlan, StagingPlan, Taken } from '../plan/tethers';
import type { ReadHeld } from './holderPose';
import { holderJoint } from './holderPose';
import { heldWeight, takenWeight } from './tetherWeight';
import { turnAlong } from './turnAlong';

/** What holds need to know of the body that they hold. */
export interface HeldBody {
  readonly plan: CharacterPlan;
  readonly staging: StagingPlan;
  /** Reads holders. */
  readonly read: ReadHeld;
  /** Reads the body itself as it would be without tethers. */
  readonly readOwn: ReadHeld;
  /** The frame whose own world transforms are in `staging.ownWorld`. */
  readonly frame: number;
}

/**
 * Writes the rigid move that holds make of a body at a frame: that of the last hold and of those before it, over whose place it lies.
 * Before a hold begins, those before it decide. After its end the move stays as it then was, or goes back to theirs. Between, the held joint
 * is put to where the holder's joint takes it, along and about the axes that follow.
 *
 * @param last number of the hold, -1 for none
 */
export function heldMove(body: HeldBody, last: number, frame: number, out: Float64Array): Float64Array {
  const hold = body.staging.holds[last];
  if (!hold) return still(out);
  if (frame < hold.start) return heldMove(body, hold.before, frame, out);
  if (frame >= hold.end) {
    if (hold.after === 'return') return heldMove(body, hold.before, frame, out);
    out.set(leftBy(body, last, hold));
    return out;
  }
  const { before, own } = body.staging.work[last]!;
  heldMove(body, hold.before, frame, before);
  ownPlace(body, hold, frame, own);
  fullMove(body, last, hold, frame, before, own, out);
  const taken = takenWeight(hold, frame);
  if (taken < 1) blendRigid(before, out, taken, own, out);
  const held = heldWeight(hold, frame);
  if (held < 1) {
    const after = hold.after === 'return' ? before : leftBy(body, last, hold);
    blendRigid(after, out, held, own, out);
  }
  return out;
}

function still(out: Float64Array): Float64Array {
  out.fill(0);
  out[6] = 1;
  return out;
}

/** What is left of a hold after its end; whoever has legs stands on them again, where and in which direction it was then. */
function leftBy(body: HeldBody, last: number, hold: HoldPlan): Float64Array {
  const known = body.staging.left[last];
  if (known) return known;
  const before = heldMove(body, hold.before, hold.end, stillRigid());
  const own = ownPlace(body, hold, hold.end, stillRigid());
  const out = stillRigid();
  fullMove(body, last, hold, hold.end, before, own, out);
  blendRigid(before, out, takenWeight(hold, hold.end), own, out);
  if (hold.standsAfter) {
    const place = moveByRigid(out, own, 0, new Float64Array(3), 0) as Float64Array;
    quatFromAxis(0, 1, 0, quatTwistY(out, 3), out, 3);
    carryTo(own, place, out);
    out[1] = 0;
  }
  body.staging.left[last] = out;
  return out;
}

/** Writes where the held joint is by itself at a frame. */
function ownPlace(body: HeldBody, { held }: HoldPlan, frame: number, out: Float64Array): Float64Array {
  const { plan, staging } = body;
  if (frame === body.frame)
    return readRigid(staging.ownWorld.positions, staging.ownWorld.rotations, held, out);
  const { positions, rotations } = poseToWorld(
    plan.skeleton,
    body.readOwn(plan, frame, staging.buffer),
    staging.world,
  );
  return readRigid(positions, rotations, held, out);
}

/**
 * Writes the move of a hold at its full weight. With J the holder's joint now and J0 at the start, S what is held at the start, P where it
 * is by the holds before: it turns by the part of J J0^-1 S P^-1 about the axes that follow, and its joint goes to where J, turned by the part of
 * J J0^-1 about them, takes S, along the axes that follow. At the start this changes nothing, so that nothing jumps.
 */
function fullMove(
  body: HeldBody,
  last: number,
  hold: HoldPlan,
  frame: number,
  before: Float64Array,
  own: Float64Array,
  out: Float64Array,
): void {
  const taken = (body.staging.taken[last] ??= takenAt(body, hold));
  const { joint: from, axes } = taken;
  const { joint, place, target, turned } = body.staging.work[last]!;
  holderJoint(hold.holder, hold.joint, frame, body.read, joint);
  multiplyRigid(before, own, place);
  const start = hold.ownMotion ? place : taken.held;
  quatConjugate(from, 3, turned, 3);
  quatMultiply(joint, 3, turned, 3, turned, 3);
  if (hold.gripTurn) quatMultiply(joint, 3, hold.gripTurn, 0, target, 3);
  else quatMultiply(turned, 3, start, 3, target, 3);
  if (hold.gripPlace) {
    quatRotate(joint, 3, hold.gripPlace, 0, target, 0);
  } else {
    turnAlong(turned, 3, axes, hold.turns);
    for (let k = 0; k < 3; k++) target[k] = start[k]! - from[k]!;
    quatRotate(turned, 3, target, 0, target, 0);
  }
  for (let k = 0; k < 3; k++) target[k]! += joint[k]!;
  follow(hold, axes, place, target);
  quatConjugate(place, 3, out, 3);
  quatMultiply(target, 3, out, 3, out, 3);
  turnAlong(out, 3, axes, hold.turns);
  // The turn is about the held joint, which then goes to its place; what it lies over comes first.
  quatMultiply(out, 3, before, 3, out, 3);
  carryTo(own, target, out);
}

const _by = new Float64Array(3);
const _back = new Float64Array(4);

/** Leaves of the way from a place to a target what goes along the axes that follow. */
function follow({ places }: HoldPlan, axes: Float64Array, place: Float64Array, target: Float64Array): void {
  if (places[0] && places[1] && places[2]) return;
  for (let k = 0; k < 3; k++) _by[k] = target[k]! - place[k]!;
  quatConjugate(axes, 0, _back, 0);
  quatRotate(_back, 0, _by, 0, _by, 0);
  for (let k = 0; k < 3; k++) if (!places[k]) _by[k] = 0;
  quatRotate(axes, 0, _by, 0, _by, 0);
  for (let k = 0; k < 3; k++) target[k] = place[k]! + _by[k]!;
}

/** Where the joint and what it takes are when a hold begins. */
function takenAt(body: HeldBody, hold: HoldPlan): Taken {
  const { start, holder } = hold;
  const joint = holderJoint(holder, hold.joint, start, body.read, stillRigid()).slice();
  const heading = holder.root[2]!;
  const before = heldMove(body, hold.before, start, stillRigid());
  const held = multiplyRigid(before, ownPlace(body, hold, start, stillRigid()), stillRigid());
  return { joint, held, axes: axesOf(body, hold, joint, held, heading) };
}

function axesOf(
  { plan }: HeldBody,
  hold: HoldPlan,
  joint: Float64Array,
  held: Float64Array,
  heading: number,
): Float64Array {
  const axes = Float64Array.of(0, 0, 0, 1);
  switch (hold.directions) {
    case 'world':
      return axes;
    case 'floor':
      quatFromAxis(0, 1, 0, heading, axes, 0);
      return axes;
    case 'parent':
      axes.set(joint.subarray(3, 7));
      return axes;
    case 'own':
      // As the body is turned from its rest pose, whatever axes its joints have in their file.
      quatConjugate(plan.skeleton.rest.rotations, hold.held * 4, axes, 0);
      quatMultiply(held, 3, axes, 0, axes, 0);
      return axes;
  }
}
