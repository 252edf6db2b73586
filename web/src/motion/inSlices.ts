/** Longest stretch of work between two looks at the page, milliseconds: well within a frame. */
const SLICE = 8;

/**
 * Runs long work step by step without holding up the page; reports the finished share, and stops when it is told to.
 *
 * @returns what the work gives, or null where it was stopped
 */
export async function inSlices<T>(
  work: Generator<number, T>,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<T | null> {
  let since = performance.now();
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    if (performance.now() - since < SLICE) continue;
    progress(step.value);
    await new Promise((resolve) => setTimeout(resolve));
    if (signal.aborted) return null;
    since = performance.now();
  }
}
