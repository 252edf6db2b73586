/** Bytes up to a multiple of four, as chunks of a GLB are (glTF 2.0.1, section 4.4.3). */
export function padded(bytes: Uint8Array, fill: number): Uint8Array {
  const out = new Uint8Array(Math.ceil(bytes.length / 4) * 4).fill(fill);
  out.set(bytes);
  return out;
}

/** Whole numbers of 32 bits, lowest byte first. */
export function header(...words: readonly number[]): Uint8Array {
  const out = new DataView(new ArrayBuffer(words.length * 4));
  words.forEach((word, i) => out.setUint32(i * 4, word, true));
  return new Uint8Array(out.buffer);
}
