import type { Draft } from 'immer';
import { castDraft } from 'immer';
import { InputError } from '../math/errors';
import { counterpart, otherSideOf, sharedOf } from '../layers/otherSide';
import type { LayerLane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import type { ClipSource } from '../timeline/lane';
import { snapshot } from './snapshot';

/** The layer that is linked with a layer as its other side. */
export function partnerOf(scene: Draft<Scene>, id: string): Draft<LayerLane> | null {
  const layer = scene.lanes[id];
  const partner = layer?.kind === 'layer' && layer.pair !== null ? scene.lanes[layer.pair] : undefined;
  return partner?.kind === 'layer' && partner.pair === id ? partner : null;
}

/**
 * Has linked layers follow what an edit did to their other side; where it did something to both, the lower one is followed.
 *
 * @throws InputError `edit` where it would bring a segment from one to the other, or their body is not in the library
 */
export function followPairs(before: Scene, draft: Draft<Scene>, library: ClipSource): void {
  const done = new Set<string>();
  for (const id of draft.laneOrder) {
    const partner = partnerOf(draft, id);
    const was = before.lanes[id];
    // Those that were linked by this very edit are the same already.
    if (!partner || done.has(id) || was?.kind !== 'layer' || was.pair !== partner.id) continue;
    if (contentOf(draft, id) === contentOf(before, id)) continue;
    requireOwn(before, draft, id, partner);
    becomeOtherSide(draft, id, partner, library);
    done.add(partner.id);
  }
}

/** Sees to it that no segment of either layer of a pair has come to be on the other. */
function requireOwn(before: Scene, draft: Draft<Scene>, id: string, partner: Draft<LayerLane>): void {
  const own = draft.lanes[id]?.segments ?? [];
  const came = (to: readonly string[], from: string): boolean =>
    to.some((s) => before.lanes[from]?.segments.includes(s));
  if (!came(own, partner.id) && !came(partner.segments, id)) return;
  throw new InputError(
    'edit',
    `What is on ${partner.name} is on its other side already: the two are linked.`,
    {
      hint: 'Part left and right first.',
    },
  );
}

/** What a linked layer shares with its other side, as text. */
function contentOf(scene: Scene | Draft<Scene>, id: string): string {
  const layer = scene.lanes[id] as LayerLane;
  return JSON.stringify([sharedOf(layer), layer.segments.map((s) => scene.segments[s])]);
}

/**
 * Puts onto a layer what another one has, with left for right.
 *
 * @throws InputError `edit` where their body is not in the library
 */
export function becomeOtherSide(
  draft: Draft<Scene>,
  id: string,
  partner: Draft<LayerLane>,
  library: ClipSource,
): void {
  const layer = snapshot(draft.lanes[id] as Draft<LayerLane>);
  const body = draft.characters[layer.character]?.body ?? '';
  const skeleton = library.body?.(body);
  if (!skeleton)
    throw new InputError('edit', `${layer.name} has no other side: its body is not in the library.`, {
      hint: 'Bring the body back, or part the two layers.',
    });
  const own = layer.segments.flatMap((s) => {
    const segment = draft.segments[s];
    return segment ? [snapshot(segment)] : [];
  });
  const theirs = new Set(partner.segments);
  const given = new Set<string>();
  const idOf = (segment: string): string => {
    const id = counterpart(
      segment,
      (s) => theirs.has(s) && !given.has(s),
      (s) => draft.segments[s] !== undefined || given.has(s),
    );
    given.add(id);
    return id;
  };
  const { values, segments } = otherSideOf(layer, own, skeleton, idOf);
  for (const s of theirs) delete draft.segments[s];
  for (const s of segments) draft.segments[s.id] = castDraft(s);
  Object.assign(partner, castDraft(values));
  partner.segments = segments.map((s) => s.id);
}
