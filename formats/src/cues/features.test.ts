import { describe, expect, it } from '@jest/globals';
import {
  InputError,
  allowOtherLegs,
  applyEdit,
  compile,
  evaluate,
  makePoseBuffer,
  measureSeams,
} from '@warper/core';
import { parseBoneMap } from '../boneMap';
import { MotionLibrary } from '../library';
import { readSceneFile, writeSceneFile } from '../scenefile/sceneFile';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';
import { assemble, failure, load, planOf, sheet, turn, walk } from './testing';

describe('a clip of other legs', () => {
  const trot = { clip: 'dog-trot.glb' };

  it('is refused, with the cue, unless the cue asks for it', async () => {
    const error = await failure([walk, trot]);
    expect(error).toMatchObject({ code: 'other-legs', place: { path: 'characters[0].cues[1]' } });
    expect(error.message).toMatch(/four legs.*two legs/);
    const plan = await planOf([walk, { ...trot, otherLegs: true }]);
    expect(plan.segments.map((s) => s.mapped)).toEqual([false, true]);
  });

  it('of a scene is let in by one edit a segment', async () => {
    const { scene, library } = await assemble([walk, { ...trot, otherLegs: true }, walk]);
    const [, id] = scene.lanes.c1body!.segments;
    const strict = applyEdit(scene, { type: 'change', segment: id!, values: { otherLegs: false } }, library);
    expect(() => compile(strict, library)).toThrow(InputError);
    expect(allowOtherLegs(scene, library)).toEqual([]);
    const edits = allowOtherLegs(strict, library);
    expect(edits).toEqual([{ type: 'change', segment: id, values: { otherLegs: true } }]);
    const after = applyEdit(strict, { type: 'several', label: 'all the same', edits }, library);
    expect(after).toEqual(scene);
  });
});

describe('a bridge', () => {
  const cues = [
    { ...walk, repeat: 2 },
    { clip: 'keeper-idle.glb', choose: { bridge: true, steps: false } },
  ];
  const names = async (bridges?: string[]): Promise<string[]> => {
    const value = { ...(sheet(cues) as object), bridges };
    const { scene } = await assembleCues(parseCueSheet(value), load);
    return scene.lanes.c1body!.segments.map((id) => scene.segments[id]!.name);
  };

  it('is taken from the files that the sheet names for it, where there is none among its own', async () => {
    expect(await names()).toEqual(['Walk', 'Idle']);
    expect(await names(['keeper-wave.glb', 'keeper-walk-stop.glb'])).toEqual(['Walk', 'Walk stop', 'Idle']);
  });

  it('says so where its joins are measured', async () => {
    const value = { ...(sheet(cues) as object), bridges: ['keeper-walk-stop.glb'] };
    const { scene, library } = await assembleCues(parseCueSheet(value), load);
    const seams = measureSeams(compile(scene, library).characters[0]!, 30);
    expect(seams.map((s) => [s.grade, s.chosen?.why.slice(0, 14)])).toEqual([
      ['good', 'Bridge. Frame '],
      ['good', 'Bridge. Frame '],
    ]);
  });
});

describe('what a cue can ask of its clip', () => {
  it('is kept in the segment', async () => {
    const { scene } = await assemble([
      {
        ...walk,
        repeat: 3,
        reverse: true,
        mirror: true,
        hold: { end: 12 },
        speedCurve: [[0.5, 0.3]],
        straighten: true,
        travel: 'path',
        path: [
          [0, 2],
          [1, 3],
        ],
        marks: [{ frame: 30, x: 0, z: 1, heading: 0 }],
      },
      {
        ...walk,
        travel: 'in place',
        holdFacing: true,
        seam: { overlap: 6, inStep: true, curve: [[0.4, 0.2]], fit: { pin: { x: 1, z: 2, heading: 30 } } },
      },
    ]);
    const [a, b] = Object.values(scene.segments);
    expect(a).toMatchObject({
      reverse: true,
      mirror: true,
      hold: { start: 0, end: 12 },
      speedCurve: [[0.5, 0.3]],
      straighten: true,
      travel: 'path',
      path: [
        [0, 2],
        [1, 3],
      ],
      marks: [{ frame: 30, x: 0, z: 1, heading: 0 }],
    });
    expect(b).toMatchObject({
      start: 90 + 12 - 6,
      travel: 'in place',
      holdFacing: true,
      seam: { inStep: true, curve: [[0.4, 0.2]], fit: { pin: { x: 1, z: 2, heading: 30 } } },
    });
  });

  it('restores the travel of a clip in place', async () => {
    const c = await planOf([{ clip: 'keeper-walk-in-place.glb', repeat: 4, travel: 'restored' }]);
    const pose = makePoseBuffer(c.skeleton);
    const z0 = evaluate(c, 0, pose).root[1]!;
    // Four cycles of 1.3 m, less the last frame.
    expect(evaluate(c, 119, pose).root[1]! - z0).toBeCloseTo(5.2 * (119 / 120), 1);
  });

  it('takes the user’s own steps', async () => {
    const { scene } = await assemble([{ ...walk, steps: { leftToes: [[2, 10]] } }]);
    expect(Object.values(scene.steps)).toEqual([{ leftToes: [[2, 10]] }]);
  });
});

describe('joins', () => {
  it('as long as the motions ask: short between like ones, none between repeats', async () => {
    const { scene } = await assemble([
      { ...walk, repeat: 2 },
      { ...walk, repeat: 2, seam: { overlap: 'auto' } },
      { ...turn, seam: { overlap: 'auto' } },
    ]);
    expect(Object.values(scene.segments).map((s) => s.start)).toEqual([0, 60, 112]);
  });

  it('trimmed to the best pair within some frames', async () => {
    const cues = [
      { ...turn, out: 100 },
      { clip: 'keeper-walk-stop.glb', in: 10, match: { within: 12 }, seam: { fit: 'planted foot' } },
    ];
    const matched = await planOf(cues);
    const plain = await planOf(
      [cues[0]!, { ...cues[1], match: undefined }].map((c) => JSON.parse(JSON.stringify(c))),
    );
    expect(Math.abs(matched.segments[0]!.out - 100)).toBeLessThanOrEqual(17);
    const [a, b] = [matched, plain].map((c) => measureSeams(c, 30)[0]!.surgeCm);
    expect(a!).toBeLessThan(b!);
  });

  it('that meets in the middle of its overlap, also behind a loop, and leaves a second of each clip', async () => {
    for (const overlap of [4, 8, 15]) {
      const cues = (match?: object) => [
        { ...walk, repeat: 3 },
        { ...turn, seam: { fit: 'planted foot', overlap }, ...match },
        { clip: 'keeper-walk-stop.glb', out: 40, seam: { fit: 'planted foot', overlap }, ...match },
      ];
      const [matched, plain] = [await planOf(cues({ match: { within: 90 } })), await planOf(cues())];
      measureSeams(matched, 30).forEach((m, i) => {
        expect(m.surgeCm).toBeLessThan(Math.max(0.3, measureSeams(plain, 30)[i]!.surgeCm + 0.05));
        expect(m.overlap).toBe(overlap);
      });
      expect(matched.segments[0]!.end).toBe(plain.segments[0]!.end);
      for (const s of matched.segments) expect(s.end - s.start).toBeGreaterThanOrEqual(30);
    }
  });
});

describe('what does not go together', () => {
  it.each<[string, object[], object, string, RegExp]>([
    ['a path without points', [{ ...walk, travel: 'path' }], {}, 'travel', /needs a path/],
    ['points without a path', [{ ...walk, path: [[0, 1]] }], {}, 'path', /for travel along it/],
    [
      'a falling curve',
      [
        {
          ...walk,
          speedCurve: [
            [0.3, 0.6],
            [0.6, 0.4],
          ],
        },
      ],
      {},
      'speedCurve',
      /below/,
    ],
    [
      'marks out of order',
      [
        {
          ...walk,
          marks: [
            { frame: 9, x: 0, z: 0, heading: 0 },
            { frame: 3, x: 0, z: 0, heading: 0 },
          ],
        },
      ],
      {},
      'marks[1].frame',
      /order/,
    ],
    ['a match with nothing', [{ ...walk, match: { within: 5 } }], {}, 'match', /nothing before/],
    [
      'a match of two loops',
      [
        { ...walk, repeat: 2 },
        { ...walk, repeat: 2, match: { within: 5 } },
      ],
      {},
      'match',
      /loops/,
    ],
    ['a layer without a name', [walk], { layers: [{ kind: 'override' }] }, 'name', /name/],
    ['an unknown key of a layer', [walk], { layers: [{ name: 'x', masks: [] }] }, 'masks', /masks/],
    [
      'a key without a frame',
      [walk],
      { layers: [{ name: 'x', keys: { head: [{ turn: [0, 0, 0] }] } }] },
      'frame',
      /frame/,
    ],
    [
      'a span that ends before it starts',
      [walk],
      { layers: [{ name: 'x', span: { start: 9, end: 3 } }] },
      'span',
      /ends before it starts/,
    ],
    [
      'a root key of another way',
      [walk],
      { layers: [{ name: 'x', root: { sideways: [] } }] },
      'sideways',
      /sideways/,
    ],
    [
      'a dial that is none',
      [walk],
      { layers: [{ name: 'x', dials: { leen: [] } }] },
      'leen',
      /Did you mean "lean"/,
    ],
    ['a look at nothing', [walk], { layers: [{ name: 'x', look: { lag: 3 } }] }, 'at', /at is required/],
    ['an overlap of another word', [walk, { ...turn, seam: { overlap: 'long' } }], {}, 'overlap', /overlap/],
  ])('%s', async (_, cues, character, path, message) => {
    const error = await failure(cues, character);
    expect(error.place.path).toMatch(new RegExp(`${path.replace(/[[\].]/g, '\\$&')}$`));
    expect(`${error.message} ${error.hint}`).toMatch(message);
  });
});

describe('bone maps', () => {
  const map = (roles: object): unknown => ({ format: 'warper-map', version: 1, roles });

  it('give joints their roles, and a scene file keeps them', async () => {
    const roles = parseBoneMap(map({ leftHand: null, leftLowerArm: 'leftHand' }));
    const { scene, library } = await assembleCues(
      parseCueSheet(sheet([walk])),
      load,
      new MotionLibrary(roles),
    );
    const body = library.body(scene.characters.c1!.body)!;
    const role = (name: string): string | null => body.roles[body.names.indexOf(name)]!;
    expect([role('leftLowerArm'), role('leftHand'), role('rightHand')]).toEqual([
      'leftHand',
      null,
      'rightHand',
    ]);
    const again = await readSceneFile(writeSceneFile(scene, library), 'x.warper');
    expect(again.library.body(scene.characters.c1!.body)!.roles).toEqual(body.roles);
  });

  it.each<[string, unknown, RegExp]>([
    ['no map', { roles: {} }, /format/],
    ['no such role', map({ a: 'leftFeet' }), /leftFoot/],
    ['a role twice', map({ a: 'head', b: 'head' }), /both have the role head/],
  ])('refuse %s', (_, value, message) => {
    try {
      parseBoneMap(value);
    } catch (error) {
      const { message: said, hint } = error as InputError;
      expect(`${said} ${hint}`).toMatch(message);
      return;
    }
    throw new Error('it was accepted');
  });
});
