import type { CharacterPlan, Rate } from '@warper/core';
import { bake, evaluate, findSteps, framesPerSecond, jointTracks, makePose } from '@warper/core';

/** A footprint on the floor: place in metres and heading in radians. */
export interface Footprint {
  readonly x: number;
  readonly z: number;
  readonly heading: number;
}

/** Where a character is at a frame, and which way it faces. */
export interface Facing extends Footprint {
  readonly frame: number;
}

/** What a performance leaves on the floor. */
export interface FloorTrace {
  /** x, z, heading of the carrier's ground point, each frame from the character's first. */
  readonly roots: Float64Array;
  readonly footprints: readonly Footprint[];
  /** Where the root is, and which way it faces, twice a second. */
  readonly facings: readonly Facing[];
}

const traces = new WeakMap<CharacterPlan, FloorTrace>();
const NOTHING: FloorTrace = { roots: new Float64Array(0), footprints: [], facings: [] };

/** The floor path and the footprints of a character; computed once for a plan. */
export function floorTrace(plan: CharacterPlan, rate: Rate): FloorTrace {
  let trace = traces.get(plan);
  if (!trace) {
    trace = plan.end > plan.start ? makeTrace(plan, rate) : NOTHING;
    traces.set(plan, trace);
  }
  return trace;
}

function makeTrace(plan: CharacterPlan, rate: Rate): FloorTrace {
  const clip = bake(plan, rate);
  const width = clip.translated.length * 3;
  const roots = new Float64Array(clip.frames * 2);
  for (let f = 0; f < clip.frames; f++) {
    roots[f * 2] = clip.translations[f * width]!;
    roots[f * 2 + 1] = clip.translations[f * width + 2]!;
  }
  const { joints } = findSteps(clip);
  const footprints: Footprint[] = [];
  for (const side of ['left', 'right']) {
    const ankle = joints.find((j) => j.role === `${side}Foot`);
    const toes = joints.find((j) => j.role === `${side}Toes`);
    if (!ankle) continue;
    const tracks = jointTracks(clip, [ankle.joint, (toes ?? ankle).joint]);
    for (const span of ankle.spans) {
      const at = Math.min(span.end - 1, Math.round((span.start + span.end) / 2)) * 6;
      const [x, z] = [tracks[at]!, tracks[at + 2]!];
      const [tx, tz] = [tracks[at + 3]!, tracks[at + 5]!];
      footprints.push({ x: (x + tx) / 2, z: (z + tz) / 2, heading: toes ? Math.atan2(tx - x, tz - z) : 0 });
    }
  }
  return { roots, footprints, facings: facingsOf(plan, rate) };
}

function facingsOf(plan: CharacterPlan, rate: Rate): Facing[] {
  const pose = makePose(plan.skeleton);
  const step = Math.max(1, Math.round(framesPerSecond(rate) / 2));
  const out: Facing[] = [];
  for (let f = plan.start; f < plan.end; f += step) {
    const [x, z, heading] = evaluate(plan, f, pose).root as unknown as [number, number, number];
    const last = out.at(-1);
    const same = last && Math.hypot(x - last.x, z - last.z) < 0.05 && Math.cos(heading - last.heading) > 0.98;
    if (!same) out.push({ frame: f, x, z, heading });
  }
  return out;
}
