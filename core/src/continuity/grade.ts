/** How a measure is judged. */
export type Grade = 'good' | 'watch' | 'bad';

/** From which value on a measure is to be looked at, and from which it is bad. */
export interface Threshold {
  readonly watch: number;
  readonly bad: number;
}

/** Thresholds of the measures of a seam. */
export interface Thresholds {
  readonly popCm: Threshold;
  readonly surgeCm: Threshold;
  readonly turnDegrees: Threshold;
}

/** What is taken unless the user sets others (common practice, checked on capture). */
export const DEFAULT_THRESHOLDS: Thresholds = {
  popCm: { watch: 1, bad: 3 },
  surgeCm: { watch: 1.5, bad: 4 },
  turnDegrees: { watch: 3, bad: 10 },
};

/** Judges one value. */
export const gradeOf = (value: number, threshold: Threshold): Grade =>
  value >= threshold.bad ? 'bad' : value >= threshold.watch ? 'watch' : 'good';

/** The grade of a seam is that of the measure with the largest ratio to its threshold. */
export function gradeSeam(
  values: { readonly [K in keyof Thresholds]: number },
  thresholds: Thresholds,
): { grade: Grade; worst: 'pop' | 'surge' | 'turn' } {
  const entries = [
    { worst: 'pop' as const, value: values.popCm, threshold: thresholds.popCm },
    { worst: 'surge' as const, value: values.surgeCm, threshold: thresholds.surgeCm },
    { worst: 'turn' as const, value: values.turnDegrees, threshold: thresholds.turnDegrees },
  ];
  const ratio = (e: (typeof entries)[number]): number => e.value / e.threshold.watch;
  const top = entries.reduce((a, b) => (ratio(b) > ratio(a) ? b : a));
  return { grade: gradeOf(top.value, top.threshold), worst: top.worst };
}
