import { describe, expect, it } from '@jest/globals';
import { mendSteps } from '../choice/mends';
import { bake } from '../bake/bake';
import { jointTracks } from '../clip/jointTracks';
import { compile, createCompiler } from '../compile/compile';
import { applyEdit } from '../edit/edit';
import type { Scene } from '../scene/scene';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf, seamOf } from '../testing/scenes';
import { continuityReport } from './report';

const SPEED = 1.2 / 30;
const walkFrom = (phase: number, id: string, y = 0.93) =>
  figureClip(
    121,
    (f) => ({ x: 0, y, z: SPEED * f, turn: 0, joints: strideJoints((2 * Math.PI * (f + phase)) / 30) }),
    { id },
  );
const walk = walkFrom(0, 'walk');
const other = walkFrom(11, 'other');
const stand = figureClip(90, () => ({ x: 0, y: 0.95, z: 0, turn: 0 }), { id: 'stand' });
const high = figureClip(90, () => ({ x: 0, y: 1.02, z: 0, turn: 0 }), { id: 'high' });
const library = libraryOf(walk, other, stand, high);
const seam = seamOf({ fit: 'planted foot' });
const pair = sceneOf([segmentOf(walk, { id: 'a' }), segmentOf(other, { id: 'b', start: 113, seam })]);
const reportOf = (scene: Scene) => continuityReport(compile(scene, library));
const mendsOf = (scene: Scene, id: string) => {
  const steps = mendSteps(
    scene,
    reportOf(scene).find((i) => i.id === id)!,
    [],
    library,
    () => 'x',
  );
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
};
const mendOf = (scene: Scene, id: string) => mendsOf(scene, id)[0] ?? null;

describe('the continuity report', () => {
  it('lists what was measured, worst first, each that is not good with its cause and what can be done', () => {
    const items = reportOf(pair);
    const [first] = items;
    expect(first).toMatchObject({
      kind: 'seam',
      segment: 'b',
      name: 'walk → other',
      characterName: 'Keeper',
    });
    for (let i = 1; i < items.length; i++) expect(items[i]!.ratio).toBeLessThanOrEqual(items[i - 1]!.ratio);
    for (const item of items) {
      expect(item.cause === '').toBe(item.grade === 'good');
      expect(item.hint === '').toBe(item.grade === 'good');
      expect(item.grade === 'good').toBe(item.ratio < 1);
    }
  });

  it('goes by how closely the scene will be looked at', () => {
    const gradeFor = (shotSize: Scene['shotSize']): string =>
      reportOf({
        ...sceneOf([
          segmentOf(walk, { id: 'a', out: 60 }),
          segmentOf(walk, {
            id: 'b',
            in: 53,
            start: 52,
            seam: seamOf({ nudge: { x: 0.03, z: 0, turn: 0 } }),
          }),
        ]),
        shotSize,
      }).find((i) => i.kind === 'seam')!.grade;
    expect(gradeFor('wide')).not.toBe(gradeFor('close-up'));
  });

  it('tells of a body that floats, by what it does and as raised or lowered by the mend', () => {
    const scene = sceneOf([segmentOf(high, { id: 'a', lift: 0.001 })]);
    // In a clip of its own floor nothing floats: its feet stand where its floor is.
    const item = reportOf(scene).find((i) => i.kind === 'float')!;
    expect(item.value).toBeCloseTo(7.1, 0);
    expect(item.grade).toBe('bad');
    expect(item.cause).toMatch(/stand over the floor/);
    const mend = mendOf(scene, item.id)!;
    expect(mend).toMatchObject({ grade: 'good', what: expect.stringMatching(/^lower the clip by 7/) });
    expect(reportOf(applyEdit(scene, mend.edit, library)).some((i) => i.kind === 'float')).toBe(false);
  });

  it('has a seam mended by its choice', () => {
    const mend = mendOf(pair, 'seam:b')!;
    expect(mend.grade).toBe('good');
    expect(mend.what).toMatch(/^use frame \d+ onto \d+/);
    const after = applyEdit(pair, mend.edit, library);
    expect(reportOf(after).find((i) => i.id === 'seam:b')!.grade).toBe('good');
  });

  it('tells of a loop that is bent to close, and closes it by a part that does so itself', () => {
    // One stride is 30 samples: 40 of them end in the middle of the next.
    const scene = sceneOf([segmentOf(walk, { id: 'a', out: 41, loop: true, repeat: 3 })]);
    const item = reportOf(scene).find((i) => i.kind === 'loop')!;
    expect(item).toMatchObject({ segment: 'a', measure: 'surgeCm' });
    expect(item.grade).not.toBe('good');
    expect(item.end).toBe(40);
    expect(item.frame).toBeGreaterThan(30);
    // What is performed at the end of a cycle goes that much faster than what was recorded.
    const [looped, once] = [scene, sceneOf([segmentOf(walk, { id: 'a', out: 41 })])].map((s) =>
      jointTracks(
        bake(compile(s, library).characters[0]!, { num: 30, den: 1 }),
        walk.skeleton.names.map((_, j) => j),
      ),
    );
    const joints = walk.skeleton.names.length;
    let most = 0;
    for (let f = 30; f < 40; f++)
      for (let j = 0; j < joints; j++) {
        const step = (tracks: Float64Array): number =>
          Math.hypot(
            ...[0, 1, 2].map(
              (k) => tracks[((f + 1) * joints + j) * 3 + k]! - tracks[(f * joints + j) * 3 + k]!,
            ),
          );
        most = Math.max(most, step(looped!) - step(once!));
      }
    expect(item.value).toBeCloseTo(most * 100, 1);
    const mends = mendsOf(scene, item.id);
    expect(mends[0]).toMatchObject({ grade: 'good', what: expect.stringMatching(/^close the loop/) });
    expect(mends.some((m) => m.what === 'play it once')).toBe(true);
    for (const mend of mends)
      expect(reportOf(applyEdit(scene, mend.edit, library)).some((i) => i.kind === 'loop')).toBe(
        mend.grade !== 'good',
      );
    const closing = sceneOf([segmentOf(walk, { id: 'a', out: 31, loop: true, repeat: 3 })]);
    expect(reportOf(closing).some((i) => i.kind === 'loop')).toBe(false);
  });

  it('tells of ground that is left behind, and stays on it where that is asked for', () => {
    const raisedBy = (lift: number) =>
      sceneOf([
        segmentOf(stand, { id: 'a', lift }),
        segmentOf(stand, { id: 'b', start: 70, seam: seamOf({ fit: 'whole body' }) }),
      ]);
    const item = reportOf(raisedBy(0.35)).find((i) => i.kind === 'level')!;
    expect(item).toMatchObject({ id: 'level:b', segment: 'b', grade: 'bad', measure: 'floatCm' });
    expect(item.value).toBeCloseTo(-35, 1);
    expect(item.cause).toBe('The body comes down by 35 cm through the air');
    const mend = mendOf(raisedBy(0.35), item.id)!;
    expect(mend.grade).toBe('good');
    const after = reportOf(applyEdit(raisedBy(0.35), mend.edit, library));
    expect(after.some((i) => i.kind === 'level')).toBe(false);
    expect(reportOf(raisedBy(0.01)).some((i) => i.kind === 'level')).toBe(false);
  });

  it('tells where a lock lets a foot go, and has a step taken there', () => {
    const nudged = seamOf({ fit: 'hips', nudge: { x: 0.15, z: 0.1, turn: 0 } });
    const free = sceneOf([
      segmentOf(stand, { id: 'a' }),
      segmentOf(stand, { id: 'b', start: 76, seam: nudged }),
    ]);
    const scene = applyEdit(free, { type: 'foot-lock', character: 'c', on: true }, library);
    const items = reportOf(scene).filter((i) => i.kind === 'let go');
    expect(items.length).toBeGreaterThan(0);
    const mend = mendOf(scene, items[0]!.id)!;
    expect(mend.what).toBe('take a step from stand to stand');
    const after = applyEdit(scene, mend.edit, library);
    expect(after.segments.b!.seam.kind).toBe('step');
    expect(reportOf(after).some((i) => i.id === items[0]!.id)).toBe(false);
  });

  it('has nothing to say of what is good, and mends nothing there', () => {
    const scene = sceneOf([segmentOf(stand, { id: 'a' }), segmentOf(stand, { id: 'b', start: 82, seam })]);
    expect(reportOf(scene).every((i) => i.grade === 'good')).toBe(true);
    expect(mendOf(scene, 'seam:b')).toBeNull();
  });

  it('is taken over where nothing of a character has changed', () => {
    const compiler = createCompiler(library);
    const [first] = [continuityReport(compiler.compile(pair))];
    const again = continuityReport(compiler.compile({ ...pair, name: 'other' }));
    expect(again[0]).toBe(first[0]);
  });
});
