import type { Edit } from '@warper/core';
import { PLAIN_STEP, defined, stepFrames } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { commit } from '../../../store/edits';
import { selectionOf } from '../../../store/selection';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { copy, paste } from './clipboard';
import type { Command, Thunk } from './command';
import { makeAutomatic, makePlain } from '../../../store/choices';
import { chosen, forChosen, forSeams, joinsInHand } from './command';

/** The part of a segment's performance at the playhead, or every segment there where none is in hand. */
const atPlayhead =
  (label: string, edit: (id: string, frame: number) => Edit): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const frame = state.session.frame;
    const selected = chosen(state);
    const segments = selectPreviewPlan(state).plan.characters.flatMap((c) => [
      ...c.segments,
      ...c.layers.flatMap((l) => l.segments),
    ]);
    const crossed = segments.filter((s) => frame > s.start && frame < s.end);
    const ids = crossed.filter((s) => selected.length === 0 || selected.includes(s.id)).map((s) => s.id);
    if (ids.length === 0)
      return void dispatch(sessionActions.announced('The playhead is on none of the selected segments'));
    const edits = ids.map((id) => edit(id, frame));
    if (dispatch(commit(edits.length === 1 ? defined(edits[0]) : { type: 'several', label, edits })))
      dispatch(sessionActions.announced(label));
  };

const trimTo = (edge: 'start' | 'end'): Thunk =>
  atPlayhead(`Trimmed the ${edge} to the playhead`, (segment, frame) => ({
    type: 'trim',
    segment,
    edge,
    frame,
  }));

const remove =
  (close: boolean): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const { selection } = state.session;
    if (selection.kind === 'marker') dispatch(commit({ type: 'remove marker', marker: selection.id }));
    else if (selection.kind === 'tether') dispatch(commit({ type: 'remove tether', tether: selection.id }));
    else {
      const ids = chosen(state);
      if (ids.length === 0) return;
      const edits = ids.map((segment) => ({ type: 'remove', segment, close }) as const);
      const label = `removal of ${ids.length} segments`;
      if (!dispatch(commit(edits.length === 1 ? defined(edits[0]) : { type: 'several', label, edits })))
        return;
    }
    dispatch(sessionActions.selected({ kind: 'scene' }));
    dispatch(sessionActions.announced('Removed'));
  };

function freezeASecond(): Thunk {
  return (dispatch, getState) => {
    const { rate } = selectPreviewPlan(getState()).plan;
    const frames = Math.round(rate.num / rate.den);
    atPlayhead('Frozen for a second', (segment, frame) => ({
      type: 'freeze',
      segment,
      frame,
      frames,
      id: freshId('g'),
    }))(dispatch, getState);
  };
}

/** What can be done with segments. */
export const SEGMENT_COMMANDS: readonly Command[] = [
  {
    id: 'cut',
    name: 'Cut at the playhead',
    words: 'split blade divide',
    group: 'Segments',
    keys: ['C'],
    run: atPlayhead('Cut', (segment, frame) => ({ type: 'cut', segment, frame, id: freshId('g') })),
  },
  {
    id: 'trim start',
    name: 'Trim start to the playhead',
    words: 'crop in point shorten',
    group: 'Segments',
    keys: [','],
    run: trimTo('start'),
  },
  {
    id: 'trim end',
    name: 'Trim end to the playhead',
    words: 'crop out point shorten',
    group: 'Segments',
    keys: ['.'],
    run: trimTo('end'),
  },
  {
    id: 'freeze',
    name: 'Freeze frame for a second',
    words: 'hold still pause pose',
    group: 'Segments',
    keys: ['F'],
    run: freezeASecond(),
  },
  {
    id: 'duplicate',
    name: 'Duplicate',
    words: 'copy clone repeat',
    group: 'Segments',
    keys: ['D'],
    run: forChosen('Duplicated', (segment) => [{ type: 'duplicate', segment, id: freshId('g') }]),
  },
  {
    id: 'remove',
    name: 'Remove and close the gap',
    words: 'delete erase ripple',
    group: 'Segments',
    keys: ['Delete', 'Backspace'],
    run: remove(true),
  },
  {
    id: 'remove and leave gap',
    name: 'Remove and leave the gap',
    words: 'delete erase lift',
    group: 'Segments',
    keys: ['Shift+Delete', 'Shift+Backspace'],
    run: remove(false),
  },
  {
    id: 'swap',
    name: 'Swap with the next segment',
    words: 'exchange order',
    group: 'Segments',
    keys: ['W'],
    run: forChosen('Swapped with the next', (segment) => [{ type: 'swap', segment }]),
  },
  {
    id: 'reverse',
    name: 'Reverse',
    words: 'backwards rewind time',
    group: 'Segments',
    keys: ['R'],
    run: forChosen('Reversed', (segment, _, s) => [
      { type: 'change', segment, values: { reverse: !defined(s.segments[segment]).reverse } },
    ]),
  },
  {
    id: 'mirror',
    name: 'Mirror left/right',
    words: 'flip swap sides',
    group: 'Segments',
    keys: ['M'],
    run: forChosen('Mirrored', (segment, _, s) => [
      { type: 'change', segment, values: { mirror: !defined(s.segments[segment]).mirror } },
    ]),
  },
  {
    id: 'disable',
    name: 'Disable or enable',
    words: 'switch off on mute bypass',
    group: 'Segments',
    keys: ['X'],
    run: forChosen('Disabled or enabled', (segment, _, s) => [
      { type: 'switch', segment, off: !defined(s.segments[segment]).off },
    ]),
  },
  { id: 'copy', name: 'Copy', words: 'clipboard', group: 'Segments', keys: ['Mod+C'], run: copy },
  {
    id: 'paste',
    name: 'Paste at the playhead',
    words: 'clipboard insert',
    group: 'Segments',
    keys: ['Mod+V'],
    run: paste,
  },
  {
    id: 'select all',
    name: 'Select all segments',
    words: 'choose every',
    group: 'Segments',
    keys: ['Mod+A'],
    run: (dispatch, getState) =>
      dispatch(sessionActions.selected(selectionOf(Object.keys(getState().scene.document?.segments ?? {})))),
  },
  {
    id: 'crossfade',
    name: 'Crossfade of automatic length',
    words: 'blend overlap transition seam',
    group: 'Seams',
    run: forSeams('Crossfaded', (segment) => [{ type: 'overlap', segment, frames: 'auto' }]),
  },
  {
    id: 'choose join',
    name: 'Choose the join automatically',
    words: 'auto mend best seam step match',
    group: 'Seams',
    keys: ['J'],
    run: (dispatch, getState) => dispatch(makeAutomatic(joinsInHand(getState()))),
  },
  {
    id: 'plain join',
    name: 'Make the join a plain crossfade',
    words: 'reset default seam',
    group: 'Seams',
    keys: ['Shift+J'],
    run: (dispatch, getState) => dispatch(makePlain(joinsInHand(getState()))),
  },
  {
    id: 'make step',
    name: 'Make a step at the seam',
    words: 'foot feet footstep stance seam',
    group: 'Seams',
    run: forSeams('Step made', (segment, state) => [
      { type: 'seam', segment, values: {}, join: PLAIN_STEP },
      { type: 'overlap', segment, frames: stepFrames(selectPreviewPlan(state).plan.rate) },
    ]),
  },
  {
    id: 'seam cut',
    name: 'Make the seam a cut',
    words: 'hard no blend overlap',
    group: 'Seams',
    run: forSeams('Cut', (segment) => [{ type: 'overlap', segment, frames: 0 }]),
  },
];
