import type { Edit, Scene } from '@warper/core';
import { bodyLane } from '@warper/core';
import type { StoredClip } from '../../../data/db';
import { library, openSources } from '../../../data/pageLibrary';
import { findWearers } from '../../../parts/useWearers';
import { commit } from '../../../store/edits';
import type { Selection } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import type { Thunk } from '../commands/command';
import { freshLayerIds, layerOfClip, movesPartOnly } from './layerOfClip';
import { newCharacter } from './newCharacter';
import { newSegment } from './newSegment';

/**
 * Puts a clip at the end of the lane in hand; one that moves a part of the body only, as a layer at the playhead. In a scene without characters it brings one along, in the same step: the one of
 * this browser whose bones suit it best, or its own skeleton.
 */
export const appendClip =
  (clip: StoredClip): Thunk =>
  async (dispatch, getState) => {
    await openSources([clip.source]);
    const { scene, session } = getState();
    if (!scene.document) return;
    const segment = newSegment(clip);
    const lane = targetLane(scene.document, session.selection);
    const over = lane === null ? undefined : scene.document.lanes[lane];
    const motion = library.clip(clip.id);
    if (over?.kind === 'body' && motion && movesPartOnly(motion)) {
      const ids = freshLayerIds();
      const edit = layerOfClip(scene.document, over.character, motion, segment, session.frame, ids);
      if (!dispatch(commit(edit))) return;
      dispatch(sessionActions.selected({ kind: 'segment', id: ids.segment }));
      dispatch(sessionActions.announced(`${clip.name} added as a layer at frame ${session.frame}`));
      return;
    }
    const edit: Edit = lane
      ? { type: 'place', lane, segment, at: 'end' }
      : await withCharacter(scene.document, clip, segment);
    if (!dispatch(commit(edit))) return;
    dispatch(sessionActions.selected({ kind: 'segment', id: segment.id }));
    dispatch(sessionActions.announced(`${clip.name} added at the end`));
  };

async function withCharacter(
  scene: Scene,
  clip: StoredClip,
  segment: ReturnType<typeof newSegment>,
): Promise<Edit> {
  const motion = library.clip(clip.id);
  const [best] = motion ? (await findWearers(motion)).filter((w) => w.sameLegs) : [];
  const body = best ?? (motion && library.bodyOfClip(motion)) ?? { id: '', name: clip.name };
  const { edit, lane, character } = newCharacter(scene, body);
  return {
    type: 'several',
    label: `addition of ${character.name} with ${clip.name}`,
    edits: [edit, { type: 'place', lane, segment, at: 'end' }],
  };
}

/** Where a clip goes: the lane of what is selected, else the first one. */
function targetLane(scene: Scene, selection: Selection): string | null {
  const lanes = Object.values(scene.lanes);
  if (selection.kind === 'character') return bodyLane(scene, selection.id)?.id ?? null;
  if (selection.kind === 'layer') return selection.id;
  const lane = 'id' in selection && lanes.find((l) => l.segments.includes(selection.id));
  return (lane && lane.id) || (scene.laneOrder[0] ?? null);
}
