import type { Handheld } from '../scene/camera';

/** Motions that a held camera makes: turning left, up and rolling, and swaying right, up and back. */
export const HAND_MOTIONS = 6;

/** Waves of which each of its motions is made, and how far their frequencies lie about the one that is asked for, in octaves. */
const WAVES = 12;
const OCTAVES = { below: 2, above: 1.5 } as const;
/** How much of turning and swaying each motion has: one rolls less than one pans, and walks less to and fro than one sways. */
const SHARES = [1, 1, 0.4, 1, 0.7, 0.6] as const;

/** The waves of a handheld camera: for each of its motions so many of (amplitude, radians a second, phase). */
export type HandWaves = Float64Array;

/**
 * The waves of a handheld camera: each motion is a sum of cosines of evenly spread frequencies and random phases, whose amplitudes fall with the
 * frequency (spectral representation of a random process: Shinozuka and Deodatis 1991). Its mean is 0, and over a long time its root
 * mean square is what is asked for. The same seed gives the same motion.
 *
 * @returns HAND_MOTIONS x waves x 3
 */
export function handWaves({ turn, sway, frequency, seed }: Handheld): HandWaves {
  const random = numbersOf(seed);
  const out = new Float64Array(HAND_MOTIONS * WAVES * 3);
  for (let m = 0; m < HAND_MOTIONS; m++) {
    const meanSquare = (m < 3 ? (turn * Math.PI) / 180 : sway) * SHARES[m]!;
    let power = 0;
    for (let i = 0; i < WAVES; i++) {
      // Random in the middle half of each band: the motion does not repeat, and no two waves are so near each other that
      // they beat for minutes.
      const octave = -OCTAVES.below + ((OCTAVES.below + OCTAVES.above) * (i + 0.25 + random() / 2)) / WAVES;
      const o = (m * WAVES + i) * 3;
      out[o] = 2 ** -Math.max(0, octave);
      out[o + 1] = 2 * Math.PI * frequency * 2 ** octave;
      out[o + 2] = 2 * Math.PI * random();
      power += out[o] ** 2 / 2;
    }
    for (let i = 0; i < WAVES; i++) out[(m * WAVES + i) * 3]! *= meanSquare / Math.sqrt(power);
  }
  return out;
}

/** Writes the motions of a handheld camera at a time: radians, then metres. */
export function handAt(waves: HandWaves, seconds: number, out: Float64Array): Float64Array {
  for (let m = 0; m < HAND_MOTIONS; m++) {
    let sum = 0;
    for (let o = m * WAVES * 3; o < (m + 1) * WAVES * 3; o += 3)
      sum += waves[o]! * Math.cos(waves[o + 1]! * seconds + waves[o + 2]!);
    out[m] = sum;
  }
  return out;
}

/** Even numbers from 0 to 1 that follow from a seed (mulberry32, in the public domain). */
function numbersOf(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
