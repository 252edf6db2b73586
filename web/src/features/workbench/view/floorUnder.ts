/** A place on the floor, metres. */
export interface FloorPoint {
  readonly x: number;
  readonly z: number;
}

/** Finds the floor of one view: at a point of the page in pixels, or in its middle. */
export type FindFloor = (point: readonly [number, number] | null) => FloorPoint | null;

const views = new Set<FindFloor>();

/** Lets things be dropped into a view; gives what takes it away again. */
export function addView(find: FindFloor): () => void {
  views.add(find);
  return () => void views.delete(find);
}

/**
 * The place on the floor of the view at a point of the page; null where the view is not there, or shows no floor.
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
