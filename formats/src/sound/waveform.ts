/** Spans of a waveform in a second. */
export const WAVEFORM_RATE = 100;

/** The largest value of a waveform, which stands for an amplitude of 1. */
const LARGEST = 127;

/** What is drawn of a sound: its lowest and highest sample in each span of a hundredth of a second, pairs of -127 to 127. */
export type Waveform = Int8Array;

/**
 * The waveform of a sound.
 *
 * @param samples from -1 to 1
 * @param rate samples a second
 */
export function waveformOf(samples: Float32Array, rate: number): Waveform {
  const each = rate / WAVEFORM_RATE;
  const count = Math.ceil(samples.length / each);
  const waveform = new Int8Array(count * 2);
  for (let i = 0; i < count; i++) {
    let [low, high] = [0, 0];
    const end = Math.min(samples.length, Math.round((i + 1) * each));
    for (let s = Math.round(i * each); s < end; s++) {
      const value = samples[s] ?? 0;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    waveform[i * 2] = Math.floor(Math.max(-1, low) * LARGEST);
    waveform[i * 2 + 1] = Math.ceil(Math.min(1, high) * LARGEST);
  }
  return waveform;
}
