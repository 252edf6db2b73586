import type { Clip, TravelBone } from '../clip/clip';
import type { Dial } from '../clip/dials';
import type { Memory } from '../memory/memory';
import type { DialWork } from '../steps/dialPose';
import type { HoldScratch, LegHolds } from '../steps/footHolds';
import type { Steps } from '../steps/steps';
import type { PoseBuffer, RootPose, ScenePose, WorldPose } from '../clip/pose';
import type { WeightCurve } from '../math/curve';
import type { FloorMove } from '../math/floorMove';
import type { Rate } from '../math/rate';
import type { Spline } from '../math/spline';
import type { KeyTrack } from '../layers/keys';
import type { Mask } from '../layers/mask';
import type { ValueCurve } from '../layers/valueCurve';
import type { Camera } from '../scene/camera';
import type { Character } from '../scene/character';
import type { Contact } from '../scene/contact';
import type { RootCurve } from '../scene/keys';
import type { LayerSpan, RootFeet } from '../scene/lane';
import type { Shot } from '../scene/shot';

import type { Thresholds } from '../scene/thresholds';
import type { SegmentSettings, Travel } from '../scene/segment';
import type { Limb } from '../skeleton/reach';
import type { Skeleton } from '../skeleton/skeleton';
import type { Wheel } from '../scene/wheels';
import type { TimeMap } from '../timeline/timeMap';
import type { BlendBranch } from './blendPoses';
import type { Landings } from './landings';
import type { MadeStep } from './madeStep';
import type { Settle } from './settlePose';
import type { StagingPlan } from './tethers';

/** A solved fit, and why it is another than the one asked for (null where it is not). */
export interface SolvedFit {
  readonly move: FloorMove;
  /** Metres by which the incoming clip is raised. */
  readonly lift: number;
  readonly remark: string | null;
}

/** Everything about one segment that evaluation needs, precomputed. */
export interface SegmentPlan {
  /** The same segment as it was recorded, at frame 0: all that evaluation needs but for its place; null for such a base. */
  readonly base: SegmentPlan | null;
  /** Its fit onto the segment before, as if that one stood as recorded; null where it depends on where that one stands. */
  readonly relative: SolvedFit | null;
  readonly id: string;
  readonly name: string;
  /** What is asked of it; what follows from that is beside it. */
  readonly settings: SegmentSettings;
  /** The clip on the character's skeleton, with its travel as asked, closed where it loops. */
  readonly clip: Clip;
  /** Whether the clip was recorded on another skeleton, and is mapped onto the character's. */
  readonly mapped: boolean;
  /** When the feet of the clip are planted; found when it is first asked for. */
  readonly steps: () => Steps;
  /** The clip before its end was bent to close the loop that is played of it; the clip itself otherwise. */
  readonly recorded: Clip;
  /** Whether all neighbouring samples are close enough to be blended in one pass. */
  readonly smooth: boolean;
  /** Root of every sample of the clip: x, z, heading. */
  readonly root: Float64Array;
  readonly start: number;
  readonly end: number;
  readonly in: number;
  readonly out: number;
  readonly period: number;
  readonly speed: number;
  readonly time: TimeMap;
  /** Frames since the start -> frames since the start, inside an overlap in step; null runs as it is. */
  readonly warpIn: Spline | null;
  readonly warpOut: Spline | null;
  readonly loop: boolean;
  /** The floor move from one cycle to the next. */
  readonly cycle: FloorMove;
  readonly travel: Travel;
  /** x, z, turn: places the clip's motion in the scene. */
  readonly move: Float64Array;
  /** Metres by which the clip is raised, where heights are matched. */
  readonly lift: number;
  /** x, z and heading at which a segment in place is held. */
  readonly held: Float64Array;
  /** Floor moves (x, z, turn) of each frame from the start to the end, where the way is bent; null where it is not. */
  readonly route: Float64Array | null;
  /** Frames of crossfade with the segment before. */
  readonly overlap: number;
  readonly curve: WeightCurve;
  /** The decaying difference to the outgoing motion after a cut; null without one. */
  readonly settle: Settle | null;
  /** The steps that the feet take from the one stance to the other in the overlap before it; null where none are made. */
  readonly madeStep: MadeStep | null;
  /** The feet that are put elsewhere than the clip has them, until they next leave the floor; null where none are. */
  readonly landings: Landings | null;
  /** Why another fit than the asked one was taken, null where it was not. */
  readonly fitRemark: string | null;
  /** Why the two sides are not in step though they should be, null where they are. */
  readonly stepRemark: string | null;
}

/** Where a segment stands, and what it is called there. */
export interface Placement {
  readonly base: SegmentPlan;
  readonly relative: SolvedFit | null;
  readonly id: string;
  readonly name: string;
  readonly start: number;
  readonly end: number;
  /** x, z, turn. */
  readonly move: Float64Array;
  readonly lift: number;
  readonly fitRemark: string | null;
}

/**
 * A plan of the same segment elsewhere. Written out field by field: of a long lane this is done for every segment behind
 * an edit, and an object that is spread takes ten times as long.
 */
export function withPlacement(plan: SegmentPlan, at: Placement): SegmentPlan {
  return {
    base: at.base,
    relative: at.relative,
    id: at.id,
    name: at.name,
    clip: plan.clip,
    recorded: plan.recorded,
    mapped: plan.mapped,
    steps: plan.steps,
    smooth: plan.smooth,
    root: plan.root,
    start: at.start,
    end: at.end,
    settings: plan.settings,
    in: plan.in,
    out: plan.out,
    period: plan.period,
    speed: plan.speed,
    time: plan.time,
    warpIn: plan.warpIn,
    warpOut: plan.warpOut,
    loop: plan.loop,
    cycle: plan.cycle,
    travel: plan.travel,
    move: at.move,
    lift: at.lift,
    held: plan.held,
    route: plan.route,
    overlap: plan.overlap,
    curve: plan.curve,
    settle: plan.settle,
    madeStep: plan.madeStep,
    landings: plan.landings,
    fitRemark: at.fitRemark,
    stepRemark: plan.stepRemark,
  };
}

/** Whether nothing of a plan but its move depends on where it stands. */
export const dependsOnlyOnPlacement = (plan: SegmentPlan): boolean =>
  plan.travel !== 'in place' &&
  plan.route === null &&
  plan.settle === null &&
  (plan.madeStep === null || plan.madeStep.isAlong);

/** The held feet while one segment rules. */
export interface SegmentLock {
  readonly legs: readonly LegHolds[];
  /** How far the hips come down at whole frames from `loweringStart` on, metres; null where they never do. */
  readonly lowering: Float64Array | null;
  readonly loweringStart: number;
}

/** One layer, ready to be evaluated. */
export interface LayerPlan {
  readonly id: string;
  readonly name: string;
  readonly additive: boolean;
  readonly mask: Mask;
  /** Joints of the mask that move relative to their parents, and their weights. */
  readonly moving: Int32Array;
  readonly movingWeights: Float64Array;
  /** Frames and weights of the layer's own curve; empty means full weight throughout. */
  readonly weightFrames: Float64Array;
  readonly weights: Float64Array;
  /** Whether it goes smoothly from point to point. */
  readonly smooth: boolean;
  /** When it does something; null always. */
  readonly span: LayerSpan | null;
  /** How it moves the whole character; null where it does not. */
  readonly rootMove: RootMovePlan | null;
  /** Its keys of dials; null without any. */
  readonly dials: DialsPlan | null;
  /** What the head follows with the eyes; null nothing, or somebody who is not there. */
  readonly look: LookPlan | null;
  /** The hands that it holds in their place. */
  readonly contacts: readonly ContactPlan[];
  readonly segments: readonly SegmentPlan[];
  /** The pose that each segment is taken against, its root bone relative to its root. */
  readonly references: readonly RootPose[];
  readonly keys: readonly KeyTrack[];
}

/** Whether a layer does something where it plays no clip. */
export const worksAlone = ({ keys, rootMove, dials, look, contacts }: LayerPlan): boolean =>
  keys.length > 0 || rootMove !== null || dials !== null || look !== null || contacts.length > 0;

/** Keys that move a whole character over the floor, ready to be evaluated. */
export interface RootMovePlan {
  /** Metres to the left, up and forward by the direction of the root at the first key, and degrees. */
  readonly curves: Readonly<Record<RootCurve, ValueCurve>>;
  /** Frames of the first and the last key. */
  readonly first: number;
  readonly last: number;
  readonly carriesOn: boolean;
  readonly feet: RootFeet;
}

/** Keys of dials, ready to be evaluated. */
export interface DialsPlan {
  readonly curves: Readonly<Partial<Record<Dial, ValueCurve>>>;
  /** Memory; overwritten by every evaluation. */
  readonly work: DialWork;
  /** joints x 4. */
  readonly mean: Float64Array;
}

/** A hand that is held in its place, ready to be evaluated. */
export interface ContactPlan extends Omit<Contact, 'hand'> {
  readonly limb: Limb;
  /** Memory; overwritten by every evaluation. */
  readonly world: WorldPose;
}

/** How a head follows something, ready to be evaluated. */
export interface LookPlan {
  readonly at:
    | { readonly point: Float64Array; readonly plan?: undefined }
    | {
        readonly point?: undefined;
        /** Who is looked at, without any looks of their own, or of those who hold them. */
        readonly plan: CharacterPlan;
        /** Writes their pose at a frame. */
        readonly read: (plan: CharacterPlan, frame: number, out: PoseBuffer) => ScenePose;
        /** Where their head is at each of their frames, x 3, metres; NaN where it was not asked for yet. */
        readonly places: Float64Array;
      };
  /** Frames by which the head is behind. */
  readonly lag: number;
  /** Limits from where the body faces, radians. */
  readonly turn: number;
  readonly tilt: number;
  /** The share of a turn that the chest takes; 0 where there is none to turn. */
  readonly share: number;
  /** Joints, -1 for none. */
  readonly chest: number;
  readonly neck: number;
  readonly head: number;
  /** Where the head faces, in its own axes. */
  readonly forward: Float64Array;
}

/** What the head follows for some frames, below all layers. */
export interface BodyLookPlan {
  readonly look: LookPlan;
  /** First frame, and the one after the last; from ever to ever without a limit. */
  readonly start: number;
  readonly end: number;
  /** Frames in which it comes and goes. */
  readonly fadeIn: number;
  readonly fadeOut: number;
}

/** What of the performance a root move depends on; found when it is first needed. */
export interface RootMoveFrame {
  /** Heading of the root at the first key, radians. */
  readonly heading: number;
  /** Where what follows is carried: x, z, turn, and metres upwards; null where it is not. */
  readonly carried: Float64Array | null;
}

/** One character's performance, ready to be evaluated. */
export interface CharacterPlan {
  readonly character: Character;
  readonly skeleton: Skeleton;
  readonly rate: Rate;
  readonly segments: readonly SegmentPlan[];
  /** The joint above the root bone that carries the travel in any of the clips; null where none does. */
  readonly travelBone: Pick<TravelBone, 'joint' | 'turned'> | null;
  /** Whether any planted feet are held. */
  readonly holdsFeet: boolean;
  /** Frames before the first segment in which it eases out of the rest pose. */
  readonly leadIn: number;
  /** The rest pose, standing on the floor. */
  readonly rest: RootPose;
  /** The joints that roll on the floor. */
  readonly wheels: readonly Wheel[];
  /** What the head follows, the character's own look first and then those of segments. */
  readonly looks: readonly BodyLookPlan[];
  /** Bottom first. */
  readonly layers: readonly LayerPlan[];
  /** What others decide of its place; null where it is on its own. */
  readonly staging: StagingPlan | null;
  /** First frame, that of the lead-in, and the one after the last; those of the scene for a prop, equal for others without segments. */
  readonly start: number;
  readonly end: number;
  /** Memory for crossfades and layers; overwritten by every evaluation. */
  readonly scratch: PoseBuffer;
  readonly layerScratch: PoseBuffer;
  readonly holdScratch: HoldScratch;
  /** The held feet of each segment, made when they are first needed. */
  readonly locks: (SegmentLock | undefined)[];
  /** What each layer's root move depends on, made when it is first needed. */
  readonly rootFrames: (RootMoveFrame | undefined)[];
  /** Where each hand that a layer holds is held: x, y, z, and how it is turned (xyzw); found when it is first needed. */
  readonly heldHands: (Float64Array | undefined)[][];
  /** Which way round the crossfade before each segment goes, found when it is first needed. */
  readonly branches: (BlendBranch | null | undefined)[];
  /** From which values on its measures are to be looked at. */
  readonly thresholds: Thresholds;
  /** What was derived from the library that the plan was compiled with. */
  readonly memory: Memory;
}

/** A compiled scene. */
export interface Plan {
  readonly rate: Rate;
  readonly characters: readonly CharacterPlan[];
  readonly start: number;
  readonly end: number;
  readonly filming: Filming;
}

/** What a scene is seen through: its cameras in their order, its shots by start, and the width of the picture by its height. */
export interface Filming {
  readonly cameras: readonly Camera[];
  readonly shots: readonly Shot[];
  readonly aspect: number;
  /** Keeps how cameras move. */
  readonly memory: Memory;
}
