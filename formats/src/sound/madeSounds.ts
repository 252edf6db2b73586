import { IMPACT_SECONDS, MADE, STEP_SECONDS } from '@warper/core';

/** Samples a second of made-up sounds. */
export const MADE_RATE = 22_050;

/** A part of a made-up sound: a tone or noise that dies away. */
interface Part {
  /** Hertz of a tone; of noise, above which it grows dull. */
  readonly hertz: number;
  readonly noise?: boolean;
  readonly level: number;
  /** Seconds until it begins, and in which it falls to 1/e. */
  readonly after?: number;
  readonly decay: number;
}

/** What feet sound like on each surface, and something that hits somebody. */
const PARTS: Readonly<Record<string, readonly Part[]>> = {
  stone: [
    { hertz: 95, level: 0.5, decay: 0.035 },
    { hertz: 5200, noise: true, level: 0.55, decay: 0.012 },
    { hertz: 1800, noise: true, level: 0.35, after: 0.045, decay: 0.03 },
  ],
  wood: [
    { hertz: 120, level: 0.55, decay: 0.05 },
    { hertz: 265, level: 0.3, decay: 0.06 },
    { hertz: 1400, noise: true, level: 0.4, decay: 0.014 },
    { hertz: 900, noise: true, level: 0.16, after: 0.06, decay: 0.03 },
  ],
  gravel: [
    { hertz: 70, level: 0.25, decay: 0.04 },
    { hertz: 6500, noise: true, level: 0.5, decay: 0.02 },
    { hertz: 5000, noise: true, level: 0.45, after: 0.03, decay: 0.02 },
    { hertz: 5800, noise: true, level: 0.4, after: 0.075, decay: 0.025 },
    { hertz: 4200, noise: true, level: 0.25, after: 0.12, decay: 0.03 },
  ],
  impact: [
    { hertz: 62, level: 0.8, decay: 0.11 },
    { hertz: 145, level: 0.4, decay: 0.07 },
    { hertz: 900, noise: true, level: 0.5, decay: 0.03 },
  ],
};

/**
 * A sound that no file has: a foot on a surface in one of several variants, or an impact.
 *
 * @param source as `heardSteps` names it, such as `made:stone-2`
 * @returns one channel at `MADE_RATE`; null for another source
 */
export function madeSound(source: string): Float32Array<ArrayBuffer> | null {
  const [kind = '', variant = '0'] = source.startsWith(MADE) ? source.slice(MADE.length).split('-') : [];
  const parts = PARTS[kind];
  if (!parts) return null;
  const samples = new Float32Array(
    Math.round((kind === 'impact' ? IMPACT_SECONDS : STEP_SECONDS) * MADE_RATE),
  );
  const random = noise(Number(variant) + 1);
  // No two feet are quite alike.
  const pitch = 1 + 0.08 * random();
  for (const part of parts) addPart(samples, part, pitch, random);
  return samples;
}

function addPart(
  samples: Float32Array,
  { hertz, noise = false, level, after = 0, decay }: Part,
  pitch: number,
  random: () => number,
): void {
  const first = Math.round(after * (1 + 0.2 * random()) * MADE_RATE);
  const attack = 0.001 * MADE_RATE;
  // A low-pass of one pole makes noise duller.
  const smoothing = Math.exp((-2 * Math.PI * hertz) / MADE_RATE);
  let dull = 0;
  for (let i = 0; first + i < samples.length; i++) {
    const t = i / MADE_RATE;
    dull = smoothing * dull + (1 - smoothing) * random();
    const wave = noise ? dull : Math.sin(2 * Math.PI * hertz * pitch * t);
    const shape = Math.min(1, i / attack) * Math.exp(-t / decay);
    // It ends in silence, however slowly it dies away.
    const left = Math.min(1, (samples.length - first - i) / (0.02 * MADE_RATE));
    samples[first + i] = (samples[first + i] ?? 0) + level * shape * left * wave;
  }
}

/** White noise, always the same for a seed: numbers from -1 to 1 (xorshift: Marsaglia, Journal of Statistical Software 8, 2003). */
export function noise(seed: number): () => number {
  let state = Math.imul(seed, 0x9e3779b9) >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 0x80000000 - 1;
  };
}
