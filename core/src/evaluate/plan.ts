import type { Clip } from '../clip/clip';
import type { Pose } from '../clip/pose';
import type { CurveName } from '../math/curve';
import type { FloorMove } from '../math/floorMove';
import type { Rate } from '../math/rate';
import type { Character, FitMode, Travel } from '../scene/scene';
import type { Settle } from './settlePose';
import type { Skeleton } from '../skeleton/skeleton';

/** Everything about one segment that evaluation needs, precomputed. */
export interface SegmentPlan {
  readonly id: string;
  readonly name: string;
  /** The clip on the character's skeleton, closed where it loops. */
  readonly clip: Clip;
  /** Root of every sample of the clip: x, z, heading. */
  readonly root: Float64Array;
  readonly start: number;
  readonly end: number;
  readonly in: number;
  readonly out: number;
  readonly repeat: number;
  readonly period: number;
  readonly speed: number;
  readonly samplesPerFrame: number;
  readonly loop: boolean;
  /** The floor move from one cycle to the next. */
  readonly cycle: FloorMove;
  readonly travel: Travel;
  /** x, z, turn: places the clip's motion in the scene. */
  readonly move: Float64Array;
  /** Metres by which the clip is raised, where heights are matched. */
  readonly lift: number;
  /** x and z at which a segment in place is held. */
  readonly held: Float64Array;
  /** Frames of crossfade with the segment before. */
  readonly overlap: number;
  readonly curve: CurveName;
  /** The decaying difference to the outgoing motion after a cut; null without one. */
  readonly settle: Settle | null;
  readonly fit: FitMode;
  /** Why another fit than the asked one was taken, null where it was not. */
  readonly fitRemark: string | null;
}

/** One character's performance, ready to be evaluated. */
export interface CharacterPlan {
  readonly character: Character;
  readonly skeleton: Skeleton;
  readonly segments: readonly SegmentPlan[];
  /** First frame and the one after the last; equal without segments. */
  readonly start: number;
  readonly end: number;
  /** A second pose for crossfades; overwritten by every evaluation. */
  readonly scratch: Pose;
}

/** A compiled scene. */
export interface Plan {
  readonly rate: Rate;
  readonly characters: readonly CharacterPlan[];
  readonly start: number;
  readonly end: number;
}
