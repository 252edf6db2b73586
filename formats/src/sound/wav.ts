/** Bytes before the samples, of a sample, and the largest value of one. */
const HEADER = 44;
const BYTES = 2;
const LARGEST = 32767;

/**
 * Writes a sound as a WAV file of 16 bits (RIFF/WAVE, linear PCM: Multimedia Programming Interface and Data Specifications 1.0, 1991).
 *
 * @param channels samples from -1 to 1, one array of equal length for each channel; beyond that they are cut off
 * @param rate samples a second
 */
export function writeWav(channels: readonly Float32Array[], rate: number): Uint8Array<ArrayBuffer> {
  const count = channels[0]?.length ?? 0;
  const frame = channels.length * BYTES;
  const bytes = new Uint8Array(HEADER + count * frame);
  const view = new DataView(bytes.buffer);
  const word = (at: number, text: string): void => bytes.set(new TextEncoder().encode(text), at);
  word(0, 'RIFF');
  view.setUint32(4, bytes.length - 8, true);
  word(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, channels.length, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * frame, true);
  view.setUint16(32, frame, true);
  view.setUint16(34, BYTES * 8, true);
  word(36, 'data');
  view.setUint32(40, count * frame, true);
  let at = HEADER;
  for (let i = 0; i < count; i++)
    for (const channel of channels) {
      const value = Math.min(1, Math.max(-1, channel[i] ?? 0));
      view.setInt16(at, Math.round(value * LARGEST), true);
      at += BYTES;
    }
  return bytes;
}
