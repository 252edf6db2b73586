import { useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import { selectPreviewPlan } from '../../store/selectors';
import type { Selection } from '../../store/sessionState';
import { sessionActions } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { spanOf } from './spanOf';

/** Moves the playhead to a segment or seam that is selected while it is elsewhere; not while it plays or a drag lasts. */
export function usePlayheadAtSelection(): void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const selection = useAppSelector((s) => s.session.selection);
  const seen = useRef<Selection>(selection);
  useEffect(() => {
    if (seen.current === selection) return;
    seen.current = selection;
    const { session, scene } = store.getState();
    if (session.playing || scene.draft !== null) return;
    if (selection.kind !== 'seam' && (selection.kind !== 'segment' || selection.with?.length)) return;
    const span = spanOf(selectPreviewPlan(store.getState()).plan, selection);
    if (span && (session.frame < span.from || session.frame >= span.to))
      dispatch(
        sessionActions.went(selection.kind === 'seam' ? Math.floor((span.from + span.to) / 2) : span.from),
      );
  }, [selection, store, dispatch]);
}
