import type { Bone, Object3D } from 'three';
import { BufferAttribute, Color, Mesh, MeshStandardMaterial, SkinnedMesh } from 'three';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';

/** A part of a skin that hangs on one bone alone. */
interface RigidPart {
  readonly mesh: SkinnedMesh;
  readonly material: MeshStandardMaterial;
  readonly bone: Bone;
}

/** Least weight of a vertex on the bone that carries it alone. */
const ALONE = 0.999;

/**
 * Draws a body whose skin is rigid, as that of a prop, as plain meshes on its bones: one for each bone and light, without the texture of bones
 * that a skin has uploaded for every picture. Other bodies stay as they are.
 */
export function drawRigidly(scene: Object3D): void {
  const skins: SkinnedMesh[] = [];
  scene.traverse((object) => object instanceof SkinnedMesh && skins.push(object));
  const parts = skins.map(rigidPart);
  if (parts.length === 0 || parts.includes(null)) return;
  const groups = new Map<string, RigidPart[]>();
  for (const part of parts as RigidPart[]) {
    const key = `${part.bone.uuid} ${part.material.emissive.getHex()}`;
    groups.set(key, [...(groups.get(key) ?? []), part]);
  }
  for (const group of groups.values()) mergeOnto(group);
  for (const { mesh } of parts as RigidPart[]) mesh.removeFromParent();
}

/** The part that a skinned mesh is, if one bone carries all of it and no picture lies on it; else null. */
function rigidPart(mesh: SkinnedMesh): RigidPart | null {
  const [joints, weights] = [
    mesh.geometry.getAttribute('skinIndex'),
    mesh.geometry.getAttribute('skinWeight'),
  ];
  const { material } = mesh;
  if (!(material instanceof MeshStandardMaterial) || material.map) return null;
  const joint = joints.getX(0);
  for (let v = 0; v < joints.count; v++) if (joints.getX(v) !== joint || weights.getX(v) < ALONE) return null;
  const bone = mesh.skeleton.bones[joint];
  return bone ? { mesh, material, bone } : null;
}

/** Puts parts that hang on one bone onto it as one mesh, their colours at their vertices. */
function mergeOnto(parts: readonly RigidPart[]): void {
  const [first] = parts;
  if (!first) return;
  const geometries = parts.map(({ mesh, material, bone }) => {
    const own = mesh.geometry.clone();
    for (const name of Object.keys(own.attributes))
      if (name !== 'position' && name !== 'normal') own.deleteAttribute(name);
    const inverse = mesh.skeleton.boneInverses[mesh.skeleton.bones.indexOf(bone)];
    if (inverse) own.applyMatrix4(inverse);
    const { r, g, b } = material.color;
    const { count } = own.getAttribute('position');
    const colours = new Float32Array(count * 3);
    for (let v = 0; v < count; v++) colours.set([r, g, b], v * 3);
    return own.setAttribute('color', new BufferAttribute(colours, 3));
  });
  const merged = mergeGeometries(geometries);
  const material = first.material.clone();
  material.color = new Color('#ffffff');
  material.vertexColors = true;
  first.bone.add(new Mesh(merged, material));
  for (const geometry of geometries) geometry.dispose();
}
