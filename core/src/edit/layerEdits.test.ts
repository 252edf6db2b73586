import { expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Dial } from '../clip/dials';
import { DIALS } from '../clip/dials';
import { PLAIN_LOOK } from '../scene/look';
import { KEY_CURVES, ROOT_CURVES } from '../scene/keys';
import { PLAIN_LAYER } from '../scene/lane';
import { backAndAgain, carryOut, slow, two } from '../testing/arranging';
import { evenly } from '../testing/evenly';
import { segmentOf } from '../testing/scenes';
import type { Edit } from './edit';

const is = <T extends string>(type: T): fc.Arbitrary<T> => fc.constant(type);
const layer = fc.constantFrom('y', 'z', 'w');
const frame = fc.nat(120);
const joint = fc.constantFrom('spine', 'head', 'leftUpperArm');
const curve = fc.constantFrom(...KEY_CURVES);
const slope = fc.option(fc.tuple(evenly(-0.1, 0.1), evenly(-0.1, 0.1), evenly(-0.1, 0.1)));
const poseKey = fc.record({
  frame,
  rotation: fc.constantFrom([0, 0, 0, 1] as const, [0.6, 0, 0, 0.8] as const, [0, -0.6, 0, 0.8] as const),
  curve,
  tangent: slope,
  into: slope,
});
const valueKey = fc.record({
  frame,
  value: evenly(-1, 1),
  curve,
  tangent: fc.option(evenly(-0.1, 0.1)),
  into: fc.option(evenly(-0.1, 0.1)),
});
const inOrder = <K extends { readonly frame: number }>(keys: readonly K[]): K[] =>
  [...new Map(keys.map((k) => [k.frame, k])).values()].sort((a, b) => a.frame - b.frame);
const frames = fc.uniqueArray(frame, { minLength: 1, maxLength: 6 });
const count = fc.nat(10);

/** Edits of layers, their keys and curves, and of what is on them. */
const anyLayerEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({
    type: is('add layer'),
    layer: layer.map((id) => ({ ...PLAIN_LAYER, id, character: 'd', name: `layer ${id}` })),
  }),
  fc.record({ type: is('remove layer'), layer: fc.constantFrom('z', 'w') }),
  fc.record({ type: is('raise layer'), layer, by: fc.constantFrom(1 as const, -1 as const) }),
  fc.record({
    type: is('change layer'),
    layer,
    values: fc.oneof(
      fc.record({
        span: fc.record({ start: frame, end: frame.map((f) => f + 130), fadeIn: count, fadeOut: count }),
      }),
      fc.record({ mask: fc.constantFrom([], [{ bone: 'spine*', weight: 0.5 }]) }),
      fc.record({ blend: fc.constantFrom('override' as const, 'additive' as const) }),
      fc.record({ softness: fc.nat(3), carriesOn: fc.boolean() }),
      fc.record({
        look: fc.constantFrom(
          null,
          { ...PLAIN_LOOK, at: { point: [1, 1.5, 2] as const } },
          { ...PLAIN_LOOK, at: { character: 'c' } },
        ),
      }),
    ),
  }),
  { weight: 3, arbitrary: fc.record({ type: is('key'), layer, joint, key: poseKey }) },
  {
    weight: 2,
    arbitrary: fc.record({
      type: is('root key'),
      layer,
      curve: fc.constantFrom(...ROOT_CURVES),
      key: fc.oneof(valueKey, fc.record({ frame, value: fc.constant(null) })),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      type: is('dial key'),
      layer,
      dial: fc.constantFrom(...(Object.keys(DIALS) as Dial[])),
      key: fc.oneof(valueKey, fc.record({ frame, value: fc.constant(null) })),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ type: is('move keys'), layer, frames, by: fc.integer({ min: -30, max: 30 }) }),
  },
  fc.record({ type: is('remove keys'), layer, frames }),
  {
    weight: 2,
    arbitrary: fc.record({
      type: is('layer keys'),
      layer,
      label: is('curves'),
      keys: fc.dictionary(joint, fc.array(poseKey, { maxLength: 5 }).map(inOrder)),
      weight: fc.array(fc.tuple(frame, evenly(0, 1)), { maxLength: 4 }),
    }),
  },
  fc.record({
    type: is('place'),
    lane: layer,
    segment: fc.constantFrom('n1', 'n2', 'n3').map((id) => segmentOf(slow, { id })),
    at: fc.oneof(frame, is('end')),
  }),
  fc.record({
    type: is('change'),
    segment: fc.constantFrom('g', 'n1', 'n2'),
    values: fc.record({ fade: fc.record({ in: count, out: count }) }),
  }),
  fc.record({ type: is('remove'), segment: fc.constantFrom('g', 'n1', 'n2'), close: fc.boolean() }),
);

it('200 edits of layers and keys leave a valid scene; undone they give the very document', () => {
  fc.assert(
    fc.property(fc.array(anyLayerEdit, { minLength: 200, maxLength: 200 }), (edits) => {
      const { scene, done } = carryOut(edits);
      expect(done.length).toBeGreaterThan(30);
      const { back, again } = backAndAgain({ scene, done });
      expect(back).toEqual(two);
      expect(again).toEqual(scene);
    }),
    { numRuns: 12 },
  );
});
