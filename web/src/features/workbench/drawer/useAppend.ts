import type { Scene } from '@warper/core';
import { bodyLane } from '@warper/core';
import type { StoredClip } from '../../../data/db';
import { openSources } from '../../../data/pageLibrary';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { newSegment } from './newSegment';

/** Puts the clip at the end of the lane in hand. */
export function useAppend(clip: StoredClip): () => void {
  const dispatch = useAppDispatch();
  const lane = useAppSelector((s) => targetLane(s.scene.document, s.session.selection));
  return () => {
    if (!lane) return void dispatch(sessionActions.announced('Add a character first'));
    const added = newSegment(clip);
    void openSources([clip.source]).then(() => {
      if (!dispatch(commit({ type: 'place', lane, segment: added, at: 'end' }))) return;
      dispatch(sessionActions.selected({ kind: 'segment', id: added.id }));
      dispatch(sessionActions.announced(`${clip.name} added at the end`));
    });
  };
}

/** Where Enter puts a clip: the lane of what is selected, else the first one. */
function targetLane(scene: Scene | null, selection: { kind: string; id?: string }): string | null {
  if (!scene) return null;
  const lanes = Object.values(scene.lanes);
  if (selection.kind === 'character' && selection.id) return bodyLane(scene, selection.id)?.id ?? null;
  const lane = lanes.find((l) => selection.id !== undefined && l.segments.includes(selection.id));
  return lane?.id ?? scene.laneOrder[0] ?? null;
}
