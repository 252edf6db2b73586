import { poseWithoutLooks } from '../evaluate/evaluateUnlocked';
import { heldInScene } from '../footlock/evaluate';
import { quatConjugate, quatRotate } from '../math/quaternion';
import type { BodyLookPlan, CharacterPlan, LayerPlan, LookPlan } from '../plan/plan';
import type { Look } from '../scene/look';
import { legsOf } from '../skeleton/legs';
import { restHeading } from '../skeleton/rootBone';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole } from '../skeleton/skeleton';
import type { BodyLook } from './bodyLooks';

/** A performance whose layers know whom they look at, with what it was made from. */
export interface Looking {
  readonly from: CharacterPlan;
  /** Those of the performance itself, and then layer by layer. */
  readonly looks: readonly (Look | null)[];
  /** Who is looked at, in the same order. */
  readonly targets: readonly (CharacterPlan | undefined)[];
  readonly plan: CharacterPlan;
}

/**
 * Gives a performance and its layers what they look at. The same performance that looks at the same others is the very one from before.
 *
 * @param own looks of the performance itself
 * @param layered looks by layer
 * @param others all performances of the scene by character, before any looks; those who are held where they are held
 */
export function linkLooks(
  from: CharacterPlan,
  own: readonly BodyLook[],
  layered: readonly (Look | null)[],
  others: ReadonlyMap<string, CharacterPlan>,
  before: Looking | undefined,
): Looking {
  const looks = [...own.map(({ look }) => look), ...layered];
  const targets = looks.map((look) =>
    // Nobody looks at themselves.
    look && 'character' in look.at && look.at.character !== from.character.id
      ? others.get(look.at.character)
      : undefined,
  );
  if (
    before?.from === from &&
    looks.every((look, i) => look === before.looks[i]) &&
    targets.every((target, i) => target === before.targets[i])
  )
    return before;
  const layers = from.layers.map((layer, i): LayerPlan => {
    const look = layered[i];
    return look ? { ...layer, look: lookPlan(look, from.skeleton, targets[own.length + i]) } : layer;
  });
  const bodyLookPlans = own.flatMap(({ look, ...span }, i): BodyLookPlan[] => {
    const made = lookPlan(look, from.skeleton, targets[i]);
    return made ? [{ ...span, look: made }] : [];
  });
  // A look may turn the chest, and the hands with it.
  return {
    from,
    looks,
    targets,
    plan: { ...from, looks: bodyLookPlans, layers, heldHands: layers.map(() => []) },
  };
}

const RADIANS = Math.PI / 180;

function lookPlan(look: Look, skeleton: Skeleton, target: CharacterPlan | undefined): LookPlan | null {
  const head = hanging(skeleton, jointOfRole(skeleton, 'head'));
  if (head < 0) return null;
  const facing = restHeading(skeleton);
  const forward = Float64Array.of(Math.sin(facing), 0, Math.cos(facing));
  const inverse = quatConjugate(skeleton.rest.rotations, head * 4, new Float64Array(4), 0);
  quatRotate(inverse, 0, forward, 0, forward, 0);
  const chest = chestOf(skeleton);
  const common = {
    lag: look.lag,
    turn: look.turn * RADIANS,
    tilt: look.tilt * RADIANS,
    share: chest < 0 ? 0 : look.chest,
    chest,
    neck: hanging(skeleton, jointOfRole(skeleton, 'neck')),
    head,
    forward,
  };
  if ('point' in look.at) return { ...common, at: { point: Float64Array.from(look.at.point) } };
  if (!target) return null;
  const frames = Math.max(1, target.end - target.start);
  const read = target.staging ? heldInScene : poseWithoutLooks;
  return { ...common, at: { plan: target, read, places: new Float64Array(frames * 3).fill(NaN) } };
}

/** A joint, if it hangs on the root bone; else -1. */
function hanging({ parents, rootBone }: Skeleton, joint: number): number {
  for (let j = joint; j >= 0; j = parents[j]!) if (j === rootBone) return joint;
  return -1;
}

/** The joint of the trunk that turns with a look; -1 on a body whose forelegs hang on it. */
function chestOf(skeleton: Skeleton): number {
  if (legsOf(skeleton).some((leg) => leg.front)) return -1;
  for (const role of ['upperChest', 'chest', 'spine'] as const) {
    const joint = hanging(skeleton, jointOfRole(skeleton, role));
    if (joint >= 0) return joint;
  }
  return -1;
}
