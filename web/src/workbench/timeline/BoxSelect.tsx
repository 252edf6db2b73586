import type { RefObject } from 'react';
import { useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { selectedSegments, selectionOf } from '../../store/selection';
import { sessionActions } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch } from '../../store/store';
import type { Row } from './rows';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';

interface Box {
  /** Frames, and pixels from the top of the lanes. */
  readonly from: number;
  readonly to: number;
  readonly top: number;
  readonly bottom: number;
}

/** Selecting by drawing a box over free places of the lanes, for `onPointerDown` of what holds them, and the box itself. */
export function useBoxSelect(
  lanes: RefObject<HTMLElement | null>,
  rows: readonly Row[],
): { bind: ReturnType<typeof useTimelineDrag<void>>; box: Box | null } {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const [box, setBox] = useState<Box | null>(null);
  const origin = useRef({ frame: 0, y: 0, before: [] as readonly string[] });
  const place = (x: number, y: number): { frame: number; y: number } => {
    const { left, top } = lanes.current!.getBoundingClientRect();
    return { frame: (x - left) / store.getState().session.pixelsPerFrame, y: y - top };
  };
  const bind = useTimelineDrag<void>(
    (drag: TimelineDrag<void>) => {
      if (drag.first) {
        const at = place(drag.xy[0], drag.xy[1]);
        const { session, scene } = store.getState();
        const more = drag.event.shiftKey;
        origin.current = {
          frame: at.frame - drag.frames,
          y: at.y - drag.down,
          before: more ? selectedSegments(session.selection, scene.document) : [],
        };
      }
      const { frame, y, before } = origin.current;
      const own: Box = {
        from: Math.min(frame, frame + drag.frames),
        to: Math.max(frame, frame + drag.frames),
        top: Math.min(y, y + drag.down),
        bottom: Math.max(y, y + drag.down),
      };
      setBox(drag.last || drag.canceled ? null : own);
      const inside = drag.canceled ? [] : segmentsIn(rows, own);
      const ids = [...new Set([...before, ...inside])];
      dispatch(sessionActions.selected(selectionOf(ids)));
      if (drag.last) dispatch(sessionActions.announced(`${ids.length} segments selected`));
    },
    () => void dispatch(sessionActions.selected({ kind: 'scene' })),
  );
  return { bind, box };
}

/** The segments that a box touches. */
function segmentsIn(rows: readonly Row[], box: Box): string[] {
  return rows
    .filter((row) => row.top < box.bottom && row.top + row.height > box.top)
    .flatMap((row) => row.segments.filter((s) => s.start < box.to && s.end > box.from).map((s) => s.id));
}
