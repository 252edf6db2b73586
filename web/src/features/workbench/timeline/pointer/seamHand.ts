import { defined } from '@warper/core';
import { preview } from '../../../../store/edits';
import { sessionActions } from '../../../../store/sessionSlice';
import { snap } from '../geometry';
import type { Hit } from '../hit';
import { snapTargets } from '../snapping';
import type { TimelineDrag } from '../useTimelineDrag';
import type { Asked } from './carryOut';
import { carryOut } from './carryOut';
import type { Hand, Table } from './hand';
import { showMarks } from './showMarks';

/** Frames to either side of a seam whose steps it snaps to. */
const NEAR = 600;

/**
 * A seam in hand: its tag moves it, its stitches lengthen it (with Shift out of both sides' unused frames, so that nothing
 * else moves).
 */
export function seamHand(table: Table, hit: Hit & { readonly kind: 'seam' }): Hand {
  const { dispatch, state } = table;
  const segment = defined(hit.row.segments[hit.index]);
  const select = (): void => void dispatch(sessionActions.selected({ kind: 'seam', id: segment.id }));
  const change = hit.part === 'tag' ? shifted : lengthened;
  return {
    tap: select,
    drag: (drag) => {
      if (drag.first) select();
      // What settles has no length to be dragged.
      if (drag.canceled || (hit.part === 'stitches' && segment.overlap === 0 && segment.settle)) {
        showMarks(table);
        return void dispatch(preview(null));
      }
      carryOut(table, drag, hit.row, segment.id, change(drag));
    },
  };
  function lengthened(drag: TimelineDrag): Asked {
    const overlap = Math.max(0, segment.overlap + Math.round(drag.frames));
    const end = segment.start + segment.overlap;
    const half = drag.event.shiftKey ? Math.trunc((overlap - segment.overlap) / 2) : 0;
    return {
      edit: drag.event.shiftKey
        ? { type: 'widen seam', segment: segment.id, overlap }
        : { type: 'overlap', segment: segment.id, frames: overlap },
      guide: null,
      refused: (shown) => (shown.overlap === overlap ? null : { from: end + half - overlap, to: end + half }),
    };
  }
  function shifted(drag: TimelineDrag): Asked {
    const frame = segment.start;
    const current = state();
    const targets = snapTargets(current, new Set([segment.id]), { from: frame - NEAR, to: frame + NEAR });
    const met = drag.event.altKey ? null : snap(frame + drag.frames, targets, current.session.pixelsPerFrame);
    const to = met ?? Math.round(frame + drag.frames);
    return {
      edit: { type: 'shift seam', segment: segment.id, frames: to - frame },
      guide: met === frame ? null : met,
      refused: (shown) => (shown.start === to ? null : { from: to, to: to + Math.max(2, segment.overlap) }),
    };
  }
}
