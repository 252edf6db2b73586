import { framesPerSecond, soundEnd, steadyBeats, tempoOf } from '@warper/core';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { AppDispatch, RootState } from '../../../store/store';

/** Taps that at least make a tempo, and milliseconds after the last of them until it is taken. */
const LEAST = 4;
const WAIT = 1500;

/** Taps on the beat of one sound, seconds of its file. */
let taps: { readonly sound: string; readonly times: number[] } | null = null;
let timer = 0;

/** The sound in hand, else the first that is heard at the playhead. */
function tapped(state: RootState) {
  const { selection, frame } = state.session;
  const scene = state.scene.document;
  if (!scene) return undefined;
  if (selection.kind === 'sound') return scene.sounds[selection.id];
  const fps = framesPerSecond(selectPreviewPlan(state).plan.rate);
  return Object.values(scene.sounds).find((s) => s.start <= frame && frame < soundEnd(s, fps));
}

/** Takes a tap on the beat while the sound plays; a moment after the last one the sound has the steady beat that is nearest to all. */
export const tapBeat = (dispatch: AppDispatch, getState: () => RootState): void => {
  const state = getState();
  const sound = tapped(state);
  if (!sound || !state.session.playing) {
    dispatch(sessionActions.announced('Select a sound and play it, then tap its beats'));
    return;
  }
  const fps = framesPerSecond(selectPreviewPlan(state).plan.rate);
  // In the middle of its frame, which a tap is on average.
  const passed = (state.session.frame + 0.5 - sound.start) / fps;
  const time = sound.in + (passed % (sound.out - sound.in));
  const last = taps?.times.at(-1);
  if (taps?.sound !== sound.id || (last !== undefined && time <= last)) taps = { sound: sound.id, times: [] };
  taps.times.push(time);
  dispatch(sessionActions.announced(`Beat ${taps.times.length}`));
  window.clearTimeout(timer);
  timer = window.setTimeout(() => {
    const { times } = taps ?? { times: [] };
    taps = null;
    const tempo = tempoOf(times);
    if (!tempo || times.length < LEAST) {
      dispatch(sessionActions.announced(`Tap ${LEAST} beats or more`));
      return;
    }
    const beats = steadyBeats(tempo, 0, sound.seconds);
    if (dispatch(commit({ type: 'change sound', sound: sound.id, values: { beats } })))
      dispatch(sessionActions.announced(`${Math.round(60 / tempo.period)} beats a minute`));
  }, WAIT);
};
