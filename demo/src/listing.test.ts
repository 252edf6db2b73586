import { expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { clipFacts } from '@warper/core';
import { readMotionFile } from '@warper/formats';
import { listFiles } from './listing';

it('what is listed ahead of time is what reading the file gives', async () => {
  const folder = new URL('../made/', import.meta.url).pathname;
  const { 'keeper-walk.glb': listed } = JSON.parse(
    JSON.stringify(await listFiles(folder, ['keeper-walk.glb'])),
  ) as Awaited<ReturnType<typeof listFiles>>;
  const { clips, bodies } = await readMotionFile(
    new Uint8Array(readFileSync(`${folder}keeper-walk.glb`)),
    'keeper-walk.glb',
  );
  expect(listed!.clips[0]).toMatchObject({ id: clips[0]!.id, name: 'Walk' });
  expect(listed!.clips[0]!.facts).toEqual(JSON.parse(JSON.stringify(clipFacts(clips[0]!))));
  expect(listed!.bodies.map((b) => b.id)).toEqual(bodies.map((b) => b.id));
  expect(listed!.previews[0]!.places.length).toBeGreaterThan(50);
});
