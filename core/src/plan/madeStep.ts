import type { WorldPose } from '../clip/pose';
import type { Footfall } from '../seam/footfalls';
import type { Leg } from '../skeleton/legs';
import type { Swing } from '../steps/swings';

/**
 * A made step: over an overlap the root follows the blended speeds of both sides, the body is crossfaded relative to it, and each
 * foot goes from where the outgoing side has it to where the incoming side has it, in a swing of its own.
 */
export interface MadeStep {
  /** Root at each frame of the overlap and at its end: (overlap + 1) x (x, z, heading). */
  readonly path: Float64Array;
  /** Whether the path is where the outgoing segment was recorded, and goes along with it; else it is in the scene. */
  readonly isAlong: boolean;
  readonly legs: readonly Leg[];
  /** One for each leg. */
  readonly feet: readonly Footfall[];
  /** Metres by which the hips come down at the same frames. */
  readonly lowering: Float64Array;
  /** What swings of both clips ordinarily are, by which those of the step are judged. */
  readonly ordinary: Swing;
  readonly scratch: StepScratch;
}

/** Numbers of one ankle: its place (metres) and its rotation (xyzw). */
export const ANKLE_SIZE = 7;

/** Memory to work on the legs of one pose; overwritten by every evaluation. */
export interface StepScratch {
  readonly world: WorldPose;
  /** The joints from the root bone down to the feet, parents first. */
  readonly chain: Int32Array;
  /** legs x ANKLE_SIZE: the ankles on either side. */
  readonly from: Float64Array;
  readonly to: Float64Array;
  readonly target: Float64Array;
  readonly rotation: Float64Array;
  readonly root: Float64Array;
}
