import type { HandMarks } from '../../../../store/sessionState';
import { sessionActions } from '../../../../store/sessionSlice';
import { NO_MARKS } from '../../../../store/sessionState';
import type { Table } from './hand';

/** Shows what a drag in hand shows, instead of what it showed; nothing where nothing is given. */
export function showMarks(
  { dispatch, state }: Pick<Table, 'dispatch' | 'state'>,
  marks: Partial<HandMarks> = NO_MARKS,
): void {
  const next = { ...NO_MARKS, ...marks };
  const current = state().session.handMarks;
  if (next.guide !== current.guide || next.refused !== current.refused || next.box !== current.box)
    dispatch(sessionActions.handMarked(next));
}
