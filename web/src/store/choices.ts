import type { Edit, Scene } from '@warper/core';
import { InputError, edit, madeJoins, plainJoin } from '@warper/core';
import { motion } from '../data/motion';
import { library } from '../data/pageLibrary';
import { sceneActions } from './sceneSlice';
import { sessionActions } from './sessionSlice';
import type { AppDispatch, RootState } from './store';

type Thunk<T = void> = (dispatch: AppDispatch, getState: () => RootState) => T;

/** What chooses joins: the edits that make those before the given segments what they are to be, in order. */
export type ChooseJoins = (scene: Scene, segments: readonly string[]) => Promise<readonly Edit[]>;

const inWorker: ChooseJoins = (scene, segments) =>
  motion.choose({ scene, segments }, () => undefined, new AbortController().signal);

/**
 * Has the joins chosen that an edit has made or changed. They become part of that edit's step of undo. Where the document changes
 * meanwhile, what is still there is chosen again; where the edit was taken back, nothing is.
 */
export const settleJoins =
  (before: Scene, choose: ChooseJoins = inWorker): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { document } = getState().scene;
    if (!document) return;
    // What was still being chosen is chosen again, unless it was set by hand meanwhile.
    const waiting = getState().session.choosing.filter((id) => {
      const seam = document.segments[id]?.seam;
      return seam && (seam.auto || seam === before.segments[id]?.seam);
    });
    const segments = [...new Set([...waiting, ...madeJoins(before, document, library)])];
    if (segments.length > 0) await dispatch(chooseNow(segments, choose));
  };

/** Has joins chosen, as part of the last step of undo. */
const chooseNow =
  (segments: readonly string[], choose: ChooseJoins = inWorker): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { document, past } = getState().scene;
    if (!document || segments.length === 0) return;
    dispatch(sessionActions.choosing(segments));
    const { choosing } = getState().session;
    // Taken back, done again or edited meanwhile: what that made is chosen by itself.
    const isCurrent = (): boolean => {
      const { scene, session } = getState();
      return (
        session.choosing === choosing && scene.document === document && scene.past.at(-1) === past.at(-1)
      );
    };
    try {
      const edits = await choose(document, segments);
      if (isCurrent()) dispatch(carryOut(edits, sceneActions.amended));
    } catch (error) {
      if (isCurrent()) dispatch(sessionActions.announced(notChosen(error)));
    }
    if (getState().session.choosing === choosing) dispatch(sessionActions.choosing([]));
  };

const notChosen = (error: unknown): string =>
  `The join was not chosen: ${error instanceof InputError ? error.message : String(error)}`;

/** Carries out edits as a step of undo, or as part of the last one, and says what was chosen. */
const carryOut =
  (edits: readonly Edit[], as: typeof sceneActions.edited | typeof sceneActions.amended): Thunk =>
  (dispatch, getState) => {
    const { document } = getState().scene;
    if (!document || edits.length === 0) return;
    const names = edits.flatMap((e) => (e.type === 'join' ? (document.segments[e.segment]?.name ?? []) : []));
    const label = names.length === 1 ? `join before ${names[0]}` : `${names.length} joins`;
    const alternates = getState().session.inAllAlternates ? 'all' : 'by place';
    const change = { type: 'several', label, edits } as const;
    const { scene, patches, inverse } = edit(document, change, library, { alternates });
    if (patches.length === 0) return;
    dispatch(as({ document: scene, entry: { label, patches, inverse } }));
    const lines = edits.flatMap((e) => (e.type === 'join' && e.values.chosen ? [e.values.chosen.why] : []));
    dispatch(sessionActions.announced(lines.length > 0 ? `Join chosen. ${lines.join(' ')}` : 'Plain join'));
  };

/** Has joins chosen whatever they are now, as one step of undo. */
export const makeAutomatic =
  (segments: readonly string[], choose: ChooseJoins = inWorker): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { document } = getState().scene;
    if (!document) return;
    dispatch(sessionActions.choosing(segments));
    try {
      const edits = await choose(document, segments);
      if (getState().scene.document === document) dispatch(carryOut(edits, sceneActions.edited));
    } catch (error) {
      dispatch(sessionActions.announced(notChosen(error)));
    }
    dispatch(sessionActions.choosing([]));
  };

/** Makes joins plain crossfades again, with what a choice has trimmed given back. */
export const makePlain =
  (segments: readonly string[]): Thunk =>
  (dispatch, getState) => {
    const { document } = getState().scene;
    if (!document) return;
    const edits = segments.flatMap((id) => plainJoin(document, id, library) ?? []);
    dispatch(carryOut(edits, sceneActions.edited));
  };
