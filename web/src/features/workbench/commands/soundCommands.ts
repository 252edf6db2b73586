import { readCaptions, writeCaptions } from '@warper/formats/sound';
import { fileName } from '@warper/formats';
import { describeError } from '../../../data/importFiles';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { chooseFiles } from '../../../ui/chooseFiles';
import { download } from '../../../ui/download';
import { captionsEdit, captionsOf, newLine, newSoundLane } from '../sound/soundEdits';
import { tapBeat } from '../sound/taps';
import type { Command, Thunk } from './command';

const addLane: Thunk = (dispatch, getState) => {
  const scene = getState().scene.document;
  if (!scene) return;
  const lane = newSoundLane(scene);
  if (dispatch(commit({ type: 'sound lane', lane })))
    dispatch(sessionActions.selected({ kind: 'sound lane', id: lane.id }));
};

const addLine: Thunk = (dispatch, getState) => {
  const state = getState();
  const line = newLine(selectPreviewPlan(state).plan, Math.round(state.session.frame));
  if (dispatch(commit({ type: 'line', line })))
    dispatch(sessionActions.selected({ kind: 'line', id: line.id }));
};

const readLines: Thunk = (dispatch, getState) =>
  chooseFiles(([file]) => {
    if (!file) return;
    void file
      .text()
      .then((text) => readCaptions(text, file.name))
      .then((captions) => {
        const state = getState();
        const scene = state.scene.document;
        if (!scene) return;
        dispatch(commit(captionsEdit(scene, selectPreviewPlan(state).plan, captions)));
        dispatch(sessionActions.announced(`${captions.length} lines read`));
      })
      .catch((error: unknown) => dispatch(sessionActions.refused(describeError(error))));
  });

const saveLines: Thunk = (dispatch, getState) => {
  const state = getState();
  const scene = state.scene.document;
  if (!scene || Object.keys(scene.lines).length === 0)
    return void dispatch(sessionActions.announced('The scene has no lines yet'));
  const text = writeCaptions(captionsOf(scene, selectPreviewPlan(state).plan));
  download(new TextEncoder().encode(text), `${fileName(scene.name)}.vtt`, 'text/vtt');
};

/** What can be done with sounds and lines. */
export const SOUND_COMMANDS: readonly Command[] = [
  {
    id: 'sound on',
    name: 'Hear the sound, or not',
    words: 'audio mute volume silent',
    group: 'Sound',
    keys: ['A'],
    run: (dispatch, getState) => {
      const on = !getState().session.soundOn;
      dispatch(sessionActions.sounded(on));
      dispatch(sessionActions.announced(on ? 'Sound on' : 'Sound off'));
    },
  },
  {
    id: 'sound lane',
    name: 'New sound lane',
    words: 'audio track music steps',
    group: 'Sound',
    run: addLane,
  },
  {
    id: 'line',
    name: 'Line of dialogue at the playhead',
    words: 'caption subtitle speech text',
    group: 'Sound',
    keys: ['L'],
    run: addLine,
  },
  {
    id: 'read lines',
    name: 'Read lines from a captions file',
    words: 'webvtt vtt srt subtitles import dialogue',
    group: 'Sound',
    run: readLines,
  },
  {
    id: 'save lines',
    name: 'Save lines as WebVTT',
    words: 'vtt captions subtitles export dialogue',
    group: 'Sound',
    run: saveLines,
  },
  {
    id: 'tap beat',
    name: 'Tap the beat while it plays',
    words: 'tempo bpm rhythm',
    group: 'Sound',
    keys: ['P'],
    run: tapBeat,
  },
];
