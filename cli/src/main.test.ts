import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { evaluate, makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import { readBvh, readMotionFile } from '@warper/formats';
import validator from 'gltf-validator';
import { openScene } from './open';
import { at, repository, sheet, warper, write } from './testing';

describe('inspect', () => {
  it('says what real capture holds', async () => {
    const { code, json } = await warper('inspect', at('capture.bvh'), '--json');
    expect(code).toBe(0);
    expect(json).toMatchObject({ format: 'bvh', clips: [{ frames: 1200, rate: 120, restPose: false }] });
    expect((json as { joints: unknown[] }).joints[0]).toEqual({ name: 'Hips', parent: null, role: 'hips' });
    expect((json as { remarks: { code: string }[] }).remarks.map((r) => r.code)).toContain('reference-frame');
  });

  it('measures the walk: doubled, 30 samples, 1.3 m, both feet', async () => {
    const { json } = await warper('inspect', at('keeper-walk.glb'), '--json');
    const [clip] = (
      json as {
        clips: {
          travelMetres: number;
          loop: object;
          steps: { leftFoot: number[][]; rightFoot: number[][] };
        }[];
      }
    ).clips;
    expect(clip!.travelMetres).toBeCloseTo(1.3, 4);
    expect(clip!.loop).toMatchObject({ verdict: 'doubled', in: 0, out: 31, period: 30 });
    expect(clip!.steps.leftFoot).toHaveLength(1);
    expect(clip!.steps.rightFoot).toHaveLength(2);
  });

  it('speaks to people without --json', async () => {
    const { out } = await warper('inspect', at('keeper.glb'));
    expect(out).toMatch(/body {3}Keeper: 52 joints, 1.\d\d m, with skin/);
  });
});

describe('assemble, check and bake', () => {
  it('joins three stretches of capture and bakes them to BVH and GLB', async () => {
    const cues = write(
      'capture.cues.json',
      sheet([
        { clip: 'capture.bvh', in: 60, out: 400 },
        { clip: 'capture.bvh', in: 700, out: 1000, seam: { overlap: 10 } },
        { clip: 'capture.bvh', in: 420, out: 690, seam: { fit: 'hips' } },
      ]),
    );
    expect((await warper('assemble', cues, '-o', at('capture.warper'))).code).toBe(0);
    const checked = await warper('check', at('capture.warper'), '--json');
    expect(checked.json).toMatchObject({
      rate: 30,
      characters: [
        {
          name: 'Keeper',
          start: 0,
          end: 210,
          seams: [
            { index: 0, frame: 75, overlap: 10, kind: 'crossfade' },
            { index: 1, frame: 142, overlap: 8 },
          ],
        },
      ],
    });
    const bvh = await warper(
      'bake',
      at('capture.warper'),
      '--character',
      'Keeper',
      '-o',
      at('out.bvh'),
      '--json',
    );
    expect(bvh.json).toMatchObject({ frames: 210, rate: 30, joints: 31 });

    const { plan } = await openScene(at('capture.warper'));
    const character = plan.characters[0]!;
    const again = readBvh(readFileSync(at('out.bvh')), 'out.bvh');
    const { skeleton } = again.bodies[0]!;
    expect(again.bodies[0]!.layout).toEqual(
      readBvh(readFileSync(at('capture.bvh')), 'capture.bvh').bodies[0]!.layout,
    );
    const [a, b] = [makeWorldPose(skeleton), makeWorldPose(skeleton)];
    for (let f = 0; f < 210; f += 7) {
      poseToWorld(skeleton, samplePose(again.clips[0]!, f, makePoseBuffer(skeleton)), a);
      poseToWorld(character.skeleton, evaluate(character, f, makePoseBuffer(skeleton)), b);
      for (let j = 0; j < 31; j++) {
        expect(
          Math.hypot(...[0, 1, 2].map((k) => a.positions[j * 3 + k]! - b.positions[j * 3 + k]!)),
        ).toBeLessThan(1e-4);
        expect((quatAngle(a.rotations, j * 4, b.rotations, j * 4) * 180) / Math.PI).toBeLessThan(0.01);
      }
    }

    expect((await warper('bake', cues, '--character', 'Keeper', '-o', at('out.glb'))).code).toBe(0);
    const { issues } = await validator.validateBytes(new Uint8Array(readFileSync(at('out.glb'))));
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  });

  it('bakes the demonstration with its body; the seams are good and the file is valid', async () => {
    const { json } = await warper(
      'check',
      at('lamp-round.cues.json'),
      '--json',
      '--max-pop',
      '1',
      '--max-turn',
      '3',
    );
    const [keeper] = (
      json as {
        characters: {
          segments: unknown[];
          seams: { popCm: number; surgeCm: number; grade: string }[];
          steps: { slideCm: number }[];
        }[];
      }
    ).characters;
    expect(keeper!.segments.length).toBeGreaterThanOrEqual(6);
    for (const seam of keeper!.seams) expect(seam).toMatchObject({ grade: 'good' });
    await warper(
      'bake',
      at('lamp-round.cues.json'),
      '--character',
      'Keeper',
      '-o',
      at('keeper-baked.glb'),
      '--rate',
      '60',
      '--travel',
      'in-place',
    );
    const bytes = new Uint8Array(readFileSync(at('keeper-baked.glb')));
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const baked = await readMotionFile(bytes, 'keeper-baked.glb');
    expect(baked.bodies[0]!.skinned).toBe(true);
    expect(baked.clips[0]).toMatchObject({ name: 'Keeper', rate: 60, frames: 1704 });
  });

  it('without fits the seams jump, and check says by how much and fails', async () => {
    const { scene } = JSON.parse(
      JSON.stringify({ scene: JSON.parse(readFileSync(at('lamp-round.cues.json'), 'utf8')) }),
    );
    scene.characters[0].cues.forEach((cue: { seam?: object }, i: number) => {
      if (i > 0) cue.seam = { fit: 'free' };
    });
    const { code, err, json } = await warper(
      'check',
      write('free.cues.json', scene),
      '--max-pop',
      '1',
      '--json',
    );
    expect(code).toBe(3);
    expect(err).toMatch(/Keeper: the seam at frame \d+ pops \d+\.\d+ cm, allowed 1/);
    const seams = (json as { characters: { seams: { surgeCm: number; grade: string }[] }[] }).characters[0]!
      .seams;
    expect(Math.max(...seams.map((s) => s.surgeCm))).toBeGreaterThan(50);
  });

  it('the 31-sample walk three times fills 90 frames, its wrap pops under 1 mm, its feet slide under 5 mm', async () => {
    const cues = write('walk.cues.json', sheet([{ clip: 'keeper-walk.glb', repeat: 3 }]));
    const { json } = await warper('check', cues, '--json');
    const [c] = (json as { characters: { start: number; end: number; steps: { slideCm: number }[] }[] })
      .characters;
    expect([c!.start, c!.end]).toEqual([0, 90]);
    for (const step of c!.steps) expect(step.slideCm).toBeLessThan(0.5);
    const { plan } = await openScene(cues);
    const walk = plan.characters[0]!;
    const world = (f: number): Float64Array =>
      poseToWorld(
        walk.skeleton,
        evaluate(walk, f, makePoseBuffer(walk.skeleton)),
        makeWorldPose(walk.skeleton),
      ).positions.slice();
    // |step - mean of the steps before and after| at the wrap, less the same a cycle's half away, where the other leg is.
    const pop = (f: number): number => {
      const [p, q, r, s] = [world(f - 2), world(f - 1), world(f), world(f + 1)];
      let most = 0;
      for (let j = 0; j < walk.skeleton.names.length; j++) {
        const v = [0, 1, 2].map(
          (k) => (3 * (r[j * 3 + k]! - q[j * 3 + k]!) - (s[j * 3 + k]! - p[j * 3 + k]!)) / 2,
        );
        most = Math.max(most, Math.hypot(...v));
      }
      return most;
    };
    for (const wrap of [30, 60]) expect(pop(wrap) - pop(wrap - 15)).toBeLessThan(0.001);
  });

  it('bakes the frames asked for, in other units', async () => {
    const cues = write('part.cues.json', sheet([{ clip: 'Set down.bvh' }]));
    const { json } = await warper(
      'bake',
      cues,
      '--character',
      'Keeper',
      '-o',
      at('part.bvh'),
      '--from',
      '10',
      '--to',
      '40',
      '--rate',
      '24',
      '--scale',
      '100',
      '--json',
    );
    expect(json).toMatchObject({ frames: 24, rate: 24 });
    expect(readFileSync(at('part.bvh'), 'utf8')).toMatch(/Frames: 24\nFrame Time: 0.041666667/);
    expect(readBvh(readFileSync(at('part.bvh')), 'part.bvh').remarks.map((r) => r.code)).toContain('unit');
  });
});

describe('match', () => {
  it('finds that the walk goes over into the turn at the start of its handle', async () => {
    const { json } = await warper(
      'match',
      at('keeper-walk.glb'),
      at('keeper-turn-round.glb'),
      '--within',
      '31',
      '--top',
      '3',
      '--json',
    );
    const { pairs } = json as { pairs: { out: number; in: number; distanceCm: number; sameFeet: boolean }[] };
    expect(pairs.length).toBeGreaterThan(0);
    // The turn begins with the last eight frames of a cycle: sample 22 of the walk is its first.
    expect(pairs[0]!.distanceCm).toBeLessThan(2);
    expect(Math.abs(pairs[0]!.out - pairs[0]!.in - 22)).toBeLessThan(3);
    expect(pairs[0]!.sameFeet).toBe(true);
  });

  it('finds the repeats in real capture', async () => {
    const { json, out } = await warper(
      'match',
      at('capture.bvh'),
      at('capture.bvh'),
      '--within',
      '400',
      '--json',
    );
    expect(out.length).toBeGreaterThan(10);
    expect((json as { pairs: object[] }).pairs.length).toBeGreaterThan(0);
  });
});

describe('a glTF in several files', () => {
  it('is used by a sheet with its buffer from the same folder', async () => {
    const json = JSON.parse(
      readFileSync(join(repository, 'formats/fixtures/khronos-simple-skin.gltf'), 'utf8'),
    ) as {
      buffers: { uri: string }[];
    };
    json.buffers.forEach((b, i) => {
      writeFileSync(at(`skin${i}.bin`), Buffer.from(b.uri.slice(b.uri.indexOf(',') + 1), 'base64'));
      b.uri = `skin${i}.bin`;
    });
    write('skin.gltf', json);
    const cues = write('skin.cues.json', sheet([{ clip: 'skin.gltf' }, { clip: 'skin.gltf' }]));
    expect((await warper('assemble', cues, '-o', at('skin.warper'))).code).toBe(0);
    expect(
      (await warper('bake', at('skin.warper'), '--character', 'Keeper', '-o', at('skin.glb'))).code,
    ).toBe(0);
    const { issues } = await validator.validateBytes(new Uint8Array(readFileSync(at('skin.glb'))));
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    expect((await warper('inspect', at('skin.gltf'))).code).toBe(0);
  });
});

describe('a seam under a layer', () => {
  it('is measured below it, and with it', async () => {
    const cues = [
      { clip: 'keeper-walk.glb', repeat: 2 },
      { clip: 'keeper-turn-left-90.glb' },
      { clip: 'keeper-walk.glb' },
    ];
    interface Seam {
      readonly frame: number;
      readonly popCm: number;
      readonly withLayers: { readonly popCm: number; readonly worstJoint: string } | null;
    }
    const seams = async (more: object): Promise<Seam[]> => {
      const { json } = await warper('check', write('layered.cues.json', sheet(cues, more)), '--json');
      return (json as { characters: [{ seams: Seam[] }] }).characters[0].seams;
    };
    const plain = await seams({});
    // A wave that is cut in amid the first seam, without a fade.
    const wave = { clip: 'keeper-wave.glb', at: plain[0]!.frame + 3, in: 40, out: 60 };
    const layered = await seams({ layers: [{ name: 'wave', mask: ['rightUpperArm*'], cues: [wave] }] });
    expect(plain.map((s) => s.withLayers)).toEqual([null, null]);
    expect(layered.map(({ popCm }) => popCm)).toEqual(plain.map(({ popCm }) => popCm));
    const [first, second] = layered;
    expect(first!.withLayers!.popCm).toBeGreaterThan(first!.popCm + 5);
    expect(first!.withLayers!.worstJoint).toMatch(/^right/);
    expect(second!.withLayers).toBeNull();
  });
});

describe('held feet and other bodies', () => {
  const slides = async (...more: string[]): Promise<number> => {
    const cues = write(
      'slides.cues.json',
      sheet([
        { clip: 'keeper-walk.glb', repeat: 2 },
        { clip: 'keeper-turn-left-90.glb', seam: { fit: 'hips', nudge: { x: 0.02 } } },
      ]),
    );
    const { code, json } = await warper('check', cues, '--json', ...more);
    expect(code).toBe(0);
    const [character] = (json as { characters: { seams: { slideCm: number }[] }[] }).characters;
    return Math.max(...character!.seams.map((s) => s.slideCm));
  };

  it('check with the feet held finds no slide where there was some', async () => {
    expect(await slides()).toBeGreaterThan(0.5);
    expect(await slides('--foot-lock')).toBeLessThan(0.01);
  });

  it('bake holds them in the file', async () => {
    const cues = write('held.cues.json', sheet([{ clip: 'keeper-walk.glb', repeat: 2 }]));
    for (const more of [[], ['--foot-lock']])
      expect((await warper('bake', cues, '--character', 'Keeper', '-o', at('held.bvh'), ...more)).code).toBe(
        0,
      );
  });

  it('bake carries capture over to a body with other names, in the body’s own skeleton', async () => {
    const cues = write(
      'carried.cues.json',
      sheet([{ clip: 'capture.bvh', in: 1, out: 400 }], { body: 'visitor.glb' }),
    );
    expect((await warper('bake', cues, '--character', 'Keeper', '-o', at('carried.glb'))).code).toBe(0);
    const { issues } = await validator.validateBytes(new Uint8Array(readFileSync(at('carried.glb'))));
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const { json } = await warper('inspect', at('carried.glb'), '--json');
    const { joints, clips } = json as {
      joints: { name: string }[];
      clips: { travelMetres: number; floatCm: number }[];
    };
    expect(joints.map((j) => j.name)).toContain('l_talocrural');
    expect(clips[0]!.travelMetres).toBeGreaterThan(0.3);
    expect(Math.abs(clips[0]!.floatCm)).toBeLessThan(0.5);
  });

  it('a bone map tells what joints with strange names are', async () => {
    const text = readFileSync(at('capture.bvh'), 'utf8').replace(/\bLeftFoot\b/, 'Lump7');
    write('strange.bvh', text);
    const roleOf = async (...more: string[]): Promise<string | null> => {
      const { json } = await warper('inspect', at('strange.bvh'), '--json', ...more);
      return (json as { joints: { name: string; role: string | null }[] }).joints.find(
        (j) => j.name === 'Lump7',
      )!.role;
    };
    expect(await roleOf()).toBeNull();
    const map = write('strange.map.json', { format: 'warper-map', version: 1, roles: { Lump7: 'leftFoot' } });
    expect(await roleOf('--map', map)).toBe('leftFoot');
  });
});
