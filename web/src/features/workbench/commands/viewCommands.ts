import type { ViewAngle } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import { toggleSeamDesk } from '../desk/seamInHand';
import type { Command, Thunk } from './command';

const zoom =
  (by: number): Thunk =>
  (dispatch, getState) =>
    dispatch(sessionActions.zoomed(getState().session.pixelsPerFrame * by));

const ANGLES: readonly (readonly [ViewAngle, string])[] = [
  ['free', 'Look around'],
  ['front', 'Look from the front'],
  ['side', 'Look from the side'],
  ['top', 'Look from the top'],
  ['both', 'Look from front and side'],
  ['camera', 'Look through the camera of the shot'],
];

const ghosts =
  (by: number): Thunk =>
  (dispatch, getState) => {
    const { count, spacing } = getState().session.ghosts;
    const next = Math.min(8, Math.max(0, count + by));
    dispatch(sessionActions.ghosted({ spacing, count: next }));
    dispatch(sessionActions.announced(`${next} ghosts on either side`));
  };

const theme: Thunk = (dispatch, getState) => {
  const next = getState().session.theme === 'day' ? 'night' : 'day';
  dispatch(sessionActions.themed(next));
};

const autoFollow: Thunk = (dispatch, getState) => {
  const on = !getState().session.autoFollow;
  dispatch(sessionActions.autoFollowed(on));
  dispatch(
    sessionActions.announced(
      on ? 'Playing follows a character who leaves the view' : 'Playing leaves the view where it is',
    ),
  );
};

/** What can be done with the view and the timeline's look. */
export const VIEW_COMMANDS: readonly Command[] = [
  {
    id: 'frame',
    name: 'Frame the selection',
    words: 'bring into view centre center focus zoom find',
    group: 'View',
    keys: ['V'],
    run: (dispatch) => dispatch(sessionActions.framed('selection')),
  },
  {
    id: 'frame all',
    name: 'Frame the whole scene',
    words: 'bring into view everything centre center home',
    group: 'View',
    keys: ['Shift+V'],
    run: (dispatch) => dispatch(sessionActions.framed('scene')),
  },
  {
    id: 'zoom in',
    name: 'Zoom in',
    words: 'timeline larger',
    group: 'View',
    keys: ['+', '='],
    run: zoom(1.3),
  },
  {
    id: 'zoom out',
    name: 'Zoom out',
    words: 'timeline smaller',
    group: 'View',
    keys: ['-'],
    run: zoom(1 / 1.3),
  },
  ...ANGLES.map(([angle, name], i): Command => ({
    id: `look ${angle}`,
    name,
    words: 'camera view angle',
    group: 'View',
    keys: [`${i + 1}`],
    run: (dispatch) => dispatch(sessionActions.turned(angle)),
  })),
  {
    id: 'auto follow',
    name: 'Follow while playing, or not',
    words: 'settings camera character leaves view track',
    group: 'View',
    run: autoFollow,
  },
  {
    id: 'more ghosts',
    name: 'More ghosts',
    words: 'onion skin',
    group: 'View',
    keys: ['O'],
    run: ghosts(1),
  },
  {
    id: 'fewer ghosts',
    name: 'Fewer ghosts',
    words: 'onion skin',
    group: 'View',
    keys: ['Shift+O'],
    run: ghosts(-1),
  },
  {
    id: 'theme',
    name: 'Day or Night',
    words: 'settings dark light theme colours colors',
    group: 'View',
    run: theme,
  },
  {
    id: 'below',
    name: 'Lanes or cue sheet',
    words: 'timeline table beats switch',
    group: 'View',
    keys: ['Q'],
    run: (dispatch, getState) =>
      dispatch(sessionActions.showedBelow(getState().session.below === 'lanes' ? 'cues' : 'lanes')),
  },
  {
    id: 'curves',
    name: 'Curves, or lanes',
    words: 'graph keys tangents bezier weight speed channels f-curve',
    group: 'View',
    keys: ['Y'],
    run: (dispatch, getState) =>
      dispatch(sessionActions.showedBelow(getState().session.below === 'curves' ? 'lanes' : 'curves')),
  },
  {
    id: 'seam desk',
    name: 'Seam desk, or lanes',
    words: 'join strips poses charts compare matching frames transition',
    group: 'View',
    keys: ['K'],
    run: toggleSeamDesk,
  },
  {
    id: 'continuity list',
    name: 'What needs a look, or lanes',
    words: 'continuity list measures worst report mend slide float',
    group: 'View',
    keys: ['Shift+K'],
    run: (dispatch, getState) =>
      dispatch(
        sessionActions.showedBelow(getState().session.below === 'continuity' ? 'lanes' : 'continuity'),
      ),
  },
];
