import { header, padded } from './chunks';
import { BIN_CHUNK, JSON_CHUNK, MAGIC, readChunks } from './container';

/** What moves one property of a node, or the field of a camera. */
export interface NodeTrack {
  /** Index of the node; of a field that of the camera. */
  readonly node: number;
  readonly path: 'rotation' | 'translation' | 'yfov';
  /** Seconds, rising; tracks that share them share the array. */
  readonly times: Float32Array;
  /** times x 4 (xyzw), x 3 or x 1; for cubics three of these a time: the slope in, the value, the slope out. */
  readonly values: Float32Array;
  readonly interpolation: 'LINEAR' | 'CUBICSPLINE';
}

/** An animation of nodes. */
export interface NodeAnimation {
  readonly name: string;
  /** Samples a second that it was made with; kept beside it, since keys need not be evenly apart. */
  readonly rate: number;
  readonly tracks: readonly NodeTrack[];
}

/** What of a glTF document is written here (glTF 2.0.1, sections 3.6 and 3.11). */
interface Json {
  buffers?: { byteLength: number }[];
  bufferViews?: object[];
  accessors?: object[];
  animations?: object[];
  extensionsUsed?: string[];
}

const FLOAT = 5126;
/** Animates what is no property of a node (KHR_animation_pointer, ratified by Khronos). */
const POINTER = 'KHR_animation_pointer';
const TYPES = { rotation: 'VEC4', translation: 'VEC3', yfov: 'SCALAR' } as const;

/** The field of a camera as the target of a channel. */
const fieldOf = (camera: number): object => ({
  path: 'pointer',
  extensions: { [POINTER]: { pointer: `/cameras/${camera}/perspective/yfov` } },
});

const WIDTHS = { SCALAR: 1, VEC3: 3, VEC4: 4 } as const;

/**
 * A GLB without animations with some, as its parts: the tracks are put behind what is in it, as they are, so that a long motion is
 * not copied on its way to the disk.
 */
export function animatedGlb(unanimated: Uint8Array, animations: readonly NodeAnimation[]): Uint8Array[] {
  const chunks = readChunks(unanimated);
  const json = JSON.parse(new TextDecoder().decode(chunks.json)) as Json;
  const bin = padded(chunks.bin ?? new Uint8Array(0), 0);
  const content = new Content(json, bin);
  json.animations = animations.map(({ name, rate, tracks }) => {
    const samplers: object[] = [];
    const channels: object[] = [];
    for (const { node, path, times, values, interpolation } of tracks) {
      channels.push({ sampler: samplers.length, target: path === 'yfov' ? fieldOf(node) : { node, path } });
      const output = content.values(values, TYPES[path]);
      samplers.push({ input: content.times(times), output, interpolation });
    }
    return { name, extras: { rate }, samplers, channels };
  });
  if (animations.some((a) => a.tracks.some((t) => t.path === 'yfov')))
    json.extensionsUsed = [...new Set([...(json.extensionsUsed ?? []), POINTER])];
  json.buffers = [{ ...json.buffers?.[0], byteLength: content.length }];
  const text = padded(new TextEncoder().encode(JSON.stringify(json)), ' '.charCodeAt(0));
  const head = header(MAGIC, 2, 12 + 8 + text.length + 8 + content.length);
  return [head, header(text.length, JSON_CHUNK), text, header(content.length, BIN_CHUNK), ...content.parts];
}

/** Numbers that are put behind a GLB's own content, with the views and accessors that name them. */
class Content {
  readonly parts: Uint8Array[];
  length: number;
  private readonly known = new Map<Float32Array | string, number>();

  constructor(
    private readonly json: Json,
    bin: Uint8Array,
  ) {
    this.parts = [bin];
    this.length = bin.length;
  }

  times(times: Float32Array): number {
    return this.once(times, () =>
      this.accessor(times, 'SCALAR', { min: [times[0]], max: [times[times.length - 1]] }),
    );
  }

  values(values: Float32Array, type: keyof typeof WIDTHS): number {
    // Joints that stay in one and the same turn, as those that a clip does not move do, share their track.
    const width = WIDTHS[type];
    const isConstant = values.every((value, i) => i < width || value === values[i - width]);
    const key = isConstant ? `${values.subarray(0, width).join()} ${values.length}` : values;
    return this.once(key, () => this.accessor(values, type));
  }

  private once(key: Float32Array | string, make: () => number): number {
    const index = this.known.get(key) ?? make();
    this.known.set(key, index);
    return index;
  }

  private accessor(values: Float32Array, type: keyof typeof WIDTHS, bounds: object = {}): number {
    const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
    const view = { buffer: 0, byteOffset: this.length, byteLength: bytes.length };
    const bufferView = (this.json.bufferViews ??= []).push(view) - 1;
    this.parts.push(bytes);
    this.length += bytes.length;
    const count = values.length / WIDTHS[type];
    return (
      (this.json.accessors ??= []).push({ bufferView, componentType: FLOAT, count, type, ...bounds }) - 1
    );
  }
}
