/** A place on the floor or on a prop, metres. */
export interface FloorPoint {
  readonly x: number;
  readonly z: number;
  /** Over the floor. */
  readonly height: number;
  /** The name of the prop; null on the floor. */
  readonly on: string | null;
}

/** Finds the floor of one view, or what stands on it: at a point of the page in pixels, or in its middle. */
export type FindFloor = (point: readonly [number, number] | null) => FloorPoint | null;

const views = new Set<FindFloor>();

/** Lets things be dropped into a view; gives what takes it away again. */
export function addView(find: FindFloor): () => void {
  views.add(find);
  return () => void views.delete(find);
}

/**
 * The place on the floor of the view, or on a prop there, at a point of the page; null where the view is not there, or shows neither.
 *
 * @param point pixels of the page; null for the middle of the view
 */
export function floorUnder(point: readonly [number, number] | null): FloorPoint | null {
  for (const find of views) {
    const found = find(point);
    if (found) return found;
  }
  return null;
}
