import type { CharacterPlan, Plan, PoseBuffer, SeamMeasures, SegmentPlan } from '@warper/core';
import { evaluate, makePoseBuffer } from '@warper/core';
import { inCycle, samplesAt } from '@warper/core/kernels';
import { seamOf } from '../../../../store/plan';
import { fact } from './facts';
import type { PlantedSpan } from './stepSpans';
import { knownSpans, plantedSpans } from './stepSpans';

const seams = new WeakMap<CharacterPlan, Map<number, SeamMeasures>>();
const owed = new WeakSet<CharacterPlan>();

/** Whether measures of a character's seams were asked for before there was time for them; asked once. */
export const wereOwed = (plan: CharacterPlan): boolean => owed.delete(plan);

/** The measures of the seam before a segment; undefined until there is time for them. */
export function seamFact(plan: CharacterPlan, index: number, rate: Plan['rate']): SeamMeasures | undefined {
  let kept = seams.get(plan);
  if (!kept) seams.set(plan, (kept = new Map()));
  const measures = fact(kept, index, () => seamOf(plan, index - 1, rate));
  if (!measures) owed.add(plan);
  return measures;
}

/** Planted spans of a segment; undefined until there is time for them. */
export const spansFact = (plan: SegmentPlan): readonly PlantedSpan[] | undefined =>
  fact(knownSpans, plan.base ?? plan, () => plantedSpans(plan));

/** Metres a second that fill the height of the speed line. */
const FULL_SPEED = 2;
/** Places along a segment at which its speed is drawn, at most. */
const SPEED_POINTS = 160;

/** How fast the root goes: shares of full speed, at places that stand `step` frames apart. */
export interface SpeedLine {
  readonly step: number;
  readonly shares: Float64Array;
}

const speeds = new WeakMap<object, SpeedLine>();

/** How fast the root goes along a segment; undefined until there is time for it. */
export const speedFact = (plan: SegmentPlan): SpeedLine | undefined =>
  fact(speeds, plan.base ?? plan, () => speedLine(plan));

function speedLine(plan: SegmentPlan): SpeedLine {
  const track = plan.root;
  const last = plan.clip.frames - 1;
  const frames = plan.end - plan.start;
  const step = Math.max(1, frames / SPEED_POINTS);
  const shares = Float64Array.from({ length: Math.floor(frames / step) + 1 }, (_, i) => {
    const f = i * step;
    const m = samplesAt(plan.time, f);
    // How fast clip time runs here, against its mean.
    const pace =
      Math.abs(samplesAt(plan.time, f + 0.5) - samplesAt(plan.time, f - 0.5)) / plan.time.samplesPerFrame;
    const s = plan.in + (plan.loop ? inCycle(m, plan.period) : m);
    const a = Math.min(Math.max(0, Math.floor(s) - 1), last);
    const b = Math.min(a + 2, last);
    const seconds = Math.max(1, b - a) / plan.clip.rate / plan.speed;
    const way = Math.hypot(track[b * 3]! - track[a * 3]!, track[b * 3 + 1]! - track[a * 3 + 1]!);
    const speed = plan.travel === 'in place' ? 0 : (way / seconds) * pace;
    return Math.min(1, speed / FULL_SPEED);
  });
  return { step, shares };
}

interface Headings {
  readonly buffer: PoseBuffer;
  readonly radians: Map<number, number>;
}

const headings = new WeakMap<CharacterPlan, Headings>();

/** Which way a character faces at a frame, radians; undefined until there is time for it. */
export function headingFact(plan: CharacterPlan, frame: number): number | undefined {
  let kept = headings.get(plan);
  if (!kept) headings.set(plan, (kept = { buffer: makePoseBuffer(plan.skeleton), radians: new Map() }));
  const { buffer, radians } = kept;
  return fact(radians, frame, () => evaluate(plan, frame, buffer).root[2]!);
}
