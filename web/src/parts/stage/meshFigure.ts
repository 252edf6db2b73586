import type { Pose } from '@warper/core';
import { quatConjugate, quatMultiply, quatRotate } from '@warper/core/kernels';
import type { Body, GltfLayout } from '@warper/formats';
import type { Material, Object3D } from 'three';
import { BufferAttribute, Color, SkinnedMesh } from 'three';
import { drawRigidly } from './rigidParts';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

/** A body that the view can draw in a pose. */
export interface Figure {
  readonly object: Object3D;
  /** Shows a pose of the body's skeleton. */
  pose(pose: Pose): void;
  /** Colours what some joints carry, each by its weight from 0 to 1; null shows the body as it is. */
  tint(weights: Float64Array | null, colour: string): void;
  dispose(): void;
}

const _q = new Float64Array(4);
const _p = new Float64Array(3);
const _inverse = new Float64Array(4);

/** The body as its own file shows it, skin, materials and all, so many times as large. */
export async function meshFigure(body: Body, bytes: Uint8Array, size = 1): Promise<Figure> {
  const layout = body.layout as GltfLayout;
  const gltf = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
  const byNode = new Map<number, Object3D>();
  gltf.scene.traverse((object) => {
    const node = gltf.parser.associations.get(object)?.nodes;
    if (node !== undefined && !byNode.has(node)) byNode.set(node, object);
    // Skinned meshes move out of the box that they were made in.
    object.frustumCulled = false;
  });
  drawRigidly(gltf.scene);
  gltf.scene.scale.setScalar(size);
  const joints = layout.nodes.map((n) => byNode.get(n));
  quatConjugate(Float64Array.from(layout.aboveRotation), 0, _inverse, 0);
  const inverse = _inverse.slice();
  return {
    object: gltf.scene,
    pose: ({ rotations, translations }) => {
      joints.forEach((joint, i) => {
        if (!joint) return;
        for (let k = 0; k < 4; k++) _q[k] = rotations[i * 4 + k]!;
        for (let k = 0; k < 3; k++) _p[k] = translations[i * 3 + k]! / size;
        if (i === 0) {
          for (let k = 0; k < 3; k++) _p[k]! -= layout.abovePosition[k]!;
          quatRotate(inverse, 0, _p, 0, _p, 0);
          quatMultiply(inverse, 0, _q, 0, _q, 0);
        }
        const scale = layout.scales[i]!;
        joint.quaternion.set(_q[0]!, _q[1]!, _q[2]!, _q[3]!);
        joint.position.set(_p[0]! / scale, _p[1]! / scale, _p[2]! / scale);
      });
    },
    tint: (weights, colour) => {
      gltf.scene.traverse((object) => {
        if (object instanceof SkinnedMesh) tintSkin(object, joints, weights, new Color(colour));
      });
    },
    dispose: () => {
      gltf.scene.traverse((object) => {
        const mesh = object as { geometry?: { dispose(): void } };
        mesh.geometry?.dispose();
      });
    },
  };
}

/** How much of a fully carried vertex is of the colour; the rest is the body's own. */
const TINT = 0.75;
const WHITE = new Color('#ffffff');

/** Colours the vertices of a skin by the joints that they hang on. */
function tintSkin(
  mesh: SkinnedMesh,
  joints: readonly (Object3D | undefined)[],
  weights: Float64Array | null,
  colour: Color,
): void {
  const { geometry } = mesh;
  const own = (geometry.userData.ownColours ??= { attribute: geometry.getAttribute('color') ?? null }) as {
    readonly attribute: BufferAttribute | null;
  };
  const materials = [mesh.material].flat() as (Material & { vertexColors: boolean; color: Color })[];
  const isColoured = weights !== null || own.attribute !== null;
  const plain = ((mesh.userData.plainColour as Color | undefined) ?? materials[0]!.color).clone();
  mesh.userData.plainColour = plain;
  for (const material of materials) {
    if (material.vertexColors !== isColoured) material.needsUpdate = true;
    material.vertexColors = isColoured;
    // The colour of the body goes into the vertices, so that the tint can stand in its place.
    material.color.copy(weights ? WHITE : plain);
  }
  if (!weights) {
    if (own.attribute) geometry.setAttribute('color', own.attribute);
    else geometry.deleteAttribute('color');
    return;
  }
  const carried = mesh.skeleton.bones.map((bone) => weights[joints.indexOf(bone)] ?? 0);
  const { count } = geometry.getAttribute('position');
  const [index, share] = [geometry.getAttribute('skinIndex'), geometry.getAttribute('skinWeight')];
  const colours = new Float32Array(count * 3);
  const mixed = new Color();
  for (let v = 0; v < count; v++) {
    let w = 0;
    for (let k = 0; k < 4; k++)
      w += share.getComponent(v, k) * (carried[index.getComponent(v, k)] ?? 0) * TINT;
    mixed.copy(plain).lerp(colour, w);
    colours.set([mixed.r, mixed.g, mixed.b], v * 3);
  }
  geometry.setAttribute('color', new BufferAttribute(colours, 3));
}
