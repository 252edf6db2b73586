import { expect } from '@jest/globals';
import { defined, makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '@warper/core';
import { readMotionFile } from '@warper/formats';
import validator from 'gltf-validator';
import type { Application } from './application';

export type Baked = Awaited<ReturnType<typeof readMotionFile>>['clips'][number];

/** Bakes the open scene's first character from its page, reads the file, and goes back to the scene. */
export async function bakeClip(app: Application): Promise<Baked> {
  await app.press('button', 'Bake');
  await app.find('button', 'Bake GLB');
  const boxes = await app.page.$$('[aria-label="Who is baked"] [role=checkbox]');
  if (boxes.length > 1) {
    await app.press('button', 'None');
    await defined(boxes[0]).click();
  }
  await app.press('button', 'Bake GLB');
  const bytes = await app.downloaded('.glb');
  await app.page.goBack();
  await app.page.waitForSelector('[data-timeline]', { timeout: 60_000 });
  return defined((await readMotionFile(bytes, 'baked.glb')).clips[0]);
}

/** Bakes every character and prop of the open scene into one file, checks it with the Khronos validator, and finds them by a joint that tells them apart. */
export async function bakeAll(app: Application): Promise<(joint: string) => Baked> {
  await app.press('button', 'Bake');
  await app.press('button', 'Bake GLB');
  const bytes = await app.downloaded('.glb');
  await app.page.goBack();
  await app.page.waitForSelector('[data-timeline]', { timeout: 60_000 });
  const { issues } = await validator.validateBytes(bytes);
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  const { clips } = await readMotionFile(bytes, 'baked.glb');
  return (joint) => defined(clips.find((c) => c.skeleton.names.includes(joint)));
}

/** The angle in degrees between the rotations of a joint in two frames, maybe of two clips; parent-relative. */
export function angleBetween(joint: string, a: Baked, frameA: number, b: Baked, frameB: number): number {
  const at = ({ skeleton, rotations }: Baked, frame: number): Float32Array => {
    const j = skeleton.names.indexOf(joint);
    return rotations.subarray((frame * skeleton.names.length + j) * 4).subarray(0, 4);
  };
  const [p, q] = [at(a, frameA), at(b, frameB)];
  const dot = Math.abs(p.reduce((sum, v, i) => sum + v * defined(q[i]), 0));
  return (2 * Math.acos(Math.min(1, dot)) * 180) / Math.PI;
}

/** Places of a joint in scene space, metres, by frame. */
export function jointPath({ skeleton, ...clip }: Baked, joint: string): number[][] {
  const j = skeleton.names.indexOf(joint) * 3;
  const [buffer, world] = [makePoseBuffer(skeleton), makeWorldPose(skeleton)];
  return Array.from({ length: clip.frames }, (_, f) => {
    const pose = samplePose({ skeleton, ...clip }, f, buffer);
    return [...poseToWorld(skeleton, pose, world).positions.slice(j, j + 3)];
  });
}

/** The greatest acceleration along a path between two frames, metres per frame squared. */
export function peakAcceleration(path: readonly (readonly number[])[], from: number, to: number): number {
  let most = 0;
  for (let f = Math.max(1, from); f < Math.min(to, path.length - 1); f++) {
    const [a, b, c] = [defined(path[f - 1]), defined(path[f]), defined(path[f + 1])];
    most = Math.max(most, Math.hypot(...b.map((v, k) => defined(a[k]) - 2 * v + defined(c[k]))));
  }
  return most;
}
