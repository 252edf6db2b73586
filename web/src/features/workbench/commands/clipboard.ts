import type { Edit, Scene } from '@warper/core';
import { bodyLane, copySegments, parseCopied, defined } from '@warper/core';
import { sourceOfId } from '@warper/formats';
import { toast } from 'sonner';
import { describeError } from '../../../data/importFiles';
import { library, openSources } from '../../../data/pageLibrary';
import { commit } from '../../../store/edits';
import { selectedSegments, selectionOf } from '../../../store/selection';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import type { Thunk } from './command';
import { freshId } from '../../../data/freshId';

/** Copies the segments in hand. */
export const copy: Thunk = async (dispatch, getState) => {
  const { scene } = getState();
  const ids = selectedSegments(getState().session.selection, scene.document);
  if (!scene.document || ids.length === 0) return;
  const text = JSON.stringify(copySegments(scene.document, ids, library));
  dispatch(sessionActions.copied(text));
  // Without leave to use the clipboard it still works within this page.
  await navigator.clipboard?.writeText(text).catch(() => undefined);
  dispatch(sessionActions.announced(`${ids.length} segment${ids.length === 1 ? '' : 's'} copied`));
};

/** Puts what was copied at the playhead: on the lane that it came from, of the same character, or the one in hand. */
export const paste: Thunk = async (dispatch, getState) => {
  const kept = getState().session.copied;
  const text = (await navigator.clipboard?.readText().catch(() => null)) ?? kept;
  try {
    const copied = (text ? parseCopied(text) : null) ?? (kept ? parseCopied(kept) : null);
    if (!copied) return void dispatch(sessionActions.announced('Nothing to paste'));
    const ids = copied.rows.flatMap((r) => r.segments.map((s) => s.clip));
    await openSources(new Set(ids.map(sourceOfId)));
    const scene = getState().scene.document;
    if (!scene) return;
    const made: string[] = [];
    const edits = copied.rows.flatMap((row): Edit[] => {
      const lane = targetOf(scene, row, getState());
      if (!lane) return [];
      const segments = row.segments.map((s) => ({ ...s, id: freshId('g') }));
      made.push(...segments.map((s) => s.id));
      return [{ type: 'paste', lane, segments, at: getState().session.frame, rate: copied.rate }];
    });
    if (edits.length === 0)
      return void toast.error('There is no lane to paste on.', { description: 'Add a character first.' });
    const label = `paste of ${made.length} segments`;
    if (dispatch(commit(edits.length === 1 ? defined(edits[0]) : { type: 'several', label, edits }))) {
      dispatch(sessionActions.selected(selectionOf(made)));
      dispatch(sessionActions.announced(`${made.length} segments pasted`));
    }
  } catch (error) {
    const { message, hint } = describeError(error);
    toast.error(message, { description: hint });
  }
};

/** The lane that a copied row goes to. */
function targetOf(
  scene: Scene,
  row: { readonly lane: string; readonly character: string; readonly kind: 'body' | 'layer' },
  state: RootState,
): string | null {
  const { selection } = state.session;
  if (selection.kind === 'character') return bodyLane(scene, selection.id)?.id ?? null;
  if (selection.kind === 'layer') return selection.id;
  const same = scene.lanes[row.lane];
  if (same && scene.characters[same.character]?.name === row.character) return same.id;
  const named = Object.values(scene.characters).find((c) => c.name === row.character);
  const lane =
    named && Object.values(scene.lanes).find((l) => l.character === named.id && l.kind === row.kind);
  return lane?.id ?? scene.laneOrder.find((l) => defined(scene.lanes[l]).kind === row.kind) ?? null;
}
