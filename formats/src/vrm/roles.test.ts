import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Role } from '@warper/core';
import { editedGlb } from '../gltf/editedGlb';
import { joinBytes } from '../joinBytes';
import { readMotionFile } from '../read';
import { vrmRoles } from './roles';

const keeper = new Uint8Array(readFileSync(new URL('../../../demo/made/keeper.glb', import.meta.url)));

/** The Keeper with names that say nothing, and roles as the extension has them. */
async function nameless(extensions: (roles: [Role, number][]) => object): Promise<Uint8Array> {
  const { bodies } = await readMotionFile(keeper, 'keeper.glb');
  const { skeleton, layout } = bodies[0]!;
  const nodes = layout.kind === 'gltf' ? layout.nodes : [];
  const roles = skeleton.roles.flatMap((role, j): [Role, number][] => (role ? [[role, nodes[j]!]] : []));
  return joinBytes(
    editedGlb(keeper, (document) => {
      for (const [i, node] of (document.nodes as { name: string }[]).entries()) node.name = `n${i}`;
      document.extensions = extensions(roles);
    }),
  );
}

const rolesOf = async (bytes: Uint8Array): Promise<(Role | null)[]> => [
  ...(await readMotionFile(bytes, 'a.vrm')).bodies[0]!.skeleton.roles,
];

describe('roles that a VRM model gives', () => {
  it.each(['VRMC_vrm', 'VRMC_vrm_animation'])('are those of its humanoid (%s 1.0)', async (extension) => {
    const bytes = await nameless((roles) => ({
      [extension]: { humanoid: { humanBones: Object.fromEntries(roles.map(([r, node]) => [r, { node }])) } },
    }));
    expect(await rolesOf(bytes)).toEqual(await rolesOf(keeper));
  });

  it('are found in VRM 0.x, whose thumbs are called otherwise', async () => {
    const before = (role: string): string =>
      role.replace('ThumbProximal', 'ThumbIntermediate').replace('ThumbMetacarpal', 'ThumbProximal');
    const bytes = await nameless((roles) => ({
      VRM: { humanoid: { humanBones: roles.map(([role, node]) => ({ bone: before(role), node })) } },
    }));
    expect(await rolesOf(bytes)).toEqual(await rolesOf(keeper));
  });

  it('are overruled by those that the user gives', async () => {
    const bytes = await nameless((roles) => ({
      VRMC_vrm: { humanoid: { humanBones: Object.fromEntries(roles.map(([r, node]) => [r, { node }])) } },
    }));
    const { bodies } = await readMotionFile(bytes, 'a.vrm');
    const { names, roles } = bodies[0]!.skeleton;
    const head = names[roles.indexOf('head')]!;
    const again = await readMotionFile(bytes, 'a.vrm', { roles: { [head]: 'neck' } });
    expect(again.bodies[0]!.skeleton.roles[names.indexOf(head)]).toBe('neck');
  });

  it.each([
    {},
    { extensions: null },
    { extensions: { VRMC_vrm: 3 } },
    { extensions: { VRMC_vrm: { humanoid: { humanBones: { hips: { node: 'x' }, tail: { node: 1 } } } } } },
    { extensions: { VRM: { humanoid: { humanBones: [null, 4, { bone: 'hips' }] } } } },
  ])('are none where there is no sense in it: %j', (json) => {
    expect([...vrmRoles(json as Record<string, unknown>)]).toEqual([]);
  });
});
