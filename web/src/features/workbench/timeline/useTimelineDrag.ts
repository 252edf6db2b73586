import { useDrag } from '@use-gesture/react';
import { useRef } from 'react';
import { useStore } from 'react-redux';
import type { RootState } from '../../../store/store';
import { HEADER_WIDTH } from './geometry';

/** A drag along the timeline, in frames. */
export interface TimelineDrag {
  readonly first: boolean;
  /** The pointer was let go; the drag is carried out. */
  readonly last: boolean;
  /** The drag was given up, with Escape or by the system. */
  readonly canceled: boolean;
  /** Frames between where the pointer was taken and where it is, scrolling included. */
  readonly frames: number;
  /** Pixels down from where it was taken. */
  readonly down: number;
  readonly xy: readonly [number, number];
  readonly event: { readonly altKey: boolean; readonly shiftKey: boolean };
}

/** Distance from the sides at which a drag scrolls the timeline, and the pixels of each picture at the very side. */
const EDGE = 36;
const FASTEST = 18;

export const timelineElement = (): HTMLElement | null =>
  document.querySelector<HTMLElement>('[data-timeline]');

/** Pixels by which a timeline scrolls in one picture while the pointer is near, or beyond, one of its sides. */
function scrollSpeed(x: number, left: number, right: number): number {
  const near = (distance: number): number => Math.min(1, Math.max(0, (EDGE - distance) / EDGE)) * FASTEST;
  return near(right - x) - near(x - left);
}

/**
 * Dragging on the timeline: in frames at the zoom of now, scrolling at the sides, given up with Escape. A press without a
 * move is a tap and comes by itself.
 */
export function useTimelineDrag(
  onDrag: (drag: TimelineDrag) => void,
  onTap?: (event: PointerEvent) => void,
): ReturnType<typeof useDrag> {
  const store = useStore<RootState>();
  const state = useRef({ x: 0, scroll: 0, left: 0, right: 0, request: 0, stop: () => {} });
  return useDrag(
    ({ first, last, tap, canceled, xy, initial, event, cancel, movement }) => {
      if (tap) return onTap?.(event as PointerEvent);
      const scroller = timelineElement();
      const own = state.current;
      if (first) {
        own.stop();
        own.x = initial[0];
        own.scroll = scroller?.scrollLeft ?? 0;
        const box = scroller?.getBoundingClientRect();
        own.left = (box?.left ?? 0) + HEADER_WIDTH;
        own.right = box?.right ?? 0;
        const escape = (e: KeyboardEvent): void => {
          if (e.key === 'Escape') cancel();
        };
        window.addEventListener('keydown', escape, true);
        own.stop = () => {
          window.removeEventListener('keydown', escape, true);
          cancelAnimationFrame(own.request);
        };
      }
      const emit = (starting: boolean, done: boolean): void =>
        onDrag({
          first: starting,
          last: done,
          canceled,
          frames:
            (xy[0] - own.x + (scroller?.scrollLeft ?? 0) - own.scroll) /
            store.getState().session.pixelsPerFrame,
          down: movement[1],
          xy,
          event: event,
        });
      cancelAnimationFrame(own.request);
      if (last || canceled) {
        own.stop();
        return emit(first, true);
      }
      emit(first, false);
      const scroll = (): void => {
        if (!scroller) return;
        const by = scrollSpeed(xy[0], own.left, own.right);
        if (by === 0) return;
        const before = scroller.scrollLeft;
        scroller.scrollLeft += by;
        if (scroller.scrollLeft !== before) emit(false, false);
        own.request = requestAnimationFrame(scroll);
      };
      own.request = requestAnimationFrame(scroll);
    },
    { filterTaps: true, pointer: { keys: false } },
  );
}
