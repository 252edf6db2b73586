import type {
  CharacterPlan,
  Edit,
  Hold,
  JointUse,
  Lead,
  Plan,
  PropShape,
  Reach,
  Scene,
  Skeleton,
  Tether,
} from '@warper/core';
import {
  LEAD_LENGTH,
  PLAIN_HOLD,
  PLAIN_LEAD,
  PLAIN_REACH,
  REACHING,
  collarOf,
  defined,
  jointNamed,
  jointOfRole,
  legsOf,
  limbNamed,
  palmOf,
  posedAt,
} from '@warper/core';
import { invertRigid, moveByRigid, readRigid, stillRigid } from '@warper/core/kernels';
import { freshId } from '../../../data/freshId';
import { jointName } from './jointChoices';
import { usualName } from './tetherWords';

/** Joints of things that are made to be gripped or sat on. */
const GRIPS = ['grip', 'leftGrip', 'rightGrip'];
const SEAT = 'seat';
/** Frames in which somebody with legs is set down, and in which a hand comes to what it reaches for. */
const FADE = 8;

type Point = readonly [number, number, number];

/** The transform of a joint at a frame: x, y, z in metres and xyzw. */
export function jointAt(plan: CharacterPlan, joint: number, frame: number): Float64Array {
  const { positions, rotations } = posedAt(plan, frame).world;
  return readRigid(positions, rotations, joint, stillRigid());
}

/** Where a joint is at a frame, or a place in its axes. */
function placeOf(plan: CharacterPlan, joint: number, frame: number, offset: Point = [0, 0, 0]): Point {
  const [x = 0, y = 0, z = 0] = moveByRigid(
    jointAt(plan, joint, frame),
    Float64Array.from(offset),
    0,
    new Float64Array(3),
    0,
  );
  return [x, y, z];
}

/** The hands and feet of a body that can reach for something, by their roles, with the joints that they end in. */
export const reachingLimbs = (skeleton: Skeleton): { readonly role: Reach['limb']; readonly end: number }[] =>
  REACHING.flatMap((role) => {
    const limb = limbNamed(skeleton, role);
    return limb ? [{ role, end: limb.end }] : [];
  });

const apart = (a: Point, b: Point): number => Math.hypot(...a.map((v, k) => v - defined(b[k])));

const named = (skeleton: Skeleton, ...names: readonly string[]): number[] =>
  names.map((name) => skeleton.names.indexOf(name)).filter((j) => j >= 0);

/** The pair of a joint and a place to grip that are nearest to each other at a frame. */
function nearest(
  a: CharacterPlan,
  joints: readonly number[],
  b: CharacterPlan,
  grips: readonly number[],
  frame: number,
): readonly [joint: number, grip: number] | null {
  const pairs = joints.flatMap((joint) =>
    grips.map((grip) => ({
      joint,
      grip,
      far: apart(placeOf(a, joint, frame, palmOf(a.skeleton, joint)), placeOf(b, grip, frame)),
    })),
  );
  const best = pairs.reduce<(typeof pairs)[number] | null>((m, p) => (m && m.far <= p.far ? m : p), null);
  return best && [best.joint, best.grip];
}

/** The joint that was picked on a body for a use. */
function pickedJoint(
  scene: Scene,
  { character, skeleton }: CharacterPlan,
  use: JointUse,
): number | undefined {
  const name = scene.pickedJoints[character.body]?.[use];
  const joint = name === undefined ? -1 : jointNamed(skeleton, name);
  return joint < 0 ? undefined : joint;
}

/** Where a thing is gripped: where that was picked, else at the joints that it was made with for that. */
function gripsOf(scene: Scene, plan: CharacterPlan): number[] {
  const picked = pickedJoint(scene, plan, 'grip');
  return picked === undefined ? named(plan.skeleton, ...GRIPS) : [picked];
}

const handsOf = ({ skeleton }: CharacterPlan): number[] =>
  (['leftHand', 'rightHand'] as const).map((r) => jointOfRole(skeleton, r)).filter((j) => j >= 0);

/** Metres within which a hand takes a thing by its grip; what is further away keeps its offset. */
const AT_HAND = 0.5;
/** Shapes that hang from their grip, upright however the hand is turned. */
const HANGING: readonly PropShape[] = ['lantern', 'basket'];

/**
 * A hold from the playhead on, with what is likely meant: a thing in the nearest hand, somebody on the seat of a thing. What is at hand is taken
 * by its grip; all else keeps the offset that there is. A hold of the same child that has no end ends there.
 */
export function newHold(scene: Scene, plan: Plan, child: string, parent: string, frame: number): NewTether {
  const [held, holder] = [planOf(plan, child), planOf(plan, parent)];
  const seat = pickedJoint(scene, holder, 'seat') ?? named(holder.skeleton, SEAT)[0];
  const hasLegs = legsOf(held.skeleton).length > 0;
  const hands = handsOf(holder);
  const grips = gripsOf(scene, held);
  const inHand = nearest(holder, hands, held, grips.length > 0 ? grips : [held.skeleton.rootBone], frame);
  const joint = hasLegs ? seat : inHand?.[0];
  const grip = !hasLegs && grips.length > 0 && joint !== undefined ? inHand?.[1] : undefined;
  const hips = hasLegs && seat !== undefined ? held.skeleton.rootBone : undefined;
  const own = grip ?? hips;
  const by = joint === undefined ? null : jointName(holder.skeleton, joint);
  const tether: Hold = {
    ...PLAIN_HOLD,
    id: freshId('t'),
    name: usualName({ kind: 'hold', joint: by }, held, holder),
    child,
    parent,
    joint: by,
    held: own === undefined ? null : jointName(held.skeleton, own),
    start: frame,
    fadeOut: hasLegs ? FADE : 0,
    ...(joint !== undefined && grip !== undefined ? atHand(holder, joint, held, grip, frame) : {}),
  };
  const open = Object.values(scene.tethers).filter(
    (t) => t.kind === 'hold' && t.child === child && t.end === null && t.start < frame,
  );
  const closed = open.map((t): Edit => ({ type: 'change tether', tether: t.id, values: { end: frame } }));
  return withOthers(tether, `hold of ${held.character.name} by ${holder.character.name}`, closed);
}

/** How a thing is taken that is at hand: by its grip, in a few frames; what hangs there stays upright. */
function atHand(
  holder: CharacterPlan,
  joint: number,
  held: CharacterPlan,
  grip: number,
  frame: number,
): Partial<Hold> {
  const palm = palmOf(holder.skeleton, joint);
  const shape = held.character.prop?.shape;
  const hangs = shape !== undefined && HANGING.includes(shape);
  const far = apart(placeOf(holder, joint, frame, palm), placeOf(held, grip, frame));
  if (far > AT_HAND) return {};
  const turns = hangs ? ([false, true, false] as const) : PLAIN_HOLD.turns;
  return { turns, grip: { place: palm, turn: null }, fadeIn: FADE };
}

/**
 * A reach from the playhead on: of the hand, or else the foot, that is nearest to where the thing is gripped. A hand that holds the thing
 * then, and the grip that it holds it by, are taken.
 */
export function newReach(scene: Scene, plan: Plan, child: string, parent: string, frame: number): NewTether {
  const [own, thing] = [planOf(plan, child), planOf(plan, parent)];
  const { skeleton } = own;
  const holding = Object.values(scene.tethers).filter(
    (t) => t.kind === 'hold' && t.child === parent && t.parent === child && isAt(t, frame),
  );
  const isFree = (of: Skeleton, joint: number, key: 'joint' | 'held'): boolean =>
    !holding.some((t) => t.kind === 'hold' && t[key] !== null && jointNamed(of, t[key]) === joint);
  const limbs = reachingLimbs(skeleton).filter((l) => isFree(skeleton, l.end, 'joint'));
  const hands = limbs.filter((l) => l.role.endsWith('Hand'));
  const grips = gripsOf(scene, thing).filter((grip) => isFree(thing.skeleton, grip, 'held'));
  const choice = hands.length > 0 ? hands : limbs;
  const found = nearest(
    own,
    choice.map((l) => l.end),
    thing,
    grips.length > 0 ? grips : [thing.skeleton.rootBone],
    frame,
  );
  const [end, joint] = found ?? [-1, thing.skeleton.rootBone];
  const asked = {
    kind: 'reach',
    limb: choice.find((l) => l.end === end)?.role ?? 'rightHand',
    joint: jointName(thing.skeleton, joint),
  } as const;
  const tether: Reach = {
    ...PLAIN_REACH,
    ...asked,
    id: freshId('t'),
    name: usualName(asked, own, thing),
    child,
    parent,
    start: frame,
    fadeIn: FADE,
    fadeOut: FADE,
    grip: grips.length > 0 && end >= 0 ? wristGrip(own, end, thing, joint, frame) : null,
  };
  return withOthers(tether, `reach of ${own.character.name} for ${thing.character.name}`, []);
}

const isAt = ({ start, end }: Tether, frame: number): boolean => frame >= start && frame < (end ?? Infinity);

/** Where the wrist is in the axes of a grip when the palm is on it, turned as the hand is now. */
function wristGrip(
  own: CharacterPlan,
  hand: number,
  thing: CharacterPlan,
  joint: number,
  frame: number,
): Reach['grip'] {
  const palm = placeOf(own, hand, frame, palmOf(own.skeleton, hand));
  const off = Float64Array.from(placeOf(own, hand, frame), (v, k) => v - defined(palm[k]));
  const back = invertRigid(jointAt(thing, joint, frame), stillRigid());
  // A direction is turned and not moved.
  back.fill(0, 0, 3);
  const [x = 0, y = 0, z = 0] = moveByRigid(back, off, 0, off, 0);
  return { place: [x, y, z], turn: null };
}

/** How much longer than the way to the hand a new lead is, and how long at least, metres. */
const SLACK = 0.3;
const SHORTEST = 1.2;

/** A lead from the playhead on: from the nearest hand of another, as long as it takes with some slack. */
export function newLead(scene: Scene, plan: Plan, child: string, parent: string, frame: number): NewTether {
  const [led, holder] = [planOf(plan, child), planOf(plan, parent)];
  const picked = scene.pickedJoints[led.character.body]?.collar ?? null;
  const collar = collarOf(led.skeleton, { held: picked });
  const [joint] = nearest(holder, handsOf(holder), led, [collar], frame) ?? [];
  const far = apart(placeOf(holder, joint ?? holder.skeleton.rootBone, frame), placeOf(led, collar, frame));
  const tether: Lead = {
    ...PLAIN_LEAD,
    id: freshId('t'),
    name: usualName({ kind: 'lead', joint: null }, led, holder),
    child,
    parent,
    joint: joint === undefined ? null : jointName(holder.skeleton, joint),
    held: jointName(led.skeleton, collar),
    length: Math.min(LEAD_LENGTH.most, Math.max(SHORTEST, Math.round((far + SLACK) * 10) / 10)),
    start: frame,
  };
  const open = Object.values(scene.tethers).filter(
    (t) => t.kind === 'lead' && t.child === child && t.end === null && t.start < frame,
  );
  const closed = open.map((t): Edit => ({ type: 'change tether', tether: t.id, values: { end: frame } }));
  return withOthers(tether, `lead of ${led.character.name} by ${holder.character.name}`, closed);
}

/** A tether, and the edit that adds it. */
export interface NewTether {
  readonly tether: Tether;
  readonly edit: Edit;
}

const withOthers = (tether: Tether, label: string, others: readonly Edit[]): NewTether => ({
  tether,
  edit: { type: 'several', label, edits: [...others, { type: 'tether', tether }] },
});

const planOf = (plan: Plan, id: string): CharacterPlan =>
  defined(plan.characters.find((c) => c.character.id === id));
