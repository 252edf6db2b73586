import type { PoseBuffer, WorldPose } from '../clip/pose';
import type { Hold } from '../scene/tether';
import type { Limb } from '../skeleton/reach';
import type { CharacterPlan } from './plan';

/** Who holds something, with the pose that was last asked for; shared by all that they hold. */
export interface Holder {
  readonly plan: CharacterPlan;
  /** Memory: the frame whose pose is in `world`, and the root on the floor. */
  frame: number;
  readonly buffer: PoseBuffer;
  readonly world: WorldPose;
  readonly root: Float64Array;
}

/** What all tethers have, ready to be evaluated. */
interface TetherPlan {
  readonly id: string;
  readonly holder: Holder;
  /** Joint of the holder. */
  readonly joint: number;
  /** Its end is `Infinity` where it has none. */
  readonly start: number;
  readonly end: number;
  readonly fadeIn: number;
  readonly fadeOut: number;
  readonly weightFrames: Float64Array;
  readonly weights: Float64Array;
  /** Where it sits in the axes of the joint: x, y, z, metres; null keeps its offset. */
  readonly gripPlace: Float64Array | null;
  /** How it is turned there, xyzw; null keeps its turn. */
  readonly gripTurn: Float64Array | null;
}

/** Something that goes along with a joint. */
export interface HoldPlan extends TetherPlan, Pick<Hold, 'places' | 'turns' | 'directions' | 'after'> {
  /** Joint of what is held that is put to its place. */
  readonly held: number;
  /** Whether it goes on moving by itself. */
  readonly ownMotion: boolean;
  /** The hold before it of the same body or joint, over whose place it lies; -1 for none. */
  readonly before: number;
  /** Whether what is let go stands on the floor on its own legs. */
  readonly standsAfter: boolean;
}

/** A hand or foot that is brought to a joint. */
export interface ReachPlan extends TetherPlan {
  readonly limb: Limb;
}

/** A body whose place others decide for a time, ready to be evaluated. */
export interface StagingPlan {
  readonly holds: readonly HoldPlan[];
  /** The last hold of the body as a whole, and of each joint that is moved alone; where it begins is in `before`. */
  readonly whole: number;
  readonly joints: readonly number[];
  readonly reaches: readonly ReachPlan[];
  /** Memory; overwritten by every evaluation. */
  readonly world: WorldPose;
  readonly buffer: PoseBuffer;
  readonly ownWorld: WorldPose;
  readonly work: readonly HoldWork[];
  readonly move: Float64Array;
  /** Where each tether was when it was taken: see `Taken`; found when it is first needed. */
  readonly taken: (Taken | undefined)[];
  readonly reached: (Float64Array | undefined)[];
  /** What is left of each hold after its end: x, y, z and xyzw; found when it is first needed. */
  readonly left: (Float64Array | undefined)[];
}

/** Memory of a hold for what is worked out on the way, x, y, z and xyzw each; overwritten by every evaluation. */
export interface HoldWork {
  readonly before: Float64Array;
  readonly own: Float64Array;
  readonly joint: Float64Array;
  readonly place: Float64Array;
  readonly target: Float64Array;
  readonly turned: Float64Array;
}

/** Where the holder's joint and what is held are when a hold begins: x, y, z and xyzw each; and the axes of the hold, xyzw. */
export interface Taken {
  readonly joint: Float64Array;
  readonly held: Float64Array;
  readonly axes: Float64Array;
}
