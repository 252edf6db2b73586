import type { Edit } from '@warper/core';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { snap } from '../geometry';
import type { Hit } from '../hit';
import { snapTargets } from '../snapping';
import type { TimelineDrag } from '../useTimelineDrag';
import type { Hand, Table } from './hand';
import { showMarks } from './handMarks';

/** Frames to either side of a seam whose steps it snaps to. */
const NEAR = 600;

/**
 * A seam in hand: its tag moves it, its stitches lengthen it (with Shift out of both sides' unused frames, so that nothing
 * else moves).
 */
export function seamHand(table: Table, hit: Hit & { readonly kind: 'seam' }): Hand {
  const { dispatch, state } = table;
  const own = hit.row.segments[hit.index]!;
  const select = (): void => void dispatch(sessionActions.selected({ kind: 'seam', id: own.id }));
  const change = hit.part === 'tag' ? shifted : lengthened;
  return {
    tap: select,
    drag: (drag) => {
      if (drag.first) select();
      // What settles has no length to be dragged.
      if (drag.canceled || (hit.part === 'stitches' && own.overlap === 0 && own.settle)) {
        showMarks();
        return void dispatch(preview(null));
      }
      const edit = change(drag);
      if (drag.last) showMarks();
      dispatch(drag.last ? commit(edit) : preview(edit));
    },
  };
  function lengthened(drag: TimelineDrag): Edit {
    const overlap = Math.max(0, own.overlap + Math.round(drag.frames));
    return drag.event.shiftKey
      ? { type: 'widen seam', segment: own.id, overlap }
      : { type: 'overlap', segment: own.id, frames: overlap };
  }
  function shifted(drag: TimelineDrag): Edit {
    const frame = own.start;
    const now = state();
    const targets = snapTargets(now, new Set([own.id]), { from: frame - NEAR, to: frame + NEAR });
    const met = drag.event.altKey ? null : snap(frame + drag.frames, targets, now.session.pixelsPerFrame);
    showMarks({ guide: met === frame ? null : met });
    return { type: 'shift seam', segment: own.id, frames: (met ?? Math.round(frame + drag.frames)) - frame };
  }
}
