import { describe, expect, it } from '@jest/globals';
import type { Clip, Scene } from '@warper/core';
import {
  PLAIN_CHARACTER,
  PLAIN_LANE,
  applyEdit,
  clipFacts,
  compile,
  emptyScene,
  evaluate,
  makePoseBuffer,
  makeWorldPose,
  parseRate,
  poseToWorld,
  fixedLibrary,
} from '@warper/core';
import { figureClip } from '../../../../../core/src/testing/figure';
import type { StoredClip } from '../../../data/db';
import { cueRows, parseSeam, tableText } from './cueRows';
import { readCueTable } from './cueTable';

const RAISED = { rightUpperArm: [0, 0, 2] } as const;
const clips: Clip[] = ['Walk', 'Turn round', 'Wave'].map((name, k) => ({
  ...figureClip(
    40 + k * 10,
    (f) => ({ x: 0, z: 0.02 * f, turn: 0.01 * k * f, joints: k === 2 ? RAISED : {} }),
    { id: `c${k}` },
  ),
  name,
}));
const lookup = (id: string): Clip | undefined => clips.find((c) => c.id === id);
const stored = clips.map(
  (c, order) =>
    ({
      id: c.id,
      name: c.name,
      source: `s${order}`,
      order,
      facts: clipFacts(c),
      tags: [],
      collections: [],
    }) as unknown as StoredClip,
);
const scene: Scene = {
  ...emptyScene('test'),
  characters: {
    k: { ...PLAIN_CHARACTER, id: 'k', name: 'Keeper', body: 'b' },
    v: { ...PLAIN_CHARACTER, id: 'v', name: 'Visitor', body: 'b' },
  },
  characterOrder: ['k', 'v'],
  lanes: {
    kl: { ...PLAIN_LANE, id: 'kl', kind: 'body', character: 'k', segments: [] },
    vl: { ...PLAIN_LANE, id: 'vl', kind: 'body', character: 'v', segments: [] },
  },
  laneOrder: ['kl', 'vl'],
};
const library = fixedLibrary({ clip: lookup, body: () => clips[0]!.skeleton });
const context = { scene, rate: parseRate(30), clips: stored, character: 'k' };
const rowsOf = (text: string) => {
  const read = readCueTable(text, context);
  const after = applyEdit(scene, { type: 'several', label: 't', edits: read.edits }, library);
  const plan = compile(after, library);
  return { read, rows: cueRows(after, plan) };
};

/** The largest way of any joint from one frame to the next, metres. */
function largestStep(of: Scene): number {
  const keeper = compile(of, library).characters[0]!;
  const [pose, world] = [makePoseBuffer(keeper.skeleton), makeWorldPose(keeper.skeleton)];
  const places = Array.from({ length: keeper.end }, (_, f) =>
    poseToWorld(keeper.skeleton, evaluate(keeper, f, pose), world).positions.slice(),
  );
  const step = (a: Float64Array, b: Float64Array, j: number): number =>
    Math.hypot(...[0, 1, 2].map((k) => b[j * 3 + k]! - a[j * 3 + k]!));
  return Math.max(
    ...places.slice(1).flatMap((now, f) => keeper.skeleton.names.map((_, j) => step(places[f]!, now, j))),
  );
}

describe('a table of beats', () => {
  it.each([
    [
      'tabs, with headings',
      'character\tclip\trepeats\tseam\nKeeper\tWalk\t3\t\nKeeper\tturn ROUND\t1\tcrossfade 6\nVisitor\tWave\t\t',
    ],
    ['commas, without headings', 'Keeper,Walk,3\nKeeper,Turn round,1,,crossfade 6\nVisitor,Wave'],
    [
      'semicolons, columns in another order',
      'clip;who;times;join\nWalk;Keeper;3;\nTurn round;;1;crossfade 6\nWave;Visitor;;',
    ],
  ])('is read with %s, and the sums are done', (_, text) => {
    const { read, rows } = rowsOf(text);
    expect(read.problems).toEqual([]);
    expect(read.count).toBe(3);
    expect(rows.map((r) => [r.characterName, r.segment.name, r.repeat, r.seam])).toEqual([
      ['Keeper', 'Walk', 3, ''],
      ['Keeper', 'Turn round', 1, 'crossfade 6'],
      ['Visitor', 'Wave', 1, ''],
    ]);
    const [walk, turn, wave] = rows.map((r) => r.span!);
    expect(turn!.start).toBe(walk!.end - 6);
    expect(wave!.start).toBe(0);
  });

  it('written out is read in again as the same', () => {
    const { rows } = rowsOf(
      'Keeper,Walk,2\nKeeper,Wave,1,90,settle 5\nKeeper,Turn round,1,,cut,off\nVisitor,Wave',
    );
    expect(rows.map((r) => r.span === null)).toEqual([false, false, true, false]);
    const again = rowsOf(tableText(rows)).rows;
    expect(tableText(again)).toBe(tableText(rows));
  });

  it('makes beats that do not jump when one is moved away from the one before', () => {
    const { edits } = readCueTable('Keeper,Walk\nKeeper,Wave', context);
    const placed = applyEdit(scene, { type: 'several', label: 't', edits }, library);
    const wave = placed.lanes.kl!.segments[1]!;
    const apart = applyEdit(placed, { type: 'move', segment: wave, start: 70 }, library);
    const held = applyEdit(apart, { type: 'seam', segment: wave, values: { gap: 'hold' } }, library);
    // The raised arm comes up over the frames between, where it would jump at the end of a held pose.
    expect(largestStep(apart)).toBeLessThan(0.06);
    expect(largestStep(held)).toBeGreaterThan(0.2);
  });

  it('says which lines it cannot read, and takes the others', () => {
    const { read } = rowsOf('Keeper,Walk\nKeeper,Fly\nNobody,Walk\nKeeper,Walk,-1\nKeeper,Walk,1,,melt');
    expect(read.count).toBe(1);
    expect(read.problems.map((p) => /^Line \d/.exec(p)?.[0])).toEqual([
      'Line 2',
      'Line 3',
      'Line 4',
      'Line 5',
    ]);
  });
});

describe('seams in words', () => {
  it('are read as they are written', () => {
    expect(parseSeam(' Crossfade 12 ')).toEqual({ kind: 'crossfade', frames: 12 });
    expect(parseSeam('cut')).toEqual({ kind: 'cut', frames: null });
    expect(parseSeam('settle')).toEqual({ kind: 'settle', frames: null });
    expect(parseSeam('12')).toBeNull();
  });
});
