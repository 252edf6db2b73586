import { Document, WebIO } from '@gltf-transform/core';
import { describe, expect, it } from '@jest/globals';
import { BoxGeometry } from 'three';
import { readMotionFile } from '../read';

/** A chest with a lid, each a mesh on a node; the lid opens where that is asked for. */
async function chest(opens: boolean): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const box = new BoxGeometry(0.6, 0.4, 0.4);
  const mesh = document.createMesh('box').addPrimitive(
    document
      .createPrimitive()
      .setAttribute(
        'POSITION',
        document
          .createAccessor()
          .setType('VEC3')
          .setArray(new Float32Array(box.getAttribute('position').array))
          .setBuffer(buffer),
      )
      .setIndices(
        document
          .createAccessor()
          .setType('SCALAR')
          .setArray(new Uint16Array(box.getIndex()!.array))
          .setBuffer(buffer),
      ),
  );
  const lid = document.createNode('lid').setMesh(mesh).setTranslation([0, 0.5, -0.2]);
  const root = document.createNode('chest').setMesh(mesh).addChild(lid);
  document.createScene().addChild(root);
  if (opens) {
    const sampler = document
      .createAnimationSampler()
      .setInput(
        document
          .createAccessor()
          .setArray(new Float32Array([0, 1]))
          .setBuffer(buffer),
      )
      .setOutput(
        document
          .createAccessor()
          .setType('VEC4')
          .setArray(new Float32Array([0, 0, 0, 1, 0.6, 0, 0, 0.8]))
          .setBuffer(buffer),
      );
    document
      .createAnimation('open')
      .addSampler(sampler)
      .addChannel(
        document.createAnimationChannel().setSampler(sampler).setTargetNode(lid).setTargetPath('rotation'),
      );
  }
  return new WebIO().writeBinary(document);
}

describe('files of things without bones', () => {
  it('are read as bodies whose meshes are their joints', async () => {
    const { bodies, clips } = await readMotionFile(await chest(false), 'chest.glb');
    expect(clips).toEqual([]);
    expect(bodies).toMatchObject([{ skinned: false, meshed: true, skeleton: { names: ['chest', 'lid'] } }]);
  });

  it('are read with what moves of them', async () => {
    const { bodies, clips } = await readMotionFile(await chest(true), 'chest.glb');
    // The chest goes where the lid does.
    expect(bodies).toMatchObject([{ skinned: false, meshed: true, skeleton: { names: ['chest', 'lid'] } }]);
    expect(clips).toMatchObject([{ name: 'open', frames: 31 }]);
  });
});
