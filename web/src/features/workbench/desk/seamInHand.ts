import type { CharacterPlan, Plan, SegmentPlan } from '@warper/core';
import { defined } from '@warper/core';
import type { Selection } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import { selectPreviewPlan } from '../../../store/selectors';
import type { Thunk } from '../commands/command';

/** A seam with what it joins. */
export interface SeamInHand {
  readonly character: CharacterPlan;
  readonly outgoing: SegmentPlan;
  readonly incoming: SegmentPlan;
  /** Index of the incoming segment. */
  readonly index: number;
}

const seamsOf = (plan: Plan): SeamInHand[] =>
  plan.characters.flatMap((character) =>
    character.segments.slice(1).map((incoming, i) => ({
      character,
      outgoing: defined(character.segments[i]),
      incoming,
      index: i + 1,
    })),
  );

/** The seam that is selected; null while none is. */
export function seamInHand(plan: Plan, selection: Selection): SeamInHand | null {
  if (selection.kind !== 'seam') return null;
  return seamsOf(plan).find(({ incoming }) => incoming.id === selection.id) ?? null;
}

/** Takes the next or the previous seam of the character in hand, or the one nearest to the playhead where none is in hand. */
export const stepSeam =
  (by: 1 | -1 | 0): Thunk =>
  (dispatch, getState) => {
    const { selection, frame } = getState().session;
    const { plan } = selectPreviewPlan(getState());
    const seams = seamsOf(plan);
    const current = seamInHand(plan, selection);
    const lane = current ? seams.filter((s) => s.character === current.character) : seams;
    const nearest = [...seams].sort((a, b) => away(a, frame) - away(b, frame))[0];
    const at = lane.findIndex((s) => s.incoming.id === current?.incoming.id);
    const next = current ? lane[at + by] : nearest;
    if (!next) return;
    dispatch(sessionActions.selected({ kind: 'seam', id: next.incoming.id }));
    dispatch(sessionActions.announced(`Seam ${next.outgoing.name} to ${next.incoming.name}`));
  };

const away = ({ incoming }: SeamInHand, frame: number): number => Math.abs(incoming.start - frame);

/** Shows the seam desk, with a seam in hand; or the lanes again. */
export const toggleSeamDesk: Thunk = (dispatch, getState) => {
  const { below, selection } = getState().session;
  dispatch(sessionActions.showedBelow(below === 'seam' ? 'lanes' : 'seam'));
  if (below !== 'seam' && selection.kind !== 'seam') dispatch(stepSeam(0));
};
