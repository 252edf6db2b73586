import { BufferAttribute, BufferGeometry } from 'three';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';

/** Points closer together than this (metres) are one: a body that stands still makes no ribbon. */
const LEAST_STEP = 0.03;

/**
 * A flat band of even width along a path on the floor, as one strip without overlaps between its pieces.
 *
 * @param path points x 2: x and z in metres
 */
export function ribbon(path: Float64Array, width: number, height: number): BufferGeometry {
  const points: [number, number][] = [];
  for (let i = 0; i + 1 < path.length; i += 2) {
    const last = points.at(-1);
    const next: [number, number] = [path[i]!, path[i + 1]!];
    if (!last || Math.hypot(next[0] - last[0], next[1] - last[1]) >= LEAST_STEP) points.push(next);
  }
  const positions = new Float32Array(points.length * 6);
  const indices: number[] = [];
  points.forEach(([x, z], i) => {
    const [ax, az] = points[Math.max(0, i - 1)]!;
    const [bx, bz] = points[Math.min(points.length - 1, i + 1)]!;
    const length = Math.hypot(bx - ax, bz - az) || 1;
    const [nx, nz] = [((bz - az) / length) * (width / 2), (-(bx - ax) / length) * (width / 2)];
    positions.set([x + nx, height, z + nz, x - nx, height, z - nz], i * 6);
    if (i > 0) indices.push(i * 2 - 2, i * 2 - 1, i * 2, i * 2 - 1, i * 2 + 1, i * 2);
  });
  return new BufferGeometry().setAttribute('position', new BufferAttribute(positions, 3)).setIndex(indices);
}

/** Several flat shapes as one that is drawn at once, each let through as much as asked, the first at the bottom. */
export function layered(
  shapes: readonly { readonly shape: BufferGeometry; readonly opacity: number }[],
): BufferGeometry {
  const full = shapes.filter(({ shape }) => shape.getAttribute('position').count > 0);
  if (full.length === 0)
    return new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(0), 3));
  for (const { shape, opacity } of full) {
    const colours = new Float32Array(shape.getAttribute('position').count * 4).fill(1);
    for (let i = 3; i < colours.length; i += 4) colours[i] = opacity;
    shape.deleteAttribute('normal').deleteAttribute('uv');
    shape.setAttribute('color', new BufferAttribute(colours, 4));
  }
  return mergeGeometries(full.map(({ shape }) => shape));
}
