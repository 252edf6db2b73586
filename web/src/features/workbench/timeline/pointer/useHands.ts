import { defined } from '@warper/core';
import type { Segment } from '@warper/core';
import type { PointerEvent as ReactPointerEvent, RefObject } from 'react';
import { useCallback, useMemo, useRef } from 'react';
import { useStore } from 'react-redux';
import { selectPreviewScene } from '../../../../store/selectors';
import { sessionActions } from '../../../../store/sessionSlice';
import type { RootState } from '../../../../store/store';
import { useAppDispatch } from '../../../../store/store';
import type { Hit } from '../hit';
import type { MenuTarget } from '../LaneMenu';
import { hitAt } from '../hit';
import type { Row } from '../rows';
import { silentSegments } from '../rows';
import { useTimelineDrag } from '../useTimelineDrag';
import { boxHand } from './boxHand';
import type { Hand, Table } from './hand';
import { seamHand } from './seamHand';
import { segmentHand } from './segmentHand';

/** What is on the lanes and takes presses itself. */
const FOREIGN = 'button:not([data-seam])';

/** Handlers for what holds the lanes, and what is at a place of them. */
interface Hands {
  readonly handlers: Record<string, unknown>;
  readonly targetAt: (event: { target: EventTarget; clientX: number; clientY: number }) => MenuTarget;
}

/**
 * One pair of hands for all lanes: what is pressed is found by its place, so that nothing has to stand there to be taken
 * but what is drawn.
 */
export function useHands(lanes: RefObject<HTMLElement | null>, rows: () => readonly Row[]): Hands {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const table = useMemo<Table>(
    () => ({
      dispatch,
      state: () => store.getState(),
      rows,
      place: ([x, y]) => {
        const { left, top } = defined(lanes.current).getBoundingClientRect();
        return { frame: (x - left) / store.getState().session.pixelsPerFrame, y: y - top };
      },
      silent: (row): readonly Segment[] => silentSegments(selectPreviewScene(store.getState()), row),
    }),
    [dispatch, store, rows, lanes],
  );
  const hand = useRef<Hand | null>(null);
  const bind = useTimelineDrag(
    (drag) => {
      hand.current?.drag(drag);
      if (drag.last || drag.canceled) hand.current = null;
    },
    (event) => {
      hand.current?.tap(event);
      hand.current = null;
    },
  );
  const { onPointerDown, ...others } = bind() as Record<string, (event: ReactPointerEvent) => void>;
  const targetAt = useCallback<Hands['targetAt']>((event) => menuTarget(table, event), [table]);
  const handlers = {
    ...others,
    onPointerDown: (event: ReactPointerEvent) => {
      if ((event.target as Element).closest(FOREIGN)) return;
      // Taken at the press: what is dragged is what was under the pointer then.
      hand.current = take(table, [event.clientX, event.clientY]);
      defined(onPointerDown)(event);
    },
    onPointerMove: (event: ReactPointerEvent) => {
      others.onPointerMove?.(event);
      if (event.buttons === 0) defined(lanes.current).style.cursor = cursorAt(table, event);
    },
  };
  return { handlers, targetAt };
}

/** What a menu that is opened at a place is for; a key opens it on what has the focus. */
function menuTarget(table: Table, event: Parameters<Hands['targetAt']>[0]): MenuTarget {
  const { segment, seam } = event.target instanceof HTMLElement ? event.target.dataset : {};
  if (seam) return { kind: 'seam', id: seam };
  const clipOf = (id: string): string => table.state().scene.document?.segments[id]?.clip ?? '';
  if (segment) return { kind: 'segment', id: segment, clip: clipOf(segment) };
  const hit = hitOf(table, [event.clientX, event.clientY]);
  if (!hit) return { kind: 'lane' };
  if (hit.kind === 'seam') return { kind: 'seam', id: defined(hit.row.segments[hit.index]).id };
  const id = hit.kind === 'segment' ? hit.plan.id : hit.segment.id;
  return { kind: 'segment', id, clip: clipOf(id) };
}

function hitOf(table: Table, xy: readonly [number, number]): Hit | null {
  const { frame, y } = table.place(xy);
  const ppf = table.state().session.pixelsPerFrame;
  return hitAt(table.rows(), table.silent, frame * ppf, y, ppf);
}

function take(table: Table, xy: readonly [number, number]): Hand {
  const hit = hitOf(table, xy);
  if (hit?.kind === 'segment') return segmentHand(table, hit);
  if (hit?.kind === 'seam') return seamHand(table, hit);
  if (hit?.kind === 'silent') {
    const select = (): void =>
      void table.dispatch(sessionActions.selected({ kind: 'segment', id: hit.segment.id }));
    return { drag: () => {}, tap: select };
  }
  return boxHand(table);
}

function cursorAt(table: Table, event: ReactPointerEvent): string {
  if ((event.target as Element).closest(FOREIGN)) return '';
  const hit = hitOf(table, [event.clientX, event.clientY]);
  if (!hit) return '';
  if (hit.kind === 'silent') return 'pointer';
  if (hit.kind === 'seam') return 'ew-resize';
  return hit.grip === 'body' ? 'grab' : 'ew-resize';
}
