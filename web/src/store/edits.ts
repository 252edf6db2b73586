import type { Edit, Scene } from '@warper/core';
import {
  InputError,
  allowOtherLegs,
  applyEdit,
  delayedLinks,
  describeEdit,
  edit,
  isOfAlternates,
  removalOfFilmed,
} from '@warper/core';
import { replacement } from '../data/changes';
import { describeError } from '../data/importFiles';
import { library } from '../data/pageLibrary';
import { settleJoins } from './choices';
import { compileScene } from './plan';
import { sceneActions } from './sceneSlice';
import { selectPreviewPlan } from './selectors';
import type { Refusal } from './sessionState';
import { sessionActions } from './sessionSlice';
import type { AppDispatch, RootState } from './store';

type Thunk<T = void> = (dispatch: AppDispatch, getState: () => RootState) => T;

/** Carries out an edit of the open document: one step of undo, kept at once. Gives whether anything changed. */
export const commit =
  (change: Edit): Thunk<boolean> =>
  (dispatch, getState) => {
    const { document, elsewhere } = getState().scene;
    const alternates = getState().session.inAllAlternates ? 'all' : 'by place';
    if (!document) return false;
    if (elsewhere) {
      dispatch(sceneActions.drafted(null));
      dispatch(
        sessionActions.refused({
          message: 'This scene is being edited in another tab.',
          hint: 'Edit here instead with the button above, or continue there.',
        }),
      );
      return false;
    }
    let wanted: Scene | null = null;
    try {
      const { scene, patches, inverse } = edit(document, change, library, { alternates });
      wanted = scene;
      // What could not be performed, such as a clip of another skeleton, is refused before it is part of the document.
      const { error } = compileScene(scene);
      if (error) throw error;
      dispatch(sceneActions.drafted(null));
      if (patches.length === 0) return false;
      dispatch(
        sceneActions.edited({
          document: scene,
          entry: { label: describeEdit(change, document), patches, inverse },
        }),
      );
      dispatch(sessionActions.delayed(delayedLinks(document, scene, library)));
      // The joins of an alternate that is taken in hand are what they are.
      if (!isOfAlternates(change)) void dispatch(settleJoins(document));
      return true;
    } catch (error) {
      dispatch(sceneActions.drafted(null));
      dispatch(sessionActions.refused(refusalOf(error, change, wanted)));
      return false;
    }
  };

/** Removes a character or prop. Cameras that went along with it stay where they stand at the playhead. */
export const removeCharacter =
  (character: string): Thunk =>
  (dispatch, getState) => {
    const { plan } = selectPreviewPlan(getState());
    dispatch(commit(removalOfFilmed(plan, character, getState().session.frame)));
    dispatch(sessionActions.selected({ kind: 'scene' }));
  };

/** Says why something could not be done. */
export const refuse =
  (error: unknown): Thunk =>
  (dispatch) => {
    const { message, hint } = describeError(error);
    dispatch(sessionActions.refused({ message, hint }));
  };

/** Why an edit could not be carried out, and what else can be done about it. */
function refusalOf(error: unknown, change: Edit, wanted: Scene | null): Refusal {
  const { message, hint } = describeError(error);
  if (!(error instanceof InputError)) return { message, hint };
  if (error.code !== 'other-legs' || !wanted) return { message, hint, clip: error.place.clip };
  const label = describeEdit(change, wanted);
  return {
    message,
    hint: 'Its bones can be matched all the same; the legs may bend where they should not.',
    anyway: { type: 'several', label, edits: [change, ...allowOtherLegs(wanted, library)] },
  };
}

/** Puts another document in the place of the open one, as one step of undo. */
export const replaceDocument =
  (document: Scene, label: string): Thunk =>
  (dispatch, getState) => {
    const { document: before, elsewhere } = getState().scene;
    if (!before || elsewhere) return;
    dispatch(sceneActions.edited(replacement(before, document, label)));
  };

/** Shows what an edit would do, while a drag lasts; null ends it. */
export const preview =
  (change: Edit | null): Thunk =>
  (dispatch, getState) => {
    const { document, elsewhere } = getState().scene;
    if (!document || !change || elsewhere) {
      dispatch(sceneActions.drafted(null));
      return;
    }
    try {
      const draft = applyEdit(document, change, library, { alternates: 'left' });
      const { error } = compileScene(draft);
      if (error) throw error;
      dispatch(sceneActions.drafted(draft));
    } catch {
      // An edit that cannot be shown leaves the picture as it was; committing it says why.
    }
  };

/** Takes the last edit back and says which. */
export const undo = (): Thunk => (dispatch, getState) => {
  const { document, past, elsewhere } = getState().scene;
  const entry = past.at(-1);
  if (!entry || !document || elsewhere) return;
  dispatch(sceneActions.undone());
  dispatch(sessionActions.delayed(null));
  dispatch(sessionActions.announced(`Undone: ${entry.label}`));
};

/** Does again what was undone last. */
export const redo = (): Thunk => (dispatch, getState) => {
  const { document, future, elsewhere } = getState().scene;
  const entry = future[0];
  if (!entry || !document || elsewhere) return;
  dispatch(sceneActions.redone());
  dispatch(sessionActions.announced(`Redone: ${entry.label}`));
};
