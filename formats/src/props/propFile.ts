import { Document, Logger, WebIO } from '@gltf-transform/core';
import type { Accessor, Buffer, Material, Mesh, Node } from '@gltf-transform/core';
import type { Prop } from '@warper/core';
import { InputError, defined, propSchema } from '@warper/core';
import type { BufferGeometry } from 'three';
import {
  BoxGeometry,
  Color,
  CylinderGeometry,
  Euler,
  Matrix4,
  Quaternion,
  SphereGeometry,
  TorusGeometry,
  Vector3,
} from 'three';
import type { PropJoint, Solid } from './shapes';
import { PROPS } from './shapes';

/** What a prop's body is made of. */
export type PropLook = Pick<Prop, 'shape' | 'size' | 'colour'>;

const SILENT = new Logger(Logger.Verbosity.SILENT);

/**
 * The body of a prop as GLB, in metres: its solids as a skin on its joints, which are its grips, its seat and whatever of it moves. The same
 * prop is the same file to the bit, whoever makes it.
 *
 * @throws InputError `prop` for one that came with a file, or of an impossible size or colour
 */
export async function propFile({ shape, size, colour }: PropLook): Promise<Uint8Array> {
  const { error } = propSchema.validate({ shape, size, colour, raised: 0 }, { convert: false });
  if (error || shape === 'own file')
    throw new InputError(
      'prop',
      error ? `The prop cannot be: ${error.message}.` : 'A file of its own makes this prop.',
      {
        hint: 'Choose a shape, three lengths in metres and a colour such as #9c7a52.',
      },
    );
  const { joints, solids } = PROPS[shape].parts(size);
  const document = new Document().setLogger(SILENT);
  const buffer = document.createBuffer();
  const nodes = jointNodes(document, joints);
  const top = defined(nodes[0]);
  const skin = document.createSkin(shape).setSkeleton(top);
  nodes.forEach((node) => skin.addJoint(node));
  const inverse = new Float32Array(
    joints.flatMap(({ at: [x, y, z] }) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -x, -y, -z, 1]),
  );
  skin.setInverseBindMatrices(document.createAccessor().setType('MAT4').setArray(inverse).setBuffer(buffer));
  const mesh = document.createMesh(shape);
  for (const tone of ['plain', 'dark', 'light'] as const) {
    const own = solids.filter((s) => (s.tone ?? 'plain') === tone);
    if (own.length === 0) continue;
    const material = materialOf(document, tone, colour);
    // What hangs on one joint is a part of its own: it can be drawn as a rigid mesh.
    joints.forEach((_, joint) => {
      const solid = own.filter((s) => s.joint === joint);
      if (solid.length > 0) addPart(document, buffer, mesh, solid, material);
    });
  }
  const body = document.createNode(`${shape} body`).setMesh(mesh).setSkin(skin);
  document.getRoot().setDefaultScene(document.createScene(shape).addChild(top).addChild(body));
  document.getRoot().getAsset().generator = 'Warper';
  return new WebIO().setLogger(SILENT).writeBinary(document);
}

function jointNodes(document: Document, joints: readonly PropJoint[]): Node[] {
  const nodes = joints.map(({ name, parent, at }) => {
    const above = joints[parent]?.at ?? [0, 0, 0];
    return document.createNode(name).setTranslation([at[0] - above[0], at[1] - above[1], at[2] - above[2]]);
  });
  joints.forEach(({ parent }, i) => nodes[parent]?.addChild(defined(nodes[i])));
  return nodes;
}

/** What the tones make of a colour. */
const DARKER = 0.55;
const LIGHT = new Color('#ffd98a');

/** Steps to which numbers are rounded, a micrometre or so: sines and powers differ in their last bits from one browser to the next. */
const STEPS = 2 ** 20;

const rounded = (value: number): number => Math.round(value * STEPS) / STEPS + 0;

function materialOf(document: Document, tone: 'plain' | 'dark' | 'light', colour: string): Material {
  const plain = new Color(colour);
  const { r, g, b } = tone === 'light' ? LIGHT : plain.multiplyScalar(tone === 'dark' ? DARKER : 1);
  const material = document
    .createMaterial(tone)
    .setBaseColorFactor([rounded(r), rounded(g), rounded(b), 1])
    .setMetallicFactor(0)
    .setRoughnessFactor(0.8);
  return tone === 'light'
    ? material.setEmissiveFactor([rounded(r * 0.6), rounded(g * 0.6), rounded(b * 0.6)])
    : material;
}

function addPart(
  document: Document,
  buffer: Buffer,
  mesh: Mesh,
  solids: readonly Solid[],
  material: Material,
): void {
  const points: number[] = [];
  const normals: number[] = [];
  const corners: number[] = [];
  const carried: number[] = [];
  for (const solid of solids) {
    const geometry = geometryOf(solid);
    const first = points.length / 3;
    points.push(...Array.from(defined(geometry.getAttribute('position')).array, rounded));
    normals.push(...Array.from(defined(geometry.getAttribute('normal')).array, rounded));
    corners.push(...Array.from(defined(geometry.getIndex()).array, (i) => i + first));
    for (let i = first; i < points.length / 3; i++) carried.push(solid.joint, 0, 0, 0);
    geometry.dispose();
  }
  const accessor = (
    type: 'VEC3' | 'VEC4' | 'SCALAR',
    array: Float32Array | Uint16Array | Uint8Array,
  ): Accessor => document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const weights = new Float32Array(carried.map((_, i) => (i % 4 === 0 ? 1 : 0)));
  mesh.addPrimitive(
    document
      .createPrimitive()
      .setMaterial(material)
      .setAttribute('POSITION', accessor('VEC3', new Float32Array(points)))
      .setAttribute('NORMAL', accessor('VEC3', new Float32Array(normals)))
      .setAttribute('JOINTS_0', accessor('VEC4', new Uint8Array(carried)))
      .setAttribute('WEIGHTS_0', accessor('VEC4', weights))
      .setIndices(accessor('SCALAR', new Uint16Array(corners))),
  );
}

/** Edges of round solids. */
const ROUND = 20;

/** A solid where it is in the scene at rest; three's geometries are indexed and have normals. */
function geometryOf({ form, at, turned = [0, 0, 0] }: Solid): BufferGeometry {
  const place = new Matrix4().compose(
    new Vector3(...at),
    new Quaternion().setFromEuler(new Euler(...turned, 'ZYX')),
    new Vector3(1, 1, 1),
  );
  if ('box' in form) return new BoxGeometry(...form.box).applyMatrix4(place);
  if ('cylinder' in form) {
    const [radius, height, top = radius] = form.cylinder;
    return new CylinderGeometry(top, radius, height, ROUND).applyMatrix4(place);
  }
  if ('ball' in form) return new SphereGeometry(1, ROUND, ROUND / 2).scale(...form.ball).applyMatrix4(place);
  const [radius, thickness, arc] = form.ring;
  return new TorusGeometry(radius, thickness, 8, 2 * ROUND, arc).applyMatrix4(place);
}
