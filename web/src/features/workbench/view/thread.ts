import type { InterleavedBufferAttribute, MeshBasicMaterialParameters } from 'three';
import { Line2 } from 'three/examples/jsm/lines/Line2.js';
import { LineGeometry } from 'three/examples/jsm/lines/LineGeometry.js';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';

/** Pixels of the page: a plain line is one of the screen, which is too fine where that has many. */
const WIDTH = 1.25;

/** A line of so many points through the view, as wide on any screen. */
export function makeThread(
  points: number,
  look: Pick<MeshBasicMaterialParameters, 'color' | 'depthTest'> & {
    readonly dashed?: boolean;
    readonly dashSize?: number;
    readonly gapSize?: number;
  },
): Line2 {
  const geometry = new LineGeometry();
  geometry.setPositions(new Float32Array(points * 3));
  const line = new Line2(geometry, new LineMaterial({ ...look, linewidth: WIDTH }));
  line.frustumCulled = false;
  // What is drawn is no handle.
  line.raycast = () => undefined;
  return line;
}

/** Draws a line through other points, as many as it has; x, y, z each. */
export function layThread(line: Line2, points: ArrayLike<number>): void {
  const ends = line.geometry.getAttribute('instanceStart') as InterleavedBufferAttribute;
  const { array } = ends.data;
  // Each piece has the point at which it begins, and the one at which it ends.
  for (let i = 0; i + 3 < points.length; i += 3)
    for (let k = 0; k < 6; k++) array[i * 2 + k] = points[i + k] ?? 0;
  ends.data.needsUpdate = true;
}
