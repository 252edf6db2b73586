/**
 * What stayed the same in a plain value that was made from another: parts of equal content are the very objects that they
 * were, so that setting something to what it is already is no change.
 */
export function reconcile<T>(before: T, after: T): T {
  if (Object.is(before, after)) return before;
  if (typeof before !== 'object' || typeof after !== 'object' || !before || !after) return after;
  if (Array.isArray(before) !== Array.isArray(after)) return after;
  if (Array.isArray(before)) return reconcileList(before, after as unknown as unknown[]) as T;
  const [old, next] = [before as Record<string, unknown>, after as Record<string, unknown>];
  const keys = Object.keys(next);
  let same = keys.length === Object.keys(old).length;
  let copy: Record<string, unknown> | null = null;
  for (const key of keys) {
    const kept = Object.hasOwn(old, key) ? reconcile(old[key], next[key]) : next[key];
    if (!Object.hasOwn(old, key) || kept !== old[key]) same = false;
    if (kept === next[key]) continue;
    copy ??= { ...next };
    copy[key] = kept;
  }
  return same ? before : ((copy ?? after) as T);
}

function reconcileList(before: readonly unknown[], after: readonly unknown[]): readonly unknown[] {
  let same = before.length === after.length;
  let copy: unknown[] | null = null;
  for (let i = 0; i < after.length; i++) {
    const kept = i < before.length ? reconcile(before[i], after[i]) : after[i];
    if (i >= before.length || kept !== before[i]) same = false;
    if (kept !== after[i]) (copy ??= [...after])[i] = kept;
  }
  return same ? before : (copy ?? after);
}
