import { Document, Logger, WebIO } from '@gltf-transform/core';
import type { Accessor, Node } from '@gltf-transform/core';
import type { Skeleton } from '@warper/core';
import type { Mannequin } from './mannequin';
import type { Surface } from './surface';

/** Colour of a material, linear as glTF wants it. */
export interface Paint {
  readonly limbs: readonly [number, number, number];
  readonly joints: readonly [number, number, number];
}

/** Writes a mannequin with its skin as GLB. */
export async function writeMannequin(
  name: string,
  skeleton: Skeleton,
  made: Mannequin,
  paint: Paint,
): Promise<Uint8Array> {
  const document = quiet(new Document());
  const buffer = document.createBuffer();
  const nodes = jointNodes(document, skeleton);
  const skin = document.createSkin(name);
  nodes.forEach((node) => skin.addJoint(node));
  skin.setSkeleton(nodes[0]!);
  const inverse = new Float32Array(nodes.length * 16);
  const { positions } = skeleton.rest;
  nodes.forEach((_, i) => {
    // The rest pose has no rotations, so the inverse bind matrix only moves.
    inverse.set(
      [
        1,
        0,
        0,
        0,
        0,
        1,
        0,
        0,
        0,
        0,
        1,
        0,
        -positions[i * 3]!,
        -positions[i * 3 + 1]!,
        -positions[i * 3 + 2]!,
        1,
      ],
      i * 16,
    );
  });
  skin.setInverseBindMatrices(document.createAccessor().setType('MAT4').setArray(inverse).setBuffer(buffer));
  const mesh = document.createMesh(name);
  for (const part of ['limbs', 'joints'] as const) {
    const material = document
      .createMaterial(`${name} ${part}`)
      .setBaseColorFactor([...paint[part], 1])
      .setMetallicFactor(0)
      .setRoughnessFactor(part === 'limbs' ? 0.62 : 0.8);
    mesh.addPrimitive(primitive(document, made[part]).setMaterial(material));
  }
  const body = document.createNode(`${name} body`).setMesh(mesh).setSkin(skin);
  const scene = document.createScene(name).addChild(nodes[0]!).addChild(body);
  document.getRoot().setDefaultScene(scene);
  document.getRoot().getAsset().generator = 'Warper demonstration';
  return new WebIO().setLogger(SILENT).writeBinary(document);
}

const SILENT = new Logger(Logger.Verbosity.SILENT);
const quiet = (document: Document): Document => document.setLogger(SILENT);

function jointNodes(document: Document, skeleton: Skeleton): Node[] {
  const nodes = skeleton.names.map((joint, i) =>
    document
      .createNode(joint)
      .setTranslation([...skeleton.restTranslations.slice(i * 3, i * 3 + 3)] as [number, number, number])
      .setExtras(skeleton.ends[i] ? { end: [...skeleton.ends[i]] } : {}),
  );
  nodes.forEach((node, i) => {
    const parent = skeleton.parents[i]!;
    if (parent >= 0) nodes[parent]!.addChild(node);
  });
  return nodes;
}

function primitive(document: Document, surface: Surface): ReturnType<Document['createPrimitive']> {
  const buffer = document.getRoot().listBuffers()[0]!;
  const accessor = (
    type: Accessor['getType'] extends () => infer T ? T : never,
    array: Float32Array | Uint16Array | Uint8Array,
  ) => document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  return document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from(surface.positions)))
    .setAttribute('NORMAL', accessor('VEC3', Float32Array.from(surface.normals)))
    .setAttribute('JOINTS_0', accessor('VEC4', Uint8Array.from(surface.joints)))
    .setAttribute('WEIGHTS_0', accessor('VEC4', Float32Array.from(surface.weights)))
    .setIndices(accessor('SCALAR', Uint16Array.from(surface.indices)));
}
