import { redo, undo } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { Command } from './command';

/** What concerns the scene as a whole. */
export const SCENE_COMMANDS: readonly Command[] = [
  { id: 'undo', name: 'Undo', words: 'back take', group: 'Scene', keys: ['Mod+Z'], run: undo() },
  {
    id: 'redo',
    name: 'Redo',
    words: 'again repeat',
    group: 'Scene',
    keys: ['Mod+Shift+Z', 'Mod+Y'],
    run: redo(),
  },
  {
    id: 'scene settings',
    name: 'Scene settings',
    words: 'rate frames per second fps properties',
    group: 'Scene',
    run: (dispatch) => dispatch(sessionActions.selected({ kind: 'scene' })),
  },
  {
    id: 'save',
    name: 'Show save status',
    words: 'autosave saved kept',
    group: 'Scene',
    keys: ['Mod+S'],
    run: (dispatch) => dispatch(sessionActions.announced('Every edit is saved at once')),
  },
];
