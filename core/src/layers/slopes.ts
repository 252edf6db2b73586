import type { KeyCurve } from '../scene/keys';

interface Slopes<T> {
  /** Slope a frame with which each key is arrived at, and with which it is left. */
  readonly into: T[];
  readonly out: T[];
}

interface CurvedKey<T> {
  readonly frame: number;
  readonly curve: KeyCurve;
  readonly tangent: T | null;
  readonly into: T | null;
}

/**
 * The slopes at keys: none at a flat one, its own at a free one and where one that holds has one to be arrived at, else the mean between its neighbours, which is none at either end
 * (Catmull and Rom 1974, for keys that are not evenly apart).
 *
 * @param mean the slope from the key before key i to the one after it
 */
export function slopesOf<T>(keys: readonly CurvedKey<T>[], mean: (i: number) => T, none: T): Slopes<T> {
  const slopes = keys.map(({ curve, tangent, into }, i) => {
    if (curve === 'free' && tangent !== null) return { into: into ?? tangent, out: tangent };
    const own = curve === 'flat' || i === 0 || i === keys.length - 1 ? none : mean(i);
    return { into: curve === 'hold' && into !== null ? into : own, out: own };
  });
  return { into: slopes.map((s) => s.into), out: slopes.map((s) => s.out) };
}
