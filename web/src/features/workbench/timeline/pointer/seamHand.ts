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
  const own = defined(hit.row.segments[hit.index]);
  const select = (): void => void dispatch(sessionActions.selected({ kind: 'seam', id: own.id }));
  const change = hit.part === 'tag' ? shifted : lengthened;
  return {
    tap: select,
    drag: (drag) => {
      if (drag.first) select();
      // What settles has no length to be dragged.
      if (drag.canceled || (hit.part === 'stitches' && own.overlap === 0 && own.settle)) {
        showMarks(table);
        return void dispatch(preview(null));
      }
      carryOut(table, drag, hit.row, own.id, change(drag));
    },
  };
  function lengthened(drag: TimelineDrag): Asked {
    const overlap = Math.max(0, own.overlap + Math.round(drag.frames));
    const end = own.start + own.overlap;
    const half = drag.event.shiftKey ? Math.trunc((overlap - own.overlap) / 2) : 0;
    return {
      edit: drag.event.shiftKey
        ? { type: 'widen seam', segment: own.id, overlap }
        : { type: 'overlap', segment: own.id, frames: overlap },
      guide: null,
      refused: (now) => (now.overlap === overlap ? null : { from: end + half - overlap, to: end + half }),
    };
  }
  function shifted(drag: TimelineDrag): Asked {
    const frame = own.start;
    const now = state();
    const targets = snapTargets(now, new Set([own.id]), { from: frame - NEAR, to: frame + NEAR });
    const met = drag.event.altKey ? null : snap(frame + drag.frames, targets, now.session.pixelsPerFrame);
    const to = met ?? Math.round(frame + drag.frames);
    return {
      edit: { type: 'shift seam', segment: own.id, frames: to - frame },
      guide: met === frame ? null : met,
      refused: (now) => (now.start === to ? null : { from: to, to: to + Math.max(2, own.overlap) }),
    };
  }
}
