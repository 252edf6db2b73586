import type { SeamValues, Threshold, Thresholds } from '../scene/thresholds';

/** How a measure is judged. */
export type Grade = 'good' | 'watch' | 'bad';

/** Judges one value. */
export const gradeOf = (value: number, threshold: Threshold): Grade =>
  value >= threshold.bad ? 'bad' : value >= threshold.watch ? 'watch' : 'good';

const MEASURES = ['popCm', 'surgeCm', 'turnDegrees', 'slideCm', 'hitch'] as const;

/** The grade of a seam is that of the measure with the largest ratio to its threshold. */
export function gradeSeam(
  values: SeamValues,
  thresholds: Thresholds,
): { grade: Grade; worst: keyof SeamValues } {
  const ratio = (key: keyof SeamValues): number => values[key] / thresholds[key].watch;
  const worst = MEASURES.reduce<keyof SeamValues>((a, b) => (ratio(b) > ratio(a) ? b : a), 'popCm');
  return { grade: gradeOf(values[worst], thresholds[worst]), worst };
}
