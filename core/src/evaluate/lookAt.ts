import type { ScenePose } from '../clip/pose';
import { makePoseBuffer } from '../clip/pose';
import { shortestTurn } from '../math/floorMove';
import { quatConjugate, quatFromAxis, quatMultiply, quatRotate } from '../math/quaternion';
import type { LookPlan } from '../plan/plan';
import type { Skeleton } from '../skeleton/skeleton';

/** The neck's share of what the chest leaves to neck and head. */
const NECK_SHARE = 0.4;
/** Angles off to a side beyond which the eyes begin to let go of what they follow, and have let go, radians. */
const LETS_GO = (120 * Math.PI) / 180;
const LET_GO = (170 * Math.PI) / 180;
/** Means of the delay: the weights of past places fall below a thousandth after this many. */
const WINDOW = 5;

const _place = new Float64Array(3);
const _turn = new Float64Array(4);
const _above = new Float64Array(4);
const _inverse = new Float64Array(4);
const _forward = new Float64Array(3);
const _target = new Float64Array(3);

/**
 * Turns chest, neck and head of a pose towards what a layer looks at, by a weight: first about the vertical and then about the head's
 * left, as heads turn. Of the turn the chest takes its share and the neck some of the rest; neck and head share the tilt. The aim is
 * exact at full weight and within the limits, which are counted from where the root faces; what comes to be behind the body is let go
 * of, so that the head never flips from one shoulder to the other.
 */
export function lookAt(skeleton: Skeleton, look: LookPlan, frame: number, w: number, pose: ScenePose): void {
  if (look.head < 0) return;
  seek(look, frame, _target);
  const heading = pose.root[2]!;
  placeOf(skeleton, pose, look.head, _place);
  const aim = aimFrom(_place, heading, look);
  if (!aim) return;
  const share = w * (1 - smoothStep((Math.abs(aim.side) - LETS_GO) / (LET_GO - LETS_GO)));
  if (share <= 0) return;
  readForward(skeleton, look, pose);
  const from = { turn: headingOf(_forward), tilt: tiltOf(_forward) };
  const turn = share * shortestTurn(heading + aim.turn - from.turn);
  turnAbout(skeleton, pose, look.chest, 0, 1, 0, look.share * turn);
  bend(skeleton, pose, look.neck, from.turn + look.share * turn, {
    turn: NECK_SHARE * (1 - look.share) * turn,
    tilt: NECK_SHARE * share * (aim.tilt - from.tilt),
  });
  // The head has moved with the chest and the neck: it aims from where it is now, and by all that is left.
  placeOf(skeleton, pose, look.head, _place);
  const last = aimFrom(_place, heading, look) ?? aim;
  const goal = {
    turn: from.turn + share * shortestTurn(heading + last.turn - from.turn),
    tilt: from.tilt + share * (last.tilt - from.tilt),
  };
  readForward(skeleton, look, pose);
  const now = headingOf(_forward);
  bend(skeleton, pose, look.head, now, {
    turn: shortestTurn(goal.turn - now),
    tilt: goal.tilt - tiltOf(_forward),
  });
}

/** Turn and tilt, radians, from where the body faces; `side` is the turn before its limit. */
function aimFrom(
  place: Float64Array,
  heading: number,
  { turn, tilt }: LookPlan,
): { turn: number; tilt: number; side: number } | null {
  for (let k = 0; k < 3; k++) _forward[k] = _target[k]! - place[k]!;
  if (Math.hypot(_forward[0]!, _forward[1]!, _forward[2]!) < 1e-3) return null;
  const side = shortestTurn(headingOf(_forward) - heading);
  return { side, turn: clamp(side, turn), tilt: clamp(tiltOf(_forward), tilt) };
}

const clamp = (value: number, most: number): number => Math.min(most, Math.max(-most, value));

function smoothStep(u: number): number {
  const t = Math.min(1, Math.max(0, u));
  return t * t * (3 - 2 * t);
}

const headingOf = (v: Float64Array): number => Math.atan2(v[0]!, v[2]!);

const tiltOf = (v: Float64Array): number => Math.atan2(v[1]!, Math.hypot(v[0]!, v[2]!));

/**
 * Writes where the eyes are sent at a frame. The place of a character's head is followed with a delay: the mean of past places by the
 * weights t e^(-t / s) / s^2 of a critically damped follower, whose mean delay is 2 s.
 */
function seek(look: LookPlan, frame: number, out: Float64Array): void {
  if (look.at.point) {
    out.set(look.at.point);
    return;
  }
  if (look.lag <= 0) return headPlace(look.at, frame, out);
  const s = look.lag / 2;
  const count = Math.ceil(WINDOW * look.lag);
  out.fill(0);
  let total = 0;
  for (let t = 0; t <= count; t++) {
    // The share of each past frame: the integral of the weights over it.
    const part = damped((t + 0.5) / s) - damped(Math.max(0, t - 0.5) / s);
    headPlace(look.at, frame - t, _place);
    for (let k = 0; k < 3; k++) out[k]! += part * _place[k]!;
    total += part;
  }
  for (let k = 0; k < 3; k++) out[k]! /= total;
}

/** The integral of t e^-t from 0. */
const damped = (t: number): number => 1 - (1 + t) * Math.exp(-t);

/** Somebody who is looked at. */
type Target = Exclude<LookPlan['at'], { readonly point: Float64Array }>;

/** Writes where the head of a character is at a frame, between whole frames on the straight way. */
function headPlace(at: Target, frame: number, out: Float64Array): void {
  const { plan, places } = at;
  const x = Math.min(Math.max(frame - plan.start, 0), places.length / 3 - 1);
  const first = Math.floor(x);
  const second = Math.min(first + 1, places.length / 3 - 1);
  fillPlace(at, first);
  if (x > first) fillPlace(at, second);
  for (let k = 0; k < 3; k++) {
    const from = places[first * 3 + k]!;
    out[k] = x > first ? from + (x - first) * (places[second * 3 + k]! - from) : from;
  }
}

function fillPlace({ plan, places, read }: Target, at: number): void {
  if (!Number.isNaN(places[at * 3]!)) return;
  const { skeleton } = plan;
  const pose = read(plan, plan.start + at, makePoseBuffer(skeleton));
  const head = skeleton.roles.indexOf('head');
  placeOf(skeleton, pose, head < 0 ? skeleton.rootBone : head, places.subarray(at * 3, at * 3 + 3));
}

/** Writes where a joint below the root bone is in the scene. */
function placeOf(skeleton: Skeleton, pose: ScenePose, joint: number, out: Float64Array): void {
  const { rotations, translations } = pose;
  for (let k = 0; k < 3; k++) out[k] = translations[joint * 3 + k]!;
  for (let j = joint; j !== skeleton.rootBone;) {
    j = skeleton.parents[j]!;
    quatRotate(rotations, j * 4, out, 0, out, 0);
    for (let k = 0; k < 3; k++) out[k]! += translations[j * 3 + k]!;
  }
}

/** Writes how a joint below the root bone is turned in the scene. */
function turnOf(skeleton: Skeleton, pose: ScenePose, joint: number, out: Float64Array): void {
  for (let k = 0; k < 4; k++) out[k] = pose.rotations[joint * 4 + k]!;
  for (let j = joint; j !== skeleton.rootBone;) {
    j = skeleton.parents[j]!;
    quatMultiply(pose.rotations, j * 4, out, 0, out, 0);
  }
}

/** Writes where the head faces to `_forward`. */
function readForward(skeleton: Skeleton, { head, forward }: LookPlan, pose: ScenePose): void {
  turnOf(skeleton, pose, head, _turn);
  quatRotate(_turn, 0, forward, 0, _forward, 0);
}

/** Turns a joint about the vertical, and then about the left of where the head comes to face. */
function bend(
  skeleton: Skeleton,
  pose: ScenePose,
  joint: number,
  heading: number,
  { turn, tilt }: { readonly turn: number; readonly tilt: number },
): void {
  turnAbout(skeleton, pose, joint, 0, 1, 0, turn);
  turnAbout(skeleton, pose, joint, Math.cos(heading + turn), 0, -Math.sin(heading + turn), -tilt);
}

/** Turns a joint about an axis of the scene. */
function turnAbout(
  skeleton: Skeleton,
  pose: ScenePose,
  joint: number,
  x: number,
  y: number,
  z: number,
  radians: number,
): void {
  if (joint < 0 || radians === 0) return;
  quatFromAxis(x, y, z, radians, _turn, 0);
  if (joint !== skeleton.rootBone) {
    turnOf(skeleton, pose, skeleton.parents[joint]!, _above);
    quatConjugate(_above, 0, _inverse, 0);
    quatMultiply(_inverse, 0, _turn, 0, _turn, 0);
    quatMultiply(_turn, 0, _above, 0, _turn, 0);
  }
  quatMultiply(_turn, 0, pose.rotations, joint * 4, pose.rotations, joint * 4);
}
