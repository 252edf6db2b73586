import { defined } from '@warper/core';
import type { SegmentPlan, Span } from '@warper/core';
import { sampleAt } from '@warper/core/kernels';

/** The frames in which each foot is planted as a clip is shown: looped, backwards, mirrored, in part. */
export function shownSteps(segment: SegmentPlan): { leftFoot: Span[]; rightFoot: Span[] } {
  const { leftFoot, rightFoot } = segment.steps();
  const frames = segment.end - segment.start;
  const samples = Int32Array.from({ length: frames }, (_, f) => sampleAt(segment, segment.start + f));
  const spansOf = (planted: readonly Span[]): Span[] => {
    const spans: Span[] = [];
    const stands = (f: number): boolean => {
      const s = defined(samples[f]);
      return s >= 0 && planted.some((p) => s >= p.start && s < p.end);
    };
    for (let f = 0; f < frames; f++) {
      if (!stands(f)) continue;
      const start = f;
      while (f < frames && stands(f)) f++;
      spans.push({ start, end: f });
    }
    return spans;
  };
  return { leftFoot: spansOf(leftFoot), rightFoot: spansOf(rightFoot) };
}
