/** One step from one value to another: what is put at, or taken from, a path of keys. Immer carries them out. */
export interface Difference {
  readonly op: 'add' | 'remove' | 'replace';
  readonly path: readonly (string | number)[];
  readonly value?: unknown;
}

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * What leads from one plain value to another, entry by entry of its records. Lists are replaced whole: their entries have no names by which
 * they could be told apart. Parts that are the very same are not looked at.
 */
export function differences(before: unknown, after: unknown): Difference[] {
  const found: Difference[] = [];
  collect(before, after, [], found);
  return found;
}

function collect(before: unknown, after: unknown, path: readonly string[], found: Difference[]): void {
  if (isSame(before, after)) return;
  if (!isRecord(before) || !isRecord(after)) {
    found.push({ op: 'replace', path, value: after });
    return;
  }
  for (const key of Object.keys(before))
    if (!Object.hasOwn(after, key)) found.push({ op: 'remove', path: [...path, key] });
  for (const [key, value] of Object.entries(after))
    if (Object.hasOwn(before, key)) collect(before[key], value, [...path, key], found);
    else found.push({ op: 'add', path: [...path, key], value });
}

/** Whether two values are equal, as far as that is known without looking into records. */
function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((x, i) => isEqual(x, b[i]));
}

/** Whether two plain values have the same content. */
export function isEqual(a: unknown, b: unknown): boolean {
  if (isSame(a, b)) return true;
  if (!isRecord(a) || !isRecord(b)) return false;
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length && keys.every((k) => Object.hasOwn(b, k) && isEqual(a[k], b[k]))
  );
}
