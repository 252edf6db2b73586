import type { SegmentPlan } from '@warper/core';
import type { KeyboardEvent } from 'react';
import { commit } from '../../../store/edits';
import { selectedSegments } from '../../../store/selection';
import { sessionActions } from '../../../store/sessionSlice';
import type { AppDispatch, RootState } from '../../../store/store';
import { moveFocus } from './moveFocus';

/** What the arrow keys do on a segment in hand: move it, its edges or its part of the clip, or go on to another. */
export const segmentKey =
  (event: KeyboardEvent<HTMLElement>, plan: SegmentPlan, lane: string) =>
  (dispatch: AppDispatch, getState: () => RootState): void => {
    const { session, scene } = getState();
    const sideways = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
    const mod = event.ctrlKey || event.metaKey;
    const by = (event.key === 'ArrowLeft' ? -1 : 1) * (event.shiftKey && !event.altKey ? 10 : 1);
    const say = (done: boolean, what: string, did: string): void =>
      void dispatch(sessionActions.announced(done ? `${what} ${did}` : `${what} cannot go further`));
    if (event.key === 'Enter') dispatch(sessionActions.selected({ kind: 'segment', id: plan.id }));
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown')
      moveFocus(event.target as HTMLElement, event.key === 'ArrowUp' ? -1 : 1);
    else if (!sideways) return;
    else if (mod) {
      const slipped = dispatch(commit({ type: 'slip', segment: plan.id, samples: by }));
      say(slipped, plan.name, `shows its clip ${Math.abs(by)} samples ${by > 0 ? 'later' : 'earlier'}`);
    } else if (event.altKey) {
      const edge = event.shiftKey ? 'start' : 'end';
      const frame = (edge === 'start' ? plan.start : plan.end) + by;
      const moved = dispatch(commit({ type: session.edge, segment: plan.id, edge, frame }));
      say(moved, `The ${edge} of ${plan.name}`, 'moved by a frame');
    } else {
      const chosen = selectedSegments(session.selection, scene.document);
      const moved =
        chosen.length > 1 && chosen.includes(plan.id)
          ? dispatch(commit({ type: 'move several', segments: chosen, frames: by }))
          : dispatch(commit({ type: 'move', segment: plan.id, start: plan.start + by, lane }));
      const what = chosen.length > 1 ? `${chosen.length} segments` : plan.name;
      say(moved, what, `moved by ${by} frames`);
    }
    event.preventDefault();
    event.stopPropagation();
  };
