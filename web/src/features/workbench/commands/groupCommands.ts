import { outermostGroup } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { commit } from '../../../store/edits';
import { selectionOf } from '../../../store/selection';
import { sessionActions } from '../../../store/sessionSlice';
import type { Command, Thunk } from './command';
import { chosen } from './command';

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

/** What can be done with groups. */
export const GROUP_COMMANDS: readonly Command[] = [
  { id: 'group', name: 'Group', words: 'together nest', group: 'Groups', keys: ['G'], run: group },
  {
    id: 'ungroup',
    name: 'Ungroup',
    words: 'apart dissolve',
    group: 'Groups',
    keys: ['Shift+G'],
    run: ungroup,
  },
];
