import { freshId } from '../../../data/freshId';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { PACES } from '../../../store/sessionState';
import { togglePlay } from '../playback';
import type { Command, Thunk } from './command';

const mark: Thunk = (dispatch, getState) => {
  const frame = getState().session.frame;
  const id = freshId('m');
  dispatch(commit({ type: 'marker', marker: { id, name: `Frame ${frame}`, frame, end: null, impact: [] } }));
  dispatch(sessionActions.selected({ kind: 'marker', id }));
  dispatch(sessionActions.announced(`Marker at frame ${frame}`));
};

const range =
  (side: 'from' | 'to' | null): Thunk =>
  (dispatch, getState) => {
    const frame = getState().session.frame;
    const { plan } = selectPreviewPlan(getState());
    const current = getState().scene.document?.range ?? { from: 0, to: Math.max(1, plan.end) };
    if (side === null) return void dispatch(commit({ type: 'range', range: null }));
    const next = side === 'from' ? { ...current, from: frame } : { ...current, to: frame + 1 };
    if (next.to <= next.from) next[side === 'from' ? 'to' : 'from'] = side === 'from' ? frame + 1 : frame;
    dispatch(commit({ type: 'range', range: next }));
    dispatch(sessionActions.announced(`Plays frames ${next.from} to ${next.to}`));
  };

/** Stops, and goes to a frame of the scene. */
const go =
  (to: (frame: number, end: number) => number): Thunk =>
  (dispatch, getState) => {
    const { plan } = selectPreviewPlan(getState());
    dispatch(sessionActions.played(false));
    const frame = to(getState().session.frame, plan.end);
    dispatch(sessionActions.went(Math.min(Math.max(0, frame), Math.max(0, plan.end - 1))));
  };

const pace =
  (by: 1 | -1): Thunk =>
  (dispatch, getState) => {
    const at = PACES.indexOf(getState().session.pace) + by;
    const next = PACES[Math.min(Math.max(0, at), PACES.length - 1)];
    if (next === undefined) return;
    dispatch(sessionActions.paced(next));
    dispatch(sessionActions.announced(`Playback at ${next * 100} %`));
  };

const unit: Thunk = (dispatch, getState) => {
  const next = { seconds: 'timecode', timecode: 'frames', frames: 'seconds' } as const;
  dispatch(sessionActions.unitChosen(next[getState().session.unit]));
};

/** What can be done with time: playback, the playhead, markers and the play range. */
export const TIME_COMMANDS: readonly Command[] = [
  {
    id: 'play',
    name: 'Play or pause',
    words: 'start stop preview',
    group: 'Time',
    keys: ['Space'],
    run: togglePlay(),
  },
  {
    id: 'back',
    name: 'Previous frame',
    words: 'step back',
    group: 'Time',
    keys: ['Left'],
    run: go((f) => f - 1),
  },
  {
    id: 'on',
    name: 'Next frame',
    words: 'step forward',
    group: 'Time',
    keys: ['Right'],
    run: go((f) => f + 1),
  },
  { id: 'ten back', name: 'Ten frames back', group: 'Time', keys: ['Shift+Left'], run: go((f) => f - 10) },
  { id: 'ten on', name: 'Ten frames forward', group: 'Time', keys: ['Shift+Right'], run: go((f) => f + 10) },
  {
    id: 'first',
    name: 'First frame',
    words: 'start beginning',
    group: 'Time',
    keys: ['Home'],
    run: go(() => 0),
  },
  {
    id: 'last',
    name: 'Last frame',
    words: 'end',
    group: 'Time',
    keys: ['End'],
    run: go((_, end) => end - 1),
  },
  {
    id: 'loop playback',
    name: 'Loop playback',
    words: 'repeat cycle over',
    group: 'Time',
    keys: ['Shift+L'],
    run: (dispatch, getState) => dispatch(sessionActions.looped(!getState().session.looping)),
  },
  {
    id: 'slower',
    name: 'Slower playback',
    words: 'speed half quarter pace',
    group: 'Time',
    keys: ['['],
    run: pace(-1),
  },
  {
    id: 'faster',
    name: 'Faster playback',
    words: 'speed double pace',
    group: 'Time',
    keys: [']'],
    run: pace(1),
  },
  {
    id: 'marker',
    name: 'Add marker at the playhead',
    words: 'flag note',
    group: 'Time',
    keys: ['N'],
    run: mark,
  },
  {
    id: 'range start',
    name: 'Start the play range at the playhead',
    words: 'in point work area',
    group: 'Time',
    keys: ['B'],
    run: range('from'),
  },
  {
    id: 'range end',
    name: 'End the play range at the playhead',
    words: 'out point work area',
    group: 'Time',
    keys: ['E'],
    run: range('to'),
  },
  {
    id: 'whole range',
    name: 'Play the whole scene',
    words: 'clear range work area',
    group: 'Time',
    keys: ['Shift+B', 'Shift+E'],
    run: range(null),
  },
  {
    id: 'unit',
    name: 'Seconds, timecode or frames',
    words: 'settings clock units ruler smpte',
    group: 'Time',
    run: unit,
  },
];
