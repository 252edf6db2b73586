import type { CharacterPlan, Clip, Rate } from '@warper/core';
import { bakeSteps, evaluate, findSteps, framesPerSecond, makePoseBuffer, restHeight } from '@warper/core';
import { jointTracks, rootTrack } from '@warper/core/kernels';

/** Ticks that tell the facing: their size, and how far before the path they lie, metres. */
export const TICK = { width: 0.012, length: 0.11, at: 0.12 };

/** A place on the floor in metres, and a heading in radians. */
interface Standing {
  readonly x: number;
  readonly z: number;
  readonly heading: number;
}

/** A footprint on the floor. */
export interface Footprint extends Standing {
  /** Metres. */
  readonly length: number;
  /** Scene frame from which the foot stands there. */
  readonly from: number;
}

/** Where a character is at a frame, and which way it faces. */
export interface Facing extends Standing {
  readonly frame: number;
}

/** What a performance leaves on the floor. */
export interface FloorTrace {
  /** x, z, heading of the root bone's ground point, each frame from the character's first. */
  readonly roots: Float64Array;
  readonly footprints: readonly Footprint[];
  /** Where the root is, and which way it faces, twice a second. */
  readonly facings: readonly Facing[];
}

const traces = new WeakMap<CharacterPlan, FloorTrace>();
/** What nothing leaves on the floor. */
export const NO_TRACE: FloorTrace = { roots: new Float64Array(0), footprints: [], facings: [] };

/** The floor path and the footprints of a character; computed once for a plan. */
export function floorTrace(plan: CharacterPlan, rate: Rate): FloorTrace {
  const steps = traceSteps(plan, rate);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** The same step by step: yields now and then, so that the caller can do something else. */
export function* traceSteps(plan: CharacterPlan, rate: Rate): Generator<undefined, FloorTrace> {
  const known = traces.get(plan);
  if (known) return known;
  const trace = plan.segments.length > 0 ? yield* makeTrace(plan, rate) : NO_TRACE;
  traces.set(plan, trace);
  return trace;
}

function* makeTrace(plan: CharacterPlan, rate: Rate): Generator<undefined, FloorTrace> {
  const steps = bakeSteps(plan, rate);
  let step = steps.next();
  for (; !step.done; step = steps.next()) yield;
  const clip = step.value;
  const width = clip.translated.length * 3;
  const roots = new Float64Array(clip.frames * 2);
  for (let f = 0; f < clip.frames; f++) {
    roots[f * 2] = clip.translations[f * width]!;
    roots[f * 2 + 1] = clip.translations[f * width + 2]!;
  }
  yield;
  const footprints = footprintsOf(clip, plan.start);
  yield;
  return { roots, footprints, facings: facingsOf(plan, rate) };
}

/** Length of a foot against the way from its ankle to its toes, and of a paw against the height of the body. */
const FOOT = 2.05;
const PAW = 0.13;

/** The prints of every step, in its middle: of a foot from its ankle to its toes, of a paw as the body faces. */
function footprintsOf(clip: Clip, start: number): Footprint[] {
  const { joints } = findSteps(clip);
  const root = rootTrack(clip);
  const paw = PAW * restHeight(clip.skeleton);
  return [...new Set(joints.map((j) => j.leg))].flatMap((leg) => {
    const joint = joints.filter((j) => j.leg === leg);
    const tip = joint.find((j) => j.tip) ?? joint[0]!;
    const base = joint.find((j) => !j.tip) ?? tip;
    const tracks = jointTracks(clip, [base.joint, tip.joint]);
    return base.spans.map((span): Footprint => {
      const frame = Math.min(span.end - 1, Math.round((span.start + span.end) / 2));
      const [x, , z, tx, , tz] = tracks.subarray(frame * 6, frame * 6 + 6) as unknown as number[];
      const way = Math.hypot(tx! - x!, tz! - z!);
      return {
        x: (x! + tx!) / 2,
        z: (z! + tz!) / 2,
        heading: base === tip ? root[frame * 3 + 2]! : Math.atan2(tx! - x!, tz! - z!),
        length: base === tip ? paw : FOOT * way,
        from: start + span.start,
      };
    });
  });
}

function facingsOf(plan: CharacterPlan, rate: Rate): Facing[] {
  const pose = makePoseBuffer(plan.skeleton);
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
