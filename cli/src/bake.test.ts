import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan } from '@warper/core';
import { defined, evaluate, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';
import { readMotionFile, writeSceneFile } from '@warper/formats';
import type { Object3D } from 'three';
import { AnimationMixer, SkinnedMesh, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import validator from 'gltf-validator';
import { openScene } from './open';
import { at, folder, sheet, warper, write } from './testing';

// Laid out once: what is baked of a cue sheet is the same.
const round = at('round.warper');
await warper('assemble', at('lamp-round.cues.json'), '-o', round);
const { plan } = await openScene(round);
const names = plan.characters.map((c) => c.character.name);
const [from, to] = [
  Math.min(...plan.characters.map((c) => c.start)),
  Math.max(...plan.characters.map((c) => c.end)),
];

/** Where each joint of a performance is at a frame, metres. */
function placesOf(character: CharacterPlan, frame: number): Float64Array {
  const { skeleton } = character;
  const pose = evaluate(character, frame, makePoseBuffer(skeleton));
  return poseToWorld(skeleton, pose, makeWorldPose(skeleton)).positions;
}

describe('parts of a scene', () => {
  const cast = (name: string): object => ({
    name,
    body: 'keeper.glb',
    cues: [{ clip: 'keeper-walk.glb', repeat: 3 }],
  });
  const two = write('two.cues.json', {
    format: 'warper-cues',
    version: 1,
    rate: 30,
    characters: [cast('Keeper'), cast('Other')],
  });
  const spans = ['--part', '0-40 Start', '--part', '40-90 Go'];

  it('are files of a folder, named and of their frames', async () => {
    const ran = await warper(
      'bake',
      two,
      '--character',
      'Keeper',
      '-o',
      `${at('parts')}/`,
      ...spans,
      '--json',
    );
    const { files } = ran.json as { files: { file: string; frames: number; parts: object[] }[] };
    expect(files.map((f) => [f.file, f.frames, f.parts])).toEqual([
      [at('parts/Keeper,-Other-Keeper-Start.glb'), 40, [{ name: 'Start', from: 0, to: 40, frames: 40 }]],
      [at('parts/Keeper,-Other-Keeper-Go.glb'), 50, [{ name: 'Go', from: 40, to: 90, frames: 50 }]],
    ]);
  });

  it('are animations of one file', async () => {
    const ran = await warper('bake', two, '-o', at('parts.glb'), ...spans, '--json');
    expect(ran.json).toMatchObject({ from: 0, to: 90 });
    const { clips } = await readMotionFile(new Uint8Array(readFileSync(at('parts.glb'))), 'parts.glb');
    expect(clips.map((c) => [c.name, c.frames])).toEqual([
      ['Start', 40],
      ['Start', 40],
      ['Go', 50],
      ['Go', 50],
    ]);
  });

  it('are the regions of the scene, where it has some', async () => {
    const marked = sheet([{ clip: 'keeper-walk.glb', repeat: 3 }]);
    const none = await warper('bake', write('none.cues.json', marked), '-o', at('none.glb'), '--regions');
    expect([none.code, none.err]).toEqual([1, expect.stringContaining('no regions and no markers')]);
    await warper('assemble', at('none.cues.json'), '-o', at('marked.warper'));
    const { scene, library } = await openScene(at('marked.warper'));
    const markers = [
      { id: 'b', name: 'Second', frame: 50, end: null, impact: [] },
      { id: 'a', name: 'First', frame: 10, end: null, impact: [] },
    ];
    writeFileSync(at('marked.warper'), writeSceneFile({ ...scene, markers }, library));
    const ran = await warper('bake', at('marked.warper'), '-o', at('marked.glb'), '--regions', '--json');
    expect(ran.json).toMatchObject({
      parts: [
        { name: 'First', from: 10, to: 50, frames: 40 },
        { name: 'Second', from: 50, to: 90, frames: 40 },
      ],
    });
  });

  it('are one at a time in a format that holds no more', async () => {
    const ran = await warper('bake', two, '--character', 'Keeper', '-o', at('two.bvh'), ...spans);
    expect([ran.code, existsSync(at('two.bvh'))]).toEqual([1, false]);
    expect(ran.err).toContain('Give a folder');
  });
});

/** Plays a file as three reads it, which knows nothing of how it was written. */
async function played(file: string): Promise<{ scene: Object3D; at: (seconds: number) => void }> {
  const bytes = new Uint8Array(readFileSync(file));
  const { scene, animations } = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
  const mixer = new AnimationMixer(scene);
  expect(animations).toHaveLength(1);
  mixer.clipAction(defined(animations[0])).play();
  return {
    scene,
    at: (seconds) => {
      mixer.setTime(seconds);
      scene.updateMatrixWorld(true);
    },
  };
}

const errorsOf = async (file: string): Promise<number[]> => {
  const { issues } = await validator.validateBytes(new Uint8Array(readFileSync(file)));
  return [issues.numErrors, issues.numWarnings];
};

describe('a scene that is baked whole', () => {
  it('is one valid file with everybody in it, who stand as they do in the scene', async () => {
    const { code, json } = await warper('bake', round, '-o', at('all.glb'), '--json');
    expect(code).toBe(0);
    expect(json).toMatchObject({
      file: at('all.glb'),
      from,
      to,
      characters: names.map((character) => ({ character, frames: to - from, rate: 30 })),
    });
    expect(await errorsOf(at('all.glb'))).toEqual([0, 0]);
    const file = await played(at('all.glb'));
    const skins: SkinnedMesh[] = [];
    file.scene.traverse((object) => void (object instanceof SkinnedMesh && skins.push(object)));
    expect(new Set(skins.map((s) => s.skeleton.bones.length)).size).toBeGreaterThan(1);
    const place = new Vector3();
    for (let i = 0; i < 20; i++) {
      const frame = from + Math.round(((to - from - 1) * i) / 19);
      file.at((frame - from) / 30);
      for (const character of plan.characters) {
        const top = defined(file.scene.children.find((c) => c.name === character.character.name));
        const nodes: Object3D[] = [];
        top.traverse((object) => void nodes.push(object));
        const places = placesOf(character, frame);
        for (const role of ['hips', 'head', 'leftFoot', 'rightHand'] as const) {
          const joint = character.skeleton.roles.indexOf(role);
          if (joint < 0) continue;
          const name = defined(character.skeleton.names[joint]);
          // three tells nodes of one name apart by a number behind it.
          const node = nodes.find((n) => n.name.replace(/_\d+$/, '') === name);
          defined(node).getWorldPosition(place);
          const off = Math.hypot(...place.toArray().map((v, k) => v - places[joint * 3 + k]!));
          expect(off).toBeLessThan(5e-4);
        }
      }
    }
  });

  it('is a file for each in a folder, all from the same frame on and of one length', async () => {
    for (const format of ['glb', 'bvh'] as const) {
      const out = join(folder, `takes ${format}`, 'here') + '/';
      const { json } = await warper('bake', round, '-o', out, '--format', format, '--json');
      const { files } = json as { files: { file: string; character: string; frames: number }[] };
      expect(files.map((f) => [f.character, f.frames])).toEqual(names.map((name) => [name, to - from]));
      expect(readdirSync(out).sort()).toEqual(names.map((n) => `${titleOf(n)}.${format}`).sort());
      for (const [i, { file }] of files.entries()) {
        const { clips } = await readMotionFile(new Uint8Array(readFileSync(file)), file);
        const clip = defined(clips[0]);
        expect(clip.frames).toBe(to - from);
        const own = defined(plan.characters[i]);
        // The hips of the first frame, wherever the character begins itself.
        const places = placesOf(own, from);
        const hips = own.skeleton.rootBone;
        const column = clip.translated.indexOf(clip.skeleton.rootBone) * 3;
        for (let k = 0; k < 3; k++)
          expect(clip.translations[column + k]).toBeCloseTo(places[hips * 3 + k]!, 3);
      }
    }
  });

  it('is of those who are named, once each, and of the frames that are asked for', async () => {
    const { json } = await warper(
      ...['bake', round, '--character', 'Dog', '--character', 'Keeper', '--character', 'Dog'],
      ...['--from', '100', '--to', '160', '--rate', '60', '-o', at('two.glb'), '--json'],
    );
    expect(json).toMatchObject({ from: 100, to: 160 });
    const { characters } = json as { characters: { character: string; frames: number }[] };
    expect(characters.map((c) => [c.character, c.frames])).toEqual([
      ['Dog', 120],
      ['Keeper', 120],
    ]);
    expect(await errorsOf(at('two.glb'))).toEqual([0, 0]);
  });

  it('has the same body twice where two characters share it', async () => {
    const one = {
      name: 'Keeper',
      cues: [{ clip: 'keeper-walk.glb' }],
      body: 'keeper.glb',
      start: { x: 0 },
    };
    const cues = { ...sheet([]), characters: [one, { ...one, name: 'Twin', start: { x: 2 } }] };
    await warper('bake', write('twins.cues.json', cues), '-o', at('twins.glb'));
    expect(await errorsOf(at('twins.glb'))).toEqual([0, 0]);
    const file = await played(at('twins.glb'));
    file.at(0.5);
    const hips: number[] = [];
    file.scene.traverse(
      (o) => void (/^hips(_\d+)?$/.test(o.name) && hips.push(o.getWorldPosition(new Vector3()).x)),
    );
    expect(hips).toHaveLength(2);
    expect(defined(hips[1]) - defined(hips[0])).toBeCloseTo(2, 4);
  });
});

describe('keys that are left out', () => {
  it.each(['linear', 'cubic'])(
    'leave everybody where they are, between the keys as well: %s',
    async (kind) => {
      const file = at(`few-${kind}.glb`);
      const { json } = await warper(
        ...[
          'bake',
          round,
          '-o',
          file,
          '--keys',
          'reduced',
          '--error',
          '1',
          '--interpolation',
          kind,
          '--json',
        ],
      );
      const { reduced } = json as { reduced: { keys: number; of: number; errorMillimetres: number } };
      expect(reduced.keys / reduced.of).toBeLessThan(0.25);
      expect(reduced.errorMillimetres).toBeLessThanOrEqual(1.001);
      expect(await errorsOf(file)).toEqual([0, 0]);
      // Beside the whole bake, as the same player plays it.
      const [few, all] = await Promise.all([played(file), played(at('all.glb'))]);
      const nodesOf = (scene: Object3D): Object3D[] => {
        const nodes: Object3D[] = [];
        scene.traverse((object) => void nodes.push(object));
        return nodes;
      };
      const [own, other] = [nodesOf(few.scene), nodesOf(all.scene)];
      expect(own.map((n) => n.name)).toEqual(other.map((n) => n.name));
      const [a, b] = [new Vector3(), new Vector3()];
      for (let i = 0; i < 60; i++) {
        const seconds = (Math.round((2 * (to - from - 1) * i) / 59) / 2 + (i % 2) / 4) / 30;
        few.at(seconds);
        all.at(seconds);
        own.forEach((node, j) => {
          const off = node.getWorldPosition(a).distanceTo(defined(other[j]).getWorldPosition(b));
          expect(off).toBeLessThan(1.1e-3);
        });
      }
    },
  );
});

describe('what else a bake can do', () => {
  const walking = [{ clip: 'keeper-walk.glb', repeat: 3 }];
  const own = { ...sheet(walking), characters: [{ name: 'Keeper', body: 'keeper.glb', cues: walking }] };
  const one = ['bake', write('one.cues.json', own)];
  const clipOf = async (...args: string[]) => {
    const file = defined(args[args.indexOf('-o') + 1]);
    const { code, err } = await warper(...one, ...args);
    expect([code, err]).toEqual([0, '']);
    return defined((await readMotionFile(new Uint8Array(readFileSync(file)), file)).clips[0]);
  };

  it('begins at the origin, stays in place, comes out of the rest pose', async () => {
    const span = ['--from', '30', '--to', '60'];
    const moved = await clipOf(...span, '--from-origin', '-o', at('origin.glb'));
    expect(Math.hypot(moved.translations[0]!, moved.translations[2]!)).toBeLessThan(0.05);
    const still = await clipOf(...span, '--in-place', '--keep-facing', '-o', at('still.glb'));
    const width = still.translated.length * 3;
    expect(Math.abs(still.translations[29 * width + 2]! - still.translations[2]!)).toBeLessThan(0.05);
    expect((await clipOf(...span, '--lead-in', '30', '-o', at('led.bvh'))).frames).toBe(60);
  });

  it('drops the doubled last frame of a loop', async () => {
    const whole = await clipOf('--from', '20', '--to', '51', '-o', at('cycle.glb'));
    const loop = await clipOf('--from', '20', '--to', '51', '--loop', 'drop-doubled', '-o', at('loop.glb'));
    expect([whole.frames, loop.frames]).toEqual([31, 30]);
  });

  it('calls joints by their roles, without the body, in every format', async () => {
    for (const format of ['glb', 'gltf', 'vrma', 'bvh']) {
      const clip = await clipOf(
        '--names',
        'roles',
        '--no-body',
        '--from',
        '0',
        '--to',
        '10',
        '-o',
        at(`roles.${format}`),
      );
      expect([clip.frames, clip.skeleton.names.includes('leftUpperArm')]).toEqual([10, true]);
    }
    const { code } = await warper(...one, '--from', '0', '--to', '10', '-o', at('table.csv'));
    expect([code, readFileSync(at('table.csv'), 'utf8').split('\r\n').length]).toEqual([0, 12]);
  });

  it('writes the arrangement as OpenTimelineIO, from which the same is laid out again', async () => {
    const timeline = at('round.otio');
    const sheet = at('lamp-round.cues.json');
    const ran = await warper(
      ...['bake', sheet, '--character', 'Dog', '-o', at('timeline.glb'), '--otio', timeline],
    );
    expect(ran.code).toBe(0);
    const spans = async (file: string) => {
      const { json } = await warper('check', file, '--json');
      const { characters } = json as { characters: { name: string; segments: object[] }[] };
      return characters.map(({ name, segments }) => ({ name, segments }));
    };
    expect(await spans(timeline)).toEqual(await spans(sheet));
  });

  it('reports what was measured, as a page or as JSON', async () => {
    const { code } = await warper(...one, '-o', at('told.glb'), '--report', at('told.html'));
    expect(code).toBe(0);
    expect(readFileSync(at('told.html'), 'utf8')).toMatch(/<h1>Continuity of .*<\/h1>/);
    await warper(...one, '-o', at('told.glb'), '--report', at('told.json'));
    const report = JSON.parse(readFileSync(at('told.json'), 'utf8')) as {
      files: { name: string; facts: { bytes: number } }[];
    };
    expect(report).toMatchObject({ format: 'warper-report', version: 1, characters: [{ name: 'Keeper' }] });
    expect(report.files[0]?.facts.bytes).toBe(readFileSync(at('told.glb')).length);
  });
});

describe('what cannot be baked', () => {
  it('a VRM animation of the dog, nor anything else of that bake', async () => {
    const out = join(folder, 'humans') + '/';
    const { code, err } = await warper('bake', round, '-o', out, '--format', 'vrma');
    expect([code, existsSync(out)]).toEqual([1, false]);
    expect(err).toMatch(/Dog is no humanoid/);
  });

  it('a report in another format', async () => {
    expect((await warper('bake', round, '-o', at('x.glb'), '--report', at('x.doc'))).code).toBe(2);
  });

  it('several into one BVH', async () => {
    const { code, err } = await warper('bake', round, '-o', at('all.bvh'));
    expect([code, existsSync(at('all.bvh'))]).toEqual([1, false]);
    expect(err).toMatch(/A BVH holds one character, and 3 are to be baked\..*give a folder/s);
  });

  it('into a folder where a file would take the place of what it is made from', async () => {
    const own = join(folder, 'own') + '/';
    mkdirSync(own);
    const { code: first } = await warper('bake', round, '--character', 'Keeper', '-o', own);
    const clip = `own/${titleOf('Keeper')}.glb`;
    const again = { ...sheet([{ clip }]), name: 'The Lamp Round' };
    const { code, err } = await warper('bake', write('again.cues.json', again), '-o', own);
    expect([first, code]).toEqual([0, 1]);
    expect(err).toMatch(/is one of the files that it would be made from/);
  });

  it('into a folder that is a file', async () => {
    const { code, err } = await warper('bake', round, '-o', `${at('keeper.glb')}/`);
    expect(code).toBe(1);
    expect(err).toMatch(/cannot be made/);
  });
});

/** What a file of a character of the demonstration is called. */
function titleOf(name: string): string {
  return `The-Lamp-Round-${name}`;
}
