type Place = readonly [number, number, number];

/**
 * Points of a lead that hangs between two places as a parabola of its length (s = d + 8 h^2 / 3 d for a sag h, the series of its arc
 * to second order), never through the floor.
 *
 * @returns points x 3
 */
export function leadCurve(from: Place, to: Place, length: number, points: number): Float32Array {
  const apart = Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]);
  const slack = Math.max(0, length - apart);
  const sag = Math.sqrt((3 * Math.max(apart, 0.05) * slack) / 8);
  const out = new Float32Array(points * 3);
  for (let i = 0; i < points; i++) {
    const t = i / (points - 1);
    const down = 4 * sag * t * (1 - t);
    out[i * 3] = from[0] + t * (to[0] - from[0]);
    out[i * 3 + 1] = Math.max(ABOVE_FLOOR, from[1] + t * (to[1] - from[1]) - down);
    out[i * 3 + 2] = from[2] + t * (to[2] - from[2]);
  }
  return out;
}

/** Metres over the floor at which a lead lies on it. */
const ABOVE_FLOOR = 0.01;
