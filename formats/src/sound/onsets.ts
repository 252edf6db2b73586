import MusicTempo from 'music-tempo';
import FFT from 'music-tempo/dist/node/FFT.js';
import OnsetDetection from 'music-tempo/dist/node/OnsetDetection.js';

/** Bundlers give what a CommonJS module exports as its default, Node the module. */
const exported = <T extends object>(module: T): T => ('default' in module ? (module.default as T) : module);
const Tracker = exported(MusicTempo);
const Transform = exported(FFT);
const Detection = exported(OnsetDetection);

/** Samples a second of what is listened to, and how far apart and how long its windows are. */
export const LISTENING_RATE = 22_050;
const HOP = 220;
const WINDOW = 1024;
const HOP_SECONDS = HOP / LISTENING_RATE;

/** Seconds beyond which a sound is not listened to: the package copies it several times. */
const MOST_SECONDS = 600;

/** Onsets that at least are needed for a beat, and the amplitude below which all is silence. */
const LEAST_ONSETS = 4;
const SILENCE = 1e-4;

/** Deviations over the mean flux at which a single peak is an onset. */
const STANDS_OUT = 2;

/** What is heard in a sound: when something begins, and its beats, seconds. */
export interface HeardRhythm {
  readonly onsets: readonly number[];
  readonly beats: readonly number[];
  /** Beats a minute; null where there are none. */
  readonly tempo: number | null;
}

/**
 * Listens for onsets (peaks of the spectral flux: Dixon, "Onset detection revisited", DAFx 2006) and for beats (Dixon, "Automatic extraction
 * of tempo and beat from expressive performances", Journal of New Music Research 30, 2001), by the package music-tempo. Its times are those
 * of windows, which notice an onset a hop after it.
 *
 * @param samples one channel at `LISTENING_RATE`, from -1 to 1
 */
export function hearRhythm(samples: Float32Array): HeardRhythm {
  const heard = Array.from(samples.subarray(0, MOST_SECONDS * LISTENING_RATE));
  const onsets = onsetsOf(heard);
  if (onsets.length < LEAST_ONSETS) return { onsets, beats: [], tempo: null };
  try {
    const found = new Tracker(heard, { bufferSize: WINDOW, hopSize: HOP, timeStep: HOP_SECONDS });
    const beats = found.beats.map(early).filter((b, i, all) => i === 0 || b > (all[i - 1] ?? 0));
    return { onsets, beats, tempo: beats.length > 1 ? Number(found.tempo) : null };
  } catch {
    // What has onsets and no tempo makes the package throw.
    return { onsets, beats: [], tempo: null };
  }
}

function onsetsOf(samples: number[]): number[] {
  // Silence has no peaks, and the package divides by what it has.
  if (samples.length < WINDOW || samples.every((v) => Math.abs(v) < SILENCE)) return [];
  const flux = Detection.calculateSF(samples, Transform, { bufferSize: WINDOW, hopSize: HOP });
  Detection.normalize(flux);
  try {
    return Detection.findPeaks(flux, {}).map((p) => early(p * HOP_SECONDS));
  } catch {
    // Of fewer than two peaks the package knows nothing: the highest is one where it stands out.
    const highest = flux.reduce((most, v, i) => (v > (flux[most] ?? 0) ? i : most), 0);
    return (flux[highest] ?? 0) > STANDS_OUT ? [early(highest * HOP_SECONDS)] : [];
  }
}

/** Thousandths of a second are near enough. */
const early = (seconds: number): number => Math.max(0, Math.round((seconds - HOP_SECONDS) * 1000) / 1000);
