import { Document, WebIO } from '@gltf-transform/core';
import { describe, expect, it } from '@jest/globals';
import { readGltf } from './read';

/** Joints in a chain, below each other. */
type Chain = readonly string[];
const LEG: Chain = ['UpLeg', 'Leg', 'Foot'];

/** A file of skins below one node: chains of joints, each with a skin and a mesh of its own; those of a body with legs. */
async function file(
  ...skins: readonly { readonly top: string; readonly hasLegs: boolean }[]
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const root = document.createNode('Everything');
  document.createScene().addChild(root);
  const places = document.createAccessor().setType('VEC3').setArray(new Float32Array(9)).setBuffer(buffer);
  for (const { top, hasLegs } of skins) {
    const skin = document.createSkin(top);
    const joint = (name: string, parent: ReturnType<Document['createNode']>, y: number) => {
      const node = document.createNode(name).setTranslation([0, y, 0]);
      parent.addChild(node);
      skin.addJoint(node);
      return node;
    };
    const hips = joint(top, root, 1);
    let spine = hips;
    for (const name of hasLegs ? ['Spine', 'Chest', 'Neck', 'Head'] : ['tip'])
      spine = joint(name, spine, 0.2);
    if (hasLegs)
      for (const side of ['Left', 'Right']) {
        let leg = hips;
        for (const name of LEG) leg = joint(side + name, leg, -0.4);
      }
    const mesh = document
      .createMesh(top)
      .addPrimitive(document.createPrimitive().setAttribute('POSITION', places));
    root.addChild(document.createNode(`${top} mesh`).setMesh(mesh).setSkin(skin));
  }
  return new WebIO().writeBinary(document);
}

describe('bodies of one file below one node', () => {
  it('are parted where each has hips', async () => {
    const bytes = await file({ top: 'Hips', hasLegs: true }, { top: 'Hips', hasLegs: true });
    const { bodies } = await readGltf(bytes, 'two.glb');
    expect(bodies.map((b) => b.skeleton.names.length)).toEqual([11, 11]);
  });

  it('are one where what hangs beside a body has none: its hair stays with it', async () => {
    const bytes = await file({ top: 'Hips', hasLegs: true }, { top: 'Hair', hasLegs: false });
    const { bodies } = await readGltf(bytes, 'hair.glb');
    expect(bodies.map((b) => b.skeleton.names.filter((n) => /Hips|Hair/.test(n)))).toEqual([
      ['Hips', 'Hair'],
    ]);
  });

  it('take what has none along, each what is nearest', async () => {
    const bytes = await file(
      { top: 'Hips', hasLegs: true },
      { top: 'Hair', hasLegs: false },
      { top: 'Hips', hasLegs: true },
    );
    const { bodies } = await readGltf(bytes, 'three.glb');
    expect(bodies.map((b) => b.skeleton.names.filter((n) => /Hips|Hair/.test(n)).length)).toEqual([2, 1]);
  });
});
