import type { Draft } from 'immer';
import { castDraft } from 'immer';
import { InputError } from '../math/errors';
import type { LayerLane, PoseKey, Scene } from '../scene/scene';
import { lookup, requireUnusedId } from './lookup';

/** What of a layer can be set. */
export type LayerValues = Partial<Omit<LayerLane, 'id' | 'kind' | 'character' | 'segments' | 'keys'>>;

/** The layer with an id.
 *
 * @throws InputError `edit` where there is none
 */
export function requireLayer(draft: Draft<Scene>, id: string): Draft<LayerLane> {
  const lane = lookup(draft.lanes, id, 'layer');
  if (lane.kind !== 'layer') throw new InputError('edit', `Lane ${id} is no layer.`);
  return lane;
}

/** Adds a layer on top of its character's others. */
export function addLayer(draft: Draft<Scene>, layer: LayerLane): void {
  lookup(draft.characters, layer.character, 'character');
  requireUnusedId(draft.lanes, layer.id, 'lane');
  draft.lanes[layer.id] = castDraft(layer);
  const lanes = draft.laneOrder.map((id) => draft.lanes[id]!);
  const last = lanes.findLastIndex((lane) => lane.character === layer.character);
  draft.laneOrder.splice(last + 1, 0, layer.id);
}

/** Removes a layer with all that is on it. */
export function removeLayer(draft: Draft<Scene>, id: string): void {
  const layer = requireLayer(draft, id);
  for (const segment of layer.segments) delete draft.segments[segment];
  delete draft.lanes[id];
  draft.laneOrder = draft.laneOrder.filter((lane) => lane !== id);
}

/** Changes places with the next layer of the same character, upwards or downwards. */
export function raiseLayer(draft: Draft<Scene>, id: string, by: 1 | -1): void {
  const { character } = requireLayer(draft, id);
  const own = draft.laneOrder.filter((lane) => {
    const entry = draft.lanes[lane];
    return entry?.kind === 'layer' && entry.character === character;
  });
  const other = own[own.indexOf(id) + by];
  if (other === undefined) return;
  const [a, b] = [draft.laneOrder.indexOf(id), draft.laneOrder.indexOf(other)];
  draft.laneOrder[a] = other;
  draft.laneOrder[b] = id;
}

/** Puts a key at its frame, in place of one that was there; without a rotation takes it away. */
export function setKey(
  draft: Draft<Scene>,
  id: string,
  joint: string,
  key: PoseKey | { readonly frame: number; readonly rotation: null },
): void {
  const layer = requireLayer(draft, id);
  const others = (layer.keys[joint] ?? []).filter((k) => k.frame !== key.frame);
  const keys = key.rotation === null ? others : [...others, castDraft(key as PoseKey)];
  keys.sort((a, b) => a.frame - b.frame);
  if (keys.length > 0) layer.keys[joint] = keys;
  else delete layer.keys[joint];
}

/** Sets the user's own steps of a joint of a clip, or goes back to what was found. */
export function setSteps(
  draft: Draft<Scene>,
  clip: string,
  joint: string,
  spans: readonly (readonly [number, number])[] | null,
): void {
  if (spans === null) {
    delete draft.steps[clip]?.[joint];
    if (draft.steps[clip] && Object.keys(draft.steps[clip]).length === 0) delete draft.steps[clip];
    return;
  }
  const wrong = spans.find(([a, b]) => !Number.isInteger(a) || !Number.isInteger(b) || a < 0 || b <= a);
  if (wrong) {
    throw new InputError('edit', `Samples ${wrong[0]} to ${wrong[1]} are no step.`, {
      place: { bone: joint },
      hint: 'A step begins before it ends; both are whole samples.',
    });
  }
  draft.steps[clip] = { ...draft.steps[clip], [joint]: castDraft([...spans]) };
}
