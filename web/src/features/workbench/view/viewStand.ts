import type { CameraStand } from '@warper/core';

/** Where the view looks from, and how much of it is seen from bottom to top. */
export interface ViewStand extends CameraStand {
  /** Tangent of half the angle. */
  readonly halfHeight: number;
}

const views = new Set<() => ViewStand>();

/** Lets the stand of a view be asked for; gives what takes it away again. */
export function addViewStand(stand: () => ViewStand): () => void {
  views.add(stand);
  return () => void views.delete(stand);
}

/** Where the view looks from; null where there is none. */
export const viewStand = (): ViewStand | null => [...views][0]?.() ?? null;
