import { cloudDistance, fitPoints, hannWindow, matchMap } from '@warper/core/kernels';
import { compare } from './measure';

const FRAMES = 300;
const JOINTS = 20;
const HALF = 5;

/** Two motions of 20 joints that walk about. */
function motion(phase: number): Float64Array {
  const places = new Float64Array(FRAMES * JOINTS * 3);
  for (let f = 0; f < FRAMES; f++)
    for (let j = 0; j < JOINTS; j++) {
      const p = (f * JOINTS + j) * 3;
      places[p] = 0.3 * Math.sin(f * 0.1 + j + phase) + 0.01 * f;
      places[p + 1] = 0.1 * j + 0.05 * Math.cos(f * 0.13 + j * 2 + phase);
      places[p + 2] = 0.3 * Math.cos(f * 0.09 + j * 1.7 + phase) + 0.03 * f;
    }
  return places;
}

/** The formula as the paper has it: for each pair the clouds of its window, the best floor move, the distance. */
function naive(outgoing: Float64Array, incoming: Float64Array): Float64Array {
  const map = new Float64Array(FRAMES * FRAMES);
  const window = hannWindow(HALF);
  for (let i = 0; i < FRAMES; i++)
    for (let k = 0; k < FRAMES; k++) {
      const from = Math.max(-HALF, -i, -k);
      const to = Math.min(HALF, FRAMES - 1 - i, FRAMES - 1 - k);
      const count = to - from + 1;
      const a = outgoing.subarray((i + from) * JOINTS * 3, (i + to + 1) * JOINTS * 3);
      const b = incoming.subarray((k + from) * JOINTS * 3, (k + to + 1) * JOINTS * 3);
      const weights = new Float64Array(count * JOINTS);
      for (let d = 0; d < count; d++) weights.fill(window[from + d + HALF]!, d * JOINTS, (d + 1) * JOINTS);
      const move = fitPoints(a, b, weights)!;
      map[i * FRAMES + k] = cloudDistance(a, b, weights, move);
    }
  return map;
}

/** The map of matching frames against the naive formula, and how far the two differ. */
export function benchMatching(): void {
  const [a, b] = [motion(0), motion(0.9)];
  const input = {
    outgoing: a,
    outgoingFrames: FRAMES,
    incoming: b,
    incomingFrames: FRAMES,
    joints: JOINTS,
    half: HALF,
  };
  const [fast, slow] = [matchMap(input), naive(a, b)];
  const apart = fast.reduce((most, v, i) => Math.max(most, Math.abs(v - slow[i]!)), 0);
  compare(
    `Map of matching frames, ${FRAMES} x ${FRAMES} x ${JOINTS} joints (differs by ${apart.toExponential(1)} m at most)`,
    'pair',
    FRAMES * FRAMES,
    () => void matchMap(input),
    { name: 'naive formula', run: () => void naive(a, b) },
    5,
  );
}
