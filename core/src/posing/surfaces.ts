import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { quatConjugate, quatRotate } from '../math/quaternion';
import type { CharacterPlan, Plan } from '../plan/plan';
import type { Tread } from '../scene/treads';
import { treadsOf } from '../scene/treads';

/** Surfaces less than this apart are one, metres. */
export const SAME_HEIGHT = 0.005;
/** A prop stands upright where its axis leans less than this, radians: on others nothing stands. */
const UPRIGHT = (5 * Math.PI) / 180;
/** How thick a tread is that has nothing below, metres: deeper in it is below it. */
const SLAB = 0.1;

/** A tread where it is in the scene. */
export interface TreadAt {
  /** Metres over the floor. */
  readonly height: number;
  /** Height down to which the prop fills what is below; what is lower is below it. */
  readonly from: number;
}

const _away = new Float64Array(3);
const _up = new Float64Array(3);
const _turn = new Float64Array(4);

/**
 * The treads of a prop at a place on the floor, however it is turned and wherever it stands at a frame; none where it leans.
 *
 * @param place x, y, z, metres; its height does not matter
 */
export function treadsUnder(plan: CharacterPlan, place: ArrayLike<number>, frame: number): TreadAt[] {
  const { skeleton, character } = plan;
  const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
  const { positions, rotations } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  const { rootBone } = skeleton;
  const bottom = positions[rootBone * 3 + 1]!;
  quatRotate(rotations, rootBone * 4, Float64Array.of(0, 1, 0), 0, _up, 0);
  if (_up[1]! < Math.cos(UPRIGHT)) return [];
  for (let k = 0; k < 3; k++) _away[k] = place[k]! - positions[rootBone * 3 + k]!;
  quatConjugate(rotations, rootBone * 4, _turn, 0);
  quatRotate(_turn, 0, _away, 0, _away, 0);
  const [x, z] = [_away[0]! / character.size, _away[2]! / character.size];
  const isOver = (t: Tread): boolean => x >= t.x[0] && x < t.x[1] && z >= t.z[0] && z < t.z[1];
  return (character.prop ? treadsOf(character.prop) : []).filter(isOver).map((t) => {
    const height = bottom + t.height * character.size;
    // What stands on the floor goes down for ever: feet may be in the floor as well.
    const base = bottom < SAME_HEIGHT ? -Infinity : bottom;
    return { height, from: t.isSolid ? base : height - SLAB };
  });
}

/** What something may stand on: a prop, or the floor. */
export interface Support {
  /** Null is the floor. */
  readonly prop: CharacterPlan | null;
  /** Metres over the floor. */
  readonly height: number;
}

const FLOOR: Support = { prop: null, height: 0 };

/** What a prop may stand on at a place at a frame: the floor, and the highest tread of each other prop there, lowest first. */
export function supportsAt(
  { characters }: Pick<Plan, 'characters'>,
  prop: string,
  { x, z }: { readonly x: number; readonly z: number },
  frame: number,
): Support[] {
  const others = characters.filter((c) => c.character.prop && c.character.id !== prop);
  const found = others.flatMap((other): Support[] => {
    const treads = treadsUnder(other, [x, 0, z], frame);
    return treads.length > 0 ? [{ prop: other, height: Math.max(...treads.map((t) => t.height)) }] : [];
  });
  return [FLOOR, ...found.sort((a, b) => a.height - b.height)];
}

/**
 * What a ray meets first of the floor and of the treads of props at a frame: where, and what it is; null where it meets none.
 *
 * @param origin x, y, z, metres
 * @param direction x, y, z, of any length
 */
export function surfaceAlong(
  { characters }: Pick<Plan, 'characters'>,
  frame: number,
  origin: readonly [number, number, number],
  direction: readonly [number, number, number],
): (Support & { readonly x: number; readonly z: number }) | null {
  let [nearest, least]: [ReturnType<typeof surfaceAlong>, number] = [null, Infinity];
  const meet = (prop: CharacterPlan | null, height: number): void => {
    const along = (height - origin[1]) / direction[1];
    if (!(along > 0 && along < least)) return;
    const [x, z] = [origin[0] + along * direction[0], origin[2] + along * direction[2]];
    const isThere =
      !prop || treadsUnder(prop, [x, 0, z], frame).some((t) => Math.abs(t.height - height) < 1e-9);
    if (isThere) [nearest, least] = [{ prop, height, x, z }, along];
  };
  meet(null, 0);
  for (const plan of characters) {
    const { prop, size } = plan.character;
    if (!prop) continue;
    const { skeleton } = plan;
    const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
    const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
    for (const tread of treadsOf(prop))
      meet(plan, positions[skeleton.rootBone * 3 + 1]! + tread.height * size);
  }
  return nearest;
}
