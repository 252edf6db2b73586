import type { Document, Node } from '@gltf-transform/core';
import type { Role, Skeleton } from '@warper/core';
import { InputError, MAX_JOINTS, TOO_LARGE_HINT, chooseRoles, makeSkeleton } from '@warper/core';
import { quatMultiply, quatNormalize, quatRotate } from '@warper/core/kernels';
import type { GltfLayout, ReadOptions, Remark } from '../imported';
import { ownRoles } from '../skeletonMap';
import { ancestors, connect } from './nodeTrees';
import { splitBodies } from './splitBodies';

/** A skeleton found among the nodes of a file. */
export interface NodeSkeleton {
  readonly name: string;
  readonly nodes: readonly Node[];
  readonly skeleton: Skeleton;
  readonly layout: GltfLayout;
  readonly skinned: boolean;
  /** Whether it has a skin, or a mesh on any of its nodes or below them. */
  readonly meshed: boolean;
}

/** What is said of joints beside the file's nodes: by the user, and by number in the file itself. */
type SkeletonOptions = Pick<ReadOptions, 'roles' | 'mapped'> & {
  readonly nodeRoles: ReadonlyMap<number, Role>;
};

/** Scales that differ by more than this share between axes are uneven. */
const UNEVEN = 1e-3;

/**
 * Finds the skeletons of a document: for each tree of nodes the joints of skins and the nodes that an animation moves or
 * turns, with everything between them. Without any, the nodes without meshes are taken, and without those the nodes with meshes. What stands above the topmost
 * joint (a rotated or scaled node) is folded in.
 */
export function findSkeletons(
  document: Document,
  scale: number,
  remarks: Remark[],
  options: SkeletonOptions,
): NodeSkeleton[] {
  const all = document.getRoot().listNodes();
  const skins = document
    .getRoot()
    .listSkins()
    .map((skin) => skin.listJoints());
  const skinned = new Set(skins.flat());
  const moved = new Set<Node>();
  for (const animation of document.getRoot().listAnimations()) {
    for (const channel of animation.listChannels()) {
      const node = channel.getTargetNode();
      const path = channel.getTargetPath();
      if (node && !node.getCamera() && (path === 'rotation' || path === 'translation')) moved.add(node);
    }
  }
  let wanted = new Set([...skinned, ...moved]);
  if (wanted.size === 0) wanted = new Set(all.filter((n) => !n.getMesh() && !n.getCamera() && inChain(n)));
  // What neither moves nor has bones is a thing: its meshes are its joints.
  if (wanted.size === 0) wanted = new Set(all.filter((n) => n.getMesh()));
  const trees = new Map<Node, Node[]>();
  for (const node of all) {
    if (!wanted.has(node)) continue;
    const top = ancestors(node).at(-1) ?? node;
    trees.set(top, [...(trees.get(top) ?? []), node]);
  }
  for (const nodes of trees.values()) requireFew(nodes);
  const parted = [...trees.values()].flatMap((nodes) => splitBodies(nodes, skins));
  const groups = parted.map((nodes) =>
    nodes.some((n) => skinned.has(n)) ? connect(nodes) : connect(withSolids(withBonesBelow(connect(nodes)))),
  );
  return groups
    .filter((nodes) => nodes.some((n) => skinned.has(n)) || groups.length === 1 || nodes.length > 1)
    .map((nodes) =>
      toSkeleton(
        nodes,
        all,
        scale,
        nodes.some((n) => skinned.has(n)),
        remarks,
        options,
      ),
    );
}

function requireFew(nodes: readonly Node[]): void {
  if (nodes.length > MAX_JOINTS)
    throw new InputError(
      'gltf',
      `A skeleton of ${nodes.length} joints is too large; up to ${MAX_JOINTS} can be read.`,
      { hint: TOO_LARGE_HINT },
    );
}

/** A node with a parent or a child, as the bones of a file without mesh are. */
const inChain = (node: Node): boolean => node.getParentNode() !== null || node.listChildren().length > 0;

/** Bones that nothing moves belong to a skeleton without skin as well: everything bare below its joints. */
function withBonesBelow(nodes: readonly Node[]): Node[] {
  const all = new Set(nodes);
  const visit = (node: Node): void => {
    if (node.getMesh() || node.getCamera()) return;
    all.add(node);
    node.listChildren().forEach(visit);
  };
  nodes.forEach((node) => node.listChildren().forEach(visit));
  return [...all];
}

function toSkeleton(
  nodes: readonly Node[],
  all: readonly Node[],
  scale: number,
  skinned: boolean,
  remarks: Remark[],
  options: SkeletonOptions,
): NodeSkeleton {
  requireFew(nodes);
  const above = worldOf(nodes[0]!.getParentNode(), scale, remarks);
  const index = new Map(nodes.map((n, i) => [n, i]));
  const parents = nodes.map((n) => index.get(n.getParentNode()!) ?? -1);
  const scales = nodes.map((_, i) => (parents[i]! < 0 ? above.scale : 0));
  const own = nodes.map((n) => uniformScale(n, remarks));
  nodes.forEach((_, i) => {
    if (parents[i]! >= 0) scales[i] = scales[parents[i]!]! * own[parents[i]!]!;
  });
  const translations = new Float64Array(nodes.length * 3);
  const rotations = new Float64Array(nodes.length * 4);
  nodes.forEach((n, i) => {
    translations.set(
      n.getTranslation().map((v) => v * scales[i]!),
      i * 3,
    );
    rotations.set(n.getRotation(), i * 4);
    if (parents[i]! < 0) underNode(above, translations, rotations, i);
  });
  const names = uniqueNames(nodes, all);
  const fileRoles: Record<string, Role> = {};
  if (options.nodeRoles.size > 0)
    nodes.forEach((n, i) => {
      const role = options.nodeRoles.get(all.indexOf(n));
      if (role) fileRoles[names[i]!] = role;
    });
  const skeleton = makeSkeleton({
    names,
    parents,
    roles: chooseRoles(names, parents, { ...fileRoles, ...ownRoles(names, parents, options) }),
    restTranslations: translations,
    restRotations: rotations,
    ends: nodes.map((n, i) => endOf(n, scales[i]! * own[i]!)),
  });
  return {
    name: bodyName(nodes, all),
    nodes,
    skeleton,
    skinned,
    meshed: skinned || nodes.some(carriesMesh),
    layout: {
      kind: 'gltf',
      nodes: nodes.map((n) => all.indexOf(n)),
      scales,
      aboveRotation: [...above.rotation] as unknown as GltfLayout['aboveRotation'],
      abovePosition: [...above.position] as unknown as GltfLayout['abovePosition'],
    },
  };
}

/**
 * The solids of a tree without skin belong to the thing that some of its nodes move, with the node at its top: else it would be put somewhere
 * without them.
 */
function withSolids(nodes: readonly Node[]): Node[] {
  const top = ancestors(nodes[0]!).at(-1) ?? nodes[0]!;
  const all = new Set(nodes);
  const visit = (node: Node): void => {
    if (node.getMesh()) all.add(node);
    node.listChildren().forEach(visit);
  };
  visit(top);
  if (all.size > nodes.length) all.add(top);
  return [...all];
}

/** Whether a node, or any below it, has a mesh. */
const carriesMesh = (node: Node): boolean => node.getMesh() !== null || node.listChildren().some(carriesMesh);

/** Where the chain of a joint ends, if its node says so in its extras as our own files do; metres. */
function endOf(node: Node, scale: number): [number, number, number] | null {
  const end = (node.getExtras() as { end?: unknown }).end;
  if (!Array.isArray(end) || end.length !== 3 || !end.every((v) => Number.isFinite(v))) return null;
  return end.map((v: number) => v * scale) as [number, number, number];
}

/** The name of the skin that uses the joints, or of its mesh; else of what stands above them, or of the topmost. */
function bodyName(nodes: readonly Node[], all: readonly Node[]): string {
  const wearer = all.find((n) =>
    n
      .getSkin()
      ?.listJoints()
      .some((j) => nodes.includes(j)),
  );
  const names = [
    wearer?.getSkin()?.getName(),
    wearer?.getMesh()?.getName(),
    nodes[0]!.getParentNode()?.getName(),
    nodes[0]!.getName(),
  ];
  return names.find((name) => name) ?? 'body';
}

/** World transform of a node with even scales; the scene itself for null. */
interface Above {
  readonly rotation: Float64Array;
  readonly position: Float64Array;
  readonly scale: number;
}

function worldOf(node: Node | null, scale: number, remarks: Remark[]): Above {
  if (!node) return { rotation: Float64Array.of(0, 0, 0, 1), position: new Float64Array(3), scale };
  const up = worldOf(node.getParentNode(), scale, remarks);
  const rotation = Float64Array.from(node.getRotation());
  quatNormalize(rotation, 0);
  const position = Float64Array.from(node.getTranslation().map((v) => v * up.scale));
  quatRotate(up.rotation, 0, position, 0, position, 0);
  for (let k = 0; k < 3; k++) position[k]! += up.position[k]!;
  quatMultiply(up.rotation, 0, rotation, 0, rotation, 0);
  return { rotation, position, scale: up.scale * uniformScale(node, remarks) };
}

/** Puts the topmost joint's transform under the node above it; the translation is in metres already. */
export function underNode(
  above: { rotation: Float64Array; position: Float64Array },
  translations: Float64Array,
  rotations: Float64Array,
  i: number,
): void {
  quatRotate(above.rotation, 0, translations, i * 3, translations, i * 3);
  for (let k = 0; k < 3; k++) translations[i * 3 + k]! += above.position[k]!;
  quatMultiply(above.rotation, 0, rotations, i * 4, rotations, i * 4);
}

function uniformScale(node: Node, remarks: Remark[]): number {
  const [x, y, z] = node.getScale();
  const mean = Math.cbrt(Math.abs(x * y * z)) || 1;
  if (Math.max(Math.abs(x - mean), Math.abs(y - mean), Math.abs(z - mean)) > UNEVEN * mean) {
    remarks.push({
      code: 'uneven-scale',
      message: `${node.getName() || 'A node'} is scaled unevenly or mirrored; its mean scale was taken.`,
    });
  }
  return mean;
}

function uniqueNames(nodes: readonly Node[], all: readonly Node[]): string[] {
  const seen = new Map<string, number>();
  return nodes.map((n) => {
    const name = n.getName() || `node ${all.indexOf(n)}`;
    const count = seen.get(name) ?? 0;
    seen.set(name, count + 1);
    return count === 0 ? name : `${name} (${count + 1})`;
  });
}
