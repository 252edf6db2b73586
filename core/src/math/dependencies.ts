/**
 * Finds a ring among things that depend on others.
 *
 * @param needs what each depends on
 * @returns a ring in which each depends on the next and the last on the first; null where there is none
 */
export function findCycle(needs: ReadonlyMap<string, readonly string[]>): string[] | null {
  const done = new Set<string>();
  const path: string[] = [];
  const visit = (at: string): string[] | null => {
    const before = path.indexOf(at);
    if (before >= 0) return path.slice(before);
    if (done.has(at)) return null;
    path.push(at);
    for (const need of needs.get(at) ?? []) {
      const ring = visit(need);
      if (ring) return ring;
    }
    path.pop();
    done.add(at);
    return null;
  };
  for (const id of needs.keys()) {
    const ring = visit(id);
    if (ring) return ring;
  }
  return null;
}

/** Things in an order in which each comes after what it depends on (topological order); in their own order otherwise. */
export function inOrderOf(needs: ReadonlyMap<string, readonly string[]>, ids: readonly string[]): string[] {
  const order = new Set<string>();
  const open = new Set<string>();
  const visit = (at: string): void => {
    if (order.has(at) || open.has(at)) return;
    open.add(at);
    needs.get(at)?.forEach(visit);
    order.add(at);
  };
  ids.forEach(visit);
  return [...order].filter((id) => ids.includes(id));
}
