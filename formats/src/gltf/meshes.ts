import type { Document } from '@gltf-transform/core';
import { InputError } from '@warper/core';

/**
 * Checks the values of meshes that would break whoever draws them: vertex indices and joint numbers in range (glTF
 * 2.0.1, sections 3.7.2 and 3.7.3).
 *
 * @throws InputError `gltf` naming the mesh
 */
export function checkMeshes(document: Document): void {
  const joints = new Map<unknown, number>();
  for (const node of document.getRoot().listNodes()) {
    const mesh = node.getMesh();
    const skin = node.getSkin();
    if (mesh && skin) joints.set(mesh, Math.min(joints.get(mesh) ?? Infinity, skin.listJoints().length));
  }
  document
    .getRoot()
    .listMeshes()
    .forEach((mesh, i) => {
      const fail = (message: string): never => {
        throw new InputError('gltf', message, {
          place: { path: `meshes[${i}]` },
          hint: 'Export the file again; a glTF validator shows what else is wrong with it.',
        });
      };
      for (const primitive of mesh.listPrimitives()) {
        const vertices = primitive.getAttribute('POSITION')?.getCount() ?? 0;
        const indices = primitive.getIndices()?.getArray();
        const beyond = firstAtLeast(indices, vertices);
        if (beyond !== undefined)
          fail(`${mesh.getName() || 'A mesh'} uses vertex ${beyond} and has ${vertices}.`);
        const used = primitive.getAttribute('JOINTS_0')?.getArray();
        const count = joints.get(mesh);
        const wrong = count === undefined ? undefined : firstAtLeast(used, count);
        if (wrong !== undefined)
          fail(`${mesh.getName() || 'A mesh'} is bound to joint ${wrong}; its skin has ${count}.`);
      }
    });
}

function firstAtLeast(values: ArrayLike<number> | null | undefined, limit: number): number | undefined {
  if (values) for (let i = 0; i < values.length; i++) if (values[i]! >= limit) return values[i];
  return undefined;
}
