import type { CharacterPlan } from '@warper/core';
import { defined, jointNamed } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { jointName } from '../card/jointChoices';
import { JointMarks } from './JointMarks';

/** While a joint of the tether in hand is picked: all joints of who holds, or of what is held, to be pressed. */
export function TetherPicks({ plan }: { readonly plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const picking = useAppSelector((s) => s.session.picking);
  const selection = useAppSelector((s) => s.session.selection);
  const tether = useAppSelector((s) =>
    selection.kind === 'tether' ? s.scene.document?.tethers[selection.id] : undefined,
  );
  if (!picking || !tether) return null;
  const own = picking === 'joint' ? tether.parent : tether.child;
  if (own !== plan.character.id) return null;
  const chosen = picking === 'joint' ? tether.joint : tether.kind === 'reach' ? null : tether.held;
  const { skeleton } = plan;
  const number = chosen === null ? -1 : jointNamed(skeleton, chosen);
  const pick = (name: string): void => {
    const joint = jointName(skeleton, skeleton.names.indexOf(name));
    const values = picking === 'joint' ? { joint } : { held: joint };
    if (dispatch(commit({ type: 'change tether', tether: tether.id, values })))
      dispatch(sessionActions.picking(null));
  };
  return <JointMarks plan={plan} joint={number < 0 ? null : defined(skeleton.names[number])} onPick={pick} />;
}
