import type { RootPose, ScenePose } from '../clip/pose';
import { makePoseBuffer, makeWorldPose, sampleBetween, written } from '../clip/pose';
import { InputError } from '../math/errors';
import { quatCopy } from '../math/quaternion';
import type { KeyTrack } from '../layers/keys';
import { keyTrack } from '../layers/keys';
import { makeMask } from '../layers/mask';
import type { ValueCurve } from '../layers/valueCurve';
import { valueCurve } from '../layers/valueCurve';
import type { RootCurve } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { restHeading } from '../skeleton/rootBone';
import { limbEndingAt } from '../skeleton/limbs';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole } from '../skeleton/skeleton';
import type { Placed } from '../timeline/lane';
import { toRootSpace } from '../plan/blendPoses';
import type { ContactPlan, DialsPlan, LayerPlan, RootMovePlan, SegmentPlan } from '../plan/plan';
import { makeDialWork } from '../steps/dialPose';

/** A layer's plan with what it was made from. */
export interface MadeLayer {
  readonly plan: LayerPlan;
  readonly lane: LayerLane;
  readonly bases: readonly SegmentPlan[];
  readonly starts: readonly number[];
}

/**
 * Prepares a layer: its mask, its weight, its segments as they were recorded, and the poses that they are taken against.
 *
 * @param previous what it was before, which is given back where nothing has changed
 * @throws InputError `mask` where the body has none of a named bone, `keys` where it has no such joint
 */
export function compileLayer(
  lane: LayerLane,
  items: readonly Placed[],
  bases: readonly SegmentPlan[],
  skeleton: Skeleton,
  moving: Int32Array,
  previous: MadeLayer | undefined,
): MadeLayer {
  const starts = items.map((i) => i.start);
  if (previous?.lane === lane && same(previous.bases, bases) && same(previous.starts, starts))
    return previous;
  const mask = makeMask(skeleton, lane.mask, lane.softness);
  const masked = Array.from(moving).filter((j) => mask.joints.includes(j));
  const segments = bases.map((b, i) => {
    const { id, name } = items[i]!.segment;
    return { ...b, base: b, id, name, start: starts[i]!, end: starts[i]! + b.end };
  });
  const plan: LayerPlan = {
    id: lane.id,
    name: lane.name,
    additive: lane.blend === 'additive',
    mask,
    moving: Int32Array.from(masked),
    movingWeights: Float64Array.from(masked, (j) => mask.weights[mask.joints.indexOf(j)]!),
    ...weightOf(lane, previous),
    smooth: lane.weightShape === 'smooth',
    span: lane.span,
    rootMove: rootMoveOf(lane, previous),
    dials: dialsOf(lane, skeleton, previous),
    look: null,
    contacts: contactsOf(lane, skeleton),
    segments,
    references: segments.map((s) => referencePose(s, lane.reference)),
    keys: keyTracks(lane, skeleton, previous),
  };
  return { plan, lane, bases, starts };
}

/** The keys of a layer's joints; those of joints whose keys are the very ones that they were are packed already. */
function keyTracks(lane: LayerLane, skeleton: Skeleton, previous: MadeLayer | undefined): KeyTrack[] {
  return Object.entries(lane.keys)
    .filter(([, keys]) => keys.length > 0)
    .map(([name, keys]) => {
      const joint = skeleton.names.indexOf(name);
      if (joint < 0) {
        throw new InputError('keys', `The body has no joint ${name} for the keys of ${lane.name}.`, {
          place: { bone: name, path: `lanes.${lane.id}.keys` },
          hint: `Its joints are ${skeleton.names.slice(0, 6).join(', ')} ...`,
        });
      }
      const packed =
        previous?.lane.keys[name] === keys ? previous.plan.keys.find((t) => t.joint === joint) : undefined;
      return packed ?? keyTrack(joint, keys);
    });
}

/** The points of a layer's weight, packed. */
function weightOf(
  { weight }: LayerLane,
  previous: MadeLayer | undefined,
): Pick<LayerPlan, 'weightFrames' | 'weights'> {
  if (previous?.lane.weight === weight)
    return { weightFrames: previous.plan.weightFrames, weights: previous.plan.weights };
  const weightFrames = new Float64Array(weight.length);
  const weights = new Float64Array(weight.length);
  weight.forEach(([frame, value], i) => {
    weightFrames[i] = frame;
    weights[i] = value;
  });
  return { weightFrames, weights };
}

/** How a layer moves the whole character; null without keys for it. */
function rootMoveOf(
  { rootKeys, carriesOn, rootFeet }: LayerLane,
  previous: MadeLayer | undefined,
): RootMovePlan | null {
  if (previous?.lane.rootKeys === rootKeys) {
    const { rootMove } = previous.plan;
    return rootMove && { ...rootMove, carriesOn, feet: rootFeet };
  }
  const frames = Object.values(rootKeys).flatMap((keys) => keys.map((k) => k.frame));
  if (frames.length === 0) return null;
  const curve = (name: RootCurve): ValueCurve => valueCurve(rootKeys[name] ?? []);
  return {
    curves: { left: curve('left'), up: curve('up'), forward: curve('forward'), turn: curve('turn') },
    first: Math.min(...frames),
    last: Math.max(...frames),
    carriesOn,
    feet: rootFeet,
  };
}

/** The hands that a layer holds, of those that the body has. */
const contactsOf = ({ contacts }: LayerLane, skeleton: Skeleton): ContactPlan[] =>
  contacts.flatMap(({ hand, ...span }) => {
    const limb = limbEndingAt(skeleton, jointOfRole(skeleton, hand));
    return limb ? [{ ...span, limb, world: makeWorldPose(skeleton) }] : [];
  });

/** A layer's keys of dials, packed; null without any. */
function dialsOf(
  { dialKeys }: LayerLane,
  skeleton: Skeleton,
  previous: MadeLayer | undefined,
): DialsPlan | null {
  if (previous?.lane.dialKeys === dialKeys) return previous.plan.dials;
  const keyed = Object.entries(dialKeys).filter(([, keys]) => keys.length > 0);
  if (keyed.length === 0) return null;
  const curves = Object.fromEntries(keyed.map(([dial, keys]) => [dial, valueCurve(keys)]));
  return { curves, work: makeDialWork(skeleton), mean: new Float64Array(skeleton.names.length * 4) };
}

const same = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((v, i) => v === b[i]);

/** The pose that an additive clip is taken against. */
function referencePose(segment: SegmentPlan, reference: LayerLane['reference']): RootPose {
  const { clip, root } = segment;
  const { skeleton } = clip;
  if (reference === 'rest') {
    const pose = written<ScenePose>(makePoseBuffer(skeleton));
    const rest = skeleton.rest;
    const { rootBone } = skeleton;
    quatCopy(rest.rotations, rootBone * 4, pose.rotations, rootBone * 4);
    for (let k = 0; k < 3; k++) pose.translations[rootBone * 3 + k] = rest.positions[rootBone * 3 + k]!;
    pose.root.set([rest.positions[rootBone * 3]!, rest.positions[rootBone * 3 + 2]!, restHeading(skeleton)]);
    return toRootSpace(pose, rootBone);
  }
  const wanted = reference === 'first' ? Math.ceil(segment.in) : Math.round(reference);
  const sample = Math.min(Math.max(0, wanted), clip.frames - 1);
  const pose = sampleBetween(clip, sample, sample, 0, makePoseBuffer(skeleton));
  pose.root.set(root.subarray(sample * 3, sample * 3 + 3));
  return toRootSpace(pose, skeleton.rootBone);
}
