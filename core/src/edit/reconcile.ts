/**
 * What stayed the same in a plain value that was made from another: parts of equal content are the very objects that they
 * were, so that setting something to what it is already is no change.
 */
export function reconcile<T>(before: T, after: T): T {
  if (Object.is(before, after)) return before;
  if (typeof before !== 'object' || typeof after !== 'object' || !before || !after) return after;
  if (Array.isArray(before) !== Array.isArray(after)) return after;
  const [old, next] = [before as Record<string, unknown>, after as Record<string, unknown>];
  const keys = Object.keys(next);
  let same = keys.length === Object.keys(old).length;
  let copy: Record<string, unknown> | null = null;
  for (const key of keys) {
    const kept = Object.hasOwn(old, key) ? reconcile(old[key], next[key]) : next[key];
    if (!Object.hasOwn(old, key) || kept !== old[key]) same = false;
    if (kept === next[key]) continue;
    copy ??= (Array.isArray(after) ? [...(after as unknown[])] : { ...next }) as Record<string, unknown>;
    copy[key] = kept;
  }
  return same ? before : ((copy ?? after) as T);
}
