import type { FrameSpan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { selectPreviewPlan } from '../../store/selectors';
import { sessionActions } from '../../store/sessionSlice';
import type { AppDispatch, RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';

/** Plays the scene at its pace, whatever the display manages to draw. */
export function usePlayback(): void {
  const store = useStore<RootState>();
  const dispatch = useAppDispatch();
  const playing = useAppSelector((s) => s.session.playing);
  const pace = useAppSelector((s) => s.session.pace);
  const seamLoop = useAppSelector((s) => s.session.seamLoop);
  useEffect(() => {
    if (!playing) return;
    const { plan } = selectPreviewPlan(store.getState());
    const range = rangeOf(store.getState());
    const at = store.getState().session.frame;
    const begin = range && (at < range.from || at >= range.to) ? range.from : at;
    const since = performance.now();
    const fps = framesPerSecond(plan.rate) * pace;
    const show = (frame: number): void => {
      if (frame !== store.getState().session.frame) dispatch(sessionActions.went(frame));
    };
    let request = 0;
    const tick = (current: number): void => {
      const { from, to: end } = rangeOf(store.getState()) ?? {
        from: 0,
        to: selectPreviewPlan(store.getState()).plan.end,
      };
      const frame = Math.floor(begin + (Math.max(0, current - since) / 1000) * fps);
      if (end <= from) return void dispatch(sessionActions.played(false));
      if (frame < end) show(frame);
      else if (isLooping(store.getState())) show(from + ((frame - from) % (end - from)));
      else {
        show(end - 1);
        return void dispatch(sessionActions.played(false));
      }
      request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(request);
  }, [playing, pace, seamLoop, store, dispatch]);
}

const rangeOf = (state: RootState): FrameSpan | null =>
  state.session.seamLoop ?? state.scene.document?.range ?? null;

const isLooping = ({ session }: RootState): boolean => session.seamLoop !== null || session.looping;

/** Starts or stops; from the end it starts over. */
export const togglePlay = () => (dispatch: AppDispatch, getState: () => RootState) => {
  const { playing, frame } = getState().session;
  const { plan } = selectPreviewPlan(getState());
  const end = rangeOf(getState())?.to ?? plan.end;
  if (!playing && frame >= end - 1) dispatch(sessionActions.went(rangeOf(getState())?.from ?? 0));
  dispatch(sessionActions.played(!playing));
};
