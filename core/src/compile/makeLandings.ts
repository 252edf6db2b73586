import { makePoseBuffer, makeWorldPose } from '../clip/pose';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import type { Landing, Landings } from '../plan/landings';
import { landingShare } from '../plan/landings';
import type { SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { segmentPose } from '../plan/segmentPose';
import type { Stepping } from '../scene/seam';
import type { Leg } from '../skeleton/legs';
import { legsOf } from '../skeleton/legs';
import { MAX_STEP_LOWERING, SURE_STEP_REACH } from '../seam/footfalls';
import { smoothLowering } from '../steps/hipsLowering';
import { chainOfLegs, hangsOnRoot, legsInScene } from '../steps/legsInScene';

/** Seconds of the swing home where the clip never sets the foot down again, and for which the hips' way is known after it. */
const SWING_SECONDS = 0.4;

const NOWHERE = { x: 0, z: 0 };
const AT_ONCE = { leaves: 0, returns: 0 };

/**
 * The feet of a segment that the step before it puts elsewhere than the clip has them; null where there are none.
 *
 * @param segment as it was recorded, from frame 0
 */
export function makeLandings(segment: SegmentPlan, { landings }: Stepping, rate: Rate): Landings | null {
  const { skeleton } = segment.clip;
  const fps = framesPerSecond(rate);
  const legs = legsOf(skeleton);
  if (Object.keys(landings).length === 0 || !legs.every((leg) => hangsOnRoot(skeleton, leg))) return null;
  const feet = legs.map((leg): Landing => {
    const { x, z } = landings[skeleton.roles[leg.ankle] ?? ''] ?? NOWHERE;
    const stays = x === 0 && z === 0;
    return { leg, x, z, ...(stays ? AT_ONCE : standing(segment, leg, SWING_SECONDS * fps)) };
  });
  if (feet.every((foot) => foot.returns === 0)) return null;
  const { root } = segmentPose(segment, segment.overlap, true, makePoseBuffer(skeleton));
  const made: Landings = {
    feet,
    heading: root[2]!,
    frame: segment.overlap,
    lowering: new Float64Array(1),
    chain: chainOfLegs(skeleton, legs),
    world: makeWorldPose(skeleton),
  };
  return { ...made, lowering: hipsLowering(segment, made, fps) };
}

/** Until when a foot stands where it lands after the seam: it leaves with the clip's own next lift, and returns with its strike. */
function standing(
  segment: SegmentPlan,
  leg: Leg,
  swing: number,
): { readonly leaves: number; readonly returns: number } {
  const planted = (frame: number): boolean => leg.planted.some((joint) => isPlanted(segment, joint, frame));
  const next = (from: number, on: boolean): number => {
    let f = from;
    while (f < segment.end && planted(f) !== on) f++;
    return f;
  };
  const lands = next(segment.overlap, true);
  const lifts = next(lands, false);
  if (lands >= segment.end) return { leaves: segment.overlap, returns: segment.overlap + swing };
  if (lifts >= segment.end) return { leaves: Infinity, returns: Infinity };
  const strikes = next(lifts, true);
  return { leaves: lifts - 1, returns: strikes < segment.end ? strikes : lifts - 1 + swing };
}

/** How far the hips come down at each frame for the legs to reach. */
function hipsLowering(segment: SegmentPlan, landings: Landings, fps: number): Float64Array {
  const { skeleton } = segment.clip;
  const { feet, chain, world } = landings;
  const last = Math.max(...feet.map((f) => Math.min(f.returns, segment.end))) + SWING_SECONDS * fps;
  const buffer = makePoseBuffer(skeleton);
  const [s, c] = [Math.sin(landings.heading), Math.cos(landings.heading)];
  const needed = Float64Array.from({ length: Math.ceil(last) + 1 }, (_, frame) => {
    legsInScene(skeleton, segmentPose(segment, frame, true, buffer), chain, world);
    const p = world.positions;
    const bone = (a: number, b: number): number =>
      Math.hypot(...[0, 1, 2].map((k) => p[a * 3 + k]! - p[b * 3 + k]!));
    const needs = feet.map((foot) => {
      const { upper, lower, ankle } = foot.leg;
      const w = landingShare(foot, frame);
      if (w === 0) return 0;
      const reach = (bone(upper, lower) + bone(lower, ankle)) * SURE_STEP_REACH;
      const x = p[ankle * 3]! + w * (foot.x * c + foot.z * s) - p[upper * 3]!;
      const z = p[ankle * 3 + 2]! + w * (foot.z * c - foot.x * s) - p[upper * 3 + 2]!;
      const height = p[upper * 3 + 1]! - p[ankle * 3 + 1]!;
      return height - Math.sqrt(Math.max(0, reach * reach - x * x - z * z));
    });
    return Math.max(0, ...needs);
  });
  return smoothLowering(needed, fps, MAX_STEP_LOWERING);
}
