import type { Edit, SegmentPlan } from '@warper/core';
import type { KeyboardEvent } from 'react';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { AppDispatch } from '../../../store/store';

/** What keys do on the seam before a segment: take it in hand, move it or, with Alt, make it longer or shorter. */
export const seamKey =
  (event: KeyboardEvent<HTMLElement>, segment: SegmentPlan) =>
  (dispatch: AppDispatch): void => {
    if (event.key === 'Enter' || event.key === ' ')
      dispatch(sessionActions.selected({ kind: 'seam', id: segment.id }));
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
      const by = (event.key === 'ArrowLeft' ? -1 : 1) * (event.shiftKey ? 10 : 1);
      const change: Edit = event.altKey
        ? { type: 'widen seam', segment: segment.id, overlap: Math.max(0, segment.overlap + by) }
        : { type: 'shift seam', segment: segment.id, frames: by };
      const done = dispatch(commit(change));
      const did = done ? `${event.altKey ? 'is longer' : 'moved'} by ${by}` : 'cannot go further';
      dispatch(sessionActions.announced(`The seam to ${segment.name} ${did}`));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
