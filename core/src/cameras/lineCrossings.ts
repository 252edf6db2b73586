import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { quatConjugate, quatRotate } from '../math/quaternion';
import type { CharacterPlan, Plan } from '../plan/plan';
import { restHeight } from '../skeleton/skeleton';
import { cameraAt } from './cameraMotion';
import type { CameraPose } from './cameraPose';
import { makeCameraPose } from './cameraPose';

/** A cut across the line between two who are seen before and after it: who was on the left is on the right then. */
export interface LineCrossing {
  /** The shot that the cut leads to. */
  readonly shot: string;
  readonly frame: number;
  /** Ids of those whose line is crossed. */
  readonly between: readonly [string, string];
}

/** Share of a body's height at which it is looked for in a picture. */
const CHEST = 0.65;

/**
 * The cuts at which the camera goes to the other side of the line through two characters who are in both pictures (the rule of the line of
 * action, or of 180 degrees: common practice). Shots that blend are no cuts: they show how the camera goes there.
 */
export function lineCrossings(plan: Plan): LineCrossing[] {
  const { shots, cameras, aspect } = plan.filming;
  const cast = plan.characters.filter((c) => c.character.prop === null && c.segments.length > 0);
  const [before, after] = [makeCameraPose(), makeCameraPose()];
  const isFlat = ({ rotation }: CameraPose): boolean => Math.abs(lookingUp(rotation)) < STEEP;
  return shots.flatMap((shot, i): LineCrossing[] => {
    const previous = shots[i - 1];
    const from = cameras.find((c) => c.id === previous?.camera);
    const to = cameras.find((c) => c.id === shot.camera);
    if (!from || !to || shot.blend > 0 || from === to) return [];
    cameraAt(plan, from, shot.start - 1, before);
    cameraAt(plan, to, shot.start, after);
    if (!isFlat(before) || !isFlat(after)) return [];
    const seen = cast
      .map((c) => ({ id: c.character.id, chest: chestOf(c, shot.start) }))
      .filter(({ chest }) => isSeen(before, chest, aspect) && isSeen(after, chest, aspect));
    return seen.flatMap((a, j) =>
      seen
        .slice(j + 1)
        .filter((b) => sideOf(before, a.chest, b.chest) * sideOf(after, a.chest, b.chest) < 0)
        .map((b): LineCrossing => ({ shot: shot.id, frame: shot.start, between: [a.id, b.id] })),
    );
  });
}

/** Sine of the angle, 60 degrees, from which on a camera looks down so steeply that nobody is on the left of somebody. */
const STEEP = Math.sqrt(3) / 2;

/** How far up a camera looks: the sine of the angle. */
const lookingUp = ([x = 0, y = 0, z = 0, w = 1]: Float64Array): number => -2 * (y * z - w * x);

function chestOf(plan: CharacterPlan, frame: number): Float64Array {
  const { root } = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  return Float64Array.of(root[0]!, CHEST * restHeight(plan.skeleton), root[1]!);
}

/** On which side of the line from one to the other a camera is: its sign. */
const sideOf = ({ place }: CameraPose, a: Float64Array, b: Float64Array): number =>
  Math.sign((b[0]! - a[0]!) * (place[2]! - a[2]!) - (b[2]! - a[2]!) * (place[0]! - a[0]!));

/** Where a point is in the picture of a camera: to the right and up, shares of half of it; null behind the camera. */
export function placeInPicture(
  { place, rotation, halfHeight }: CameraPose,
  point: ArrayLike<number>,
  aspect: number,
): readonly [number, number] | null {
  const inverse = quatConjugate(rotation, 0, new Float64Array(4), 0);
  const p = Float64Array.of(point[0]! - place[0]!, point[1]! - place[1]!, point[2]! - place[2]!);
  quatRotate(inverse, 0, p, 0, p, 0);
  const depth = -p[2]!;
  return depth <= 0 ? null : [p[0]! / (depth * halfHeight * aspect), p[1]! / (depth * halfHeight)];
}

function isSeen(camera: CameraPose, point: Float64Array, aspect: number): boolean {
  const at = placeInPicture(camera, point, aspect);
  return at !== null && Math.abs(at[0]) <= 1 && Math.abs(at[1]) <= 1;
}
