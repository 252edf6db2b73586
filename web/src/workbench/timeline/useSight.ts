import type { RefObject } from 'react';
import { useCallback, useEffect, useState } from 'react';
import { HEADER_WIDTH, RULER_HEIGHT } from './geometry';

/** What of the timeline is in sight: pixels of its content. */
export interface Sight {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Steps in which the part that is drawn follows a scroll, pixels: within one nothing is drawn anew. */
const STEP = 320;

/** The same downwards, where a row is more to draw. */
const ROWS = 86;

const NOTHING: Sight = { left: 0, right: 1200, top: 0, bottom: 600 };

/** The part of a scrolled timeline that is to be drawn, a step larger than what is in sight on every side. */
export function useSight(scroller: RefObject<HTMLElement | null>): Sight {
  const [sight, setSight] = useState(NOTHING);
  const look = useCallback(() => {
    const e = scroller.current;
    if (!e) return;
    const down = (v: number, step: number): number => Math.floor(v / step - 1) * step;
    const up = (v: number, step: number): number => Math.ceil(v / step + 1) * step;
    const next = {
      left: down(e.scrollLeft, STEP),
      right: up(e.scrollLeft + e.clientWidth - HEADER_WIDTH, STEP),
      top: down(e.scrollTop, ROWS),
      bottom: up(e.scrollTop + e.clientHeight - RULER_HEIGHT, ROWS),
    };
    setSight((now) =>
      now.left === next.left && now.right === next.right && now.top === next.top && now.bottom === next.bottom
        ? now
        : next,
    );
  }, [scroller]);
  useEffect(() => {
    const e = scroller.current;
    if (!e) return;
    look();
    e.addEventListener('scroll', look, { passive: true });
    const size = new ResizeObserver(look);
    size.observe(e);
    return () => {
      e.removeEventListener('scroll', look);
      size.disconnect();
    };
  }, [scroller, look]);
  return sight;
}
