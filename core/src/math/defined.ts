/**
 * A value that is there by construction, as the entry of a record under an id that was taken from it.
 *
 * @throws Error where it is not: a fault of our own, told where it happens
 */
export function defined<T>(value: T | null | undefined): T {
  if (value === null || value === undefined) throw new Error('A value that must be there is missing.');
  return value;
}
