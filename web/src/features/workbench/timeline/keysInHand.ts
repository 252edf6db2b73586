import type { ChosenFrames, Edit, LayerLane } from '@warper/core';
import {
  copyListKeys,
  keyListsOf,
  keysEdit,
  moveListKeys,
  pasteListKeys,
  removeListKeys,
  scaleListKeys,
} from '@warper/core';
import { commit } from '../../../store/edits';
import type { KeysInHand } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import type { Thunk } from '../commands/command';
import { KEY_ROW } from './geometry';

/** The keys in hand of one layer, by the ids of their lists. */
export const chosenOf = (inHand: KeysInHand | null, layer: string): ChosenFrames =>
  new Map(
    inHand?.layer === layer
      ? Object.entries(inHand.lists).map(([id, frames]): [string, ReadonlySet<number>] => [
          id,
          new Set(frames),
        ])
      : [],
  );

/** Chosen keys as the session keeps them; null where there are none. */
export function keptChosen(layer: string, chosen: ChosenFrames): KeysInHand | null {
  const lists = [...chosen].filter(([, frames]) => frames.size > 0);
  return lists.length === 0
    ? null
    : { layer, lists: Object.fromEntries(lists.map(([id, frames]) => [id, [...frames]])) };
}

export const countOf = (chosen: ChosenFrames): number =>
  [...chosen.values()].reduce((sum, frames) => sum + frames.size, 0);

/** Chosen keys with one more, or with one less that was among them. */
export function toggled(chosen: ChosenFrames, list: string, frame: number): ChosenFrames {
  const frames = new Set(chosen.get(list));
  if (!frames.delete(frame)) frames.add(frame);
  return new Map([...chosen, [list, frames]]);
}

/** The same keys, some frames later. */
export const later = (chosen: ChosenFrames, by: number): ChosenFrames =>
  new Map([...chosen].map(([id, frames]) => [id, new Set([...frames].map((f) => f + by))]));

/** A place on the sheet of keys, pixels. */
export type Point = readonly [x: number, y: number];

/** What was chosen before, and all keys in a box, pixels of the sheet. */
export function keysInBox(
  layer: LayerLane,
  chosen: ChosenFrames,
  at: Point,
  to: Point,
  ppf: number,
): ChosenFrames {
  const [left, right] = [Math.min(at[0], to[0]) / ppf, Math.max(at[0], to[0]) / ppf];
  const [top, bottom] = [Math.min(at[1], to[1]), Math.max(at[1], to[1])];
  const inside = keyListsOf(layer).flatMap(({ id, keys }, i): [string, ReadonlySet<number>][] => {
    const middle = (i + 0.5) * KEY_ROW;
    if (middle < top || middle > bottom) return [];
    const frames = keys.map((k) => k.frame).filter((f) => f >= left && f <= right);
    return [[id, new Set([...(chosen.get(id) ?? []), ...frames])]];
  });
  return new Map([...chosen, ...inside]);
}

/** All keys of a layer. */
export const allKeys = (layer: LayerLane): ChosenFrames =>
  new Map(keyListsOf(layer).map(({ id, keys }) => [id, new Set(keys.map((k) => k.frame))]));

/** Takes keys in hand, and their layer with them. */
export const takeKeys =
  (layer: string, chosen: ChosenFrames): Thunk =>
  (dispatch, getState) => {
    const { selection } = getState().session;
    if (selection.kind !== 'layer' || selection.id !== layer)
      dispatch(sessionActions.selected({ kind: 'layer', id: layer }));
    dispatch(sessionActions.keysTaken(keptChosen(layer, chosen)));
  };

/** What a layer's keys in hand can become: the edit, null where nothing changes, and which keys they are then. */
export interface KeyChange {
  readonly edit: Edit | null;
  readonly chosen: ChosenFrames;
}

export const movedKeys = (layer: LayerLane, chosen: ChosenFrames, by: number): KeyChange => ({
  edit: keysEdit(layer, moveListKeys(layer, chosen, by), 'move of keys'),
  chosen: later(chosen, by),
});

export const scaledKeys = (layer: LayerLane, chosen: ChosenFrames, factor: number): KeyChange => {
  const scaled = scaleListKeys(layer, chosen, factor);
  return { edit: keysEdit(layer, scaled.layer, 'scaling of keys'), chosen: scaled.chosen };
};

const removedKeys = (layer: LayerLane, chosen: ChosenFrames): KeyChange => ({
  edit: keysEdit(layer, removeListKeys(layer, chosen), 'removal of keys'),
  chosen: new Map(),
});

/** Carries out what becomes of the keys in hand. */
export const changeKeys =
  (layer: string, { edit, chosen }: KeyChange): Thunk =>
  (dispatch) => {
    if (edit && dispatch(commit(edit))) dispatch(sessionActions.keysTaken(keptChosen(layer, chosen)));
  };

export const removeKeysInHand = (layer: LayerLane, chosen: ChosenFrames): Thunk =>
  changeKeys(layer.id, removedKeys(layer, chosen));

export const copyKeysInHand =
  (layer: LayerLane, chosen: ChosenFrames): Thunk =>
  (dispatch) => {
    const copied = copyListKeys(layer, chosen);
    if (copied.size === 0) return;
    dispatch(sessionActions.keysCopied(Object.fromEntries(copied)));
    const count = countOf(chosen);
    dispatch(sessionActions.announced(`${count} ${count === 1 ? 'key' : 'keys'} copied`));
  };

/** Puts the copied keys into a layer, the first of them at the playhead. */
export const pasteKeysAtPlayhead =
  (layer: LayerLane): Thunk =>
  (dispatch, getState) => {
    const { copiedKeys, frame } = getState().session;
    if (!copiedKeys) return;
    const pasted = pasteListKeys(layer, new Map(Object.entries(copiedKeys)), frame);
    const edit = keysEdit(layer, pasted.layer, 'paste of keys');
    dispatch(changeKeys(layer.id, { edit, chosen: pasted.chosen }));
  };
