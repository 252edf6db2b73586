import type { RefObject } from 'react';
import { useEffect, useLayoutEffect, useRef, useState, useSyncExternalStore } from 'react';
import { useStore } from 'react-redux';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { HEADER_WIDTH, RULER_HEIGHT } from './geometry';

/** What of the timeline is drawn: pixels of its content, and how many make a frame. */
export interface Sight {
  readonly ppf: number;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Steps in which the part that is drawn follows a scroll, pixels: within one nothing is drawn anew. */
const STEP = 320;

/** The same downwards, where a row is more to draw. */
const ROWS = 86;

interface Elements {
  readonly scroller: RefObject<HTMLElement | null>;
  /** What is as wide as all frames. */
  readonly content: RefObject<HTMLElement | null>;
}

/**
 * The part of the timeline that is to be drawn, a step larger than what is in sight on every side, and its zoom. The wheel
 * zooms at the pointer, and so does a pinch; with Shift, or sideways, it scrolls. Every other zoom keeps the playhead where
 * it is, if it is in sight. Zoom, width and place change together, so that a picture shows one of each.
 */
export function useViewport({ scroller, content }: Elements, frames: number): Sight {
  const store = useStore<RootState>();
  const [watcher] = useState(() => new SightWatcher(store.getState().session.pixelsPerFrame));
  const length = useRef(frames);
  useLayoutEffect(() => {
    length.current = frames;
    if (content.current) content.current.style.width = `${frames * watcher.sight.ppf}px`;
  }, [frames, content, watcher]);
  useEffect(() => {
    const element = scroller.current;
    if (!element || !content.current) return;
    /** Pixels from the left of the lanes, and the frame, that are to stay together; null for the playhead. */
    let anchor: { x: number; frame: number } | null = null;
    const look = (): void => watcher.look(element, store.getState().session.pixelsPerFrame, true);
    const zoom = (): void => {
      const [old, current] = [watcher.sight.ppf, store.getState().session.pixelsPerFrame];
      if (old === current || !content.current) return;
      const kept = anchor ?? stays(element, store.getState().session.frame, old);
      anchor = null;
      content.current.style.width = `${length.current * current}px`;
      element.scrollLeft = kept.frame * current - kept.x;
      watcher.look(element, current, false);
    };
    const onWheel = (event: WheelEvent): void => {
      if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) return;
      const x = event.clientX - element.getBoundingClientRect().left - HEADER_WIDTH;
      if (x < 0 && !event.ctrlKey) return;
      event.preventDefault();
      const current = store.getState().session.pixelsPerFrame;
      anchor = { x, frame: (element.scrollLeft + x) / current };
      store.dispatch(
        sessionActions.zoomed(current * Math.exp(-event.deltaY * (event.ctrlKey ? 0.006 : 0.0015))),
      );
    };
    look();
    const unsubscribe = store.subscribe(zoom);
    const size = new ResizeObserver(look);
    size.observe(element);
    element.addEventListener('scroll', look, { passive: true });
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      unsubscribe();
      size.disconnect();
      element.removeEventListener('scroll', look);
      element.removeEventListener('wheel', onWheel);
    };
  }, [scroller, content, store, watcher]);
  return useSyncExternalStore(watcher.watch, () => watcher.sight);
}

/** The place that a zoom without a pointer keeps: the playhead where it is in sight, else the middle. */
function stays(element: HTMLElement, playhead: number, ppf: number): { x: number; frame: number } {
  const x = playhead * ppf - element.scrollLeft;
  const width = element.clientWidth - HEADER_WIDTH;
  if (x >= 0 && x <= width) return { x, frame: playhead };
  return { x: width / 2, frame: (element.scrollLeft + width / 2) / ppf };
}

/** Holds the sight of now, and tells who watches when it changes. */
class SightWatcher {
  sight: Sight;
  readonly #watchers = new Set<() => void>();

  constructor(ppf: number) {
    this.sight = { ppf, left: 0, right: 1200, top: 0, bottom: 600 };
  }

  readonly watch = (watcher: () => void): (() => void) => {
    this.#watchers.add(watcher);
    return () => void this.#watchers.delete(watcher);
  };

  /** @param ahead whether to draw ahead of a scroll; while the zoom changes all of that would be for nothing */
  look(element: HTMLElement, ppf: number, ahead: boolean): void {
    const { sight } = this;
    const down = (v: number, step: number): number => Math.max(0, Math.floor(v / step - 1) * step);
    const up = (v: number, step: number): number => Math.ceil(v / step + 1) * step;
    const exact = {
      ppf,
      left: Math.max(0, Math.floor(element.scrollLeft)),
      right: Math.ceil(element.scrollLeft + element.clientWidth - HEADER_WIDTH),
      top: element.scrollTop,
      bottom: element.scrollTop + element.clientHeight - RULER_HEIGHT,
    };
    // The scroll that a zoom itself has brought about changes nothing.
    if (ahead && ppf === sight.ppf && exact.left === sight.left && exact.right === sight.right) return;
    const next = ahead
      ? {
          ppf,
          left: down(exact.left, STEP),
          right: up(exact.right, STEP),
          top: down(exact.top, ROWS),
          bottom: up(exact.bottom, ROWS),
        }
      : exact;
    if ((Object.keys(next) as (keyof Sight)[]).every((k) => next[k] === sight[k])) return;
    this.sight = next;
    this.#watchers.forEach((w) => w());
  }
}
