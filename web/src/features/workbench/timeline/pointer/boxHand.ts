import { selectedSegments, selectionOf } from '../../../../store/selection';
import type { Area } from '../../../../store/sessionState';
import { sessionActions } from '../../../../store/sessionSlice';
import type { Row } from '../rows';
import type { Hand, Table } from './hand';
import { showMarks } from './showMarks';

/** A box drawn over free places of the lanes takes hold of what it touches, with Shift beside what was in hand. */
export function boxHand(table: Table): Hand {
  const { dispatch, state, rows, place } = table;
  let origin = { frame: 0, y: 0, before: [] as readonly string[] };
  return {
    tap: () => void dispatch(sessionActions.selected({ kind: 'scene' })),
    drag: (drag) => {
      if (drag.first) {
        const at = place(drag.xy);
        const { session, scene } = state();
        origin = {
          frame: at.frame - drag.frames,
          y: at.y - drag.down,
          before: drag.event.shiftKey ? selectedSegments(session.selection, scene.document) : [],
        };
      }
      const { frame, y, before } = origin;
      const box: Area = {
        from: Math.min(frame, frame + drag.frames),
        to: Math.max(frame, frame + drag.frames),
        top: Math.min(y, y + drag.down),
        bottom: Math.max(y, y + drag.down),
      };
      showMarks(table, drag.last || drag.canceled ? {} : { box });
      const inside = drag.canceled ? [] : segmentsIn(rows(), box);
      const ids = [...new Set([...before, ...inside])];
      dispatch(sessionActions.selected(selectionOf(ids)));
      if (drag.last) dispatch(sessionActions.announced(`${ids.length} segments selected`));
    },
  };
}

/** The segments that a box touches. */
function segmentsIn(rows: readonly Row[], box: Area): string[] {
  return rows
    .filter((row) => row.top < box.bottom && row.top + row.height > box.top)
    .flatMap((row) => row.segments.filter((s) => s.start < box.to && s.end > box.from).map((s) => s.id));
}
