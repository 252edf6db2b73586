import type { SeamMeasures } from '@warper/core';
import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { toast } from 'sonner';
import { makeAutomatic } from '../../store/choices';
import { worseJoins } from '../../store/joins';
import { compileScene } from '../../store/plan';
import { sessionActions } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch } from '../../store/store';
import { SEAM_MEASURES } from '../../ui/grade';
import type { Thunk } from './commands/command';

/** The message about worse joins; a later one takes its place. */
const WORSE = 'worse join';

/** Says when an edit of segments has made a join worse, with what mends it. A seam that is edited itself is left to the user. */
export function useJoinWatch(): void {
  const store = useStore<RootState>();
  const dispatch = useAppDispatch();
  useEffect(() => {
    let { scene: seen } = store.getState();
    /** What was there before the edits that nothing was said of yet. */
    let before: SceneState | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = store.subscribe(() => {
      const { scene, session } = store.getState();
      if (scene.document !== seen.document) {
        before ??= seen;
        seen = scene;
      }
      if (!before) return;
      clearTimeout(timer);
      // Joins that are being chosen are told of once they are.
      if (session.choosing.length > 0) return;
      const old = before;
      // After the picture of the edit itself.
      timer = setTimeout(() => {
        before = null;
        const edited = scene.past.length > old.past.length && scene.future.length === 0;
        if (edited && store.getState().session.selection.kind !== 'seam') dispatch(tellWorse(old, scene));
      }, 0);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [store, dispatch]);
}

type SceneState = RootState['scene'];

const tellWorse =
  (before: SceneState, after: SceneState): Thunk =>
  (dispatch) => {
    if (!before.document || !after.document) return;
    const joins = worseJoins(compileScene(before.document).plan, compileScene(after.document).plan);
    const [worst, ...others] = joins.sort((a, b) => sizeOf(b.measures) - sizeOf(a.measures));
    if (!worst) return void toast.dismiss(WORSE);
    const { from, to, measures, segment } = worst;
    const more = others.length > 0 ? `, and ${others.length} more` : '';
    toast.warning(`The join ${from} → ${to} is worse now: ${describeWorst(measures)}${more}`, {
      id: WORSE,
      action: { label: 'Mend', onClick: () => dispatch(mendJoin(segment)) },
    });
  };

const sizeOf = (measures: SeamMeasures): number => measures.popCm + measures.surgeCm;

const describeWorst = (measures: SeamMeasures): string => {
  const [name, key, write] = SEAM_MEASURES.find(([, k]) => k === measures.worst) ?? SEAM_MEASURES[0];
  return `${name.toLowerCase()} ${write(measures[key])}`;
};

/** Has a join chosen anew. */
const mendJoin =
  (segment: string): Thunk =>
  (dispatch) => {
    dispatch(sessionActions.selected({ kind: 'seam', id: segment }));
    void dispatch(makeAutomatic([segment]));
  };
