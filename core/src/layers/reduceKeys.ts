import { quatAngle } from '../math/quaternion';
import type { PoseKey, ValueKey } from '../scene/keys';
import { keyTrack, keyedRotation, turnBetween } from './keys';
import { KEY_KINDS, valueCurve, valueOn } from './valueCurve';

/**
 * As few keys as go through a curve within an error at every whole frame: ends are kept, and wherever the cubic between two kept keys
 * is furthest off, a key is kept as well (Ramer 1972, Douglas and Peucker 1973, with Hermite curves for chords). Kept keys are free,
 * with the slopes that fit better of the curve's own on that side and the mean of both sides; keys that hold stay, and those beside them.
 *
 * @param error the most that a value may be off, in its own unit
 */
export function reduceValueKeys(keys: readonly ValueKey[], error: number): ValueKey[] {
  const curve = valueCurve(keys);
  const { frames, values, kinds, into, out } = curve;
  const rise = (i: number): number => (values[i + 1]! - values[i]!) / (frames[i + 1]! - frames[i]!);
  const sides = sidesOf(
    kinds,
    rise,
    (i) => [into[i]!, out[i]!],
    (a, b) => (a + b) / 2,
    0,
  );
  const free = (i: number, out: number, into: number): ValueKey => ({
    ...keys[i]!,
    curve: 'free',
    tangent: out,
    into,
  });
  const fit = (a: number, b: number, slopes: Slopes<number>): Worst => {
    const chord = valueCurve([free(a, slopes.out, 0), free(b, 0, slopes.into)]);
    return worstBetween(keys, a, b, (f) => Math.abs(valueOn(chord, f, 0) - valueOn(curve, f, 0)));
  };
  return keptKeys(keys, kinds, error, sides, fit).map(({ key, out, into }) => {
    const holds = keys[key]!.curve === 'hold';
    return holds ? { ...keys[key]!, tangent: null, into: into ?? null } : free(key, out ?? 0, into ?? 0);
  });
}

type Triple = readonly [number, number, number];

/**
 * The same for the keys of a joint.
 *
 * @param error the most that a rotation may be off, radians
 */
export function reducePoseKeys(keys: readonly PoseKey[], error: number): PoseKey[] {
  const track = keyTrack(0, keys);
  const { frames, rotations, kinds } = track;
  const triple = (list: Float64Array, i: number, by = 1): Triple => [
    list[i * 3]! * by,
    list[i * 3 + 1]! * by,
    list[i * 3 + 2]! * by,
  ];
  const rise = (i: number): Triple =>
    triple(turnBetween(rotations, i * 4, rotations, i * 4 + 4), 0, 1 / (frames[i + 1]! - frames[i]!));
  const mean = (a: Triple, b: Triple): Triple => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
  const own = (i: number): [Triple, Triple] => [triple(track.into, i), triple(track.out, i)];
  const none: Triple = [0, 0, 0];
  const sides = sidesOf(kinds, rise, own, mean, none);
  const free = (i: number, out: Triple, into: Triple): PoseKey => ({
    ...keys[i]!,
    curve: 'free',
    tangent: out,
    into,
  });
  const [p, q] = [new Float64Array(4), new Float64Array(4)];
  const fit = (a: number, b: number, slopes: Slopes<Triple>): Worst => {
    const chord = keyTrack(0, [free(a, slopes.out, none), free(b, none, slopes.into)]);
    return worstBetween(keys, a, b, (frame) =>
      quatAngle(keyedRotation(chord, frame, p, 0), 0, keyedRotation(track, frame, q, 0), 0),
    );
  };
  return keptKeys(keys, kinds, error, sides, fit).map(({ key, out, into }) => {
    const holds = keys[key]!.curve === 'hold';
    return holds
      ? { ...keys[key]!, tangent: null, into: into ?? null }
      : free(key, out ?? none, into ?? none);
  });
}

/** The slopes with which a key is left, and the next one arrived at. */
interface Slopes<T> {
  readonly out: T;
  readonly into: T;
}

/** Slopes that a chord may have at its two ends. */
type Sides<T> = (a: number, b: number) => readonly Slopes<T>[];

/** The curve's own slopes on the chord's side of its ends, and the means of both sides. */
function sidesOf<T>(
  kinds: Uint8Array,
  rise: (i: number) => T,
  own: (i: number) => readonly [T, T],
  mean: (a: T, b: T) => T,
  none: T,
): Sides<T> {
  const left = (i: number): T =>
    kinds[i] === KEY_KINDS.linear ? rise(i) : kinds[i] === KEY_KINDS.hold ? none : own(i)[1];
  const arrived = (i: number): T =>
    kinds[i - 1] === KEY_KINDS.linear ? rise(i - 1) : kinds[i - 1] === KEY_KINDS.hold ? none : own(i)[0];
  const both = (i: number): T =>
    i === 0 ? left(i) : i === kinds.length - 1 ? arrived(i) : mean(arrived(i), left(i));
  return (a, b) => [
    { out: left(a), into: arrived(b) },
    { out: both(a), into: both(b) },
  ];
}

interface Worst {
  /** How far off it is at most. */
  readonly error: number;
  /** The key next to where it is. */
  readonly key: number;
}

/** Where between two keys something is furthest off, at whole frames; the key there, or one between. */
function worstBetween(
  keys: readonly { readonly frame: number }[],
  a: number,
  b: number,
  errorAt: (frame: number) => number,
): Worst {
  let best: Worst = { error: 0, key: a + 1 };
  let nearest = a + 1;
  for (let frame = Math.ceil(keys[a]!.frame); frame <= keys[b]!.frame; frame++) {
    while (nearest + 1 < b && keys[nearest + 1]!.frame <= frame) nearest++;
    const error = errorAt(frame);
    if (error > best.error) best = { error, key: nearest };
  }
  return best;
}

interface Kept<T> {
  /** Its place in the list. */
  readonly key: number;
  into?: T;
  out?: T;
}

/** Which keys stay, in order, and the slopes of the chords beside each. */
function keptKeys<T>(
  keys: readonly { readonly frame: number }[],
  kinds: Uint8Array,
  error: number,
  sides: Sides<T>,
  fit: (a: number, b: number, slopes: Slopes<T>) => Worst,
): Kept<T>[] {
  const last = keys.length - 1;
  const kept = new Map<number, Kept<T>>();
  const keep = (key: number): void => void (key < 0 || key > last || kept.has(key) || kept.set(key, { key }));
  keep(0);
  keep(last);
  kinds.forEach((kind, i) => {
    if (kind === KEY_KINDS.hold) [i - 1, i, i + 1].forEach(keep);
  });
  const fixed = [...kept.keys()].sort((a, b) => a - b);
  const open = fixed.slice(1).map((to, i) => [fixed[i]!, to] as const);
  for (let span = open.pop(); span; span = open.pop()) {
    const [a, b] = span;
    const [best, slopes] = sides(a, b)
      .map((s) => [fit(a, b, s), s] as const)
      .reduce((one, other) => (other[0].error < one[0].error ? other : one));
    if (best.error <= error || b - a < 2) {
      kept.get(a)!.out = slopes.out;
      kept.get(b)!.into = slopes.into;
    } else {
      keep(best.key);
      open.push([a, best.key], [best.key, b]);
    }
  }
  return [...kept.values()].sort((a, b) => a.key - b.key);
}
