import { makePoseBuffer, makeWorldPose } from '../clip/pose';
import { stillRigid } from '../math/rigid';
import type { CharacterPlan } from '../plan/plan';
import type { Holder, HoldPlan, HoldWork, ReachPlan, StagingPlan } from '../plan/tethers';
import type { Hold, Reach, Tether } from '../scene/tether';
import { legsOf } from '../skeleton/legs';
import { jointNamed, jointOrRoot, limbNamed } from '../skeleton/jointNamed';
import type { Skeleton } from '../skeleton/skeleton';

/** A performance with tethers, with what it was made from. */
export interface Staged<T extends Tether = Tether> {
  readonly from: CharacterPlan;
  readonly tethers: readonly T[];
  /** Who holds or is reached for, tether by tether. */
  readonly holders: readonly Holder[];
  readonly plan: CharacterPlan;
}

/** Gives what was made before, if it was from the very same. */
function madeBefore<T extends Tether>(
  before: Staged<T> | undefined,
  from: CharacterPlan,
  tethers: readonly T[],
  holders: readonly Holder[],
): Staged<T> | null {
  const same =
    before?.from === from &&
    before.tethers.length === tethers.length &&
    tethers.every((t, i) => t === before.tethers[i] && holders[i] === before.holders[i]);
  return same ? before : null;
}

/**
 * Gives a performance its place on whoever holds it. The same performance with the same holds is the very one from before.
 *
 * @param holders tether by tether, with the holds of their own but before they reach for anything
 */
export function linkHolds(
  from: CharacterPlan,
  tethers: readonly Hold[],
  holders: readonly Holder[],
  before: Staged<Hold> | undefined,
): Staged<Hold> {
  const known = madeBefore(before, from, tethers, holders);
  if (known) return known;
  const holds = chained(from.skeleton, tethers, holders);
  const last = new Map<number, number>();
  holds.forEach(({ jointOnly, plan }, i) => last.set(jointOnly ? plan.held : WHOLE, i));
  const staging: StagingPlan = {
    ...withoutTethers(from.skeleton),
    holds: holds.map((h) => h.plan),
    whole: last.get(WHOLE) ?? -1,
    joints: [...last].flatMap(([joint, i]) => (joint === WHOLE ? [] : [i])),
    work: holds.map(makeWork),
  };
  return { from, tethers, holders, plan: { ...from, staging } };
}

/**
 * Lets the hands and feet of a performance reach for things. The same performance with the same reaches is the very one from before.
 *
 * @param from the performance with its holds
 * @param holders who or what is reached for, tether by tether, before they reach for anything
 */
export function linkReaches(
  from: CharacterPlan,
  tethers: readonly Reach[],
  holders: readonly Holder[],
  before: Staged<Reach> | undefined,
): Staged<Reach> {
  const known = madeBefore(before, from, tethers, holders);
  if (known) return known;
  const reaches = tethers.flatMap((t, i) => reachPlan(from.skeleton, t, holders[i]!));
  const staging = { ...(from.staging ?? withoutTethers(from.skeleton)), reaches, reached: [] };
  return { from, tethers, holders, plan: { ...from, staging } };
}

const withoutTethers = (skeleton: Skeleton): StagingPlan => ({
  holds: [],
  whole: -1,
  joints: [],
  reaches: [],
  world: makeWorldPose(skeleton),
  ownWorld: makeWorldPose(skeleton),
  buffer: makePoseBuffer(skeleton),
  move: stillRigid(),
  work: [],
  taken: [],
  reached: [],
  left: [],
});

/** Stands for the body as a whole among joints that are moved alone. */
const WHOLE = -1;

/** Memory for the poses of somebody who holds. */
export const makeHolder = (plan: CharacterPlan): Holder => ({
  plan,
  frame: NaN,
  buffer: makePoseBuffer(plan.skeleton),
  world: makeWorldPose(plan.skeleton),
  root: new Float64Array(3),
});

const makeWork = (): HoldWork => ({
  before: stillRigid(),
  own: stillRigid(),
  joint: stillRigid(),
  place: stillRigid(),
  target: stillRigid(),
  turned: stillRigid(),
});

interface Chained {
  readonly plan: HoldPlan;
  readonly jointOnly: boolean;
}

/** The holds of a body in order of their starts, each with the one before it of the same body or joint. */
function chained(skeleton: Skeleton, tethers: readonly Hold[], holders: readonly Holder[]): Chained[] {
  const hasLegs = legsOf(skeleton).length > 0;
  const all = tethers
    .map((tether, i) => ({ tether, holder: holders[i]! }))
    .sort((a, b) => a.tether.start - b.tether.start);
  const last = new Map<number, number>();
  return all.map(({ tether, holder }, i): Chained => {
    const asked = tether.held === null ? -1 : jointNamed(skeleton, tether.held);
    const held = asked < 0 ? skeleton.rootBone : asked;
    // What hangs on the root bone, and that itself, is the whole body.
    const jointOnly = tether.jointOnly && hangsBelow(skeleton, held);
    const key = jointOnly ? held : WHOLE;
    const before = last.get(key) ?? -1;
    last.set(key, i);
    return {
      jointOnly,
      plan: {
        ...commonOf(tether, holder),
        places: tether.places,
        turns: tether.turns,
        directions: tether.directions,
        after: tether.after,
        held,
        ownMotion: asked < 0,
        before,
        standsAfter: hasLegs && !jointOnly,
      },
    };
  });
}

/** Whether a joint hangs on the root bone, without being it. */
function hangsBelow({ parents, rootBone }: Skeleton, joint: number): boolean {
  for (let j = parents[joint]!; j >= 0; j = parents[j]!) if (j === rootBone) return true;
  return false;
}

function reachPlan(skeleton: Skeleton, tether: Reach, holder: Holder): ReachPlan[] {
  const limb = limbNamed(skeleton, tether.limb);
  return limb ? [{ ...commonOf(tether, holder), limb }] : [];
}

const commonOf = (
  { id, joint, start, end, fadeIn, fadeOut, weight, grip }: Hold | Reach,
  holder: Holder,
): Omit<ReachPlan, 'limb'> => ({
  id,
  holder,
  joint: jointOrRoot(holder.plan.skeleton, joint),
  start,
  end: end ?? Infinity,
  fadeIn,
  fadeOut,
  weightFrames: Float64Array.from(weight, ([frame]) => frame),
  weights: Float64Array.from(weight, ([, w]) => w),
  gripPlace: grip && Float64Array.from(grip.place),
  gripTurn: grip?.turn ? Float64Array.from(grip.turn) : null,
});
