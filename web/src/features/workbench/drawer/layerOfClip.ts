import type { Clip, Edit, LayerLane, Scene, Segment } from '@warper/core';
import { PLAIN_LAYER, layerLanes, partMask } from '@warper/core';
import { freshId } from '../../../data/freshId';

/** Frames in which a clip on a new layer comes and goes, where it is long enough for both and as much between. */
const USUAL_FADE = 8;

/** Whether a clip is made to be laid over others: it moves a part of the body only. */
export const movesPartOnly = (clip: Clip | undefined): boolean =>
  clip !== undefined && partMask(clip).length > 0;

/** The ids of a layer that is to be made, kept while a drag shows it in one place after the other. */
export interface LayerIds {
  readonly layer: string;
  readonly segment: string;
}

export const freshLayerIds = (): LayerIds => ({ layer: freshId('l'), segment: freshId('g') });

/** Puts a clip over the performance of a character: a new layer on top, masked to the part that the clip moves, with fades. */
export function layerOfClip(
  scene: Scene,
  character: string,
  clip: Clip,
  given: Segment,
  at: number,
  ids: LayerIds,
): Edit {
  const fade = Math.min(USUAL_FADE, Math.floor(given.out / 3));
  const segment: Segment = { ...given, id: ids.segment, fade: { in: fade, out: fade } };
  const layer: LayerLane = {
    ...PLAIN_LAYER,
    id: ids.layer,
    character,
    name: freeLayerName(scene, character, clip.name),
    mask: partMask(clip),
  };
  return {
    type: 'several',
    label: `addition of the layer ${layer.name}`,
    edits: [
      { type: 'add layer', layer },
      { type: 'place', lane: layer.id, segment, at: Math.max(0, at) },
    ],
  };
}

function freeLayerName(scene: Scene, character: string, wanted: string): string {
  const taken = new Set(layerLanes(scene, character).map((l) => l.name));
  if (!taken.has(wanted)) return wanted;
  for (let n = 2; ; n++) if (!taken.has(`${wanted} ${n}`)) return `${wanted} ${n}`;
}
