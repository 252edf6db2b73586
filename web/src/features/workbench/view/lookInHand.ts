import type { Edit, Look, Scene } from '@warper/core';
import type { Selection } from '../../../store/sessionState';

/** A look that is in hand, and the edit that has another in its place. */
export interface LookInHand {
  readonly look: Look | null;
  readonly edit: (look: Look) => Edit;
}

/** The look of the layer, segment or character that is selected, if it is a character's own and may be changed; else null. */
export function lookInHand(scene: Scene, selection: Selection, character: string): LookInHand | null {
  switch (selection.kind) {
    case 'layer': {
      const layer = scene.lanes[selection.id];
      if (layer?.kind !== 'layer' || layer.character !== character || layer.locked) return null;
      return {
        look: layer.look,
        edit: (look) => ({ type: 'change layer', layer: layer.id, values: { look } }),
      };
    }
    case 'segment': {
      const { id } = selection;
      const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
      const segment = scene.segments[id];
      if (!segment || lane?.kind !== 'body' || lane.character !== character || lane.locked) return null;
      return { look: segment.look, edit: (look) => ({ type: 'change', segment: id, values: { look } }) };
    }
    case 'character': {
      const own = scene.characters[selection.id];
      if (!own || own.id !== character) return null;
      return { look: own.look, edit: (look) => ({ type: 'change character', character, values: { look } }) };
    }
    default:
      return null;
  }
}
