import type { SegmentPlan, Span } from '@warper/core';
import { cyclesIn, sampleAt, samplesAt } from '@warper/core/kernels';

/** Planted spans of one foot, frames since the segment's start. */
export interface PlantedSpan {
  readonly from: number;
  readonly to: number;
  readonly foot: 'left' | 'right';
}

/** What has been found, by segments as they were recorded: where they stand changes nothing. */
export const knownSpans = new WeakMap<object, readonly PlantedSpan[]>();

/** The planted spans of both feet, as whatever the segment does with time shows them. Computed once for a segment. */
export function plantedSpans(plan: SegmentPlan): readonly PlantedSpan[] {
  let spans = knownSpans.get(plan.base ?? plan);
  if (!spans) knownSpans.set(plan.base ?? plan, (spans = findSpans(plan)));
  return spans;
}

function findSpans(plan: SegmentPlan): PlantedSpan[] {
  const steps = plan.steps();
  const frames = plan.end - plan.start;
  const samples = Int32Array.from({ length: frames }, (_, f) => sampleAt(plan, plan.start + f));
  const out: PlantedSpan[] = [];
  const add = (spans: readonly Span[], foot: 'left' | 'right'): void => {
    const planted = new Uint8Array(plan.clip.frames);
    for (const span of spans) planted.fill(1, span.start, span.end);
    for (let f = 0; f < frames; f++) {
      if (samples[f]! < 0 || !planted[samples[f]!]) continue;
      const from = f;
      while (f < frames && samples[f]! >= 0 && planted[samples[f]!]) f++;
      out.push({ from, to: f, foot });
    }
  };
  add(steps.leftFoot, 'left');
  add(steps.rightFoot, 'right');
  return out;
}

const knownCycles = new WeakMap<object, readonly number[]>();

/** Frames since a segment's start at which one cycle of its loop goes over into the next. Computed once for a segment. */
export function cycleFrames(plan: SegmentPlan): readonly number[] {
  let cycles = knownCycles.get(plan.base ?? plan);
  if (!cycles) knownCycles.set(plan.base ?? plan, (cycles = plan.loop ? findCycles(plan) : []));
  return cycles;
}

function findCycles(plan: SegmentPlan): number[] {
  const cycleAt = (f: number): number => cyclesIn(samplesAt(plan.time, f), plan.period);
  const out: number[] = [];
  let cycle = cycleAt(0);
  for (let f = 1; f < plan.end - plan.start; f++) {
    const current = cycleAt(f);
    if (current !== cycle) out.push(f);
    cycle = current;
  }
  return out;
}
