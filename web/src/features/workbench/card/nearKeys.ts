/** How many keys a list of the card tells one by one; the curves have them all. */
export const MOST_LISTED = 16;

/** The frames nearest to one, in order; all of them where they are few. */
export function framesNear(frames: readonly number[], frame: number): readonly number[] {
  if (frames.length <= MOST_LISTED) return frames;
  const after = frames.findIndex((f) => f >= frame);
  const middle = after < 0 ? frames.length : after;
  const first = Math.min(Math.max(0, middle - MOST_LISTED / 2), frames.length - MOST_LISTED);
  return frames.slice(first, first + MOST_LISTED);
}

/** The frames at which any of some lists of keys has one, in order. */
export const framesOfLists = (
  lists: Readonly<Record<string, readonly { readonly frame: number }[]>>,
): number[] =>
  [...new Set(Object.values(lists).flatMap((keys) => keys.map((k) => k.frame)))].sort((a, b) => a - b);
