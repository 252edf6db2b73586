import type { Primitive } from '@gltf-transform/core';
import type { Skeleton } from '@warper/core';
import type { GltfSource } from '../gltf/write';
import { openDocument } from '../gltf/open';

/** A part of a body's skin, in the space of its skeleton. */
export interface SkinnedPart {
  readonly name: string;
  readonly points: Float32Array;
  readonly normals: Float32Array | null;
  /** Corners of triangles, three after the other. */
  readonly corners: ArrayLike<number>;
  /** Four joints of the skeleton a point, and how much of each. */
  readonly joints: Uint16Array;
  readonly weights: Float32Array;
  /** Red, green, blue from 0 to 1, linear; and how opaque. */
  readonly colour: readonly [number, number, number];
  readonly opacity: number;
  readonly roughness: number;
}

/** The skin of a body, and of each joint the transform at which it is bound: 16 numbers, column by column. */
export interface Skin {
  readonly parts: readonly SkinnedPart[];
  /** Null for a joint that moves no point. */
  readonly binds: readonly (Float64Array | null)[];
}

/** Influences of a point. */
const MOST = 4;

/** Reads the skinned meshes of a body's own file. */
export async function readSkin({ bytes, layout, beside }: GltfSource, skeleton: Skeleton): Promise<Skin> {
  const document = await openDocument(bytes, beside);
  const nodes = document.getRoot().listNodes();
  const jointOf = new Map(layout.nodes.map((node, joint) => [nodes[node]!, joint]));
  const binds: (Float64Array | null)[] = skeleton.names.map(() => null);
  const parts: SkinnedPart[] = [];
  for (const node of nodes) {
    const [mesh, skin] = [node.getMesh(), node.getSkin()];
    if (!mesh || !skin) continue;
    const own = skin.listJoints();
    const joints = own.map((joint) => jointOf.get(joint) ?? 0);
    const inverse = skin.getInverseBindMatrices();
    joints.forEach((joint, i) => {
      // Joints are no larger or smaller in USD text: what they carry is scaled where it is bound.
      const scale = layout.scales[joint]! * skeleton.size * own[i]!.getScale()[0];
      const m = inverse ? inverse.getElement(i, new Array<number>(16).fill(0)) : IDENTITY;
      binds[joint] ??= inverted(m.map((v, k) => (k % 4 < 3 ? v * scale : v)));
    });
    for (const primitive of mesh.listPrimitives()) {
      const part = readPart(primitive, joints);
      if (part) parts.push({ ...part, name: mesh.getName() || node.getName() || 'Body' });
    }
  }
  return { parts, binds };
}

const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
/** The mode of triangles (glTF 2.0.1, section 3.7.2.1). */
const TRIANGLES = 4;

function readPart(primitive: Primitive, skinJoints: readonly number[]): Omit<SkinnedPart, 'name'> | null {
  const points = primitive.getAttribute('POSITION');
  const bound = primitive.getAttribute('JOINTS_0');
  const weighed = primitive.getAttribute('WEIGHTS_0');
  if (primitive.getMode() !== TRIANGLES || !points || !bound || !weighed) return null;
  const count = points.getCount();
  const joints = new Uint16Array(count * MOST);
  const weights = new Float32Array(count * MOST);
  const four = [0, 0, 0, 0];
  for (let i = 0; i < count; i++) {
    bound.getElement(i, four).forEach((j, k) => (joints[i * MOST + k] = skinJoints[j] ?? 0));
    weights.set(weighed.getElement(i, four), i * MOST);
  }
  const flat = (semantic: string): Float32Array | null => {
    const accessor = primitive.getAttribute(semantic);
    if (!accessor) return null;
    const out = new Float32Array(accessor.getCount() * 3);
    const three = [0, 0, 0];
    for (let i = 0; i < accessor.getCount(); i++) out.set(accessor.getElement(i, three), i * 3);
    return out;
  };
  const material = primitive.getMaterial();
  const [r = 1, g = 1, b = 1, a = 1] = material?.getBaseColorFactor() ?? [];
  return {
    points: flat('POSITION')!,
    normals: flat('NORMAL'),
    corners: primitive.getIndices()?.getArray() ?? Array.from({ length: count }, (_, i) => i),
    joints,
    weights,
    colour: [r, g, b],
    opacity: material?.getAlphaMode() === 'BLEND' ? a : 1,
    roughness: material?.getRoughnessFactor() ?? 1,
  };
}

/** The inverse of an affine matrix of 16 numbers, column by column: of its 3 x 3 part by cofactors. */
function inverted(m: readonly number[]): Float64Array {
  const at = (row: number, column: number): number => m[(column % 3) * 4 + (row % 3)]!;
  const cofactor = (row: number, column: number): number =>
    at(row + 1, column + 1) * at(row + 2, column + 2) - at(row + 1, column + 2) * at(row + 2, column + 1);
  const determinant = at(0, 0) * cofactor(0, 0) + at(0, 1) * cofactor(0, 1) + at(0, 2) * cofactor(0, 2);
  const out = new Float64Array(16);
  for (let row = 0; row < 3; row++) {
    for (let column = 0; column < 3; column++) out[column * 4 + row] = cofactor(column, row) / determinant;
    out[12 + row] = -(out[row]! * m[12]! + out[4 + row]! * m[13]! + out[8 + row]! * m[14]!);
  }
  out[15] = 1;
  return out;
}
