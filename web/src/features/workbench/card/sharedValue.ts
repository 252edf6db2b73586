/** The value that all of a list share; null where they differ, or there is none. */
export function sharedValue<T>(values: readonly T[]): T | null {
  const [first, ...others] = values;
  if (first === undefined) return null;
  return others.every((v) => Object.is(v, first)) ? first : null;
}
