import type { Edit, Scene } from '@warper/core';
import { outermostGroup, defined } from '@warper/core';
import { commit, redo, undo } from '../../../store/edits';
import { selectedSegments, selectionOf } from '../../../store/selection';
import { selectPreviewPlan } from '../../../store/selectors';
import type { ViewAngle } from '../../../store/sessionSlice';
import { sessionActions } from '../../../store/sessionSlice';
import type { AppDispatch, RootState } from '../../../store/store';
import { togglePlay } from '../playback';
import { copy, paste } from './clipboard';
import { freshId } from '../../../data/freshId';

/** What a command does to the store. */
export type Thunk = (dispatch: AppDispatch, getState: () => RootState) => unknown;

/** Something that can be done from anywhere on the workbench. */
export interface Command {
  readonly name: string;
  readonly group: 'Segments' | 'Seams' | 'Groups' | 'Time' | 'View' | 'Scene';
  /** Keys as react-hotkeys-hook writes them, and as they are shown. */
  readonly keys?: string;
  readonly shown?: string;
  readonly run: Thunk;
}

const chosen = (state: RootState): readonly string[] =>
  selectedSegments(state.session.selection, state.scene.document);

/** An edit for each segment in hand, as one step of undo; says so where none is. */
const forChosen =
  (label: string, edits: (id: string, state: RootState, scene: Scene) => Edit[]): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const ids = chosen(state);
    const scene = state.scene.document;
    if (ids.length === 0 || !scene)
      return void dispatch(sessionActions.announced('No segment is in hand: choose one first'));
    const all = ids.flatMap((id) => edits(id, state, scene));
    if (all.length === 0) return;
    const done = dispatch(
      commit(all.length === 1 ? defined(all[0]) : { type: 'several', label, edits: all }),
    );
    if (done) dispatch(sessionActions.announced(label));
  };

/** The part of a segment's performance at the playhead, or every segment there where none is in hand. */
const atPlayhead =
  (label: string, edit: (id: string, frame: number) => Edit): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const frame = state.session.frame;
    const own = chosen(state);
    const segments = selectPreviewPlan(state).plan.characters.flatMap((c) => [
      ...c.segments,
      ...c.layers.flatMap((l) => l.segments),
    ]);
    const crossed = segments.filter((s) => frame > s.start && frame < s.end);
    const ids = crossed.filter((s) => own.length === 0 || own.includes(s.id)).map((s) => s.id);
    if (ids.length === 0)
      return void dispatch(sessionActions.announced('The playhead is on none of the segments in hand'));
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
    else {
      const ids = chosen(state);
      if (ids.length === 0) return;
      const edits = ids.map((segment) => ({ type: 'remove', segment, close }) as const);
      const label = `removing ${ids.length} segments`;
      if (!dispatch(commit(edits.length === 1 ? defined(edits[0]) : { type: 'several', label, edits })))
        return;
    }
    dispatch(sessionActions.selected({ kind: 'scene' }));
    dispatch(sessionActions.announced('Removed'));
  };

const group: Thunk = (dispatch, getState) => {
  const ids = chosen(getState());
  const scene = getState().scene.document;
  if (!scene || ids.length < 1) return;
  const id = freshId('k');
  const name = `Group ${Object.keys(scene.groups).length + 1}`;
  if (!dispatch(commit({ type: 'group', id, name, segments: ids }))) return;
  dispatch(sessionActions.selected({ kind: 'group', id }));
  dispatch(sessionActions.announced(`${ids.length} segments grouped`));
};

const ungroup: Thunk = (dispatch, getState) => {
  const { session, scene } = getState();
  const { selection } = session;
  if (!scene.document || selection.kind === 'scene') return;
  const group = selection.kind === 'group' ? selection.id : outermostGroup(scene.document, selection.id)?.id;
  if (!group) return;
  const ids = chosen(getState());
  dispatch(commit({ type: 'ungroup', group }));
  dispatch(sessionActions.selected(selectionOf(ids)));
  dispatch(sessionActions.announced('Ungrouped'));
};

const mark: Thunk = (dispatch, getState) => {
  const frame = getState().session.frame;
  const id = freshId('m');
  dispatch(commit({ type: 'marker', marker: { id, name: `frame ${frame}`, frame, end: null } }));
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

const go =
  (to: (frame: number, end: number) => number): Thunk =>
  (dispatch, getState) => {
    const { plan } = selectPreviewPlan(getState());
    dispatch(sessionActions.played(false));
    const frame = to(getState().session.frame, plan.end);
    dispatch(sessionActions.went(Math.min(Math.max(0, frame), Math.max(0, plan.end - 1))));
  };

const zoom =
  (by: number): Thunk =>
  (dispatch, getState) =>
    dispatch(sessionActions.zoomed(getState().session.pixelsPerFrame * by));

const ANGLES: readonly (readonly [ViewAngle, string])[] = [
  ['free', 'Look around'],
  ['front', 'Look from the front'],
  ['side', 'Look from the side'],
  ['top', 'Look from the top'],
  ['both', 'Look from the front and the side'],
];

/** Everything that has a key or a place in the palette, in the order in which it is listed. */
export const COMMANDS: readonly Command[] = [
  {
    name: 'Cut at the playhead',
    group: 'Segments',
    keys: 'c',
    shown: 'C',
    run: atPlayhead('Cut', (segment, frame) => ({ type: 'cut', segment, frame, id: freshId('g') })),
  },
  {
    name: 'Trim the start to the playhead',
    group: 'Segments',
    keys: 'comma',
    shown: ',',
    run: trimTo('start'),
  },
  { name: 'Trim the end to the playhead', group: 'Segments', keys: 'period', shown: '.', run: trimTo('end') },
  {
    name: 'Freeze the frame at the playhead for a second',
    group: 'Segments',
    keys: 'f',
    shown: 'F',
    run: freezeASecond(),
  },
  {
    name: 'Duplicate',
    group: 'Segments',
    keys: 'd',
    shown: 'D',
    run: forChosen('Duplicated', (segment) => [{ type: 'duplicate', segment, id: freshId('g') }]),
  },
  {
    name: 'Remove and close the gap',
    group: 'Segments',
    keys: 'delete, backspace',
    shown: 'Delete',
    run: remove(true),
  },
  {
    name: 'Remove and leave the gap',
    group: 'Segments',
    keys: 'shift+delete, shift+backspace',
    shown: 'Shift Delete',
    run: remove(false),
  },
  {
    name: 'Swap with the next',
    group: 'Segments',
    keys: 'w',
    shown: 'W',
    run: forChosen('Swapped with the next', (segment) => [{ type: 'swap', segment }]),
  },
  {
    name: 'Play backwards, or forwards again',
    group: 'Segments',
    keys: 'r',
    shown: 'R',
    run: forChosen('Turned round in time', (segment, _, s) => [
      { type: 'change', segment, values: { reverse: !defined(s.segments[segment]).reverse } },
    ]),
  },
  {
    name: 'Mirror, or as recorded again',
    group: 'Segments',
    keys: 'm',
    shown: 'M',
    run: forChosen('Mirrored', (segment, _, s) => [
      { type: 'change', segment, values: { mirror: !defined(s.segments[segment]).mirror } },
    ]),
  },
  {
    name: 'Switch off, or on again',
    group: 'Segments',
    keys: 'x',
    shown: 'X',
    run: forChosen('Switched', (segment, _, s) => [
      { type: 'switch', segment, off: !defined(s.segments[segment]).off },
    ]),
  },
  { name: 'Copy', group: 'Segments', keys: 'mod+c', shown: 'Ctrl C', run: copy },
  {
    name: 'Paste at the playhead, and push the rest on',
    group: 'Segments',
    keys: 'mod+v',
    shown: 'Ctrl V',
    run: paste,
  },
  {
    name: 'Choose every segment',
    group: 'Segments',
    keys: 'mod+a',
    shown: 'Ctrl A',
    run: (dispatch, getState) =>
      dispatch(sessionActions.selected(selectionOf(Object.keys(getState().scene.document?.segments ?? {})))),
  },
  {
    name: 'Make a crossfade as long as the motions ask for',
    group: 'Seams',
    run: forChosen('Crossfaded', (segment) => [{ type: 'overlap', segment, frames: 'auto' }]),
  },
  {
    name: 'Make the seam a cut',
    group: 'Seams',
    run: forChosen('Cut', (segment) => [{ type: 'overlap', segment, frames: 0 }]),
  },
  { name: 'Group', group: 'Groups', keys: 'g', shown: 'G', run: group },
  { name: 'Ungroup', group: 'Groups', keys: 'shift+g', shown: 'Shift G', run: ungroup },
  { name: 'Play or pause', group: 'Time', keys: 'space', shown: 'Space', run: togglePlay() },
  { name: 'One frame back', group: 'Time', keys: 'left', shown: '←', run: go((f) => f - 1) },
  { name: 'One frame on', group: 'Time', keys: 'right', shown: '→', run: go((f) => f + 1) },
  { name: 'Ten frames back', group: 'Time', keys: 'shift+left', shown: 'Shift ←', run: go((f) => f - 10) },
  { name: 'Ten frames on', group: 'Time', keys: 'shift+right', shown: 'Shift →', run: go((f) => f + 10) },
  { name: 'First frame', group: 'Time', keys: 'home', shown: 'Home', run: go(() => 0) },
  { name: 'Last frame', group: 'Time', keys: 'end', shown: 'End', run: go((_, end) => end - 1) },
  { name: 'Put a marker at the playhead', group: 'Time', keys: 'n', shown: 'N', run: mark },
  { name: 'Begin the play range at the playhead', group: 'Time', keys: 'b', shown: 'B', run: range('from') },
  { name: 'End the play range at the playhead', group: 'Time', keys: 'e', shown: 'E', run: range('to') },
  {
    name: 'Play the whole piece',
    group: 'Time',
    keys: 'shift+b, shift+e',
    shown: 'Shift B',
    run: range(null),
  },
  { name: 'Zoom in', group: 'View', keys: 'plus, equal, shift+equal', shown: '+', run: zoom(1.3) },
  { name: 'Zoom out', group: 'View', keys: 'minus', shown: '−', run: zoom(1 / 1.3) },
  ...ANGLES.map(([angle, name], i): Command => ({
    name,
    group: 'View',
    keys: `${i + 1}`,
    shown: `${i + 1}`,
    run: (dispatch) => dispatch(sessionActions.turned(angle)),
  })),
  {
    name: 'Show the lanes or the cue sheet',
    group: 'View',
    keys: 'q',
    shown: 'Q',
    run: (dispatch, getState) =>
      dispatch(sessionActions.showedBelow(getState().session.below === 'lanes' ? 'cues' : 'lanes')),
  },
  { name: 'Undo', group: 'Scene', keys: 'mod+z', shown: 'Ctrl Z', run: undo() },
  { name: 'Redo', group: 'Scene', keys: 'mod+shift+z, mod+y', shown: 'Ctrl Shift Z', run: redo() },
  {
    name: 'Say how far it is saved',
    group: 'Scene',
    keys: 'mod+s',
    shown: 'Ctrl S',
    run: (dispatch) => dispatch(sessionActions.announced('Every edit is saved at once')),
  },
];

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
