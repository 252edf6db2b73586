import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { mendSteps } from '../choice/mends';
import { compile } from '../compile/compile';
import type { KeyCurve, ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';
import type { Scene } from '../scene/scene';
import { evenly } from '../testing/evenly';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { continuityReport } from './report';
import { measureLayer } from './layerMeasures';
import { measureSeam } from './measureSeam';

const stand = figureClip(91, () => ({ x: 0, z: 0, turn: 0, joints: strideJoints(0.4) }), { id: 'stand' });
const wave = figureClip(
  41,
  (f) => ({
    x: 0,
    z: 0,
    turn: 0,
    joints: { ...strideJoints(0.4), leftUpperArm: [0, 0, -1.2 + 1.1 * Math.sin((Math.PI * f) / 40)] },
  }),
  { id: 'wave' },
);
const library = libraryOf(stand, wave);
const base = sceneOf([
  segmentOf(stand, { id: 'a', out: 60 }),
  segmentOf(stand, { id: 'b', start: 52, out: 60 }),
]);
const under = (layer: Partial<LayerLane>, segments: Scene['segments'] = {}): Scene => ({
  ...base,
  lanes: { ...base.lanes, y: { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'push', ...layer } },
  laneOrder: ['l', 'y'],
  segments: { ...base.segments, ...segments },
});
const key = (frame: number, value: number, curve: KeyCurve): ValueKey => ({
  frame,
  value,
  curve,
  tangent: null,
  into: null,
});
const planOf = (scene: Scene) => compile(scene, library).characters[0]!;

describe('a layer', () => {
  it('that jumps is measured within 5 % of its jump, at its frame', () => {
    fc.assert(
      fc.property(evenly(-0.3, 0.3), fc.integer({ min: 5, max: 100 }), (left, frame) => {
        fc.pre(Math.abs(left) > 0.01);
        const keys = { left: [key(0, 0, 'hold'), key(frame, left, 'hold')] };
        const found = measureLayer(planOf(under({ rootKeys: keys, rootFeet: 'slide' })), 0)!;
        expect(found.popCm / (100 * Math.abs(left))).toBeGreaterThan(0.95);
        expect(found.popCm / (100 * Math.abs(left))).toBeLessThan(1.05);
        expect(found.frame).toBe(frame);
      }),
      { numRuns: 20 },
    );
  });

  it('that is there from the first frame to the last does not jump at either, though its span does', () => {
    const bent = under({
      keys: {
        spine: [{ frame: 0, rotation: [0.17, 0, 0, 0.985], curve: 'hold', tangent: null, into: null }],
      },
      span: { start: 0, end: 112, fadeIn: 0, fadeOut: 0 },
    });
    expect(measureLayer(planOf(bent), 0)!.popCm).toBeLessThan(1e-6);
    const later = { ...bent.lanes.y!, span: { start: 30, end: 112, fadeIn: 0, fadeOut: 0 } };
    const jumping = planOf({ ...bent, lanes: { ...bent.lanes, y: later } });
    expect(measureLayer(jumping, 0)!.frame).toBe(30);
    expect(measureLayer(jumping, 0)!.popCm).toBeGreaterThan(5);
  });

  it('that gives a signal, and fades, is no fault, nor are the seams below it', () => {
    const waving = (fade: number): Scene =>
      under(
        { mask: [{ bone: 'leftUpperArm*', weight: 1 }], segments: ['w'] },
        { w: segmentOf(wave, { id: 'w', start: 40, fade: { in: fade, out: fade }, in: 5, out: 36 }) },
      );
    const signal = planOf(waving(10));
    expect(measureLayer(signal, 0)!.popCm).toBeLessThan(1);
    expect(measureSeam(signal, 0, 30)).toEqual(measureSeam(planOf(base), 0, 30));
    expect(continuityReport(compile(waving(10), library)).map((i) => i.kind)).not.toContain('layer');
    const cut = continuityReport(compile(waving(0), library)).find((i) => i.kind === 'layer')!;
    expect(cut.cause).toMatch(/jumps under the layer push/);
    const mends = [...steps(waving(0), cut)];
    expect(mends[0]!.what).toMatch(/come in and go out over 9 frames/);
    expect(mends[0]!.grade).toBe('good');
  });

  it('whose keys are held is mended by going through them smoothly', () => {
    const scene = under({
      rootKeys: { up: [key(10, 0, 'hold'), key(40, 0.2, 'hold'), key(70, 0, 'hold')] },
      rootFeet: 'slide',
    });
    const item = continuityReport(compile(scene, library)).find((i) => i.kind === 'layer')!;
    expect(item.grade).toBe('bad');
    expect(steps(scene, item)[0]).toMatchObject({
      what: 'go smoothly from key to key of push instead of holding them',
      grade: 'good',
    });
  });

  it('whose own clip is abrupt plays it as it is', () => {
    const jerk = figureClip(
      41,
      (f) => ({
        x: 0,
        z: 0,
        turn: 0,
        joints: { ...strideJoints(0.4), leftUpperArm: [0, 0, f < 20 ? -1.2 : -0.9] },
      }),
      { id: 'jerk' },
    );
    const scene = under(
      { mask: [{ bone: 'leftUpperArm*', weight: 1 }], segments: ['w'] },
      { w: segmentOf(jerk, { id: 'w', start: 20, fade: { in: 9, out: 15 } }) },
    );
    const plan = compile(scene, libraryOf(stand, jerk)).characters[0]!;
    expect(measureLayer(plan, 0)!.popCm).toBeLessThan(1);
  });

  it('that does nothing is not measured', () => {
    expect(measureLayer(planOf(under({})), 0)).toBeNull();
    expect(
      measureLayer(
        planOf(under({ rootKeys: { up: [key(9, 1, 'hold')] }, weight: [[0, 0]], carriesOn: false })),
        0,
      ),
    ).toBeNull();
  });
});

/** The mends of an item, best first. */
function steps(scene: Scene, item: ReturnType<typeof continuityReport>[number]) {
  const run = mendSteps(scene, item, [], library, () => 'new');
  for (;;) {
    const { done, value } = run.next();
    if (done) return value;
  }
}
