import { makePoseBuffer, makeWorldPose, poseToWorld, sceneToWorld } from '../clip/pose';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { composeMoves, invertMove, unpackMove } from '../math/floorMove';
import { derivation } from '../memory/memory';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';
import type { Lead } from '../scene/tether';
import { jointNamed, jointOrRoot } from '../skeleton/jointNamed';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole } from '../skeleton/skeleton';
import { wayOnLead } from '../travel/lead';
import { movesBetween } from '../travel/route';

/** A lead, and where it is held. */
export interface LeadPath {
  readonly lead: Lead;
  /** Writes where it is held at a whole frame: x, height, z in the scene. */
  readonly handAt: (frame: number, out: Float64Array, at: number) => void;
}

/** A lead that is held by a joint of a performance; found frame by frame when it is asked for. */
export const leadPath = derivation('lead', 50, (_, holder: CharacterPlan, lead: Lead): LeadPath => {
  const { skeleton } = holder;
  const joint = jointOrRoot(skeleton, lead.joint);
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const known = new Map<number, readonly [number, number, number]>();
  const find = (frame: number): readonly [number, number, number] => {
    const { positions } = poseToWorld(skeleton, evaluateUnlocked(holder, frame, buffer), world);
    return [positions[joint * 3]!, positions[joint * 3 + 1]!, positions[joint * 3 + 2]!];
  };
  return {
    lead,
    handAt: (frame, out, at) => {
      const hand = known.get(frame) ?? find(frame);
      known.set(frame, hand);
      out.set(hand, at);
    },
  };
});

/** The joint that wears a lead: the one that was chosen, else the neck, else the head, else the root bone. */
export function collarOf(skeleton: Skeleton, { held }: Pick<Lead, 'held'>): number {
  const asked = held === null ? -1 : jointNamed(skeleton, held);
  return (
    [asked, jointOfRole(skeleton, 'neck'), jointOfRole(skeleton, 'head')].find((j) => j >= 0) ??
    skeleton.rootBone
  );
}

/** Whether a lead is on at any frame of a placed segment. */
export const isLed = ({ lead }: LeadPath, start: number, end: number): boolean =>
  lead.start < end && (lead.end ?? Infinity) > start;

/** A placed segment with its way bent by a lead. */
export function withLead(plan: SegmentPlan, { lead, handAt }: LeadPath, perSecond: number): SegmentPlan {
  const { skeleton } = plan.clip;
  const frames = plan.end - plan.start + 1;
  const collar = collarOf(skeleton, lead);
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const [way, collars, hands] = [0, 1, 2].map(() => new Float64Array(frames * 3)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const from = Math.max(0, lead.start - plan.start);
  const to = Math.min(frames, (lead.end ?? Infinity) - plan.start);
  for (let f = 0; f < frames; f++) {
    const pose = segmentPose(plan, plan.start + f, true, buffer);
    way.set(pose.root, f * 3);
    if (f < from || f >= to) continue;
    handAt(plan.start + f, hands, f * 3);
    const root = unpackMove(pose.root);
    const { positions } = sceneToWorld(skeleton, pose, world);
    const at = { x: positions[collar * 3]!, z: positions[collar * 3 + 2]!, turn: 0 };
    const worn = composeMoves(invertMove(root), at);
    collars.set([worn.x, positions[collar * 3 + 1]!, worn.z], f * 3);
  }
  const led = wayOnLead(way, { collars, hands, length: lead.length, from, to }, perSecond);
  const moves = movesBetween(way, led);
  return { ...plan, route: plan.route ? composedRoutes(moves, plan.route) : moves };
}

/** Two routes one after the other, the second first. */
function composedRoutes(then: Float64Array, first: Float64Array): Float64Array {
  const out = new Float64Array(first.length);
  for (let o = 0; o < out.length; o += 3) {
    const { x, z, turn } = composeMoves(unpackMove(then, o), unpackMove(first, o));
    out.set([x, z, turn], o);
  }
  return out;
}
