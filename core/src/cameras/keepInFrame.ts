import { quatConjugate, quatFromAxis, quatMultiply, quatRotate } from '../math/quaternion';
import { smoothGaussian } from '../math/smoothing';
import type { CameraKeep } from '../scene/camera';
import { LENS } from '../scene/camera';
import type { FigureTrack } from './tracks';

/** A camera at each whole frame before it is turned to keep somebody in its picture. */
export interface UnkeptTrack {
  /** frames x 3, metres. */
  readonly places: Float64Array;
  /** frames x 4, xyzw. */
  readonly rotations: Float64Array;
  /** Focal length, millimetres, at each frame. */
  readonly lenses: Float64Array;
  /** Width and height of the part of the film back that is seen, millimetres. */
  readonly gate: readonly [number, number];
}

/** How a camera is changed at each whole frame so that somebody stays in a part of its picture. */
export interface KeptTrack {
  /** frames x 4, xyzw: turned so after its own rotation. */
  readonly turns: Float64Array;
  /** Factor on the focal length at each frame, 0 to 1. */
  readonly lenses: Float64Array;
}

/** Seconds over which the turning and the lens are smoothed. */
const CALM_SECONDS = 0.15;
/** How often it goes to and fro between turning and tilting, which change a little what the other has done. */
const ROUNDS = 6;
/** How often the lens is fitted. */
const FITS = 3;
/** Share of the picture by which the part that is kept to is smaller, for what turning and tilting do to each other. */
const INSET = 0.004;
/** How much more than the figure the lens takes in: turning for one direction makes it a little larger in the other. */
const ROOM = 1.03;
/** How far a Gaussian reaches, in its width. */
const REACH = 4;

/**
 * Turns a camera no more than it must so that a figure stays within a part of the picture: at each frame there is a span of angles
 * that do, and the turning is the smoothed way through these spans. Where the figure is too large for the part, its middle is in the middle
 * of it, or the lens becomes shorter.
 */
export function keepInFrame(
  camera: UnkeptTrack,
  figure: FigureTrack,
  keep: CameraKeep,
  framesPerSecond: number,
): KeptTrack {
  const frames = camera.lenses.length;
  const sigma = CALM_SECONDS * framesPerSecond;
  const edges = insetBox(keep);
  const turns = new Float64Array(frames * 4);
  const lenses = new Float64Array(frames).fill(1);
  const work = { camera, figure, edges, turns, lenses };
  const reset = (): void => {
    for (let f = 0; f < frames; f++) turns.set([0, 0, 0, 1], f * 4);
  };
  reset();
  // How large a figure is seen depends on where in the picture it is, and that on the lens.
  for (let fit = 0; keep.widens && fit < FITS; fit++) {
    turnInto(work, 0, sigma);
    turnInto(work, 1, sigma);
    fitLens(work, sigma);
    reset();
  }
  for (let round = 0; round < ROUNDS; round++) {
    turnInto(work, 0, sigma);
    turnInto(work, 1, sigma);
  }
  return { turns, lenses };
}

interface Work {
  readonly camera: UnkeptTrack;
  readonly figure: FigureTrack;
  /** Left, right; bottom, top: shares of half the picture from its middle. */
  readonly edges: readonly [readonly [number, number], readonly [number, number]];
  readonly turns: Float64Array;
  readonly lenses: Float64Array;
}

const insetBox = ({ left, right, bottom, top }: CameraKeep): Work['edges'] => {
  const span = (a: number, b: number): readonly [number, number] => {
    const inset = Math.min(INSET, (b - a) / 4);
    return [2 * (a + inset) - 1, 2 * (b - inset) - 1];
  };
  return [span(left, right), span(bottom, top)];
};

const _rotation = new Float64Array(4);
const _inverse = new Float64Array(4);
const _point = new Float64Array(3);
const _turn = new Float64Array(4);
const _extent = new Float64Array(2);

/** Writes the least and the greatest angle at which the figure is seen along an axis of the picture (0 across, 1 up), radians. */
function extentAt({ camera, figure, turns }: Work, frame: number, axis: 0 | 1, out: Float64Array): void {
  quatMultiply(camera.rotations, frame * 4, turns, frame * 4, _rotation, 0);
  quatConjugate(_rotation, 0, _inverse, 0);
  out[0] = Infinity;
  out[1] = -Infinity;
  const { places, points, skin } = figure;
  for (let p = frame * points * 3; p < (frame + 1) * points * 3; p += 3) {
    for (let k = 0; k < 3; k++) _point[k] = places[p + k]! - camera.places[frame * 3 + k]!;
    quatRotate(_inverse, 0, _point, 0, _point, 0);
    const angle = Math.atan2(_point[axis]!, -_point[2]!);
    const around = Math.asin(Math.min(1, skin / Math.max(skin, Math.hypot(_point[axis]!, _point[2]!))));
    out[0] = Math.min(out[0], angle - around);
    out[1] = Math.max(out[1], angle + around);
  }
}

/** The angle of an edge of the part of the picture, radians. */
const edgeAngle = ({ camera, edges, lenses }: Work, frame: number, axis: 0 | 1, end: 0 | 1): number =>
  Math.atan((edges[axis][end] * camera.gate[axis]) / (2 * camera.lenses[frame]! * lenses[frame]!));

/** Turns (axis 0) or tilts (axis 1) the camera so that the figure lies between the edges. */
function turnInto(work: Work, axis: 0 | 1, sigma: number): void {
  const frames = work.camera.lenses.length;
  const least = new Float64Array(frames);
  const most = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    extentAt(work, f, axis, _extent);
    // Turned to the left by an angle it sees everything further to the right by it; tilted up, further down.
    least[f] = edgeAngle(work, f, axis, 0) - _extent[0]!;
    most[f] = edgeAngle(work, f, axis, 1) - _extent[1]!;
    if (least[f]! > most[f]!) least[f] = most[f] = (least[f]! + most[f]!) / 2;
  }
  const angles = throughSpans(least, most, sigma);
  for (let f = 0; f < frames; f++) {
    if (axis === 0) quatFromAxis(0, 1, 0, angles[f]!, _turn, 0);
    else quatFromAxis(1, 0, 0, -angles[f]!, _turn, 0);
    quatMultiply(work.turns, f * 4, _turn, 0, work.turns, f * 4);
  }
}

/**
 * A smooth row of values each of which lies in its span, and is 0 but near where it must not be. What must be turned to one side is the smoothed
 * greatest need within reach of the smoothing, so that it is met everywhere; where both sides are needed closely after each other, the
 * way is along the ends of the spans.
 */
export function throughSpans(least: Float64Array, most: Float64Array, sigma: number): Float64Array {
  const clamp = (v: number, f: number): number => Math.min(most[f]!, Math.max(least[f]!, v));
  if (least.every((low, f) => low <= 0 && most[f]! >= 0)) return new Float64Array(least.length);
  const right = lowerEnvelope(
    least.map((v) => Math.min(0, -v)),
    sigma,
  );
  const left = lowerEnvelope(
    most.map((v) => Math.min(0, v)),
    sigma,
  );
  return left.map((v, f) => clamp(v - right[f]!, f));
}

/** Makes the lens as short as it must be for the figure to have room between the edges, and changes it smoothly. */
function fitLens(work: Work, sigma: number): void {
  const { camera, lenses } = work;
  const frames = lenses.length;
  const fits = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    let share = 1;
    for (const axis of [0, 1] as const) {
      extentAt(work, f, axis, _extent);
      const wanted = ROOM * (_extent[1]! - _extent[0]!);
      const seen = (s: number): number => {
        lenses[f] = s;
        return edgeAngle(work, f, axis, 1) - edgeAngle(work, f, axis, 0);
      };
      if (seen(share) >= wanted) continue;
      let [low, high] = [Math.min(1, LENS.least / camera.lenses[f]!), share];
      for (let i = 0; i < 40; i++) {
        const middle = (low + high) / 2;
        if (seen(middle) >= wanted) low = middle;
        else high = middle;
      }
      share = low;
    }
    fits[f] = share;
  }
  lenses.set(lowerEnvelope(fits, sigma));
}

/** A smooth row of values none of which is above its own: the least within reach of the smoothing, smoothed. */
function lowerEnvelope(values: Float64Array, sigma: number): Float64Array {
  const reach = Math.ceil(sigma * REACH);
  const least = values.map((_, f) => {
    let low = Infinity;
    for (let g = Math.max(0, f - reach); g <= Math.min(values.length - 1, f + reach); g++)
      low = Math.min(low, values[g]!);
    return low;
  });
  return smoothGaussian(least, sigma).map((v, f) => Math.min(v, values[f]!));
}
