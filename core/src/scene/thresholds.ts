import Joi from 'joi';

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

/**
 * Thresholds of the measures of a seam, of how planted feet stand, of how far a hand is off what it reaches for, and of how deep bodies are in
 * each other.
 */
export type Thresholds = {
  readonly [K in keyof SeamValues | 'floatCm' | 'reachCm' | 'overlapCm']: Threshold;
};

/** What is taken unless the user sets others (common practice, checked on capture). */
export const DEFAULT_THRESHOLDS: Thresholds = {
  popCm: { watch: 1, bad: 3 },
  surgeCm: { watch: 1.5, bad: 4 },
  turnDegrees: { watch: 3, bad: 10 },
  slideCm: { watch: 0.5, bad: 2 },
  hitch: { watch: 1.3, bad: 2 },
  floatCm: { watch: 2, bad: 5 },
  reachCm: { watch: 1, bad: 3 },
  overlapCm: { watch: 3, bad: 8 },
};

/** Thresholds so many times as generous; a hitch counts from 1 on. */
function scaledThresholds(factor: number): Thresholds {
  const scaled = (key: keyof Thresholds): Threshold => {
    const { watch, bad } = DEFAULT_THRESHOLDS[key];
    const least = key === 'hitch' ? 1 : 0;
    return { watch: least + factor * (watch - least), bad: least + factor * (bad - least) };
  };
  const keys = Object.keys(DEFAULT_THRESHOLDS) as (keyof Thresholds)[];
  return Object.fromEntries(keys.map((key) => [key, scaled(key)])) as unknown as Thresholds;
}

/** How closely a performance will be looked at, by name (common practice). */
export const SHOT_SIZES = {
  'close-up': scaledThresholds(0.5),
  medium: DEFAULT_THRESHOLDS,
  wide: scaledThresholds(2),
  game: scaledThresholds(1.5),
} as const satisfies Readonly<Record<string, Thresholds>>;

/** The name of a set of thresholds. */
export type ShotSize = keyof typeof SHOT_SIZES;

/** The rule of such a name. */
export const shotSize = Joi.valid(...Object.keys(SHOT_SIZES));
