import type { ChannelCurve, ChannelKey, CopiedKeys, Edit } from '@warper/core';

/** A curve that the drawer shows. */
export interface Track {
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  /** Which of the eight hues it is drawn in, and which dashes. */
  readonly hue: number;
  readonly dash: 0 | 1 | 2;
  readonly curve: ChannelCurve;
}

/** Keys of several curves, by the id of their track and their frames. */
export type ChosenOnTracks = ReadonlyMap<string, ReadonlySet<number>>;

/** What the curves belong to, and how they are edited. */
export interface CurveSource {
  readonly name: string;
  readonly tracks: readonly Track[];
  /** Whether keys have interpolations and slopes of their own. */
  readonly hasSlopes: boolean;
  /** The keys of a curve at some frames. */
  readonly keysAt: (track: string, frames: ReadonlySet<number>) => readonly ChannelKey[];
  /** The edit that moves keys by whole frames and by a value; null where it changes nothing. */
  readonly move: (chosen: ChosenOnTracks, frames: number, value: number) => Edit | null;
  /** The edit that gives curves other keys; null where nothing changes. */
  readonly change: (
    label: string,
    changes: ReadonlyMap<string, (keys: readonly ChannelKey[]) => readonly ChannelKey[]>,
  ) => Edit | null;
  /** The edit that leaves out keys which are not needed within an error, in the curve's unit; null where it is not to be had. */
  readonly reduce: (tracks: readonly string[], error: number) => Edit | null;
  /** How keys are copied and put in; null where they cannot be. The angles of a joint go together. */
  readonly clipboard: Clipboard | null;
}

export interface Clipboard {
  readonly copy: (chosen: ChosenOnTracks) => CopiedKeys;
  /** The edit that puts copied keys in, the first of them at a frame, and which they are then. */
  readonly paste: (
    copied: CopiedKeys,
    frame: number,
  ) => { readonly edit: Edit | null; readonly chosen: ChosenOnTracks };
}

/** Keys with one more on the curve. */
export const withKeyAt = (keys: readonly ChannelKey[], frame: number, value: number): ChannelKey[] => [
  ...keys.filter((k) => k.frame !== frame),
  { frame, value, curve: 'smooth', into: 0, out: 0, broken: false, source: null },
];
