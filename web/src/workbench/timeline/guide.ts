import { useSyncExternalStore } from 'react';

/** What a drag in hand shows on the timeline: the frame that it has snapped to. */
let shown: number | null = null;
const watchers = new Set<() => void>();

/** Shows the frame that a drag has snapped to; null for none. */
export function showGuide(frame: number | null): void {
  if (frame === shown) return;
  shown = frame;
  watchers.forEach((w) => w());
}

/** The frame that a drag has snapped to, null where none has. */
export const useGuide = (): number | null =>
  useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => void watchers.delete(watcher);
    },
    () => shown,
  );
