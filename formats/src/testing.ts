import { Document, WebIO } from '@gltf-transform/core';

/** What a test puts on one node of a small glTF file. */
export interface TestChannel {
  readonly node: string;
  readonly path: 'rotation' | 'translation' | 'scale';
  readonly times: readonly number[];
  readonly values: readonly number[];
  readonly mode?: 'STEP' | 'LINEAR' | 'CUBICSPLINE';
}

/** Node of a test file: name, parent, local transform. */
export interface TestNode {
  readonly name: string;
  readonly parent?: string;
  readonly translation?: [number, number, number];
  readonly rotation?: [number, number, number, number];
  readonly scale?: [number, number, number];
}

/** Makes a small GLB of bare nodes and animations, for tests. */
export async function makeTestGlb(
  nodes: readonly TestNode[],
  animations: Readonly<Record<string, readonly TestChannel[]>>,
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene();
  const byName = new Map(
    nodes.map((n) => [
      n.name,
      document
        .createNode(n.name)
        .setTranslation(n.translation ?? [0, 0, 0])
        .setRotation(n.rotation ?? [0, 0, 0, 1])
        .setScale(n.scale ?? [1, 1, 1]),
    ]),
  );
  for (const n of nodes) {
    if (n.parent) byName.get(n.parent)!.addChild(byName.get(n.name)!);
    else scene.addChild(byName.get(n.name)!);
  }
  for (const [name, channels] of Object.entries(animations)) {
    const animation = document.createAnimation(name);
    for (const c of channels) {
      const input = document
        .createAccessor()
        .setType('SCALAR')
        .setArray(Float32Array.from(c.times))
        .setBuffer(buffer);
      const output = document
        .createAccessor()
        .setType(c.path === 'rotation' ? 'VEC4' : 'VEC3')
        .setArray(Float32Array.from(c.values))
        .setBuffer(buffer);
      const sampler = document
        .createAnimationSampler()
        .setInput(input)
        .setOutput(output)
        .setInterpolation(c.mode ?? 'LINEAR');
      animation.addSampler(sampler);
      animation.addChannel(
        document
          .createAnimationChannel()
          .setTargetNode(byName.get(c.node)!)
          .setTargetPath(c.path)
          .setSampler(sampler),
      );
    }
  }
  return new WebIO().writeBinary(document);
}
