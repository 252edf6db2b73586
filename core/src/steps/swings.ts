import type { Clip } from '../clip/clip';
import { jointTracks } from '../clip/jointTracks';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import { legLength, legsOf } from '../skeleton/legs';
import { findSteps } from './steps';

/** What the legs of a clip do while they swing, as it is played: metres a frame and its differences. */
export interface Swing {
  /** 90th percentile of an ankle's or a tip's step from frame to frame. */
  readonly speed: number;
  /** 99th percentiles over knee, ankle and tip. */
  readonly acceleration: number;
  /** |step - mean of the steps before and after|. */
  readonly pop: number;
}

/** Frames of swing from which on a clip tells by itself what is ordinary. */
const FEWEST = 12;

/**
 * An unhurried step, in leg lengths a second, a second squared and cubed: half a leg's length by minimum jerk in 0.45 s, with its
 * lift (from our own measurements); for clips whose feet do not swing.
 */
const UNHURRIED = { speed: 2, acceleration: 16, jerk: 330 };

/** The swings of a clip's feet, played at so many samples a frame. */
export const ordinarySwing = (clip: Clip, samplesPerFrame: number, memory: Memory): Swing =>
  memory.recall(swing, clip, samplesPerFrame);

const swing = derivation('ordinary swing', 5000, (memory, clip: Clip, samplesPerFrame: number): Swing => {
  const frames = Math.floor((clip.frames - 1) / samplesPerFrame + 1e-9) + 1;
  const speeds: number[] = [];
  const accelerations: number[] = [];
  const pops: number[] = [];
  const steps = findSteps(clip, memory).joints;
  for (const [l, leg] of legsOf(clip.skeleton).entries()) {
    const joints = [leg.lower, leg.ankle, ...(leg.tip >= 0 ? [leg.tip] : [])];
    const places = resampled(jointTracks(clip, joints), joints.length, frames, samplesPerFrame);
    const spans = steps.filter((s) => s.leg === l).flatMap((s) => s.spans);
    const swings = (f: number): boolean => {
      const s = f * samplesPerFrame;
      return !spans.some((span) => s >= span.start && s < span.end);
    };
    for (let f = 2; f < frames - 1; f++) {
      if (!swings(f - 1) || !swings(f)) continue;
      for (let j = 0; j < joints.length; j++) {
        if (j > 0) speeds.push(difference(places, joints.length, f, j, [1, -1]));
        accelerations.push(difference(places, joints.length, f, j, [1, -2, 1]));
        pops.push(difference(places, joints.length, f + 1, j, [-0.5, 1.5, -1.5, 0.5]));
      }
    }
  }
  if (speeds.length >= FEWEST)
    return { speed: share(speeds, 0.9), acceleration: share(accelerations, 0.99), pop: share(pops, 0.99) };
  const length = legLength(clip.skeleton) ?? 1;
  const seconds = samplesPerFrame / clip.rate;
  return {
    speed: UNHURRIED.speed * length * seconds,
    acceleration: UNHURRIED.acceleration * length * seconds ** 2,
    pop: (UNHURRIED.jerk / 2) * length * seconds ** 3,
  };
});

/** Tracks (samples x columns x 3) at so many samples a frame. */
function resampled(tracks: Float64Array, columns: number, frames: number, samples: number): Float64Array {
  const out = new Float64Array(frames * columns * 3);
  const last = tracks.length / (columns * 3) - 1;
  for (let f = 0; f < frames; f++) {
    const s = Math.min(f * samples, last);
    const a = Math.floor(s);
    const b = Math.min(a + 1, last);
    for (let k = 0; k < columns * 3; k++) {
      const v = tracks[a * columns * 3 + k]!;
      out[f * columns * 3 + k] = v + (s - a) * (tracks[b * columns * 3 + k]! - v);
    }
  }
  return out;
}

/** Length of a weighted sum of a joint's places at frame f and before it. */
function difference(
  places: Float64Array,
  columns: number,
  f: number,
  j: number,
  weights: readonly number[],
): number {
  let square = 0;
  for (let k = 0; k < 3; k++) {
    let sum = 0;
    for (let i = 0; i < weights.length; i++) sum += weights[i]! * places[((f - i) * columns + j) * 3 + k]!;
    square += sum * sum;
  }
  return Math.sqrt(square);
}

const share = (values: number[], part: number): number =>
  values.sort((a, b) => a - b)[Math.floor(part * (values.length - 1))]!;
