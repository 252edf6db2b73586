import type { Draft, Patch } from 'immer';
import { applyPatches, castDraft, enablePatches, produceWithPatches } from 'immer';
import { InputError } from '../math/errors';
import type {
  Character,
  FloorPlace,
  FrameSpan,
  LaneState,
  LayerLane,
  Marker,
  PoseKey,
  Scene,
  Seam,
  Segment,
} from '../scene/scene';
import { PLAIN_LANE } from '../scene/scene';
import { pasteSegments } from './clipboard';
import type { Replacement } from './cutEdits';
import { cutAt, freezeAt, joinGroup, repeatTo, replaceClip, slipBy, stretchTo } from './cutEdits';
import type { GroupValues } from './groupEdits';
import { changeGroup, makeGroup, pruneGroups, ungroup } from './groupEdits';
import type { ClipSource } from '../timeline/lane';
import type { LayerValues } from './layerEdits';
import { addLayer, raiseLayer, removeLayer, requireLayer, setKey, setSteps } from './layerEdits';
import type { SegmentValues } from './laneEditor';
import { LaneEditor } from './laneEditor';
import { reconcile } from './reconcile';
import { moveSeveral } from './moveSeveral';
import { reorder, switchOff } from './orderEdits';
import type { CharacterValues } from './sceneEdits';
import {
  changeCharacter,
  changeLane,
  orderCharacter,
  setLeadIn,
  setMarker,
  setRange,
  setRate,
} from './sceneEdits';
import { shiftSeam, swapWithNext, widenSeam } from './seamEdits';
import { lookup, requireUnusedId } from './lookup';

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
  | { readonly type: 'duplicate'; readonly segment: string; readonly id: string }
  | { readonly type: 'cut'; readonly segment: string; readonly frame: number; readonly id: string }
  | {
      readonly type: 'freeze';
      readonly segment: string;
      readonly frame: number;
      readonly frames: number;
      /** What the part behind the frame is called. */
      readonly id: string;
    }
  | { readonly type: 'slip'; readonly segment: string; readonly samples: number }
  | {
      readonly type: 'stretch' | 'repeat';
      readonly segment: string;
      readonly edge: 'start' | 'end';
      readonly frame: number;
    }
  | { readonly type: 'replace'; readonly segment: string; readonly by: Replacement }
  | { readonly type: 'shift seam'; readonly segment: string; readonly frames: number }
  | { readonly type: 'widen seam'; readonly segment: string; readonly overlap: number }
  | { readonly type: 'swap'; readonly segment: string }
  | {
      readonly type: 'reorder';
      readonly segment: string;
      readonly lane: string;
      /** The segment that it comes before; null puts it at the end. */
      readonly before: string | null;
    }
  | { readonly type: 'switch'; readonly segment: string; readonly off: boolean }
  | {
      readonly type: 'move several';
      readonly segments: readonly string[];
      readonly frames: number;
      /** Where all of them are of one lane, the lane that they go to. */
      readonly lane?: string;
    }
  | {
      readonly type: 'paste';
      readonly lane: string;
      readonly segments: readonly Segment[];
      readonly at: number;
      readonly rate: Scene['rate'];
    }
  | {
      readonly type: 'group';
      readonly id: string;
      readonly name: string;
      readonly segments: readonly string[];
    }
  | { readonly type: 'ungroup'; readonly group: string }
  | { readonly type: 'change group'; readonly group: string; readonly values: GroupValues }
  | { readonly type: 'change lane'; readonly lane: string; readonly values: Partial<LaneState> }
  | { readonly type: 'change character'; readonly character: string; readonly values: CharacterValues }
  | { readonly type: 'order character'; readonly character: string; readonly to: number }
  | { readonly type: 'lead-in'; readonly character: string; readonly frames: number }
  | { readonly type: 'marker'; readonly marker: Marker }
  | { readonly type: 'remove marker'; readonly marker: string }
  | { readonly type: 'range'; readonly range: FrameSpan | null }
  | { readonly type: 'rate'; readonly rate: Scene['rate']; readonly keep: 'seconds' | 'frames' }
  | { readonly type: 'several'; readonly label: string; readonly edits: readonly Edit[] };

enablePatches();

/** A scene after an edit, and the differences that lead there and back. */
export interface Edited {
  readonly scene: Scene;
  readonly patches: readonly Patch[];
  readonly inverse: readonly Patch[];
}

/** The scene after an edit; see `edit`. */
export const applyEdit = (scene: Scene, change: Edit, library: ClipSource): Scene =>
  edit(scene, change, library).scene;

/** The scene after recorded differences, as undo and redo replay them. */
export const applyDifferences = (scene: Scene, patches: readonly Patch[]): Scene =>
  applyPatches(scene, patches as Patch[]);

/**
 * Carries out an edit. What cannot be (two overlaps on one spot, a negative length) becomes the nearest that can. An edit that
 * changes nothing gives the very scene, and no differences.
 *
 * @throws InputError `edit` where it names something that the scene does not have, or a number is out of range
 */
export function edit(scene: Scene, change: Edit, library: ClipSource): Edited {
  const [next, patches, inverse] = produceWithPatches(scene, (draft) => {
    carryOut(new LaneEditor(draft, library), change);
    if (Object.keys(scene.groups).length > 0) pruneGroups(draft);
  });
  const settled = reconcile(scene, next);
  if (settled === scene) return { scene, patches: [], inverse: [] };
  checkLocks(scene, settled, change);
  return { scene: settled, patches, inverse };
}

function carryOut(editor: LaneEditor, change: Edit): void {
  const draft = editor.scene;
  switch (change.type) {
    case 'rename scene':
      draft.name = change.name.trim().slice(0, 200) || draft.name;
      return;
    case 'add character':
      requireUnusedId(draft.characters, change.character.id, 'character');
      requireUnusedId(draft.lanes, change.lane, 'lane');
      draft.characters[change.character.id] = { ...change.character };
      draft.characterOrder.push(change.character.id);
      draft.lanes[change.lane] = {
        id: change.lane,
        ...PLAIN_LANE,
        kind: 'body',
        character: change.character.id,
        segments: [],
      };
      draft.laneOrder.push(change.lane);
      return;
    case 'remove character':
      return removeCharacter(draft, change.character);
    case 'start character':
      lookup(draft.characters, change.character, 'character').start = change.start;
      return;
    case 'foot-lock':
      lookup(draft.characters, change.character, 'character').footLock = change.on;
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
      const segment = lookup(draft.segments, change.segment, 'segment');
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
      editor.duplicate(change.segment, change.id);
      return joinGroup(editor, change.segment, change.id);
    case 'cut':
      return cutAt(editor, change.segment, change.frame, change.id);
    case 'freeze':
      return freezeAt(editor, change.segment, change.frame, change.frames, change.id);
    case 'slip':
      return slipBy(editor, change.segment, change.samples);
    case 'stretch':
      return stretchTo(editor, change.segment, change.edge, change.frame);
    case 'repeat':
      return repeatTo(editor, change.segment, change.edge, change.frame);
    case 'replace':
      return replaceClip(editor, change.segment, change.by);
    case 'shift seam':
      return shiftSeam(editor, change.segment, change.frames);
    case 'widen seam':
      return widenSeam(editor, change.segment, change.overlap);
    case 'swap':
      return swapWithNext(editor, change.segment);
    case 'reorder':
      return reorder(editor, change.segment, change.lane, change.before);
    case 'switch':
      return switchOff(editor, change.segment, change.off);
    case 'move several':
      return moveSeveral(editor, change.segments, change.frames, change.lane);
    case 'paste':
      return pasteSegments(editor, change.lane, change.segments, change.at, change.rate);
    case 'group':
      return makeGroup(draft, change.id, change.name, change.segments);
    case 'ungroup':
      return ungroup(draft, change.group);
    case 'change group':
      return changeGroup(draft, change.group, change.values);
    case 'change lane':
      return changeLane(draft, change.lane, change.values);
    case 'change character':
      return changeCharacter(draft, change.character, change.values);
    case 'order character':
      return orderCharacter(draft, change.character, change.to);
    case 'lead-in':
      return setLeadIn(editor, change.character, change.frames);
    case 'marker':
      return setMarker(draft, change.marker);
    case 'remove marker':
      draft.markers = draft.markers.filter((m) => m.id !== change.marker);
      return;
    case 'range':
      return setRange(draft, change.range);
    case 'rate':
      return setRate(editor, change.rate, change.keep);
    case 'several':
      for (const part of change.edits) carryOut(editor, part);
      return;
  }
}

/** Locked lanes keep their segments as they are. */
function checkLocks(before: Scene, after: Scene, change: Edit): void {
  if (change.type === 'change lane' || change.type === 'rate' || change.type === 'lead-in') return;
  for (const lane of Object.values(before.lanes)) {
    if (!lane.locked) continue;
    const own = after.lanes[lane.id];
    const same =
      own?.segments === lane.segments && lane.segments.every((s) => before.segments[s] === after.segments[s]);
    if (same) continue;
    const name = before.characters[lane.character]?.name ?? '';
    throw new InputError('locked', `The lane ${lane.kind === 'layer' ? lane.name : name} is locked.`, {
      place: { path: `lanes.${lane.id}` },
      hint: 'Unlock it at the head of the lane.',
    });
  }
}

function removeCharacter(draft: Draft<Scene>, id: string): void {
  lookup(draft.characters, id, 'character');
  for (const lane of Object.values(draft.lanes)) {
    if (lane.character !== id) continue;
    for (const segment of lane.segments) delete draft.segments[segment];
    delete draft.lanes[lane.id];
  }
  draft.laneOrder = draft.laneOrder.filter((l) => draft.lanes[l]);
  delete draft.characters[id];
  draft.characterOrder = draft.characterOrder.filter((c) => c !== id);
}
