import { describe, expect, it } from '@jest/globals';
import { defined } from '../math/defined';
import { parseScene } from '../scene/schema';
import type { Scene } from '../scene/scene';
import { shotsInOrder } from '../scene/shot';
import { library, two } from '../testing/arranging';
import { holdsThroughEdits } from '../testing/manyEdits';
import { anyFilmingEdit, filmed, shotOf, shotSpans } from '../testing/cameraExamples';
import type { Edit } from './edit';
import { applyEdit, describeEdit } from './edit';

const scene: Scene = { ...two, ...filmed };
const after = (change: Edit): string => shotSpans(applyEdit(scene, change, library));

describe('shots', () => {
  it('never share a frame, whatever is done to them, and every edit can be taken back', () => {
    // To be read, no two may overlap, each has a frame and a camera, and no blend is of more frames than can be.
    holdsThroughEdits(scene, anyFilmingEdit, ({ shots }) => {
      for (const { start, end, blend } of shotsInOrder(shots))
        expect(blend <= end - start || blend <= 30).toBe(true);
    });
  });

  it('that join go along with the edge between them, and leave a frame at least', () => {
    expect(after({ type: 'change shot', shot: '1', values: { end: 55 } })).toBe('1[0,55) 2[55,70) 3[80,120)');
    expect(after({ type: 'change shot', shot: '1', values: { end: 500 } })).toBe(
      '1[0,69) 2[69,70) 3[80,120)',
    );
    expect(after({ type: 'change shot', shot: '2', values: { start: -9 } })).toBe('1[0,1) 2[1,70) 3[80,120)');
    expect(after({ type: 'change shot', shot: '1', values: { end: 30 } })).toBe('1[0,30) 2[30,70) 3[80,120)');
    // Across the gap nothing joins: it is filled, or left wider.
    expect(after({ type: 'change shot', shot: '3', values: { start: 90 } })).toBe(
      '1[0,40) 2[40,70) 3[90,120)',
    );
    expect(after({ type: 'change shot', shot: '3', values: { start: 60 } })).toBe(
      '1[0,40) 2[40,60) 3[60,120)',
    );
  });

  it('that are moved keep their length, and their neighbours make room', () => {
    const move = (shot: string, start: number, end: number): string =>
      after({ type: 'change shot', shot, values: { start, end } });
    expect(move('2', 45, 75)).toBe('1[0,45) 2[45,75) 3[80,120)');
    expect(move('2', 60, 90)).toBe('1[0,60) 2[60,90) 3[90,120)');
    expect(move('2', 500, 530)).toBe('1[0,89) 2[89,119) 3[119,120)');
  });

  it('cover what is there: around one there is a rest, what is covered wholly goes', () => {
    expect(after({ type: 'shot', shot: shotOf('4', 'near', 30, 85) })).toBe('1[0,30) 4[30,85) 3[85,120)');
    expect(after({ type: 'shot', shot: shotOf('4', 'near', 72, 78) })).toBe(
      '1[0,40) 2[40,70) 4[72,78) 3[80,120)',
    );
  });

  it('of a scene at another rate last as long, and stay apart however few frames there are', () => {
    expect(after({ type: 'rate', rate: 60, keep: 'seconds' })).toBe('1[0,80) 2[80,140) 3[160,240)');
    const few = applyEdit(scene, { type: 'rate', rate: 1, keep: 'seconds' }, library);
    expect(parseScene(JSON.parse(JSON.stringify(few)))).toEqual(few);
    const keys = (s: Scene): number[] => (s.cameras.wide?.keys.x ?? []).map((k) => k.frame);
    expect(keys(applyEdit(scene, { type: 'rate', rate: 60, keep: 'seconds' }, library))).toEqual([20]);
  });

  it('go with their camera, and cameras forget who goes', () => {
    expect(after({ type: 'remove camera', camera: 'near' })).toBe('1[0,40) 3[80,120)');
    const gone = applyEdit(scene, { type: 'remove character', character: 'c' }, library);
    expect(gone.cameras.wide?.look).toBeNull();
    expect(() => applyEdit(scene, { type: 'shot', shot: shotOf('9', 'none', 0, 1) }, library)).toThrow(
      'no camera none',
    );
    expect(() =>
      applyEdit(
        scene,
        { type: 'change camera', camera: 'near', values: { look: { character: 'x', joint: null, lag: 0 } } },
        library,
      ),
    ).toThrow('no character x');
  });
});

describe('a camera', () => {
  it('that follows somebody is called by that, whatever else keeps it where it stands', () => {
    const { base, keys } = defined(scene.cameras.wide);
    const follow = { character: 'c', joint: null, lag: 0, height: false, turns: false };
    const named = (values: object): string =>
      describeEdit({ type: 'change camera', camera: 'wide', values }, scene);
    expect(named({ follow, base, keys })).toBe('following of Wide');
    expect(named({ base, keys })).toBe('place and aim and keys of Wide');
  });
});
