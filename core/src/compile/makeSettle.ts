import type { ScenePose } from '../clip/pose';
import { makePoseBuffer, written } from '../clip/pose';
import { shortestTurn } from '../math/floorMove';
import type { Rate } from '../math/rate';
import { DECAY_SIZE, rotationBetween, turnAbout, writeDecay, writeVectorDecay } from '../seam/settle';
import type { SegmentPlan } from '../plan/plan';
import { hasSamples, segmentPose } from '../plan/segmentPose';
import type { Settle } from '../plan/settlePose';

/** The poses on both sides of a cut from which differences of place and speed are taken. */
interface Sides {
  readonly out: Side;
  readonly in: Side;
}

/** One side: its pose at the cut, and two poses `frames` apart around it that tell its speed. */
interface Side {
  readonly at: ScenePose;
  readonly from: ScenePose;
  readonly to: ScenePose;
  readonly frames: number;
}

/**
 * Prepares a settling seam: per joint the difference of pose and of speed between the outgoing and the incoming motion
 * at the cut, and how it decays within `seconds`.
 */
export function makeSettle(
  outgoing: SegmentPlan,
  incoming: SegmentPlan,
  seconds: number,
  rate: Rate,
): Settle {
  const { out, in: coming } = readSides(outgoing, incoming);
  const frameSeconds = rate.den / rate.num;
  const { clip } = incoming;
  const joints = clip.skeleton.names.length;
  const { translated } = clip;
  const turnAxes = new Float64Array(joints * 3);
  const turns = new Float64Array(joints * DECAY_SIZE);
  const difference = new Float64Array(3);
  const steps = { out: new Float64Array(3), in: new Float64Array(3) };
  const speed = (): Float64Array =>
    steps.out.map((v, k) => (v / out.frames - steps.in[k]! / coming.frames) / frameSeconds);
  for (let j = 0; j < joints; j++) {
    const q = j * 4;
    rotationBetween(out.at.rotations, q, coming.at.rotations, q, difference, 0);
    rotationBetween(out.to.rotations, q, out.from.rotations, q, steps.out, 0);
    rotationBetween(coming.to.rotations, q, coming.from.rotations, q, steps.in, 0);
    writeVectorDecay(difference, speed(), seconds, turnAxes, j * 3, turns, j * DECAY_SIZE);
  }
  const placeAxes = new Float64Array(translated.length * 3);
  const places = new Float64Array(translated.length * DECAY_SIZE);
  translated.forEach((joint, i) => {
    for (let k = 0; k < 3; k++) {
      const p = joint * 3 + k;
      difference[k] = out.at.translations[p]! - coming.at.translations[p]!;
      steps.out[k] = out.to.translations[p]! - out.from.translations[p]!;
      steps.in[k] = coming.to.translations[p]! - coming.from.translations[p]!;
    }
    writeVectorDecay(difference, speed(), seconds, placeAxes, i * 3, places, i * DECAY_SIZE);
  });
  const turn = shortestTurn(out.at.root[2]! - coming.at.root[2]!);
  const headingSign = turn < 0 ? -1 : 1;
  const turning = headingSpeed(out) - headingSpeed(coming);
  const heading = new Float64Array(DECAY_SIZE);
  writeDecay(Math.abs(turn), (headingSign * turning) / frameSeconds, seconds, heading, 0);
  return {
    frames: Math.ceil(seconds / frameSeconds - 1e-9),
    secondsPerFrame: frameSeconds,
    turnAxes,
    turns,
    placeAxes,
    places,
    headingSign,
    heading,
  };
}

const headingSpeed = (side: Side): number =>
  shortestTurn(side.to.root[2]! - side.from.root[2]!) / side.frames;

/**
 * Reads both sides. Speeds are taken the same way on both wherever the clips have the samples for it (across the cut,
 * else both after it, else both before it): taken before the cut on one side and after it on the other they differ by
 * the motion's own acceleration, and a seam within one motion would not be still.
 */
function readSides(outgoing: SegmentPlan, incoming: SegmentPlan): Sides {
  const { skeleton } = incoming.clip;
  const at = (segment: SegmentPlan, frame: number): ScenePose =>
    segmentPose(segment, frame, false, makePoseBuffer(skeleton));
  const cut = incoming.start;
  const side = (segment: SegmentPlan, from: number, to: number, pose = at(segment, cut)): Side => ({
    at: pose,
    from: at(segment, from),
    to: at(segment, to),
    frames: to - from,
  });
  // Before a gap the last pose is held, so the outgoing side comes to rest.
  if (cut > outgoing.end) {
    const still = at(outgoing, outgoing.end - 1);
    return { out: { at: still, from: still, to: still, frames: 1 }, in: side(incoming, cut, cut + 1) };
  }
  const after = hasSamples(outgoing, cut + 1);
  const before = hasSamples(incoming, cut - 1);
  if (after) {
    const from = before ? cut - 1 : cut;
    return { out: side(outgoing, from, cut + 1), in: side(incoming, from, cut + 1) };
  }
  const last = at(outgoing, cut - 1);
  const pose = hasSamples(outgoing, cut) ? at(outgoing, cut) : carriedOn(last, at(outgoing, cut - 2));
  const out: Side = { at: pose, from: last, to: pose, frames: 1 };
  return { out, in: before ? side(incoming, cut - 1, cut) : side(incoming, cut, cut + 1) };
}

const _step = new Float64Array(3);

/** A pose moved on by its own last step, for clips that end at the cut. */
function carriedOn(pose: ScenePose, before: ScenePose): ScenePose {
  const next = written<ScenePose>({
    rotations: pose.rotations.slice(),
    translations: pose.translations.map((v, i) => 2 * v - before.translations[i]!),
    root: pose.root.map((v, i) => v + (i < 2 ? v - before.root[i]! : shortestTurn(v - before.root[i]!))),
  });
  for (let q = 0; q < next.rotations.length; q += 4) {
    rotationBetween(pose.rotations, q, before.rotations, q, _step, 0);
    const angle = Math.hypot(_step[0]!, _step[1]!, _step[2]!);
    if (angle > 0)
      turnAbout(
        _step.map((v) => v / angle),
        0,
        angle,
        next.rotations,
        q,
      );
  }
  return next;
}
