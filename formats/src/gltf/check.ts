import { InputError, MAX_JOINTS, TOO_LARGE_HINT } from '@warper/core';
import { checkTypes } from './schema';

type Json = Record<string, unknown>;

/** Most entries of one list; far above any real file, low enough to stay cheap. */
const MOST_ENTRIES = 200_000;
const MOST_NODES = 20_000;
/** Most nodes that animations move, of all skeletons of a file together. */
const MOST_MOVED = 2 * MAX_JOINTS;
/** Most bytes of accessors that no buffer holds: they are zeros but for what is sparse, and would be reserved all the same. */
const MOST_UNWRITTEN = 64_000_000;
/** Most nodes that lie within each other; the longest real chains, of tails and ropes, have some dozens. */
const MOST_DEPTH = 512;

/** Lists, and the members of their entries that are numbers of entries in another list. */
const REFERENCES: readonly (readonly [list: string, path: string, target: string])[] = [
  ['scenes', 'nodes[]', 'nodes'],
  ['nodes', 'children[]', 'nodes'],
  ['nodes', 'mesh', 'meshes'],
  ['nodes', 'skin', 'skins'],
  ['nodes', 'camera', 'cameras'],
  ['skins', 'joints[]', 'nodes'],
  ['skins', 'skeleton', 'nodes'],
  ['skins', 'inverseBindMatrices', 'accessors'],
  ['animations', 'channels[].target.node', 'nodes'],
  ['animations', 'samplers[].input', 'accessors'],
  ['animations', 'samplers[].output', 'accessors'],
  ['meshes', 'primitives[].indices', 'accessors'],
  ['meshes', 'primitives[].material', 'materials'],
  ['meshes', 'primitives[].attributes{}', 'accessors'],
  ['meshes', 'primitives[].targets[]{}', 'accessors'],
  ['accessors', 'bufferView', 'bufferViews'],
  ['accessors', 'sparse.indices.bufferView', 'bufferViews'],
  ['accessors', 'sparse.values.bufferView', 'bufferViews'],
  ['bufferViews', 'buffer', 'buffers'],
  ['images', 'bufferView', 'bufferViews'],
  ['textures', 'source', 'images'],
  ['textures', 'sampler', 'samplers'],
  ['materials', 'pbrMetallicRoughness.baseColorTexture.index', 'textures'],
  ['materials', 'pbrMetallicRoughness.metallicRoughnessTexture.index', 'textures'],
  ['materials', 'normalTexture.index', 'textures'],
  ['materials', 'occlusionTexture.index', 'textures'],
  ['materials', 'emissiveTexture.index', 'textures'],
];

const COMPONENT_BYTES: Readonly<Record<number, number>> = {
  5120: 1,
  5121: 1,
  5122: 2,
  5123: 2,
  5125: 4,
  5126: 4,
};
const TYPE_SIZE: Readonly<Record<string, number>> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
};

const fail = (message: string, path: string): never => {
  throw new InputError('gltf', message, {
    place: { path },
    hint: 'Export the file again; a glTF validator shows what else is wrong with it.',
  });
};

const failSize = (message: string, path: string): never => {
  throw new InputError('gltf', message, { place: { path }, hint: TOO_LARGE_HINT });
};

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Checks the skeleton of a glTF document before anything is built from it: every index points at something, nothing
 * reaches beyond its buffer, the nodes form trees (glTF 2.0.1, sections 3.5 to 3.11).
 *
 * @throws InputError `gltf` with the path of what is wrong
 */
export function checkGltf(json: unknown): asserts json is Json {
  if (!isObject(json) || !isObject(json.asset))
    return fail('This is no glTF document: it has no asset.', 'asset');
  if (!/^2\./.test(String(json.asset.version)))
    fail(`glTF version ${String(json.asset.version)} cannot be read; 2.0 can.`, 'asset.version');
  for (const [name, list] of Object.entries(json)) {
    const most = name === 'nodes' ? MOST_NODES : MOST_ENTRIES;
    if (Array.isArray(list) && list.length > most) failSize(`${list.length} ${name} are too many.`, name);
  }
  const required = Array.isArray(json.extensionsRequired) ? json.extensionsRequired : [];
  if (required.length > 0)
    fail(`The file needs ${required.join(', ')}, which cannot be read.`, 'extensionsRequired');
  checkTypes(json);
  for (const [list, path, target] of REFERENCES) checkReferences(json, list, path, target);
  checkMoved(json);
  checkTrees(json);
  checkBuffers(json);
  checkSamplers(json);
}

function entries(json: Json, list: string): Json[] {
  const value = json[list] ?? [];
  if (!Array.isArray(value) || !value.every(isObject)) return fail(`Expected a list of objects.`, list);
  return value;
}

function checkReferences(json: Json, list: string, path: string, target: string): void {
  const size = entries(json, target).length;
  entries(json, list).forEach((entry, i) => {
    visit(entry, path.split('.'), `${list}[${i}]`, (value, where) => {
      if (value === undefined) return;
      if (!Number.isInteger(value) || (value as number) < 0 || (value as number) >= size) {
        fail(`Index ${String(value)} is out of range: there are ${size} ${target}.`, where);
      }
    });
  });
}

/** Calls `see` with every value at a path; `[]` after a name goes over a list, `{}` over the values of an object. */
function visit(
  value: unknown,
  path: readonly string[],
  where: string,
  see: (v: unknown, where: string) => void,
): void {
  const [step, ...rest] = path;
  if (step === undefined) return see(value, where);
  const [, name, kind] = /^(\w+)((?:\[\]|\{\})*)$/.exec(step)!;
  if (!isObject(value) || value[name!] === undefined) return;
  spread(value[name!], kind!, `${where}.${name}`, (inner, at) => visit(inner, rest, at, see));
}

function spread(value: unknown, kind: string, where: string, see: (v: unknown, where: string) => void): void {
  if (kind === '') return see(value, where);
  const rest = kind.slice(2);
  if (kind.startsWith('[]')) {
    if (!Array.isArray(value)) return fail('Expected a list.', where);
    value.forEach((v, i) => spread(v, rest, `${where}[${i}]`, see));
  } else {
    if (!isObject(value)) return fail('Expected an object.', where);
    for (const [k, v] of Object.entries(value)) spread(v, rest, `${where}.${k}`, see);
  }
}

function checkMoved(json: Json): void {
  const moved = new Set<number>();
  entries(json, 'animations').forEach((animation, i) => {
    const { channels = [] } = animation as { channels?: { target?: { node?: number } }[] };
    for (const channel of channels) if (channel.target?.node !== undefined) moved.add(channel.target.node);
    if (moved.size > MOST_MOVED)
      fail(`Its animations move more than ${MOST_MOVED} nodes.`, `animations[${i}].channels`);
  });
}

/** Every node has one parent at most, and none is its own ancestor. */
function checkTrees(json: Json): void {
  const nodes = entries(json, 'nodes');
  const parent = new Int32Array(nodes.length).fill(-1);
  nodes.forEach((node, i) => {
    for (const child of (node.children as number[] | undefined) ?? []) {
      if (parent[child]! >= 0) fail(`Node ${child} has two parents.`, `nodes[${i}].children`);
      parent[child] = i;
    }
  });
  const depth = new Int32Array(nodes.length);
  nodes.forEach((_, i) => {
    const line: number[] = [];
    for (let j = i; j >= 0 && depth[j] === 0; j = parent[j]!) {
      line.push(j);
      if (line.length > nodes.length) fail(`Node ${i} is its own ancestor.`, `nodes[${i}]`);
    }
    for (const j of line.reverse()) {
      depth[j] = 1 + (parent[j]! >= 0 ? depth[parent[j]!]! : 0);
      if (depth[j] > MOST_DEPTH) fail(`Node ${j} lies more than ${MOST_DEPTH} nodes deep.`, `nodes[${j}]`);
    }
  });
}

const whole = (value: unknown, fallback: number, path: string): number => {
  const v = value ?? fallback;
  if (!Number.isSafeInteger(v) || (v as number) < 0)
    fail(`Expected a whole number, found ${String(value)}.`, path);
  return v as number;
};

function checkBuffers(json: Json): void {
  const buffers = entries(json, 'buffers').map((b, i) => whole(b.byteLength, 0, `buffers[${i}].byteLength`));
  const views = entries(json, 'bufferViews');
  const viewBytes = views.map((view, i) => {
    const where = `bufferViews[${i}]`;
    const end = whole(view.byteOffset, 0, where) + whole(view.byteLength, 0, where);
    const size = buffers[view.buffer as number] ?? 0;
    if (end > size) fail(`It ends at byte ${end} of a buffer of ${size}.`, where);
    return whole(view.byteLength, 0, where);
  });
  let unwritten = 0;
  entries(json, 'accessors').forEach((accessor, i) => {
    const where = `accessors[${i}]`;
    const component = COMPONENT_BYTES[accessor.componentType as number];
    const size = TYPE_SIZE[accessor.type as string];
    if (!component || !size)
      return fail(`Unknown type ${String(accessor.componentType)} ${String(accessor.type)}.`, where);
    const count = whole(accessor.count, 0, `${where}.count`);
    if (count > 100_000_000) failSize(`${count} elements are too many.`, `${where}.count`);
    if (accessor.bufferView === undefined) unwritten += count * size * component;
    if (unwritten > MOST_UNWRITTEN)
      failSize(`Its ${count} elements are in no buffer, and too many to be made up.`, where);
    checkSparse(accessor, count, component, size, viewBytes, where);
    const view = accessor.bufferView as number | undefined;
    if (view === undefined) return;
    const offset = whole(accessor.byteOffset, 0, where) + whole(views[view]!.byteOffset, 0, where);
    if (offset % component !== 0)
      fail(`It begins at byte ${offset}, which is no multiple of its ${component} bytes a number.`, where);
    const stride = whole(views[view]!.byteStride, component * size, where) || component * size;
    const needed =
      whole(accessor.byteOffset, 0, where) + (count > 0 ? (count - 1) * stride + component * size : 0);
    if (needed > viewBytes[view]!)
      fail(`Its ${count} elements need ${needed} bytes; its buffer view has ${viewBytes[view]}.`, where);
  });
}

/** Indices of a sparse accessor are whole numbers without sign (glTF 2.0.1, section 3.6.2.3). */
const INDEX_BYTES: Readonly<Record<number, number>> = { 5121: 1, 5123: 2, 5125: 4 };

function checkSparse(
  accessor: Json,
  count: number,
  component: number,
  size: number,
  viewBytes: readonly number[],
  where: string,
): void {
  const sparse = accessor.sparse as
    | {
        count: number;
        indices: { bufferView: number; byteOffset?: number; componentType: number };
        values: { bufferView: number; byteOffset?: number };
      }
    | undefined;
  if (!sparse) return;
  if (sparse.count < 1 || sparse.count > count)
    fail(`It replaces ${sparse.count} of ${count} elements.`, `${where}.sparse.count`);
  const bytes = INDEX_BYTES[sparse.indices.componentType];
  if (!bytes)
    return fail(
      `Indices of type ${sparse.indices.componentType} cannot be.`,
      `${where}.sparse.indices.componentType`,
    );
  const parts = [
    { part: sparse.indices, needed: sparse.count * bytes, name: 'indices' },
    { part: sparse.values, needed: sparse.count * component * size, name: 'values' },
  ];
  for (const { part, needed, name } of parts) {
    const end = (part.byteOffset ?? 0) + needed;
    if (end > viewBytes[part.bufferView]!)
      fail(
        `Its ${sparse.count} elements need ${end} bytes; the buffer view has ${viewBytes[part.bufferView]}.`,
        `${where}.sparse.${name}`,
      );
  }
}

/** What the output of a channel has to be (glTF 2.0.1, section 3.11). */
const OUTPUT_TYPE: Readonly<Record<string, string>> = {
  rotation: 'VEC4',
  translation: 'VEC3',
  scale: 'VEC3',
  weights: 'SCALAR',
};

/** Every channel has a sampler with times, and a value for each of them. */
function checkSamplers(json: Json): void {
  const accessors = entries(json, 'accessors') as { count: number; type: string; componentType: number }[];
  entries(json, 'animations').forEach((animation, i) => {
    const { samplers, channels } = animation as {
      samplers: { input: number; output: number; interpolation?: string }[];
      channels: { sampler: number; target: { path: string } }[];
    };
    channels.forEach(({ sampler: number, target }, c) => {
      const where = `animations[${i}].channels[${c}]`;
      const sampler = samplers[number];
      if (!sampler)
        return fail(`It names sampler ${number}; the animation has ${samplers.length}.`, `${where}.sampler`);
      const [input, output] = [accessors[sampler.input]!, accessors[sampler.output]!];
      const at = `animations[${i}].samplers[${number}]`;
      if (input.type !== 'SCALAR' || input.componentType !== 5126)
        return fail('Its times are not numbers of single precision.', `${at}.input`);
      const type = OUTPUT_TYPE[target.path];
      if (!type) return;
      if (output.type !== type)
        return fail(`The values of ${target.path} are ${output.type} instead of ${type}.`, `${at}.output`);
      if (target.path === 'weights') return;
      const wanted = input.count * (sampler.interpolation === 'CUBICSPLINE' ? 3 : 1);
      if (output.count < wanted)
        fail(`${input.count} keys need ${wanted} values; there are ${output.count}.`, `${at}.output`);
    });
  });
}
