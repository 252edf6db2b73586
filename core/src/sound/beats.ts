import type { Sound } from '../scene/sound';
import { soundSeconds } from '../scene/sound';

/** The frames (in fractions) at which the beats of a sound are heard, in order; those of repeats as well. */
export function beatFrames(sound: Sound, fps: number, most = 20_000): number[] {
  const { start, in: from, out, beats } = sound;
  const length = soundSeconds(sound);
  const each = out - from;
  const played = beats.filter((b) => b >= from && b < out);
  const frames: number[] = [];
  for (let begin = 0; begin < length && played.length > 0; begin += each)
    for (const beat of played) {
      const at = begin + beat - from;
      if (at < length && frames.length < most) frames.push(start + at * fps);
    }
  return frames;
}

/** A steady beat: when the first one is, and how long it is to the next. */
export interface Tempo {
  readonly first: number;
  readonly period: number;
}

/** The steady beat that is nearest to given times: a line through them by least squares, each time being one beat further. Needs two. */
export function tempoOf(times: readonly number[]): Tempo | null {
  const n = times.length;
  if (n < 2) return null;
  const meanIndex = (n - 1) / 2;
  const mean = times.reduce((sum, t) => sum + t, 0) / n;
  let [covariance, variance] = [0, 0];
  times.forEach((t, i) => {
    covariance += (i - meanIndex) * (t - mean);
    variance += (i - meanIndex) ** 2;
  });
  const period = covariance / variance;
  return period > 0 ? { first: mean - period * meanIndex, period } : null;
}

/** The beats of a steady tempo in [from, to). */
export function steadyBeats({ first, period }: Tempo, from: number, to: number): number[] {
  const begin = Math.ceil((from - first) / period - 1e-9);
  const count = Math.max(0, Math.min(20_000, Math.ceil((to - first) / period - 1e-9) - begin));
  return Array.from({ length: count }, (_, i) => first + (begin + i) * period);
}

/** A loop that is to go with a beat. */
export interface Stroked {
  /** First frame, and how often its cycle is played. */
  readonly start: number;
  readonly cycles: number;
  /** Frames of a cycle at the speed at which it was recorded. */
  readonly cycleFrames: number;
  /** The moment of the cycle that falls on a beat, as a share of the cycle from its first frame on. */
  readonly stroke: number;
  /** Beats in which a cycle is to be done; the nearest to its own speed where it is left out. */
  readonly beatsOfCycle?: number;
}

/** How a loop goes with a beat. */
export interface OnBeats {
  readonly start: number;
  /** Frames of all cycles. */
  readonly length: number;
  readonly beatsOfCycle: number;
  /** Factor on the speed at which it was recorded. */
  readonly pace: number;
  /** How far the strokes are from their beats at most, frames. */
  readonly off: number;
}

/** Beats of one cycle at most. */
const MOST_BEATS = 16;

/**
 * Times a loop to beats: its cycle lasts as many beats as come nearest to its own speed, and the stroke of its first cycle falls on the
 * beat that is nearest to where it was. Start and length are whole frames, so a stroke can be half a frame beside its beat, more where the beats are
 * not steady.
 *
 * @param beats frames of the beats, in order
 * @returns null without two beats
 */
export function fitToBeats(beats: readonly number[], loop: Stroked): OnBeats | null {
  const near = aroundLoop(beats, loop);
  const tempo = tempoOf(near);
  if (!tempo) return null;
  const { period } = tempo;
  const asked = loop.beatsOfCycle ?? Math.round(loop.cycleFrames / period);
  const beatsOfCycle = Math.min(MOST_BEATS, Math.max(1, asked));
  const length = Math.max(1, Math.round(loop.cycles * beatsOfCycle * period));
  const each = length / loop.cycles;
  const wanted = loop.start + loop.stroke * loop.cycleFrames;
  const beat = tempo.first + Math.round((wanted - tempo.first) / period) * period;
  const start = Math.round(beat - loop.stroke * each);
  const strokes = Array.from(
    { length: Math.ceil(loop.cycles - loop.stroke) },
    (_, i) => start + (loop.stroke + i) * each,
  );
  const off = strokes.map((s) => Math.min(...beats.map((b) => Math.abs(b - s))));
  return { start, length, beatsOfCycle, pace: loop.cycleFrames / each, off: Math.max(0, ...off) };
}

/** The beats from a loop's start to its end, and at least two of them. */
function aroundLoop(beats: readonly number[], { start, cycles, cycleFrames }: Stroked): readonly number[] {
  const end = start + cycles * cycleFrames;
  const first = Math.max(
    0,
    beats.findIndex((b) => b >= start),
  );
  const after = beats.findIndex((b) => b > end);
  const last = after < 0 ? beats.length : after + 1;
  const within = beats.slice(first, last);
  return within.length >= 2 ? within : beats.slice(Math.max(0, first - 2), first + 2);
}
