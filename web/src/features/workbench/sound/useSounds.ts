import { framesPerSecond } from '@warper/core';
import { useEffect, useState } from 'react';
import { useStore } from 'react-redux';
import { decodedSound, dropSoundsBut, soundBuffer } from '../../../data/sounds';
import { scheduleSounds } from '../../../parts/sound/scheduleSounds';
import { selectHeard } from '../../../store/heard';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { describeError } from '../../../data/importFiles';
import { audio } from './audio';

/** Has the sounds of the scene decoded before they are played, and heard while the playhead is dragged. */
export function useSounds(): void {
  useDecoding();
  useScrubbing();
}

function useDecoding(): void {
  const dispatch = useAppDispatch();
  const heard = useAppSelector(selectHeard);
  // What is wrong with a sound is told once.
  const [told] = useState(() => new Set<string>());
  useEffect(() => {
    const sources = new Set(heard.map((s) => s.source));
    dropSoundsBut(sources);
    for (const source of sources)
      soundBuffer(source).catch((error: unknown) => {
        if (told.has(source)) return;
        told.add(source);
        dispatch(sessionActions.refused(describeError(error)));
      });
  }, [heard, told, dispatch]);
}

/** Seconds of a sound that are heard at a frame while the playhead is dragged, and in which it comes and goes. */
const SCRUB_SECONDS = 0.09;
const SCRUB_FADE = 0.012;

/** A page may be heard once something was done on it; browsers that do not tell let it try. */
const mayBeHeard = (): boolean =>
  (navigator as { readonly userActivation?: UserActivation }).userActivation?.hasBeenActive ?? true;

function useScrubbing(): void {
  const store = useStore<RootState>();
  useEffect(() => {
    let last = store.getState().session.frame;
    let end = (): void => undefined;
    const unsubscribe = store.subscribe(() => {
      const state = store.getState();
      const { frame, playing, soundOn } = state.session;
      if (frame === last) return;
      last = frame;
      if (playing || !soundOn) return;
      const heard = selectHeard(state);
      if (heard.length === 0 || !mayBeHeard()) return;
      end();
      end = scrub(frame / framesPerSecond(selectPreviewPlan(state).plan.rate), heard);
    });
    return () => {
      unsubscribe();
      end();
    };
  }, [store]);
}

/** Plays a moment of the scene. */
function scrub(from: number, heard: ReturnType<typeof selectHeard>): () => void {
  const { context, master } = audio();
  const at = context.currentTime + 0.005;
  const grain = new GainNode(context, { gain: 0 });
  grain.gain.setValueAtTime(0, at);
  grain.gain.linearRampToValueAtTime(1, at + SCRUB_FADE);
  grain.gain.setValueAtTime(1, at + SCRUB_SECONDS - SCRUB_FADE);
  grain.gain.linearRampToValueAtTime(0, at + SCRUB_SECONDS);
  grain.connect(master);
  const stop = scheduleSounds(grain, heard, decodedSound, { from, to: from + SCRUB_SECONDS, at, pace: 1 });
  return () => {
    stop();
    grain.disconnect();
  };
}
