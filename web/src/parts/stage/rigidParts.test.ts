import { describe, expect, it } from '@jest/globals';
import { defined, makePoseBuffer, restPose } from '@warper/core';
import { PROPS, propFile, readMotionFile } from '@warper/formats';
import type { Object3D } from 'three';
import { Box3, Mesh, SkinnedMesh, Vector3 } from 'three';
import { meshFigure } from './meshFigure';

Object.assign(globalThis, { self: globalThis });

const meshesOf = (object: Object3D): Mesh[] => {
  const out: Mesh[] = [];
  object.traverse((o) => o instanceof Mesh && out.push(o));
  return out;
};

async function figureOf(shape: keyof typeof PROPS) {
  const bytes = await propFile({ shape, ...PROPS[shape] });
  const body = defined((await readMotionFile(bytes, 'prop.glb')).bodies[0]);
  return { body, figure: await meshFigure(body, bytes) };
}

describe('a rigid body', () => {
  it('is drawn without a skin, one mesh for each joint that carries any', async () => {
    const { figure } = await figureOf('hand cart');
    const meshes = meshesOf(figure.object);
    expect(meshes.filter((m) => m instanceof SkinnedMesh)).toEqual([]);
    expect(meshes.map((m) => m.parent?.name).sort()).toEqual(['cart', 'leftWheel', 'rightWheel']);
    expect(meshes.every((m) => m.geometry.getAttribute('color') !== undefined)).toBe(true);
  });

  it('keeps what gives light apart', async () => {
    expect(meshesOf((await figureOf('lantern')).figure.object)).toHaveLength(2);
  });

  it('is as large as it was made, and goes where its joints do', async () => {
    const { body, figure } = await figureOf('storm shutter');
    const { skeleton } = body;
    const boxOf = (name: string): Box3 => {
      figure.object.updateMatrixWorld(true);
      return new Box3().setFromObject(defined(meshesOf(figure.object).find((m) => m.parent?.name === name)));
    };
    figure.pose(restPose(skeleton));
    const before = boxOf('shutter');
    expect(before.getSize(new Vector3()).x).toBeCloseTo(PROPS['storm shutter'].size[0], 3);
    const rail = boxOf('rail');
    const slid = { ...restPose(skeleton), translations: makePoseBuffer(skeleton).translations.slice() };
    slid.translations[skeleton.names.indexOf('shutter') * 3]! -= 0.5;
    figure.pose(slid);
    expect(boxOf('shutter').min.x - before.min.x).toBeCloseTo(-0.5, 6);
    expect(boxOf('rail').min.x).toBeCloseTo(rail.min.x, 6);
  });
});
