import type { BufferGeometry } from 'three';
import { CircleGeometry } from 'three';
import type { Footprint } from './paths';

/** Height over the floor, metres: over everything else that lies there, low enough not to be seen. */
const HEIGHT = 0.007;
/** Width of a footprint against its length. */
const WIDTH = 0.38;

/** A footprint as it lies on the floor. */
export const footprintShape = ({ x, z, heading, length }: Footprint): BufferGeometry =>
  new CircleGeometry(1, 24)
    .rotateX(-Math.PI / 2)
    .scale((WIDTH * length) / 2, 1, length / 2)
    .rotateY(heading)
    .translate(x, HEIGHT, z);
