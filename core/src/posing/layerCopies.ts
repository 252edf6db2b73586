import type { Edit } from '../edit/edit';
import type { CarryTo } from '../layers/carriedLayer';
import { carriedLayer } from '../layers/carriedLayer';
import { otherSideName, swappedName } from '../layers/otherSide';
import { InputError } from '../math/errors';
import type { LayerLane, MaskEntry } from '../scene/lane';
import { looksAt } from '../scene/look';
import type { Scene } from '../scene/scene';
import type { Skeleton } from '../skeleton/skeleton';

/** Where a layer is copied to. */
export interface LayerTarget extends CarryTo {
  readonly character: string;
  readonly name: string;
}

/**
 * The edit that copies a layer with its clips, keys, mask and weight: to another character, whatever its bones are called and however they
 * lie at rest, or mirrored to the other side.
 *
 * @param freshId gives an id that nothing has yet
 */
export function copyLayerEdit(
  scene: Scene,
  layer: LayerLane,
  from: Skeleton,
  to: LayerTarget,
  freshId: () => string,
): Edit {
  const id = freshId();
  const copy: LayerLane = {
    ...layer,
    id,
    character: to.character,
    name: to.name,
    segments: [],
    pair: null,
    ...carriedLayer(layer, from, to),
    // Nobody looks at themselves.
    look: looksAt(layer.look, to.character) ? null : layer.look,
  };
  const segments = layer.segments.flatMap((name): Edit[] => {
    const segment = scene.segments[name];
    if (!segment) return [];
    const mirror = to.mirrored ? !segment.mirror : segment.mirror;
    const called = to.mirrored ? swappedName(segment.name) : segment.name;
    return [
      {
        type: 'place',
        lane: id,
        segment: { ...segment, id: freshId(), name: called, mirror },
        at: segment.start,
        exactly: true,
      },
    ];
  });
  const label = to.mirrored ? `mirroring of the layer ${layer.name}` : `copy of the layer ${layer.name}`;
  return { type: 'several', label, edits: [{ type: 'add layer', layer: copy }, ...segments] };
}

/**
 * The edit that links a layer with its other side: with the layer of the same character that is masked to it, which becomes what this
 * one is with left for right; else with a mirrored copy.
 *
 * @param freshId gives an id that nothing has yet
 * @throws InputError `edit` where it is masked to both sides alike
 */
export function linkSidesEdit(
  scene: Scene,
  layer: LayerLane,
  skeleton: Skeleton,
  freshId: () => string,
): Edit {
  const { mask } = carriedLayer(layer, skeleton, { skeleton, mirrored: true });
  if (mask.length > 0 && isSameMask(mask, layer.mask))
    throw new InputError('edit', `${layer.name} takes both sides alike.`, {
      hint: 'Mask it to one side first.',
    });
  const other = scene.laneOrder
    .map((id) => scene.lanes[id])
    .find(
      (lane) =>
        lane?.kind === 'layer' &&
        lane.id !== layer.id &&
        lane.character === layer.character &&
        lane.pair === null &&
        mask.length > 0 &&
        isSameMask(mask, lane.mask),
    );
  if (other) return { type: 'pair layers', layer: layer.id, with: other.id };
  const id = freshId();
  let given = false;
  const to = { character: layer.character, skeleton, mirrored: true, name: otherSideName(layer.name) };
  const copy = copyLayerEdit(scene, layer, skeleton, to, () => {
    if (given) return freshId();
    given = true;
    return id;
  });
  const label = `link of the layer ${layer.name} with ${to.name}`;
  return { type: 'several', label, edits: [copy, { type: 'pair layers', layer: layer.id, with: id }] };
}

const isSameMask = (a: readonly MaskEntry[], b: readonly MaskEntry[]): boolean => {
  const text = (mask: readonly MaskEntry[]): string =>
    mask
      .map(({ bone, weight }) => `${bone} ${weight}`)
      .sort()
      .join();
  return text(a) === text(b);
};
