import type { ChannelKey, Edit, KeyCurve } from '@warper/core';
import { scaleKeys, smoothKeys } from '@warper/core';
import type { ChosenOnTracks, CurveSource } from './curveSource';
import { withKeyAt } from './curveSource';

type Change = (keys: readonly ChannelKey[]) => readonly ChannelKey[];

/** Places of the chosen keys in a list. */
const placesOf = (keys: readonly ChannelKey[], frames: ReadonlySet<number>): Set<number> =>
  new Set(keys.flatMap((k, i) => (frames.has(k.frame) ? [i] : [])));

/** An edit that changes the chosen keys of every curve. */
const changeChosen = (
  source: CurveSource,
  chosen: ChosenOnTracks,
  label: string,
  change: (keys: readonly ChannelKey[], places: ReadonlySet<number>) => readonly ChannelKey[],
): Edit | null =>
  source.change(
    label,
    new Map(
      [...chosen].map(([id, frames]): [string, Change] => [
        id,
        (keys) => change(keys, placesOf(keys, frames)),
      ]),
    ),
  );

export const removeChosen = (source: CurveSource, chosen: ChosenOnTracks): Edit | null =>
  changeChosen(source, chosen, 'removal of keys', (keys, places) => keys.filter((_, i) => !places.has(i)));

export const smoothChosen = (source: CurveSource, chosen: ChosenOnTracks): Edit | null =>
  changeChosen(source, chosen, 'smoothing of keys', smoothKeys);

/** Values of the chosen keys further from, or nearer to, their mean on each curve; frames from the first of all. */
export function scaleChosen(
  source: CurveSource,
  chosen: ChosenOnTracks,
  by: { readonly frames: number; readonly values: number },
): Edit | null {
  const first = Math.min(...[...chosen.values()].flatMap((frames) => [...frames]));
  return changeChosen(source, chosen, 'scaling of keys', (keys, places) => {
    const values = [...places].map((i) => keys[i]?.value ?? 0);
    const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
    return scaleKeys(keys, places, { frame: first, value: mean }, by);
  });
}

/** The chosen keys with another interpolation; free ones begin with the slopes that they have. */
export const curveChosen = (source: CurveSource, chosen: ChosenOnTracks, curve: KeyCurve): Edit | null =>
  changeChosen(source, chosen, 'interpolation of keys', (keys, places) =>
    keys.map((key, i) => (places.has(i) ? { ...key, curve, broken: curve === 'free' && key.broken } : key)),
  );

/** Whether the two handles of the chosen keys are set apart. */
export const breakChosen = (source: CurveSource, chosen: ChosenOnTracks, broken: boolean): Edit | null =>
  changeChosen(source, chosen, broken ? 'breaking of handles' : 'joining of handles', (keys, places) =>
    keys.map((key, i) => (places.has(i) ? { ...key, curve: 'free', broken } : key)),
  );

/** The key of a curve with a field set. */
export const setKey = (
  source: CurveSource,
  track: string,
  frame: number,
  values: Partial<ChannelKey>,
  label: string,
): Edit | null =>
  source.change(
    label,
    new Map([[track, (keys) => keys.map((k) => (k.frame === frame ? { ...k, ...values } : k))]]),
  );

/** A handle of a key dragged to a slope, in the curve's unit a frame; both sides go together unless they are broken. */
export const slopeKey = (
  source: CurveSource,
  { track, frame, side }: { readonly track: string; readonly frame: number; readonly side: 'into' | 'out' },
  slope: number,
  apart: boolean,
): Edit | null =>
  source.change(
    'slope of a key',
    new Map([
      [
        track,
        (keys) =>
          keys.map((k): ChannelKey => {
            if (k.frame !== frame) return k;
            const broken = k.broken || apart;
            const free = { ...k, curve: 'free', broken } as const;
            return broken ? { ...free, [side]: slope } : { ...free, into: slope, out: slope };
          }),
      ],
    ]),
  );

/** New keys on curves at a frame, where the curves are. */
export const addKeys = (source: CurveSource, tracks: readonly string[], frame: number): Edit | null =>
  source.change(
    'new keys',
    new Map(
      tracks.flatMap((id): [string, Change][] => {
        const track = source.tracks.find((t) => t.id === id);
        return track ? [[id, (keys) => withKeyAt(keys, frame, track.curve.valueAt(frame))]] : [];
      }),
    ),
  );
