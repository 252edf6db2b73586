import { describe, expect, it } from '@jest/globals';
import type { Camera, Plan } from '@warper/core';
import { PLAIN_CAMERA, cameraAt, compile, defined, makeCameraPose } from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import validator from 'gltf-validator';
import type { Group } from 'three';
import { AnimationMixer, PerspectiveCamera, Quaternion, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import { assembleCues } from '../cues/assemble';
import { parseCueSheet } from '../cues/sheet';
import { load, turn, walk } from '../cues/testing';
import { joinBytes } from '../joinBytes';
import { bakeFile } from './bakeFile';
import { bakeRemarks } from './bakeRemarks';
import type { BakeOrder } from './plannedFiles';
import { plannedFiles } from './plannedFiles';
import type { BakeSettings } from './settings';
import { USUAL_BAKE } from './settings';

const smooth = { curve: 'smooth', tangent: null, into: null } as const;
const { scene, library } = await assembleCues(
  parseCueSheet({
    format: 'warper-cues',
    version: 1,
    rate: 30,
    characters: [
      { name: 'Keeper', body: 'keeper.glb', cues: [walk, turn] },
      { name: 'Dog', body: 'dog.glb', start: { x: 2 }, cues: [{ clip: 'dog-walk.glb', repeat: 3 }] },
    ],
  }),
  load,
);
const [keeper = ''] = scene.characterOrder;
const camera = (id: string, values: Partial<Camera>): Camera => ({
  ...PLAIN_CAMERA,
  id,
  name: id,
  ...values,
});
const cameras = [
  camera('Follow one', {
    follow: { character: keeper, joint: 'hips', lag: 0.3, height: false, turns: true },
    look: { character: keeper, joint: 'head', lag: 0.1 },
    hand: { turn: 0.4, sway: 0.02, frequency: 0.8, seed: 3 },
    base: { ...PLAIN_CAMERA.base, x: 1, y: 1.7, z: 3, roll: 4 },
  }),
  camera('Zoom', {
    keys: {
      lens: [
        { frame: 0, value: 24, ...smooth },
        { frame: 60, value: 90, ...smooth },
      ],
    },
    back: [24.89, 18.66],
  }),
];
const plan: Plan = compile(
  {
    ...scene,
    cameras: Object.fromEntries(
      cameras.map((c) => [c.id.replace(/\W/g, ''), { ...c, id: c.id.replace(/\W/g, '') }]),
    ),
    cameraOrder: cameras.map((c) => c.id.replace(/\W/g, '')),
    aspect: 2.39,
  },
  library,
);
const span = { name: 'all', from: 10, to: 70 };

const orderOf = (settings: Partial<BakeSettings>): BakeOrder => ({
  name: 'Round',
  characters: scene.characterOrder,
  spans: [span],
  settings: { ...USUAL_BAKE, ...settings },
});

async function baked(settings: Partial<BakeSettings>): Promise<Uint8Array> {
  const order = orderOf(settings);
  const parts: Uint8Array[] = [];
  for await (const part of bakeFile(
    { plan, library },
    defined(plannedFiles(plan, order, library)[0]),
    order,
    () => undefined,
  ))
    parts.push(part);
  return joinBytes(parts);
}

/** Cameras of what was read, played at the scene's frames, are where the plan has them: within 0.1 mm and 0.01 degree. */
function expectCameras(
  scene: Group,
  animations: Group['animations'],
  names: readonly string[],
  from = 10,
): void {
  const mixer = new AnimationMixer(scene);
  for (const animation of animations) mixer.clipAction(animation).play();
  const pose = makeCameraPose();
  for (let i = 0; i < 12; i++) {
    const frame = Math.round((59 * i) / 11);
    mixer.setTime(frame / 30);
    scene.updateMatrixWorld(true);
    names.forEach((name, c) => {
      const own = defined(scene.getObjectByName(name));
      cameraAt(plan, defined(plan.filming.cameras[c]), from + frame, pose);
      expect(own.getWorldPosition(new Vector3()).distanceTo(new Vector3(...pose.place))).toBeLessThan(1e-4);
      const q = Float64Array.from(own.getWorldQuaternion(new Quaternion()).toArray());
      expect((quatAngle(q, 0, pose.rotation, 0) * 180) / Math.PI).toBeLessThan(0.01);
    });
  }
}

const filmedBy = (scene: Group): PerspectiveCamera[] => {
  const all: PerspectiveCamera[] = [];
  scene.traverse((o) => void (o instanceof PerspectiveCamera && all.push(o)));
  return all;
};
const degrees = (halfHeight: number): number => (2 * Math.atan(halfHeight) * 180) / Math.PI;
const fieldAt = (index: number, frame: number): number =>
  degrees(cameraAt(plan, defined(plan.filming.cameras[index]), frame, makeCameraPose()).halfHeight);

describe('cameras that are baked', () => {
  it('move in a GLB as in the scene, with their fields, and no other reader is troubled', async () => {
    const bytes = await baked({ format: 'glb' });
    const gltf = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
    expectCameras(gltf.scene, gltf.animations, ['Follow_one', 'Zoom']);
    const own = filmedBy(gltf.scene);
    expect(own.map((c) => c.aspect)).toEqual([expect.closeTo(2.39, 5), expect.closeTo(2.39, 5)]);
    expect(own.map((c) => c.fov)).toEqual([0, 1].map((i) => expect.closeTo(fieldAt(i, 10), 3)));
    const { issues } = await validator.validateBytes(bytes);
    expect(issues.messages.filter((m) => m.severity < 2)).toEqual([]);
    // The lens that changes is a track of its own (KHR_animation_pointer).
    const json = JSON.parse(
      new TextDecoder().decode(
        bytes.subarray(20, 20 + new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true)),
      ),
    );
    expect(json.extensionsUsed).toContain('KHR_animation_pointer');
    const pointers = json.animations[0].channels.filter(
      (c: { target: { path: string } }) => c.target.path === 'pointer',
    );
    expect(pointers.map((c: { target: { extensions: object } }) => c.target.extensions)).toEqual([
      { KHR_animation_pointer: { pointer: '/cameras/1/perspective/yfov' } },
    ]);
  });

  it('move in USD as in the scene', async () => {
    const text = new TextDecoder().decode(await baked({ format: 'usda' }));
    const group = new USDLoader().parse(text);
    expectCameras(group, group.animations, ['Follow_one', 'Zoom']);
    // A lens of 24 mm to 90 mm on a back of which 24.89 x 10.41 mm are seen, in tenths of a metre.
    expect(text).toContain('horizontalAperture = 0.248900000');
    expect(text).toMatch(/verticalAperture = 0\.1041422\d+/);
    const lens = Number(/focalLength\.timeSamples = \{\s+0: ([\d.]+)/.exec(text)?.[1]);
    expect(degrees(0.2489 / 2.39 / (2 * lens))).toBeCloseTo(fieldAt(1, 10), 4);
    expect(filmedBy(group)[0]?.fov).toBeCloseTo(fieldAt(0, 10), 3);
  });

  it('begin with the lead-in, and go with one character as well', async () => {
    const bytes = await baked({ format: 'glb', leadIn: 10, together: false });
    const gltf = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
    expectCameras(gltf.scene, gltf.animations, ['Follow_one', 'Zoom'], 0);
  });

  it('are left out where those who perform are elsewhere, which is said, or where they are not asked for', async () => {
    for (const settings of [
      { fromOrigin: true },
      { travel: 'in place' },
      { loop: 'drop doubled' },
    ] as const) {
      const gltf = await new GLTFLoader().parseAsync(
        (await baked({ format: 'glb', ...settings })).slice().buffer,
        '',
      );
      expect(filmedBy(gltf.scene)).toEqual([]);
      const files = plannedFiles(plan, orderOf(settings), library);
      expect(bakeRemarks(plan, orderOf(settings), files, library).map((r) => r.code)).toContain('cameras');
    }
    const without = await new GLTFLoader().parseAsync(
      (await baked({ withCameras: false })).slice().buffer,
      '',
    );
    expect(filmedBy(without.scene)).toEqual([]);
  });
});
