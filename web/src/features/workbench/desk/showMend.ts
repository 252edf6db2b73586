import type { Mend } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { preview } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { Thunk } from '../commands/command';

/** Seconds before and after what is mended that are played with it. */
const AROUND = 0.8;

/**
 * Shows how the scene would be with a mend: on the lanes, and over and over in the view, from two sides. Null shows it as it is.
 *
 * @param frame where the mend is
 */
export const showMend =
  (frame: number, mend: Mend | null): Thunk =>
  (dispatch, getState) => {
    dispatch(preview(mend?.edit ?? null));
    if (!mend) return void dispatch(sessionActions.seamLooped(null));
    const { plan } = selectPreviewPlan(getState());
    const fps = framesPerSecond(plan.rate);
    const around = Math.round(AROUND * fps);
    const longer = Math.max(0, Math.round((mend.bridge?.seconds ?? 0) * fps));
    const from = Math.max(plan.start, frame - around);
    const to = Math.min(plan.end, frame + longer + 2 * around);
    dispatch(sessionActions.seamLooped({ from, to, pace: 1 }));
  };
