import type { CurveName } from '../math/curve';

/**
 * The document: who performs, and how library clips are used for it. Small, plain JSON; clips and bodies are
 * named by id and kept elsewhere. Positions on the timeline are whole frames at the scene's rate, spans half open.
 */
export interface Scene {
  readonly format: 'warper-scene';
  readonly version: 2;
  readonly name: string;
  /** Frames a second: a number or a fraction such as "30000/1001". */
  readonly rate: number | string;
  readonly characters: Readonly<Record<string, Character>>;
  readonly characterOrder: readonly string[];
  readonly lanes: Readonly<Record<string, Lane>>;
  readonly laneOrder: readonly string[];
  readonly segments: Readonly<Record<string, Segment>>;
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
}

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

/** One row of the timeline; a body lane carries the performance of one character. */
export interface Lane {
  readonly id: string;
  readonly kind: 'body';
  readonly character: string;
  /** Segment ids, by start. */
  readonly segments: readonly string[];
}

/** What is done with a segment's root motion. */
export type Travel = 'recorded' | 'in place';

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
  | { readonly joint: string };

/** The join to the segment before; the first segment of a lane keeps it unused. */
export interface Seam {
  readonly fit: FitMode;
  /** Whether the direction is matched too. */
  readonly facing: boolean;
  /** Whether the height is matched too, as on stairs. */
  readonly height: boolean;
  readonly curve: CurveName;
  /** The user's own move on top of the fit, in the incoming root's directions (x left, z forward). */
  readonly nudge: Nudge;
  /**
   * Frames in which the difference to the outgoing motion decays after a cut; null for a plain cut. Where the segments
   * overlap they are crossfaded instead.
   */
  readonly settle: number | null;
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
  /** How fast it plays; ignored where a length is set. */
  readonly speed: number;
  /** Frames that it is to fill, null to follow from the speed. */
  readonly length: number | null;
  readonly travel: Travel;
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
};

/** A scene without characters. */
export function emptyScene(name: string, rate: number | string = 30): Scene {
  return {
    format: 'warper-scene',
    version: 2,
    name,
    rate,
    characters: {},
    characterOrder: [],
    lanes: {},
    laneOrder: [],
    segments: {},
  };
}

/** The body lane of a character. */
export function bodyLane(scene: Scene, character: string): Lane | undefined {
  return Object.values(scene.lanes).find((lane) => lane.character === character && lane.kind === 'body');
}
