import type { Camera, Edit, Plan, Scene } from '@warper/core';
import { keyCameraEdit, shotIndexAt } from '@warper/core';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { cameraFromView, shotFrom, standAtView } from '../filming/cameraEdits';
import { viewStand } from '../view/viewStand';
import type { Command, Thunk } from './command';

/** What a command about cameras begins with. */
interface InHand {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly frame: number;
  /** The one in hand, else the one that is looked through. */
  readonly camera: Camera | undefined;
}

function inHand(state: RootState): InHand | null {
  const scene = state.scene.document;
  if (!scene) return null;
  const { plan } = selectPreviewPlan(state);
  const { selection, filmedBy, frame } = state.session;
  const { cameras, shots } = plan.filming;
  const id =
    selection.kind === 'camera'
      ? selection.id
      : selection.kind === 'shot'
        ? scene.shots[selection.id]?.camera
        : (filmedBy ?? shots[shotIndexAt(shots, frame)]?.camera ?? cameras[0]?.id);
  return { scene, plan, frame: Math.round(frame), camera: id === undefined ? undefined : scene.cameras[id] };
}

/** Does something with the camera in hand; says so where there is none. */
const withCamera =
  (make: (own: InHand & { readonly camera: Camera }) => Edit | string | null, done: string): Thunk =>
  (dispatch, getState) => {
    const own = inHand(getState());
    if (!own?.camera)
      return void dispatch(sessionActions.announced('The scene has no camera yet: add one from the view'));
    const made = make({ ...own, camera: own.camera });
    if (typeof made === 'string') return void dispatch(sessionActions.announced(made));
    if (made && dispatch(commit(made)))
      dispatch(sessionActions.announced(`${own.camera.name}: ${done} at frame ${own.frame}`));
  };

const addCamera: Thunk = (dispatch, getState) => {
  const own = inHand(getState());
  const view = viewStand();
  if (!own || !view) return;
  const camera = cameraFromView(own.scene, own.plan, view);
  // The first camera of a scene is seen all through it.
  const isFirst = own.plan.filming.cameras.length === 0;
  const edits: Edit[] = [
    { type: 'camera', camera },
    ...(isFirst ? [{ type: 'shot' as const, shot: shotFrom(own.scene, own.plan, camera.id, 0) }] : []),
  ];
  if (!dispatch(commit({ type: 'several', label: `new camera ${camera.name}`, edits }))) return;
  dispatch(sessionActions.selected({ kind: 'camera', id: camera.id }));
  dispatch(sessionActions.announced(`${camera.name} added from the view`));
};

const addShot: Thunk = (dispatch, getState) => {
  const own = inHand(getState());
  if (!own) return;
  if (!own.camera) return void addCamera(dispatch, getState);
  const here = own.plan.filming.shots.find((s) => s.start === own.frame);
  if (here) {
    dispatch(sessionActions.selected({ kind: 'shot', id: here.id }));
    return void dispatch(sessionActions.announced(`${here.name} begins here already`));
  }
  const shot = shotFrom(own.scene, own.plan, own.camera.id, own.frame);
  if (!dispatch(commit({ type: 'shot', shot }))) return;
  dispatch(sessionActions.selected({ kind: 'shot', id: shot.id }));
  dispatch(sessionActions.announced(`${shot.name} from frame ${shot.start}`));
};

const lookThrough: Thunk = (dispatch, getState) => {
  const on = getState().session.angle !== 'camera';
  dispatch(sessionActions.turned(on ? 'camera' : 'free'));
  dispatch(sessionActions.announced(on ? 'Looking through the camera' : 'Looking around'));
};

/** Goes to the start of the shot before or after the playhead. */
const stepShot =
  (by: 1 | -1): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const { shots } = selectPreviewPlan(state).plan.filming;
    const { frame } = state.session;
    const shot = by > 0 ? shots.find((s) => s.start > frame) : shots.findLast((s) => s.start < frame);
    if (!shot) return void dispatch(sessionActions.announced('No other shot there'));
    dispatch(sessionActions.went(shot.start));
    dispatch(sessionActions.selected({ kind: 'shot', id: shot.id }));
  };

/** Where what a camera sees is shown next. */
const FILM_VIEWS = { none: 'corner', corner: 'beside', beside: 'none' } as const;

const FILM_VIEW_WORDS = {
  none: 'What the camera sees is not shown',
  corner: 'What the camera sees is in the corner of the view',
  beside: 'What the camera sees is beside the view',
} as const;

/** What can be done with cameras and shots. */
export const CAMERA_COMMANDS: readonly Command[] = [
  {
    id: 'add camera',
    name: 'Add a camera from the view',
    words: 'new film lens shot',
    group: 'Cameras',
    keys: ['Shift+C'],
    run: addCamera,
  },
  {
    id: 'shot',
    name: 'Shot from the playhead',
    words: 'cut to camera new edit',
    group: 'Cameras',
    keys: ['T'],
    run: addShot,
  },
  {
    id: 'key camera',
    name: 'Key the camera at the playhead',
    words: 'keyframe animate place aim lens',
    group: 'Cameras',
    keys: ['U'],
    run: withCamera(({ camera, frame }) => keyCameraEdit(camera, frame), 'key'),
  },
  {
    id: 'camera to view',
    name: 'Put the camera where the view looks from',
    words: 'match align from view key set',
    group: 'Cameras',
    keys: ['Shift+U'],
    run: withCamera(({ plan, camera, frame }) => {
      const view = viewStand();
      return view && standAtView(plan, camera, frame, view);
    }, 'put where the view looks from'),
  },
  {
    id: 'look through',
    name: 'Look through the camera, or around',
    words: 'shot view lens switch',
    group: 'Cameras',
    keys: ['H'],
    run: lookThrough,
  },
  {
    id: 'camera inset',
    name: 'What the camera sees: in the corner of the view, beside it, or not',
    words: 'picture inset beside second view split',
    group: 'Cameras',
    run: (dispatch, getState) => {
      const next = FILM_VIEWS[getState().session.filmView];
      dispatch(sessionActions.filmViewed(next));
      dispatch(sessionActions.announced(FILM_VIEW_WORDS[next]));
    },
  },
  { id: 'next shot', name: 'To the next shot', words: 'cut forward', group: 'Cameras', run: stepShot(1) },
  {
    id: 'shot before',
    name: 'To the shot before',
    words: 'cut previous back',
    group: 'Cameras',
    run: stepShot(-1),
  },
  {
    id: 'shot list',
    name: 'Shot list, or lanes',
    words: 'table cameras cuts',
    group: 'Cameras',
    run: (dispatch, getState) =>
      dispatch(sessionActions.showedBelow(getState().session.below === 'shots' ? 'lanes' : 'shots')),
  },
];
