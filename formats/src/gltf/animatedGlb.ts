import { BIN_CHUNK, JSON_CHUNK, MAGIC, readChunks } from './container';

/** An animation of joints: one rotation track each, a track of places where a joint moves. */
export interface JointTracks {
  readonly name: string;
  /** Samples a second. */
  readonly rate: number;
  readonly frames: number;
  /** The node of each joint. */
  readonly nodes: readonly number[];
  /** frames x 4, xyzw. */
  readonly rotations: readonly Float32Array[];
  /** frames x 3; null where a joint only turns. */
  readonly translations: readonly (Float32Array | null)[];
}

/** What of a glTF document is written here (glTF 2.0.1, sections 3.6 and 3.11). */
interface Json {
  buffers?: { byteLength: number }[];
  bufferViews?: object[];
  accessors?: object[];
  animations?: object[];
}

const FLOAT = 5126;
const WIDTHS = { SCALAR: 1, VEC3: 3, VEC4: 4 } as const;

/**
 * A GLB without animations with one, as its parts: the tracks are put behind what is in it, as they are, so that a long motion is
 * not copied on its way to the disk.
 */
export function animatedGlb(unanimated: Uint8Array, tracks: JointTracks): Uint8Array[] {
  const chunks = readChunks(unanimated);
  const json = JSON.parse(new TextDecoder().decode(chunks.json)) as Json;
  const bin = padded(chunks.bin ?? new Uint8Array(0), 0);
  const parts: Uint8Array[] = [bin];
  let length = bin.length;
  const accessor = (values: Float32Array, type: keyof typeof WIDTHS, bounds: object = {}): number => {
    const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
    const view = { buffer: 0, byteOffset: length, byteLength: bytes.length };
    const bufferView = (json.bufferViews ??= []).push(view) - 1;
    parts.push(bytes);
    length += bytes.length;
    const count = values.length / WIDTHS[type];
    return (json.accessors ??= []).push({ bufferView, componentType: FLOAT, count, type, ...bounds }) - 1;
  };
  const times = Float32Array.from({ length: tracks.frames }, (_, f) => f / tracks.rate);
  const input = accessor(times, 'SCALAR', { min: [times[0]], max: [times[tracks.frames - 1]] });
  const samplers: object[] = [];
  const channels: object[] = [];
  const channel = (node: number, path: 'rotation' | 'translation', output: number): void => {
    channels.push({ sampler: samplers.length, target: { node, path } });
    samplers.push({ input, output, interpolation: 'LINEAR' });
  };
  // Joints that stay in one and the same turn, as those that a clip does not move do, share their track.
  const still = new Map<string, number>();
  const turns = (values: Float32Array): number => {
    if (!isConstant(values)) return accessor(values, 'VEC4');
    const key = values.subarray(0, 4).join();
    const shared = still.get(key) ?? accessor(values, 'VEC4');
    still.set(key, shared);
    return shared;
  };
  tracks.nodes.forEach((node, j) => {
    channel(node, 'rotation', turns(tracks.rotations[j]!));
    const places = tracks.translations[j];
    if (places) channel(node, 'translation', accessor(places, 'VEC3'));
  });
  json.animations = [{ name: tracks.name, extras: { rate: tracks.rate }, samplers, channels }];
  json.buffers = [{ ...json.buffers?.[0], byteLength: length }];
  const text = padded(new TextEncoder().encode(JSON.stringify(json)), ' '.charCodeAt(0));
  const head = header(MAGIC, 2, 12 + 8 + text.length + 8 + length);
  return [head, header(text.length, JSON_CHUNK), text, header(length, BIN_CHUNK), ...parts];
}

const isConstant = (rotations: Float32Array): boolean =>
  rotations.every((value, i) => i < 4 || value === rotations[i - 4]);

/** Bytes up to a multiple of four, as chunks are (section 4.4.3). */
function padded(bytes: Uint8Array, fill: number): Uint8Array {
  const out = new Uint8Array(Math.ceil(bytes.length / 4) * 4).fill(fill);
  out.set(bytes);
  return out;
}

/** Whole numbers of 32 bits, lowest byte first. */
function header(...words: readonly number[]): Uint8Array {
  const out = new DataView(new ArrayBuffer(words.length * 4));
  words.forEach((word, i) => out.setUint32(i * 4, word, true));
  return new Uint8Array(out.buffer);
}
