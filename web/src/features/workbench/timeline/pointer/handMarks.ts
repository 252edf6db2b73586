import { useSyncExternalStore } from 'react';

/** Frames, and pixels from the top of the first row. */
export interface Area {
  readonly from: number;
  readonly to: number;
  readonly top: number;
  readonly bottom: number;
}

/** What a drag in hand shows on the timeline. */
export interface HandMarks {
  /** The frame that it has snapped to. */
  readonly guide: number | null;
  /** Where the pointer asks for, while that cannot be. */
  readonly refused: Area | null;
  /** The box that is drawn to select. */
  readonly box: Area | null;
}

const NONE: HandMarks = { guide: null, refused: null, box: null };
let shown = NONE;
const watchers = new Set<() => void>();

/** Shows what a drag in hand shows, instead of what it showed; nothing where nothing is given. */
export function showMarks(marks: Partial<HandMarks> = NONE): void {
  const next = { ...NONE, ...marks };
  if ((Object.keys(next) as (keyof HandMarks)[]).every((k) => next[k] === shown[k])) return;
  shown = next;
  watchers.forEach((w) => w());
}

export const useHandMarks = (): HandMarks =>
  useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => void watchers.delete(watcher);
    },
    () => shown,
  );
