import type { RefObject } from 'react';
import { useLayoutEffect, useState } from 'react';

/** The height of an element, pixels, as it changes. */
export function useAreaHeight(area: RefObject<HTMLElement | null>): number {
  const [height, setHeight] = useState(160);
  useLayoutEffect(() => {
    const element = area.current;
    if (!element) return;
    const look = (): void => setHeight(Math.max(40, element.clientHeight));
    look();
    const watcher = new ResizeObserver(look);
    watcher.observe(element);
    return () => watcher.disconnect();
  }, [area]);
  return height;
}
