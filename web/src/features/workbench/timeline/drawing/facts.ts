/** Milliseconds of a picture for what has to be found out before it can be drawn. */
const BUDGET = 3;

let spent = 0;

/** Begins a picture: there is time again. */
export function beginFacts(): void {
  spent = 0;
}

/** Where facts are kept. */
interface Kept<K, V> {
  get(key: K): V | undefined;
  set(key: K, value: V): unknown;
}

/**
 * A fact that is computed once and kept; undefined where the time of this picture is used up, so that a timeline that comes
 * to many new segments at once stays quick and shows what it knows.
 */
export function fact<K, V>(kept: Kept<K, V>, key: K, make: () => V): V | undefined {
  const cached = kept.get(key);
  if (cached !== undefined) return cached;
  if (spent >= BUDGET) return undefined;
  const began = performance.now();
  const made = make();
  kept.set(key, made);
  spent += performance.now() - began;
  return made;
}
