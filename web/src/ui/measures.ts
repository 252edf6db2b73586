import type { SeamValues } from '@warper/core';
import { DEFAULT_THRESHOLDS } from '@warper/core';

/** What a measure is, for tooltips and for the page that explains them. */
export interface MeasureText {
  readonly name: string;
  readonly unit: string;
  /** From these values on it needs a look, and is bad. */
  readonly limits: { readonly watch: number; readonly bad: number };
  /** What it is, in a sentence. */
  readonly what: string;
  /** How it is judged. */
  readonly how: string;
}

/** The measures of a seam, in the order in which they are listed. */
export const SEAM_TEXTS: Readonly<Record<keyof SeamValues, MeasureText>> = {
  popCm: {
    name: 'Pop',
    unit: 'cm',
    limits: DEFAULT_THRESHOLDS.popCm,
    what: 'How far a joint jumps from one frame to the next.',
    how: 'The step of each joint at a frame of the seam is compared with the mean of the steps right before and after it. What the two clips do there by themselves is taken off. The worst joint counts.',
  },
  surgeCm: {
    name: 'Glide',
    unit: 'cm a frame',
    limits: DEFAULT_THRESHOLDS.surgeCm,
    what: 'How much faster than in both clips a joint is carried across the seam.',
    how: 'A crossfade between poses that lie far apart hides the jump by gliding over it. The largest step of a joint inside the seam is compared with the largest step of both clips at the same frames.',
  },
  turnDegrees: {
    name: 'Turn',
    unit: '°',
    limits: DEFAULT_THRESHOLDS.turnDegrees,
    what: 'How far the facing jumps from one frame to the next.',
    how: 'The largest step of the heading inside the seam, beyond the steps just outside it and those of the clips themselves.',
  },
  slideCm: {
    name: 'Slide',
    unit: 'cm',
    limits: DEFAULT_THRESHOLDS.slideCm,
    what: 'How far a planted foot moves over the floor.',
    how: 'The whole path on the floor of a foot while it is planted, less what the foot moves in the clips at the same frames. Up to the middle of the seam the outgoing clip says which foot that is, then the incoming one; of a made step, each foot stands until it leaves and from when it lands.',
  },
  hitch: {
    name: 'Hitch',
    unit: '×',
    limits: DEFAULT_THRESHOLDS.hitch,
    what: 'How much more abruptly a joint moves than in the clips.',
    how: 'The peak acceleration of a joint in the seam, divided by the peak of both clips over the same frames. 1 means no harder than what was recorded.',
  },
};

/** Float is a measure of steps and clips, not of seams. Its limits are common practice. */
export const FLOAT_TEXT: MeasureText = {
  name: 'Float',
  unit: 'cm',
  limits: { watch: 2, bad: 5 },
  what: 'How far planted feet stand above the floor, or sink into it.',
  how: 'The lowest height of the sole of a planted foot over a step, against the floor.',
};

/** "needs a look from 1 cm, bad from 3 cm". */
export const limitsText = ({ unit, limits }: MeasureText): string =>
  `needs a look from ${limits.watch} ${unit}, bad from ${limits.bad} ${unit}`;
