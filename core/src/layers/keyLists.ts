import type { PoseKey, ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';

/** Where the lists of a layer's keys are: key poses by joint, keys of the root by curve, keys of dials by dial. */
export const KEY_TABLES = ['rootKeys', 'dialKeys', 'keys'] as const;

export type KeyTable = (typeof KEY_TABLES)[number];

type AnyKey = PoseKey | ValueKey;

/** One list of keys of a layer. */
export interface KeyList {
  readonly id: string;
  readonly table: KeyTable;
  /** The joint, the curve of the root, or the dial. */
  readonly name: string;
  readonly keys: readonly AnyKey[];
}

/** Frames of keys, by the ids of their lists. */
export type ChosenFrames = ReadonlyMap<string, ReadonlySet<number>>;

/** Keys that were copied, by the ids of their lists; frames count from the first of all. */
export type CopiedKeys = ReadonlyMap<string, readonly AnyKey[]>;

export type KeysOfLayer = Pick<LayerLane, KeyTable>;

const listId = (table: KeyTable, name: string): string => `${table} ${name}`;

/** The lists of a layer that have keys: of the root, of the dials, of the joints. */
export const keyListsOf = (layer: KeysOfLayer): KeyList[] =>
  KEY_TABLES.flatMap((table) =>
    Object.entries(layer[table] as Readonly<Record<string, readonly AnyKey[]>>)
      .filter(([, keys]) => keys.length > 0)
      .map(([name, keys]) => ({ id: listId(table, name), table, name, keys })),
  );

/** A list of keys put in the place of one of a layer; without keys it goes. */
export function withKeyList<L extends KeysOfLayer>(
  layer: L,
  table: KeyTable,
  name: string,
  keys: readonly AnyKey[],
): L {
  const lists: Record<string, readonly AnyKey[]> = { ...layer[table] };
  if (keys.length > 0) lists[name] = keys;
  else delete lists[name];
  return { ...layer, [table]: lists };
}

/** The frames at which a layer has keys, of whatever list, in order. */
export const keyFrames = (layer: KeysOfLayer): number[] =>
  [...new Set(keyListsOf(layer).flatMap(({ keys }) => keys.map((k) => k.frame)))].sort((a, b) => a - b);

/** Keys at some frames moved in time; those on which they come to stand give way. */
export function movedInTime<K extends { readonly frame: number }>(
  keys: readonly K[],
  at: ReadonlySet<number>,
  by: number,
): K[] {
  const taken = new Set([...at].map((frame) => frame + by));
  return keys
    .filter((k) => at.has(k.frame) || !taken.has(k.frame))
    .map((k) => (at.has(k.frame) ? { ...k, frame: k.frame + by } : k))
    .sort((a, b) => a.frame - b.frame);
}

function changed(
  layer: LayerLane,
  chosen: ChosenFrames,
  change: (keys: readonly AnyKey[], at: ReadonlySet<number>) => readonly AnyKey[],
): LayerLane {
  return keyListsOf(layer).reduce((next, { id, table, name, keys }) => {
    const at = chosen.get(id);
    return at && at.size > 0 ? withKeyList(next, table, name, change(keys, at)) : next;
  }, layer);
}

/** A layer with chosen keys moved by whole frames. */
export const moveListKeys = (layer: LayerLane, chosen: ChosenFrames, by: number): LayerLane =>
  by === 0 ? layer : changed(layer, chosen, (keys, at) => movedInTime(keys, at, by));

/** A layer without the chosen keys. */
export const removeListKeys = (layer: LayerLane, chosen: ChosenFrames): LayerLane =>
  changed(layer, chosen, (keys, at) => keys.filter((k) => !at.has(k.frame)));

/** The first and the last frame of chosen keys; null without any. */
export function chosenSpan(chosen: ChosenFrames): readonly [number, number] | null {
  const frames = [...chosen.values()].flatMap((at) => [...at]);
  return frames.length === 0 ? null : [Math.min(...frames), Math.max(...frames)];
}

/**
 * A layer with chosen keys drawn out, or drawn together, in time from the first of them, and which they are then; slopes go along. Of two
 * that come to stand on one frame the later stays, and others on which they come to stand give way.
 */
export function scaleListKeys(
  layer: LayerLane,
  chosen: ChosenFrames,
  factor: number,
): { readonly layer: LayerLane; readonly chosen: ChosenFrames } {
  const span = chosenSpan(chosen);
  if (!span) return { layer, chosen };
  const scaled = (frame: number): number => span[0] + Math.round((frame - span[0]) * factor);
  const next = changed(layer, chosen, (keys, at) => {
    const drawn = keys.filter((k) => at.has(k.frame)).map((k) => drawnOut(k, scaled(k.frame), factor));
    return merged(
      keys.filter((k) => !at.has(k.frame)),
      drawn,
    );
  });
  return {
    layer: next,
    chosen: new Map([...chosen].map(([id, frames]) => [id, new Set([...frames].map(scaled))])),
  };
}

function drawnOut<K extends AnyKey>(key: K, frame: number, factor: number): K {
  return {
    ...key,
    frame,
    tangent: slower(key.tangent, factor),
    into: slower(key.into, factor),
  };
}

const slower = (slope: AnyKey['tangent'], factor: number): AnyKey['tangent'] =>
  slope === null
    ? null
    : typeof slope === 'number'
      ? slope / factor
      : [slope[0] / factor, slope[1] / factor, slope[2] / factor];

/** Two lists of keys as one, in order; where both have one at a frame the second's stays. */
function merged<K extends { readonly frame: number }>(keys: readonly K[], over: readonly K[]): K[] {
  const byFrame = new Map([...keys, ...over].map((k) => [k.frame, k]));
  return [...byFrame.values()].sort((a, b) => a.frame - b.frame);
}

/** Copies chosen keys. */
export function copyListKeys(layer: LayerLane, chosen: ChosenFrames): CopiedKeys {
  const first = chosenSpan(chosen)?.[0] ?? 0;
  return new Map(
    keyListsOf(layer).flatMap(({ id, keys }): [string, readonly AnyKey[]][] => {
      const at = chosen.get(id);
      const copied = keys.filter((k) => at?.has(k.frame)).map((k) => ({ ...k, frame: k.frame - first }));
      return copied.length > 0 ? [[id, copied]] : [];
    }),
  );
}

/** A layer with copied keys put in, the first of them at a frame, and which they are then. */
export function pasteListKeys(
  layer: LayerLane,
  copied: CopiedKeys,
  frame: number,
): { readonly layer: LayerLane; readonly chosen: ChosenFrames } {
  const at = Math.round(frame);
  let out = layer;
  const chosen = new Map<string, ReadonlySet<number>>();
  for (const [id, keys] of copied) {
    const table = KEY_TABLES.find((t) => id.startsWith(`${t} `));
    if (!table) continue;
    const name = id.slice(table.length + 1);
    const own = (out[table] as Readonly<Record<string, readonly AnyKey[]>>)[name] ?? [];
    const put = keys.map((k) => ({ ...k, frame: k.frame + at }));
    out = withKeyList(out, table, name, merged(own, put));
    chosen.set(id, new Set(put.map((k) => k.frame)));
  }
  return { layer: out, chosen };
}
