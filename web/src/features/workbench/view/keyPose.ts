import type { CharacterPlan, Edit, LayerLane } from '@warper/core';
import { defined } from '@warper/core';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { Thunk } from '../commands/command';

/** Two edits as one, under the name of the second. */
export const joined = (first: Edit | null, second: Edit | null): Edit | null =>
  first && second
    ? { type: 'several', label: second.type === 'several' ? second.label : 'pose', edits: [first, second] }
    : (second ?? first);

/** Whether a joint, or where it is the root bone the root, has a key at a frame. */
function isKeyed(
  { keys, rootKeys }: LayerLane,
  { skeleton }: CharacterPlan,
  joint: number,
  frame: number,
): boolean {
  const name = defined(skeleton.names[joint]);
  const lists = joint === skeleton.rootBone ? Object.values(rootKeys) : [];
  return [...lists, keys[name] ?? []].some((list) => list.some((k) => k.frame === frame));
}

/**
 * Ends the posing of a joint: its pose becomes a key, or, where keys are not set by themselves and there is none yet, is shown until it is
 * keyed or let go.
 */
export const keyPose =
  (edit: Edit, layer: string, joint: number, plan: CharacterPlan): Thunk =>
  (dispatch, getState) => {
    const { autoKey, unkeyed, frame } = getState().session;
    // Of the document itself: what is shown has the pose as a key already.
    const kept = getState().scene.document?.lanes[layer];
    const hasKey = kept?.kind === 'layer' && isKeyed(kept, plan, joint, frame);
    const whole = defined(joined(unkeyed, edit) ?? undefined);
    if (autoKey || (unkeyed === null && hasKey)) {
      dispatch(preview(null));
      dispatch(sessionActions.unkeyed(null));
      dispatch(commit(whole));
      return;
    }
    dispatch(sessionActions.unkeyed(whole));
    dispatch(preview(whole));
    dispatch(sessionActions.announced('Posed, not keyed yet'));
  };

/** Keys the pose that is shown. */
export const keyUnkeyed: Thunk = (dispatch, getState) => {
  const { unkeyed } = getState().session;
  dispatch(preview(null));
  dispatch(sessionActions.unkeyed(null));
  if (unkeyed) dispatch(commit(unkeyed));
};

/** Lets go of the pose that is shown. */
export const dropUnkeyed: Thunk = (dispatch, getState) => {
  if (getState().session.unkeyed === null) return;
  dispatch(preview(null));
  dispatch(sessionActions.unkeyed(null));
};
