import type { FrameSpan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { selectHeard } from '../../store/heard';
import { selectPreviewPlan } from '../../store/selectors';
import { sessionActions } from '../../store/sessionSlice';
import type { AppDispatch, RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';
import type { Passage } from './sound/soundClock';
import { frameAfter, silentClock, soundClock } from './sound/soundClock';

/** Plays the scene at its pace, whatever the display manages to draw; with sound, as that is heard. */
export function usePlayback(): void {
  const store = useStore<RootState>();
  const dispatch = useAppDispatch();
  const playing = useAppSelector((s) => s.session.playing);
  const pace = useAppSelector((s) => s.session.pace);
  const seamLoop = useAppSelector((s) => s.session.seamLoop);
  const isHeard = useAppSelector((s) => isSounding(s));
  useEffect(() => {
    if (!playing) return;
    const range = rangeOf(store.getState());
    const at = store.getState().session.frame;
    const begin = range && (at < range.from || at >= range.to) ? range.from : at;
    const first = passageOf(store.getState(), begin);
    const clock = isHeard ? soundClock(first) : silentClock(first);
    const show = (frame: number): void => {
      if (frame !== store.getState().session.frame) dispatch(sessionActions.went(frame));
    };
    let request = 0;
    const tick = (): void => {
      const state = store.getState();
      const passage = passageOf(state, begin);
      const frame = frameAfter(clock.passed(), begin, passage);
      if (frame === null) {
        if (passage.to > passage.from) show(passage.to - 1);
        return void dispatch(sessionActions.played(false));
      }
      clock.keepUp(selectHeard(state), passage);
      show(Math.floor(frame));
      request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(request);
      clock.stop();
    };
  }, [playing, pace, seamLoop, isHeard, store, dispatch]);
}

/** Whether the scene is to be heard. */
const isSounding = (state: RootState): boolean =>
  state.session.soundOn && (state.scene.document?.soundLaneOrder.length ?? 0) > 0;

/** What plays now, as it stands. */
function passageOf(state: RootState, begin: number): Passage {
  const { plan } = selectPreviewPlan(state);
  const { from, to } = rangeOf(state) ?? { from: 0, to: plan.end };
  const { pace } = state.session;
  return { begin, from, to, loops: isLooping(state), fps: framesPerSecond(plan.rate), pace };
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
