import type { AnimationClip, Bone, KeyframeTrack, Material, Mesh, Object3D, SkinnedMesh } from 'three';
import { GLTFExporter } from 'three/examples/jsm/exporters/GLTFExporter.js';

/** Properties of materials that hold a texture. */
const isTexture = (value: unknown): boolean => (value as { isTexture?: boolean } | null)?.isTexture === true;

/** What was read by three, as GLB; textures are left out. */
export async function threeToGlb(
  root: Object3D,
  animations: readonly AnimationClip[],
): Promise<{ readonly glb: Uint8Array; readonly textures: number }> {
  let textures = 0;
  root.traverse((object) => {
    object.name = plainName(object);
    const { material } = object as Partial<SkinnedMesh>;
    for (const m of [material ?? []].flat()) textures += dropTextures(m);
  });
  const glb = (await new GLTFExporter().parseAsync(root, {
    binary: true,
    onlyVisible: false,
    animations: [...animations],
  })) as ArrayBuffer;
  return { glb: new Uint8Array(glb), textures };
}

/** The name of an object without the number that three gives to one which is called as the thing that it belongs to. */
function plainName({ name: given, parent }: Object3D): string {
  // What has no name in a Collada file has null here.
  const name = (given as string | null) ?? '';
  const plain = name.replace(/_\d+$/, '');
  for (let o = parent; o; o = o.parent) if (o.name === plain) return plain;
  return name;
}

function dropTextures(material: Material): number {
  const held = Object.entries(material).filter(([, value]) => isTexture(value));
  for (const [key] of held) (material as unknown as Record<string, unknown>)[key] = null;
  return held.length;
}

/** A skeleton that was read, and who it belongs to. */
export interface ReadSkeleton {
  readonly owner: string;
  readonly bones: readonly Object3D[];
}

/**
 * Ties clips to the skeletons that they are for by the bones themselves, since several skeletons may have bones of the same names. A clip
 * is for the first skeleton that has all of its bones and no clip yet.
 */
export function tieClips(clips: readonly AnimationClip[], skeletons: readonly ReadSkeleton[]): void {
  const taken = new Set<ReadSkeleton>();
  for (const clip of clips) {
    const names = new Set(clip.tracks.map(boneOf));
    const fitting = skeletons.filter(({ bones }) => {
      const own = new Set(bones.map((b) => b.name));
      return [...names].every((name) => own.has(name));
    });
    const skeleton = fitting.find((s) => !taken.has(s)) ?? fitting[0];
    if (!skeleton) continue;
    taken.add(skeleton);
    const ids = new Map(skeleton.bones.map((b) => [b.name, b.uuid]));
    for (const track of clip.tracks)
      track.name = track.name.replace(boneOf(track), ids.get(boneOf(track)) ?? '');
    if (skeletons.length > 1) clip.name = skeleton.owner;
  }
}

const boneOf = ({ name }: KeyframeTrack): string => name.slice(0, name.lastIndexOf('.'));

/** The skeletons below an object, in order, each once. */
export function skeletonsOf(root: Object3D): ReadSkeleton[] {
  const found = new Map<Object3D, Object3D[]>();
  root.traverse((object) => {
    if (!(object as Bone).isBone) return;
    let top = object;
    while ((top.parent as Bone | null)?.isBone) top = top.parent!;
    found.set(top, [...(found.get(top) ?? []), object]);
  });
  return [...found].map(([top, bones]) => ({ owner: ownerOf(top, root), bones }));
}

/** The name of the nearest thing above a skeleton that has one; three hangs bones below the mesh that they move. */
function ownerOf(top: Object3D, root: Object3D): string {
  for (let o = top.parent; o && o !== root; o = o.parent)
    if (o.name && !(o as Mesh).isMesh && !/^skeleton$/i.test(o.name)) return o.name;
  return top.name;
}
