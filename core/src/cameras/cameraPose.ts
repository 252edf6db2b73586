/** How a camera stands at a frame. It looks along its own -Z, with +Y up, as in glTF 2.0.1, section 3.10. */
export interface CameraPose {
  /** x, y, z in metres. */
  readonly place: Float64Array;
  /** xyzw, unit. */
  readonly rotation: Float64Array;
  /** Focal length, millimetres. */
  lens: number;
  /** Tangent of half the angle that it sees from bottom to top; from left to right it is so many times the aspect. */
  halfHeight: number;
}

/** Memory for the pose of a camera. */
export const makeCameraPose = (): CameraPose => ({
  place: new Float64Array(3),
  rotation: Float64Array.of(0, 0, 0, 1),
  lens: 35,
  halfHeight: 0.3,
});

/**
 * The part of a film back that makes the picture: as much of it as has the picture's aspect.
 *
 * @param back width and height, millimetres
 * @param aspect width of the picture by its height
 * @returns width and height, millimetres
 */
export const gateOf = (
  [width, height]: readonly [number, number],
  aspect: number,
): readonly [number, number] =>
  width / height > aspect ? [height * aspect, height] : [width, width / aspect];

/** Tangent of half the angle from bottom to top that a lens sees on a film back. */
export const halfHeightOf = (lens: number, back: readonly [number, number], aspect: number): number =>
  gateOf(back, aspect)[1] / (2 * lens);

/** The focal length, millimetres, that sees so much from bottom to top; see `halfHeightOf`. */
export const lensFor = (halfHeight: number, back: readonly [number, number], aspect: number): number =>
  gateOf(back, aspect)[1] / (2 * halfHeight);
