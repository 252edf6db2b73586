import type { ContinuityItem, CopiedPose, DelayedLinks, Edit, KeptLimbs, LayerLane } from '@warper/core';

/** What times are shown in. */
export type TimeUnit = 'seconds' | 'timecode' | 'frames';

/**
 * What is in hand: a segment and others with it, the seam before a segment, a character or prop, a layer, a group, a marker, a tether, a
 * camera, a shot, a sound, a sound lane, a line, or the scene itself.
 */
export type Selection =
  | { readonly kind: 'segment'; readonly id: string; readonly with?: readonly string[] }
  | {
      readonly kind: 'seam' | 'character' | 'layer' | 'group' | 'marker' | 'tether' | 'camera' | 'shot';
      readonly id: string;
    }
  | { readonly kind: 'sound' | 'sound lane' | 'line'; readonly id: string }
  | { readonly kind: 'scene' };

/** What dragging an edge of a segment does: show more or less of its clip, play it more often, or slower and faster. */
export type EdgeUse = 'trim' | 'repeat' | 'stretch';

/** Where the view looks from. */
export type ViewAngle = 'free' | 'front' | 'side' | 'top' | 'both' | 'camera';

/** What this page shows; no part of the document. */
export interface SessionState {
  readonly selection: Selection;
  /** The frame that is shown, a whole one as a bake writes them, also while it plays. */
  readonly frame: number;
  readonly playing: boolean;
  readonly looping: boolean;
  /** Width of one frame on the timeline, pixels. */
  readonly pixelsPerFrame: number;
  readonly edge: EdgeUse;
  /** What is below the view. */
  readonly below: 'lanes' | 'cues' | 'curves' | 'seam' | 'continuity' | 'shots' | 'alternates';
  readonly angle: ViewAngle;
  /** The camera that is looked through; null for that of the shot at the playhead. */
  readonly filmedBy: string | null;
  /** Where what that camera sees is shown while the view looks elsewhere: in its corner, or beside it. */
  readonly filmView: 'none' | 'corner' | 'beside';
  /** Whether thirds and the safe frame are drawn over what a camera sees. */
  readonly guides: boolean;
  /** How many ghosts stand before and after the playhead, and the frames between them. */
  readonly ghosts: { readonly count: number; readonly spacing: number };
  /** The two joints whose distance is told; null where nothing is measured. */
  readonly measured: Measured | null;
  /** What the list of continuity shows and is at one place: it is marked there in the view. */
  readonly located: readonly ContinuityItem[];
  /** Whether front and side are those of the character in hand, or of the world. */
  readonly axes: 'character' | 'world';
  /** The character that the camera follows, null for none. */
  readonly follow: string | null;
  /** Whether playing follows a character who leaves the view. */
  readonly autoFollow: boolean;
  /** What is to be brought into view; a new object for every request. */
  readonly framing: { readonly what: 'selection' | 'scene' } | null;
  /** How fast it plays: 1 is the true speed. */
  readonly pace: number;
  /** Whether the scene is heard while it plays. */
  readonly soundOn: boolean;
  /** Keys that the user has chosen, by the id of their command. */
  readonly ownKeys: Readonly<Record<string, readonly string[]>>;
  /** What the clock and the ruler show. */
  readonly unit: TimeUnit;
  readonly theme: 'day' | 'night';
  /** The version of the page's library that the plan is compiled with. */
  readonly libraryVersion: number;
  /** A message for screen readers. */
  readonly announcement: string;
  /** Why the last edit could not be carried out, until it is said. */
  readonly refused: Refusal | null;
  /** The card of the tour that is shown, from 0; null while there is none. */
  readonly tour: number | null;
  /** Whether the tour was taken or left before. */
  readonly toured: boolean;
  readonly handMarks: HandMarks;
  /** What was copied last, for a page that may not use the clipboard. */
  readonly copied: string | null;
  /** Titles of the groups of the card that are folded. */
  readonly folded: readonly string[];
  /** Whether a clip of the library is being dragged over the lanes. */
  readonly carrying: boolean;
  /** The segments whose joins are being chosen. */
  readonly choosing: readonly string[];
  /** Two moments that are compared, though they do not meet. */
  readonly compared: ComparedMoments | null;
  /** The joint that is posed while a layer is in hand, by name; null for none. */
  readonly posed: string | null;
  /** What a joint's handle does: turns it, or brings a hand or foot to a place with its limb. */
  readonly posing: 'turn' | 'reach';
  /** What stays where it is while the hips, the trunk or the head are moved. */
  readonly kept: KeptLimbs;
  /** The axes about which a joint's rings turn it. */
  readonly ringAxes: 'own' | 'world';
  /** Whether a pose becomes a key as soon as a handle is let go, or only where there is a key already. */
  readonly autoKey: boolean;
  /** A pose that is shown and not keyed yet; gone with the next frame. */
  readonly unkeyed: Edit | null;
  /** A pose that was copied, and whose it was. */
  readonly copiedPose: { readonly character: string; readonly pose: CopiedPose } | null;
  /** The layers whose keys are shown list by list. */
  readonly unfolded: readonly string[];
  /** The keys of a layer that are in hand on its lane. */
  readonly keysInHand: KeysInHand | null;
  /** Keys that were copied, by the ids of their lists; frames count from the first of all. */
  readonly copiedKeys: Readonly<Record<string, readonly AnyKey[]>> | null;
  /** The frames around a seam that play over and over from two sides; null for what is played else. */
  readonly seamLoop: SeamLoop | null;
  /** Which joint of the tether in hand is picked in the view: the one that holds, or the one that is held; null for none. */
  readonly picking: 'joint' | 'held' | null;
  /** What was moved because it waits for something, until it is said whether others are to wait too; null for nothing. */
  readonly delayed: DelayedLinks | null;
  /** The segment whose path is drawn by clicks on the floor; null for none. */
  readonly drawing: string | null;
  /** Whether edits are carried out in all alternates, wherever they are. */
  readonly inAllAlternates: boolean;
  /** The alternates that are seen beside the one in hand, by id; the most there is room for. */
  readonly besides: readonly string[];
  /** How they are seen: each in a view of its own, or as ghosts in one. */
  readonly comparison: 'side by side' | 'ghosts';
}

/** Alternates that are seen beside the one in hand. */
export const MOST_BESIDES = 2;

/** Keys of a layer: frames by the ids of their lists. */
export interface KeysInHand {
  readonly layer: string;
  readonly lists: Readonly<Record<string, readonly number[]>>;
}

type AnyKey = NonNullable<LayerLane['keys'][string] | LayerLane['rootKeys']['left']>[number];

/** A moment of the segment before a seam and one of the segment behind it: frames from their starts. */
export interface ComparedMoments {
  /** The incoming segment. */
  readonly segment: string;
  readonly out: number;
  readonly in: number;
}

/** Frames that play over and over, and how fast; `before` is how the view was. */
export interface SeamLoop {
  readonly from: number;
  readonly to: number;
  readonly pace: number;
  readonly before: Pick<SessionState, 'angle' | 'axes' | 'pace'>;
}

/** An edit that was refused: what is wrong, what to do; the clip whose bones do not match, or what carries it out all the same. */
export interface Refusal {
  readonly message: string;
  readonly hint: string;
  readonly clip?: string;
  readonly anyway?: Edit;
}

/** A part of the timeline: frames, and pixels from the top of the first row. */
export interface Area {
  readonly from: number;
  readonly to: number;
  readonly top: number;
  readonly bottom: number;
}

/** What a drag in hand shows on the timeline. */
export interface HandMarks {
  /** The frame that it has snapped to. */
  readonly guide: number | null;
  /** Where the pointer asks for, while that cannot be. */
  readonly refused: Area | null;
  /** The box that is drawn to select. */
  readonly box: Area | null;
}

export const NO_MARKS: HandMarks = { guide: null, refused: null, box: null };

/** A joint of a character. */
export interface JointOf {
  readonly character: string;
  readonly joint: string;
}

/** Two joints whose distance is told. */
export type Measured = readonly [JointOf, JointOf];

/** How little short of a whole frame a time may be and still show that frame: computed times miss by rounding. */
export const ROUNDING_FRAMES = 1e-6;

/** How fast the scene can be played. */
export const PACES: readonly number[] = [0.25, 0.5, 1, 2];

export const ZOOM = { least: 0.15, most: 24 };

/** Pixels of a frame in a window 1280 pixels wide; wider ones show the same frames, only larger. */
const USUAL_ZOOM = { pixelsPerFrame: 1.25, width: 1280 };

/** The zoom that a scene opens with in a window of so many pixels. */
export const firstZoom = (width: number): number =>
  (USUAL_ZOOM.pixelsPerFrame * Math.max(USUAL_ZOOM.width, width)) / USUAL_ZOOM.width;

export const initialState = {
  selection: { kind: 'scene' },
  frame: 0,
  playing: false,
  looping: true,
  pixelsPerFrame: USUAL_ZOOM.pixelsPerFrame,
  edge: 'trim',
  below: 'lanes',
  angle: 'free',
  filmedBy: null,
  filmView: 'none',
  guides: true,
  ghosts: { count: 0, spacing: 6 },
  measured: null,
  located: [],
  axes: 'character',
  follow: null,
  autoFollow: true,
  framing: null,
  pace: 1,
  soundOn: true,
  ownKeys: {},
  unit: 'seconds',
  theme: 'day',
  libraryVersion: 0,
  announcement: '',
  refused: null,
  tour: null,
  toured: false,
  handMarks: NO_MARKS,
  copied: null,
  folded: [],
  carrying: false,
  choosing: [],
  compared: null,
  posed: null,
  kept: { leftHand: true, rightHand: true, feet: true },
  unfolded: [],
  keysInHand: null,
  copiedKeys: null,
  ringAxes: 'own',
  autoKey: true,
  unkeyed: null,
  copiedPose: null,
  posing: 'turn',
  seamLoop: null,
  picking: null,
  delayed: null,
  drawing: null,
  inAllAlternates: false,
  besides: [],
  comparison: 'side by side',
} as SessionState;
