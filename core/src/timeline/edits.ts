import type { Draft, Patch } from 'immer';
import { applyPatches, castDraft, enablePatches, produceWithPatches } from 'immer';
import type { Character, FloorPlace, LayerLane, PoseKey, Scene, Seam, Segment } from '../scene/scene';
import type { ClipLookup } from './lane';
import type { LayerValues } from './layerEdits';
import { addLayer, raiseLayer, removeLayer, requireLayer, setKey, setSteps } from './layerEdits';
import type { SegmentValues } from './laneEditor';
import { LaneEditor } from './laneEditor';
import { requireEntry } from './entry';

/** What can be done to a scene. Every edit is a plain value, so that it can be named, stored and tested. */
export type Edit =
  | { readonly type: 'rename scene'; readonly name: string }
  | { readonly type: 'add character'; readonly character: Character; readonly lane: string }
  | { readonly type: 'remove character'; readonly character: string }
  | { readonly type: 'start character'; readonly character: string; readonly start: FloorPlace | null }
  | { readonly type: 'foot-lock'; readonly character: string; readonly on: boolean }
  | { readonly type: 'add layer'; readonly layer: LayerLane }
  | { readonly type: 'change layer'; readonly layer: string; readonly values: LayerValues }
  | { readonly type: 'remove layer'; readonly layer: string }
  | { readonly type: 'raise layer'; readonly layer: string; readonly by: 1 | -1 }
  | {
      readonly type: 'key';
      readonly layer: string;
      readonly joint: string;
      /** The key to put at its frame; or only a frame, whose key is taken away. */
      readonly key: PoseKey | { readonly frame: number; readonly rotation: null };
    }
  | {
      readonly type: 'steps';
      readonly clip: string;
      readonly joint: string;
      /** The user's own spans of samples; null goes back to what was found. */
      readonly spans: readonly (readonly [number, number])[] | null;
    }
  | { readonly type: 'place'; readonly lane: string; readonly segment: Segment; readonly at: number | 'end' }
  | { readonly type: 'move'; readonly segment: string; readonly start: number; readonly lane?: string }
  | {
      readonly type: 'trim';
      readonly segment: string;
      readonly edge: 'start' | 'end';
      readonly frame: number;
    }
  | { readonly type: 'change'; readonly segment: string; readonly values: SegmentValues }
  | { readonly type: 'seam'; readonly segment: string; readonly values: Partial<Seam> }
  | { readonly type: 'overlap'; readonly segment: string; readonly frames: number | 'auto' }
  | { readonly type: 'match'; readonly segment: string; readonly out: number; readonly in: number }
  | { readonly type: 'remove'; readonly segment: string; readonly close: boolean }
  | { readonly type: 'duplicate'; readonly segment: string; readonly id: string };

enablePatches();

/** A scene after an edit, and the differences that lead there and back. */
export interface Edited {
  readonly scene: Scene;
  readonly patches: readonly Patch[];
  readonly inverse: readonly Patch[];
}

/** The scene after an edit; see `edit`. */
export const applyEdit = (scene: Scene, change: Edit, clips: ClipLookup): Scene =>
  edit(scene, change, clips).scene;

/** The scene after recorded differences, as undo and redo replay them. */
export const applyDifferences = (scene: Scene, patches: readonly Patch[]): Scene =>
  applyPatches(scene, patches as Patch[]);

/**
 * Carries out an edit. What cannot be (two overlaps on one spot, a negative length) becomes the nearest that can.
 *
 * @throws InputError `edit` where it names something that the scene does not have, or a number is out of range
 */
export function edit(scene: Scene, change: Edit, clips: ClipLookup): Edited {
  const [next, patches, inverse] = produceWithPatches(scene, (draft) => {
    const editor = new LaneEditor(draft, clips);
    switch (change.type) {
      case 'rename scene':
        draft.name = change.name.trim().slice(0, 200) || draft.name;
        return;
      case 'add character':
        draft.characters[change.character.id] = { ...change.character };
        draft.characterOrder.push(change.character.id);
        draft.lanes[change.lane] = {
          id: change.lane,
          kind: 'body',
          character: change.character.id,
          segments: [],
        };
        draft.laneOrder.push(change.lane);
        return;
      case 'remove character':
        return removeCharacter(draft, change.character);
      case 'start character':
        requireEntry(draft.characters, change.character, 'character').start = change.start;
        return;
      case 'foot-lock':
        requireEntry(draft.characters, change.character, 'character').footLock = change.on;
        return;
      case 'add layer':
        return addLayer(draft, change.layer);
      case 'change layer':
        Object.assign(requireLayer(draft, change.layer), castDraft(change.values));
        return;
      case 'remove layer':
        return removeLayer(draft, change.layer);
      case 'raise layer':
        return raiseLayer(draft, change.layer, change.by);
      case 'key':
        return setKey(draft, change.layer, change.joint, change.key);
      case 'steps':
        return setSteps(draft, change.clip, change.joint, change.spans);
      case 'place':
        return editor.place(change.lane, castDraft({ ...change.segment }), change.at);
      case 'move':
        return editor.move(change.segment, change.start, change.lane);
      case 'trim':
        return editor.trim(change.segment, change.edge, change.frame);
      case 'change':
        return editor.change(change.segment, change.values);
      case 'seam': {
        const segment = requireEntry(draft.segments, change.segment, 'segment');
        segment.seam = castDraft({ ...(segment.seam as Seam), ...change.values });
        return;
      }
      case 'overlap':
        return editor.overlap(change.segment, change.frames);
      case 'match':
        return editor.match(change.segment, change.out, change.in);
      case 'remove':
        return editor.remove(change.segment, change.close);
      case 'duplicate':
        return editor.duplicate(change.segment, change.id);
    }
  });
  return { scene: next, patches, inverse };
}

/** What an edit is called in "Undo ...". */
export function describeEdit(edit: Edit, scene: Scene): string {
  const name =
    'segment' in edit && typeof edit.segment === 'string' ? scene.segments[edit.segment]?.name : '';
  switch (edit.type) {
    case 'rename scene':
      return 'renaming the scene';
    case 'add character':
      return `adding ${edit.character.name}`;
    case 'remove character':
      return `removing ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'start character':
      return `placing ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'foot-lock':
      return `${edit.on ? 'holding' : 'freeing'} the feet of ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'add layer':
      return `adding the layer ${edit.layer.name}`;
    case 'change layer':
    case 'remove layer':
    case 'raise layer': {
      const lane = scene.lanes[edit.layer];
      const verb = { 'change layer': 'changing', 'remove layer': 'removing', 'raise layer': 'moving' }[
        edit.type
      ];
      return `${verb} the layer ${lane?.kind === 'layer' ? lane.name : ''}`.trim();
    }
    case 'key':
      return edit.key.rotation ? `keying ${edit.joint}` : `removing a key of ${edit.joint}`;
    case 'steps':
      return `the steps of ${edit.joint}`;
    case 'place':
      return `adding ${edit.segment.name}`;
    case 'move':
      return `moving ${name}`;
    case 'trim':
      return `trimming ${name}`;
    case 'change':
      return `changing ${name}`;
    case 'seam':
      return `the seam before ${name}`;
    case 'overlap':
      return `the overlap before ${name}`;
    case 'match':
      return `matching frames before ${name}`;
    case 'remove':
      return `removing ${name}`;
    case 'duplicate':
      return `duplicating ${name}`;
  }
}

function removeCharacter(draft: Draft<Scene>, id: string): void {
  requireEntry(draft.characters, id, 'character');
  for (const lane of Object.values(draft.lanes)) {
    if (lane.character !== id) continue;
    for (const segment of lane.segments) delete draft.segments[segment];
    delete draft.lanes[lane.id];
  }
  draft.laneOrder = draft.laneOrder.filter((l) => draft.lanes[l]);
  delete draft.characters[id];
  draft.characterOrder = draft.characterOrder.filter((c) => c !== id);
}
