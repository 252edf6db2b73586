import type { CharacterPlan } from '@warper/core';
import { commit } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { JointMarks } from './JointMarks';

/** While the seam in hand is fitted by a joint: all joints of its character, to be pressed for another one. */
export function JointPicks({ plan }: { readonly plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const selection = useAppSelector((s) => s.session.selection);
  const id = selection.kind === 'seam' ? selection.id : null;
  const fit = useAppSelector((s) => (id === null ? undefined : s.scene.document?.segments[id]?.seam.fit));
  if (id === null || !plan.segments.some((s) => s.id === id)) return null;
  if (typeof fit !== 'object' || !('joint' in fit)) return null;
  return (
    <JointMarks
      plan={plan}
      joint={fit.joint}
      onPick={(joint) => dispatch(commit({ type: 'seam', segment: id, values: { fit: { joint } } }))}
    />
  );
}
