import { describe, expect, it } from '@jest/globals';
import { InputError, defined, evaluate, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';
import { unzipSync } from 'fflate';
import validator from 'gltf-validator';
import { assemble, load, turn, walk } from '../cues/testing';
import { readMotionFile } from '../read';
import { joinBytes } from '../joinBytes';
import { ZipStream } from '../zipStream';
import type { BakedFacts } from './bakeFile';
import { bakeFile } from './bakeFile';
import { bakeRemarks, seamsWithin } from './bakeRemarks';
import { fileName } from './fileName';
import type { BakeOrder, PlannedFile } from './plannedFiles';
import { plannedFiles } from './plannedFiles';
import type { BakeSettings } from './settings';
import { USUAL_BAKE, bakeSettingsRule } from './settings';
import { compile } from '@warper/core';

const { scene, library } = await assemble([walk, turn, { ...walk, repeat: 2 }], { body: 'keeper.glb' });
const plan = compile(scene, library);
const keeper = defined(plan.characters[0]);
const SPANS = [
  { name: 'Walk', from: 0, to: 30 },
  { name: 'Turn / back', from: 30, to: 70 },
];

const orderOf = (settings: Partial<BakeSettings>, spans = SPANS): BakeOrder => ({
  name: 'Round: one',
  characters: [keeper.character.id],
  spans,
  settings: { ...USUAL_BAKE, ...settings },
});

/** Bakes all files of an order, as they are planned. */
async function baked(
  order: BakeOrder,
): Promise<{ file: PlannedFile; bytes: Uint8Array; facts: BakedFacts }[]> {
  const files = plannedFiles(plan, order, library);
  return Promise.all(
    files.map(async (file) => {
      const parts: Uint8Array[] = [];
      const content = bakeFile({ plan, library }, file, order, () => undefined);
      let step = await content.next();
      for (; !step.done; step = await content.next()) parts.push(step.value);
      return { file, bytes: joinBytes(parts), facts: step.value };
    }),
  );
}

describe('planned files', () => {
  it('are one for each span, or one with all of them, where the format holds several', () => {
    const names = (settings: Partial<BakeSettings>) =>
      plannedFiles(plan, orderOf(settings), library).map((f) => [f.name, f.frames]);
    expect(names({})).toEqual([
      ['Round-one-Keeper-Walk.glb', [30]],
      ['Round-one-Keeper-Turn-back.glb', [40]],
    ]);
    expect(names({ spansTogether: true })).toEqual([['Round-one-Keeper.glb', [30, 40]]]);
    expect(names({ spansTogether: true, format: 'bvh', rate: 60 })).toEqual([
      ['Round-one-Keeper-Walk.bvh', [60]],
      ['Round-one-Keeper-Turn-back.bvh', [80]],
    ]);
  });

  it('have names that no other has, and that every system takes', () => {
    const twice = [SPANS[0]!, { ...SPANS[0]!, name: 'WALK' }, { ...SPANS[0]!, from: 2 }];
    const names = plannedFiles(plan, orderOf({}, twice), library).map((f) => f.name.toLowerCase());
    expect(new Set(names).size).toBe(3);
    expect(fileName('../a: b*?"<>|\u0007 \\c.')).toBe('a-b-c');
    expect(fileName(' .. ')).toBe('scene');
  });

  it('are about as large as they are said to be', async () => {
    for (const format of ['glb', 'bvh', 'csv'] as const)
      for (const { file, bytes } of await baked(orderOf({ format })))
        expect(Math.abs(Math.log2(file.estimatedBytes / bytes.length))).toBeLessThan(1.2);
  });

  it('are refused for nobody, for no span, and for empty ones', () => {
    const refused = (order: BakeOrder): string => {
      try {
        plannedFiles(plan, order, library);
      } catch (error) {
        return (error as InputError).code;
      }
      return 'none';
    };
    expect(refused({ ...orderOf({}), characters: [] })).toBe('nobody');
    expect(refused(orderOf({}, []))).toBe('no-span');
    expect(refused(orderOf({}, [{ name: '', from: 9, to: 9 }]))).toBe('bake-range');
  });
});

describe('a baked file', () => {
  it('has its takes as animations, valid and each of its own length', async () => {
    const [one] = await baked(orderOf({ spansTogether: true }));
    const { bytes, facts } = defined(one);
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const { clips, bodies } = await readMotionFile(bytes, 'takes.glb');
    expect(clips.map((c) => [c.name, c.frames])).toEqual(SPANS.map((s) => [s.name, s.to - s.from]));
    expect([facts.frames, facts.bytes, bodies[0]?.skinned]).toEqual([[30, 40], bytes.length, true]);
  });

  it('is the same as text', async () => {
    const [binary, text] = await Promise.all(
      (['glb', 'gltf'] as const).map(async (format) => defined((await baked(orderOf({ format })))[0])),
    );
    expect(JSON.parse(new TextDecoder().decode(text!.bytes))).toMatchObject({ asset: { version: '2.0' } });
    const { issues } = await validator.validateBytes(text!.bytes);
    expect(issues.numErrors).toBe(0);
    const [a, b] = await Promise.all([
      readMotionFile(binary!.bytes, 'a.glb'),
      readMotionFile(text!.bytes, 'b.gltf'),
    ]);
    expect(b.clips[0]?.rotations).toEqual(a.clips[0]?.rotations);
    expect(b.clips[0]?.translations).toEqual(a.clips[0]?.translations);
  });

  it('is a table of where the root and all joints are', async () => {
    const [one] = await baked(
      orderOf({ format: 'csv', unitsPerMetre: 100 }, [{ name: '', from: 40, to: 60 }]),
    );
    const rows = new TextDecoder()
      .decode(defined(one).bytes)
      .split('\r\n')
      .map((line) => line.split(','));
    const head = defined(rows[0]);
    expect([rows.length, rows.at(-1)]).toEqual([22, ['']]);
    const { skeleton } = keeper;
    for (const f of [0, 7, 19]) {
      const pose = evaluate(keeper, 40 + f, makePoseBuffer(skeleton));
      const { positions, rotations } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
      const value = (column: string): number => Number(defined(rows[f + 1])[head.indexOf(column)]);
      expect([value('frame'), value('seconds')]).toEqual([f, Number((f / 30).toFixed(6))]);
      expect(
        Math.hypot(value('root x') - pose.root[0]! * 100, value('root z') - pose.root[1]! * 100),
      ).toBeLessThan(2);
      for (const name of ['hips', 'head', 'leftHand']) {
        const j = skeleton.names.indexOf(name);
        ['x', 'y', 'z'].forEach((axis, k) =>
          expect(value(`${name} ${axis}`)).toBeCloseTo(positions[j * 3 + k]! * 100, 3),
        );
        expect(Math.abs(value(`${name} qw`))).toBeCloseTo(Math.abs(rotations[j * 4 + 3]!), 4);
      }
    }
  });

  it('as a table with +Z up has its floor in x and y', async () => {
    const spans = [{ name: '', from: 40, to: 60 }];
    const tables = await Promise.all(
      (['y', 'z'] as const).map(async (upAxis) => {
        const [one] = await baked(orderOf({ format: 'csv', upAxis }, spans));
        const [head, ...rows] = new TextDecoder().decode(defined(one).bytes).split('\r\n');
        const at = (column: string): number => defined(head).split(',').indexOf(column);
        return (column: string): number => Number(defined(rows[7]).split(',')[at(column)]);
      }),
    );
    const [y, z] = tables as [(c: string) => number, (c: string) => number];
    expect([z('root x'), z('root y')]).toEqual([y('root x'), -y('root z')]);
    expect([z('head x'), z('head y'), z('head z')]).toEqual([y('head x'), -y('head z'), y('head y')]);
    expect([z('head qx'), z('head qy'), z('head qz'), z('head qw')]).toEqual([
      y('head qx'),
      -y('head qz'),
      y('head qy'),
      y('head qw'),
    ]);
  });

  it('has bones alone, called by their roles, where that is asked for', async () => {
    for (const format of ['glb', 'bvh'] as const) {
      const [one] = await baked(orderOf({ format, withBody: false, jointNames: 'roles' }));
      const { bodies } = await readMotionFile(defined(one).bytes, `bones.${format}`);
      const { skeleton, skinned } = defined(bodies[0]);
      expect(skinned).toBe(false);
      keeper.skeleton.names.forEach((name, j) =>
        expect(skeleton.names).toContain(keeper.skeleton.roles[j] ?? name),
      );
    }
  });

  it('with reduced keys is read back within the error', async () => {
    for (const interpolation of ['linear', 'cubic'] as const) {
      const span = [{ name: '', from: 0, to: 90 }];
      const [one] = await baked(orderOf({ keys: 'reduced', interpolation }, span));
      const { bytes, facts } = defined(one);
      const { issues } = await validator.validateBytes(bytes);
      expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
      const reduced = defined(facts.reduced ?? undefined);
      expect(reduced.keys).toBeLessThan(reduced.of * 0.5);
      expect(reduced.errorMillimetres).toBeLessThanOrEqual(1.001);
      const clip = defined((await readMotionFile(bytes, 'reduced.glb')).clips[0]);
      expect([clip.rate, clip.frames]).toEqual([30, 90]);
      const hips = clip.translated.indexOf(clip.skeleton.rootBone) * 3;
      for (let f = 0; f < 90; f++) {
        const pose = evaluate(keeper, f, makePoseBuffer(keeper.skeleton));
        const at = keeper.skeleton.rootBone * 3;
        for (let k = 0; k < 3; k++)
          expect(
            Math.abs(
              clip.translations[f * clip.translated.length * 3 + hips + k]! - pose.translations[at + k]!,
            ),
          ).toBeLessThan(1.01e-3);
      }
    }
  });

  it('reports rising shares up to the whole, and ends at once where that is refused', async () => {
    const order = orderOf({ keys: 'reduced' }, [{ name: '', from: 0, to: 120 }]);
    const [file] = plannedFiles(plan, order, library);
    const shares: number[] = [];
    const content = bakeFile({ plan, library }, defined(file), order, (s) => void shares.push(s));
    while (!(await content.next()).done);
    expect(shares.length).toBeGreaterThan(1);
    shares.forEach((share, i) => expect(share).toBeGreaterThanOrEqual(shares[i - 1] ?? 0));
    expect(shares.at(-1)).toBe(1);
    const stopped = bakeFile({ plan, library }, defined(file), order, () => {
      throw new InputError('cancelled', 'Stopped.');
    });
    await expect(stopped.next()).rejects.toThrow('Stopped.');
  });
});

describe('what is odd about a bake', () => {
  const codes = (settings: Partial<BakeSettings>, spans = SPANS): string[] => {
    const order = orderOf(settings, spans);
    return bakeRemarks(plan, order, plannedFiles(plan, order, library), library).map((r) => r.code);
  };

  it('is said before it begins', () => {
    const calm = [{ name: '', from: 0, to: 10 }];
    expect(codes({}, calm)).toEqual([]);
    expect(codes({ rate: 60 }, calm)).toEqual([]);
    expect(codes({ rate: 15 }, calm)).toEqual([]);
    expect(codes({ rate: 24 }, calm)).toEqual(['rate']);
    expect(codes({}, [{ name: '', from: 0, to: keeper.end + 1 }])).toEqual(['after', 'seams']);
    expect(codes({}, [{ name: '', from: keeper.start - 1, to: 10 }])).toEqual(['before']);
    expect(codes({ loop: 'close' }, [...calm, ...calm])).toEqual(['lengths']);
  });
});

describe('seams in what is baked', () => {
  it('are those within its spans; a cut at the start of one is not', async () => {
    const seam = { kind: 'cut', fit: 'free' };
    const cuts = await assemble([walk, { ...turn, seam }], { body: 'keeper.glb' });
    const cut = compile(cuts.scene, cuts.library);
    const at = defined(cut.characters[0]?.segments[1]).start;
    const framesOf = (character: typeof keeper, from: number, of: typeof plan): number[] =>
      seamsWithin(of, [character], { spans: [{ name: '', from, to: 1000 }] }).map((s) => s.measures.frame);
    expect(framesOf(defined(cut.characters[0]), at, cut)).toEqual([]);
    expect(framesOf(defined(cut.characters[0]), at - 1, cut)).toEqual([at]);
    const [, first, second] = keeper.segments;
    expect(framesOf(keeper, defined(first).start, plan)).toEqual([first!.start, second!.start]);
    expect(framesOf(keeper, defined(first).start + 1, plan)).toEqual([second!.start]);
  });
});

describe('settings that were kept', () => {
  it('are checked field by field', () => {
    expect(bakeSettingsRule.validate(USUAL_BAKE).error).toBeUndefined();
    for (const wrong of [
      { format: 'doc' },
      { rate: 0 },
      { errorMillimetres: -1 },
      { leadIn: 1.5 },
      { loop: 'open' },
    ])
      expect(bakeSettingsRule.validate({ ...USUAL_BAKE, ...wrong }).error).toBeDefined();
  });
});

describe('an archive that is made as it goes', () => {
  it('holds the files in order, whole', async () => {
    const parts: Uint8Array[] = [];
    const zip = new ZipStream((part) => void parts.push(part));
    const walkFile = await load('keeper-walk.glb');
    for (const [name, content] of [
      ['a/walk.glb', walkFile],
      ['empty.txt', new Uint8Array()],
    ] as const) {
      zip.begin(name);
      zip.push(content.subarray(0, 100));
      zip.push(content.subarray(100));
      zip.end();
    }
    zip.finish();
    expect(unzipSync(joinBytes(parts))).toEqual({ 'a/walk.glb': walkFile, 'empty.txt': new Uint8Array() });
  });
});
