import type { Clip, RoleMap, Skeleton } from '@warper/core';

/** Something about a file that its user should know, in plain words, with a stable code. */
export interface Remark {
  readonly code: string;
  readonly message: string;
}

/** How a BVH file writes its skeleton, kept so that a bake can be written the same way. */
export interface BvhLayout {
  readonly kind: 'bvh';
  /** Metres for one unit of the file. */
  readonly metresPerUnit: number;
  readonly joints: readonly BvhJoint[];
}

/** One joint as a BVH file declares it; offsets in the file's units. */
export interface BvhJoint {
  readonly name: string;
  readonly parent: number;
  readonly offset: readonly [number, number, number];
  /** Such as `Zrotation`, in the file's order. */
  readonly channels: readonly string[];
  readonly end: readonly [number, number, number] | null;
}

/** How a glTF file's nodes stand to the skeleton that was read from it. */
export interface GltfLayout {
  readonly kind: 'gltf';
  /** Node number of each joint. */
  readonly nodes: readonly number[];
  /** joints: factor from a joint's translation in the file to metres (the scale of the nodes above it). */
  readonly scales: readonly number[];
  /** The fixed transform of the nodes above the topmost joint: rotation xyzw and position in metres. */
  readonly aboveRotation: readonly [number, number, number, number];
  readonly abovePosition: readonly [number, number, number];
}

/** A character's body found in a file. */
export interface Body {
  /** Id of the source and the number of the body in it. */
  readonly id: string;
  readonly name: string;
  /** Tells its skeleton from others, see `skeletonSignature`. */
  readonly signature: string;
  readonly skeleton: Skeleton;
  readonly skinned: boolean;
  /** Whether it can be drawn as its file shows it: it has a skin, or solids on its nodes. */
  readonly meshed: boolean;
  readonly layout: BvhLayout | GltfLayout;
}

/** How a body is drawn, in words. */
export const bodyWords = ({ skinned, meshed }: Pick<Body, 'skinned' | 'meshed'>): string =>
  skinned ? 'with skin' : meshed ? 'with mesh' : 'bones only';

/** Everything that was read from one file. */
export interface Imported {
  /** Content hash of the file, with the scale where one was asked for. */
  readonly source: string;
  readonly file: string;
  readonly format: 'bvh' | 'glb' | 'gltf' | 'usd' | 'collada';
  /** The same as GLB, where the file is in a format that is read by way of it; it is kept in the file's place. */
  readonly converted?: Uint8Array;
  readonly bodies: readonly Body[];
  readonly clips: readonly Clip[];
  /** Roles of joints that were taken from what is kept for these skeletons; the ids do not depend on them. */
  readonly mapped?: RoleMap;
  readonly remarks: readonly Remark[];
}

/** Options of a reader. */
export interface ReadOptions {
  /** Metres for one unit of the file. */
  readonly scale?: number;
  /** Finds files that lie beside a .gltf. */
  readonly beside?: (uri: string) => Uint8Array | undefined;
  /** Content hash of the file, where it is known already. */
  readonly hash?: string;
  /** Roles that the user gives to joints by name; a file read with them is a source of its own. */
  readonly roles?: RoleMap;
  /** Roles that are kept for a skeleton, by its signature. */
  readonly mapped?: (signature: string) => RoleMap | undefined;
}
