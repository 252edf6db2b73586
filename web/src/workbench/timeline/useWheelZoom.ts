import type { RefObject } from 'react';
import { useEffect, useLayoutEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import { sessionActions } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { HEADER_WIDTH } from './geometry';

/**
 * The wheel zooms at the pointer, and so does a pinch; with Shift, or sideways, it scrolls. Every other zoom keeps the
 * playhead where it is, if it is in sight.
 */
export function useWheelZoom(scroller: RefObject<HTMLDivElement | null>): void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const before = useRef(ppf);
  /** Pixels from the left of the lanes, and the frame, that are to stay together; null for the playhead. */
  const anchor = useRef<{ x: number; frame: number } | null>(null);
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const onWheel = (event: WheelEvent): void => {
      if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) return;
      const overHeads = event.clientX - element.getBoundingClientRect().left < HEADER_WIDTH;
      if (overHeads && !event.ctrlKey) return;
      event.preventDefault();
      const now = store.getState().session.pixelsPerFrame;
      const x = event.clientX - element.getBoundingClientRect().left - HEADER_WIDTH;
      anchor.current = { x, frame: (element.scrollLeft + x) / now };
      dispatch(sessionActions.zoomed(now * Math.exp(-event.deltaY * (event.ctrlKey ? 0.006 : 0.0015))));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [dispatch, store, scroller]);
  useLayoutEffect(() => {
    const element = scroller.current;
    const old = before.current;
    before.current = ppf;
    if (!element || old === ppf) return;
    const playhead = store.getState().session.frame;
    const x = playhead * old - element.scrollLeft;
    const seen = x >= 0 && x <= element.clientWidth - HEADER_WIDTH;
    const middle = (element.clientWidth - HEADER_WIDTH) / 2;
    const kept =
      anchor.current ??
      (seen ? { x, frame: playhead } : { x: middle, frame: (element.scrollLeft + middle) / old });
    anchor.current = null;
    element.scrollLeft = kept.frame * ppf - kept.x;
  }, [ppf, store, scroller]);
}
