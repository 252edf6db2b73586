import type { ValueCurve } from '../layers/valueCurve';
import { valueCurve, valueOn } from '../layers/valueCurve';

/** A path over the floor for a camera, by the share of its length. */
export interface Dolly {
  /** Over the sum of the distances between its points. */
  readonly x: ValueCurve;
  readonly z: ValueCurve;
  /** At evenly spaced shares of its length, that sum. */
  readonly at: Float64Array;
  /** Metres. */
  readonly length: number;
}

/** Places between two points by which the length of a path is measured. */
const PIECES = 200;

/** A smooth path through points (x, z), metres, gone along at an even speed; points at one place count once. */
export function dollyOf(points: readonly (readonly [number, number])[]): Dolly {
  const apart = points.filter((p, i) => i === 0 || distance(p, points[i - 1]!) > 0);
  const sums = [0];
  for (let i = 1; i < apart.length; i++) sums.push(sums[i - 1]! + distance(apart[i]!, apart[i - 1]!));
  const curve = (k: 0 | 1): ValueCurve =>
    valueCurve(
      apart.map((p, i) => {
        // Ends go out straight to their neighbour.
        const [a, b] = [i === 0 ? 0 : i - 1, i === apart.length - 1 ? i : i + 1];
        const slope = b > a ? (apart[b]![k] - apart[a]![k]) / (sums[b]! - sums[a]!) : 0;
        return { frame: sums[i]!, value: p[k], curve: 'free', tangent: slope, into: null };
      }),
    );
  const [x, z] = [curve(0), curve(1)];
  const total = sums.at(-1)!;
  const pieces = PIECES * Math.max(1, apart.length - 1);
  const lengths = new Float64Array(pieces + 1);
  for (let i = 1; i <= pieces; i++) {
    const [a, b] = [(total * (i - 1)) / pieces, (total * i) / pieces];
    lengths[i] =
      lengths[i - 1]! + Math.hypot(valueOn(x, b, 0) - valueOn(x, a, 0), valueOn(z, b, 0) - valueOn(z, a, 0));
  }
  const length = lengths[pieces]!;
  const at = new Float64Array(pieces + 1);
  for (let i = 0, k = 0; i <= pieces; i++) {
    const gone = (length * i) / pieces;
    while (k < pieces - 1 && lengths[k + 1]! < gone) k++;
    const step = lengths[k + 1]! - lengths[k]!;
    at[i] = (total * (k + (step > 0 ? (gone - lengths[k]!) / step : 0))) / pieces;
  }
  return { x, z, at, length };
}

const distance = (a: readonly [number, number], b: readonly [number, number]): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1]);
