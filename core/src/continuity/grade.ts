/** How a measure is judged. */
export type Grade = 'good' | 'watch' | 'bad';

/** From which value on a measure is to be looked at, and from which it is bad. */
export interface Threshold {
  readonly watch: number;
  readonly bad: number;
}

/** The measures of a seam that are graded. */
export interface SeamValues {
  readonly popCm: number;
  readonly surgeCm: number;
  readonly turnDegrees: number;
  readonly slideCm: number;
  /** Peak acceleration by that of the sources. */
  readonly hitch: number;
}

/** Thresholds of the measures of a seam. */
export type Thresholds = { readonly [K in keyof SeamValues]: Threshold };

/** What is taken unless the user sets others (common practice, checked on capture). */
export const DEFAULT_THRESHOLDS: Thresholds = {
  popCm: { watch: 1, bad: 3 },
  surgeCm: { watch: 1.5, bad: 4 },
  turnDegrees: { watch: 3, bad: 10 },
  slideCm: { watch: 0.5, bad: 2 },
  hitch: { watch: 1.3, bad: 2 },
};

/** Judges one value. */
export const gradeOf = (value: number, threshold: Threshold): Grade =>
  value >= threshold.bad ? 'bad' : value >= threshold.watch ? 'watch' : 'good';

/** The grade of a seam is that of the measure with the largest ratio to its threshold. */
export function gradeSeam(
  values: SeamValues,
  thresholds: Thresholds,
): { grade: Grade; worst: keyof SeamValues } {
  const ratio = (key: keyof SeamValues): number => values[key] / thresholds[key].watch;
  const keys = Object.keys(thresholds) as (keyof SeamValues)[];
  const worst = keys.reduce((a, b) => (ratio(b) > ratio(a) ? b : a));
  return { grade: gradeOf(values[worst], thresholds[worst]), worst };
}
