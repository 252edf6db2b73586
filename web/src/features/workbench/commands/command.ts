import type { Edit, Scene } from '@warper/core';
import { defined } from '@warper/core';
import { commit } from '../../../store/edits';
import { selectedSegments } from '../../../store/selection';
import { sessionActions } from '../../../store/sessionSlice';
import type { AppDispatch, RootState } from '../../../store/store';

/** What a command does to the store. */
export type Thunk = (dispatch: AppDispatch, getState: () => RootState) => unknown;

/** Something that can be done from anywhere on the workbench. */
export interface Command {
  /** What keys that the user has chosen are kept under. */
  readonly id: string;
  readonly name: string;
  /** Other words that find it. */
  readonly words?: string;
  readonly group:
    | 'Segments'
    | 'Seams'
    | 'Groups'
    | 'Layers'
    | 'Staging'
    | 'Cameras'
    | 'Sound'
    | 'Alternates'
    | 'Time'
    | 'View'
    | 'Scene';
  /** The keys that it has unless the user chooses others, as `chordOf` writes them. */
  readonly keys?: readonly string[];
  readonly run: Thunk;
}

/** The segments in hand. */
export const chosen = (state: RootState): readonly string[] =>
  selectedSegments(state.session.selection, state.scene.document);

/** The incoming segment of the seam in hand, or the segments in hand. */
export const joinsInHand = (state: RootState): readonly string[] =>
  state.session.selection.kind === 'seam' ? [state.session.selection.id] : chosen(state);

/** An edit for the seam in hand, or the one before each segment in hand. */
export const forSeams = (label: string, edits: (id: string, state: RootState) => Edit[]): Thunk =>
  forEach(joinsInHand, label, edits);

/** An edit for each segment in hand, as one step of undo; says so where none is. */
export const forChosen = (
  label: string,
  edits: (id: string, state: RootState, scene: Scene) => Edit[],
): Thunk => forEach(chosen, label, edits);

const forEach =
  (
    of: (state: RootState) => readonly string[],
    label: string,
    edits: (id: string, state: RootState, scene: Scene) => Edit[],
  ): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const ids = of(state);
    const scene = state.scene.document;
    if (ids.length === 0 || !scene) return void dispatch(sessionActions.announced('Select a segment first'));
    const all = ids.flatMap((id) => edits(id, state, scene));
    if (all.length === 0) return;
    const done = dispatch(
      commit(all.length === 1 ? defined(all[0]) : { type: 'several', label, edits: all }),
    );
    if (done) dispatch(sessionActions.announced(label));
  };
