import type { OwnSteps } from '../steps/steps';
import type { Curve } from '../math/curve';
import type { Handle } from '../math/spline';

/**
 * The document: who performs, and how library clips are used for it. Small, plain JSON; clips and bodies are
 * named by id and kept elsewhere. Positions on the timeline are whole frames at the scene's rate, spans half open.
 */
export interface Scene {
  readonly format: 'warper-scene';
  readonly version: 4;
  readonly name: string;
  /** Frames a second: a number or a fraction such as "30000/1001". */
  readonly rate: number | string;
  readonly characters: Readonly<Record<string, Character>>;
  readonly characterOrder: readonly string[];
  readonly lanes: Readonly<Record<string, Lane>>;
  readonly laneOrder: readonly string[];
  readonly segments: Readonly<Record<string, Segment>>;
  /** The user's own steps: by clip and joint name, spans of samples [start, end) in which the joint is planted. */
  readonly steps: Readonly<Record<string, OwnSteps>>;
  readonly groups: Readonly<Record<string, SegmentGroup>>;
  /** By frame. */
  readonly markers: readonly Marker[];
  /** The frames [from, to) that are played over and over; null for the whole piece. */
  readonly range: FrameSpan | null;
}

/** Whole frames [from, to) of the scene. */
export interface FrameSpan {
  readonly from: number;
  readonly to: number;
}

/** A named frame of the scene, or a region from it up to `end`. */
export interface Marker {
  readonly id: string;
  readonly name: string;
  readonly frame: number;
  /** The frame after a region's last one; null for a single frame. */
  readonly end: number | null;
}

/** Segments, of one or several characters, that are handled as one. */
export interface SegmentGroup {
  readonly id: string;
  readonly name: string;
  /** Ids of segments and of groups in it; each belongs to one group at most. */
  readonly members: readonly string[];
  /** Whether it is drawn as one block. */
  readonly folded: boolean;
  /** Whether its segments are left out of the performance, though they keep their place. */
  readonly muted: boolean;
}

/** A body that performs. */
export interface Character {
  readonly id: string;
  readonly name: string;
  /** Id of the body: the file's hash and the number of the skeleton in it. */
  readonly body: string;
  /** One of eight hues, 0 to 7, which lane, floor path and ghost share. */
  readonly hue: number;
  /** Where the root stands at the character's first frame; null leaves the first clip as authored. */
  readonly start: FloorPlace | null;
  /** Whether planted feet are held where they stand. */
  readonly footLock: boolean;
  /** How much larger than its body the character is, travel included. */
  readonly size: number;
  /** Frames before its first segment in which it eases out of the rest pose. */
  readonly leadIn: number;
  /** What is drawn of it. */
  readonly shown: 'mesh' | 'bones' | 'both' | 'nothing';
  /** Whether its lanes are drawn as one narrow row. */
  readonly folded: boolean;
}

/** What a character is unless asked otherwise. */
export const PLAIN_CHARACTER = {
  hue: 0,
  start: null,
  footLock: false,
  size: 1,
  leadIn: 0,
  shown: 'mesh',
  folded: false,
} as const satisfies Omit<Character, 'id' | 'name' | 'body'>;

/** A place on the floor in metres with a heading in degrees, positive towards +X. */
export interface FloorPlace {
  readonly x: number;
  readonly z: number;
  readonly heading: number;
}

/** A move on the floor: metres and degrees. */
export interface Nudge {
  readonly x: number;
  readonly z: number;
  readonly turn: number;
}

/** One row of the timeline: the performance of a character, or a layer above it. */
export type Lane = BodyLane | LayerLane;

/** How a lane is treated while working. */
export interface LaneState {
  /** Whether it is left out, as if it were empty. */
  readonly muted: boolean;
  /** Whether it is shown alone: lanes without it are left out while any has it, but for the body lane below a layer. */
  readonly solo: boolean;
  /** Whether its segments refuse to be changed. */
  readonly locked: boolean;
  /** Whether the timeline leaves its row out. */
  readonly hidden: boolean;
}

/** What a lane is unless asked otherwise. */
export const PLAIN_LANE = {
  muted: false,
  solo: false,
  locked: false,
  hidden: false,
} as const satisfies LaneState;

/** The row that carries the performance of one character. */
export interface BodyLane extends LaneState {
  readonly id: string;
  readonly kind: 'body';
  readonly character: string;
  /** Segment ids, by start. */
  readonly segments: readonly string[];
}

/** A row above the body lane that replaces, or adds to, what is below it on some bones. */
export interface LayerLane extends LaneState {
  readonly id: string;
  readonly kind: 'layer';
  readonly character: string;
  readonly name: string;
  readonly blend: 'override' | 'additive';
  /** Bones (role or joint name, `*` behind it takes the chain below) and their weights; empty means the whole body. */
  readonly mask: readonly MaskEntry[];
  /** Joints from the start of a chain over which its weight grows to the full one. */
  readonly softness: number;
  /** The layer's weight: (frame, weight 0 to 1) in order of frames, straight between them, held outside. */
  readonly weight: readonly Handle[];
  /** The pose that an additive clip is taken against: its first one, the rest pose, or a sample of the clip. */
  readonly reference: 'first' | 'rest' | number;
  /** Segment ids, by start. */
  readonly segments: readonly string[];
  /** Key poses by joint name, in order of frames. */
  readonly keys: Readonly<Record<string, readonly PoseKey[]>>;
}

/** A bone of a mask and its weight. */
export interface MaskEntry {
  readonly bone: string;
  readonly weight: number;
}

/** A joint's rotation at a frame, relative to its parent; added to what is below in an additive layer. */
export interface PoseKey {
  readonly frame: number;
  /** xyzw, unit. */
  readonly rotation: readonly [number, number, number, number];
  /** How it goes on to the next key. */
  readonly curve: 'hold' | 'linear' | 'smooth';
  /** Rotation vector a frame (radians) on both sides of the key, of a smooth curve; null follows from the neighbours. */
  readonly tangent: readonly [number, number, number] | null;
}

/**
 * What is done with a segment's root motion: as recorded; held on its spot; computed from the planted feet; recorded but
 * scaled to what the feet do; along a path.
 */
export type Travel = 'recorded' | 'in place' | 'restored' | 'scaled' | 'path';

/** A spot that the root is to hit, with a facing, so many frames after its segment's start. */
export interface Mark extends FloorPlace {
  readonly frame: number;
}

/** How an incoming segment is placed on the outgoing one. */
export type FitMode =
  | 'planted foot'
  | 'whole body'
  | 'hips'
  | 'left foot'
  | 'right foot'
  | 'left hand'
  | 'right hand'
  | 'free'
  | { readonly joint: string }
  | { readonly pin: FloorPlace };

/** The join to the segment before; the first segment of a lane keeps it unused. */
export interface Seam {
  readonly fit: FitMode;
  /** Whether the direction is matched too. */
  readonly facing: boolean;
  /** Whether the height is matched too, as on stairs. */
  readonly height: boolean;
  readonly curve: Curve;
  /** The user's own move on top of the fit, in the incoming root's directions (x left, z forward). */
  readonly nudge: Nudge;
  /**
   * Frames in which the difference to the outgoing motion decays after a cut; null for a plain cut. Where the segments
   * overlap they are crossfaded instead.
   */
  readonly settle: number | null;
  /** Whether both sides are bent in time within a crossfade so that their steps fall together. */
  readonly inStep: boolean;
  /** What fills a gap before the segment: the last pose, the rest pose, or a move from the one pose to the other. */
  readonly gap: 'hold' | 'rest' | 'ease';
}

/** One use of a clip on a lane. */
export interface Segment {
  readonly id: string;
  readonly name: string;
  readonly clip: string;
  /** First frame on the timeline. */
  readonly start: number;
  /** First sample of the clip, and the one after the last. */
  readonly in: number;
  readonly out: number;
  /** How often it is played; may be fractional. */
  readonly repeat: number;
  /** Whether it goes on from its end to its start, carrying its travel on. */
  readonly loop: boolean;
  /** Samples of its first cycle that a loop has already played when it starts. */
  readonly phase: number;
  /** How fast it plays; ignored where a length is set. */
  readonly speed: number;
  /** Frames that it is to fill, null to follow from the speed. */
  readonly length: number | null;
  /** Whether it plays from its end to its start. */
  readonly reverse: boolean;
  /** Frames for which its first and its last pose are held, on top of what it fills. */
  readonly hold: { readonly start: number; readonly end: number };
  /** Share of its frames, share of its motion: points in (0, 1) through which the time runs; null runs evenly. */
  readonly speedCurve: readonly Handle[] | null;
  /** Whether left and right are swapped. */
  readonly mirror: boolean;
  readonly travel: Travel;
  /** In place, whether the heading is held too. */
  readonly holdFacing: boolean;
  /** Whether the turn from its start to its end is taken out evenly, so that a loop goes straight on. */
  readonly straighten: boolean;
  /** Metres by which it is raised over the floor. */
  readonly lift: number;
  /** Whether it is passed over: it takes no time and is not performed, but keeps its place in the order. */
  readonly off: boolean;
  /** Floor places (x, z in metres) that the root passes after its start, for travel along a path. */
  readonly path: readonly (readonly [number, number])[];
  /** Spots that the root hits, by frame. */
  readonly marks: readonly Mark[];
  /** Frames in which a segment of a layer comes and goes. */
  readonly fade: { readonly in: number; readonly out: number };
  readonly seam: Seam;
}

/** The seam that a new segment gets. */
export const PLAIN_SEAM: Seam = {
  fit: 'whole body',
  facing: true,
  height: false,
  curve: 'smooth',
  nudge: { x: 0, z: 0, turn: 0 },
  settle: null,
  inStep: false,
  gap: 'hold',
};

/** What a segment is unless asked otherwise, but for its clip and place. */
export const PLAIN_SEGMENT = {
  start: 0,
  in: 0,
  repeat: 1,
  loop: false,
  phase: 0,
  speed: 1,
  length: null,
  reverse: false,
  hold: { start: 0, end: 0 },
  speedCurve: null,
  mirror: false,
  travel: 'recorded',
  holdFacing: false,
  straighten: false,
  lift: 0,
  off: false,
  path: [],
  marks: [],
  fade: { in: 0, out: 0 },
  seam: PLAIN_SEAM,
} as const satisfies Omit<Segment, 'id' | 'name' | 'clip' | 'out'>;

/** What a layer is unless asked otherwise. */
export const PLAIN_LAYER = {
  ...PLAIN_LANE,
  kind: 'layer',
  blend: 'override',
  mask: [],
  softness: 0,
  weight: [],
  reference: 'first',
  segments: [],
  keys: {},
} as const satisfies Omit<LayerLane, 'id' | 'name' | 'character'>;

/** A scene without characters. */
export function emptyScene(name: string, rate: number | string = 30): Scene {
  return {
    format: 'warper-scene',
    version: 4,
    name,
    rate,
    characters: {},
    characterOrder: [],
    lanes: {},
    laneOrder: [],
    segments: {},
    steps: {},
    groups: {},
    markers: [],
    range: null,
  };
}

/** The segments of a group and of the groups in it. */
export function segmentsOfGroup(scene: Scene, group: string): string[] {
  const members = scene.groups[group]?.members ?? [];
  return members.flatMap((m) => (scene.groups[m] ? segmentsOfGroup(scene, m) : [m]));
}

/** The group that a segment or group is directly in. */
export const groupOf = (scene: Scene, member: string): SegmentGroup | undefined =>
  Object.values(scene.groups).find((g) => g.members.includes(member));

/** The outermost group that a segment is in. */
export function outermostGroup(scene: Scene, segment: string): SegmentGroup | undefined {
  let found = groupOf(scene, segment);
  for (let next = found; next; next = groupOf(scene, next.id)) found = next;
  return found;
}

/** The segments that are left out because a group of theirs is muted. */
export function mutedSegments(scene: Scene): ReadonlySet<string> {
  const muted = Object.values(scene.groups).filter((g) => g.muted);
  return new Set(muted.flatMap((g) => segmentsOfGroup(scene, g.id)));
}
