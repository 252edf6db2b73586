import fc from 'fast-check';
import type { Dial } from '../clip/dials';
import { DIALS } from '../clip/dials';
import type { Edit } from '../edit/edit';
import { ROOT_CURVES } from '../scene/keys';
import { PLAIN_LOOK } from '../scene/look';
import type { Join, SeamPlacing, Stepping } from '../scene/seam';
import type { Segment } from '../scene/segment';
import { PLAIN_HOLD, PLAIN_REACH } from '../scene/tether';
import { evenly } from './evenly';

const segment = fc.constantFrom('a', 'b', 'c', 'e', 'f', 'g');
const character = fc.constantFrom('c', 'd');
const joint = fc.constantFrom('leftHand', 'spine', 'hips');
const is = <T extends string>(type: T): fc.Arbitrary<T> => fc.constant(type);
const place = fc.record({ x: evenly(-2, 2), z: evenly(-2, 2), heading: evenly(-180, 180) });

const look = fc.constantFrom(
  null,
  { ...PLAIN_LOOK, at: { point: [1, 1.5, 2] as const } },
  { ...PLAIN_LOOK, at: { character: 'd' } },
  { ...PLAIN_LOOK, lag: 0, at: { character: 'c' } },
);

const aTether: fc.Arbitrary<Edit> = fc
  .record({
    id: fc.constantFrom('t1', 't2', 't3'),
    forth: fc.boolean(),
    joint: fc.constantFrom(null, 'head', 'rightLowerArm'),
    kind: fc.constantFrom('hold' as const, 'hold' as const, 'reach' as const),
    start: fc.nat(60),
    frames: fc.option(fc.integer({ min: 1, max: 60 })),
    fadeIn: fc.nat(6),
    fadeOut: fc.nat(6),
    held: fc.constantFrom(null, 'spine', 'leftUpperArm'),
    jointOnly: fc.boolean(),
    after: fc.constantFrom('stay' as const, 'return' as const),
    places: fc.constantFrom([true, true, true] as const, [true, false, false] as const),
    directions: fc.constantFrom('world', 'floor', 'parent', 'own'),
  })
  .map(({ id, forth, kind, frames, held, jointOnly, after, places, directions, ...common }): Edit => {
    const [child, parent] = forth ? ['c', 'd'] : ['d', 'c'];
    const end = frames && common.start + frames;
    const tether = { ...common, id, name: id, child, parent, end };
    return {
      type: 'tether',
      tether:
        kind === 'reach'
          ? { ...PLAIN_REACH, ...tether, limb: 'leftFoot' }
          : { ...PLAIN_HOLD, ...tether, held, jointOnly, after, places, directions },
    };
  });

/** Edits of what a plan is made from, beyond those of arranging. */
export const anySetting: fc.Arbitrary<Edit> = fc.oneof(
  {
    weight: 2,
    arbitrary: fc.record({
      type: is('change character'),
      character,
      values: fc.oneof(
        fc.record({ size: fc.constantFrom(1, 0.8, 1.4) }),
        fc.record({ footLock: fc.boolean() }),
        fc.record({ dials: fc.constantFrom({}, { crouch: 0.05 }, { lean: 8, arms: 1.2 }) }),
        fc.record({ look }),
      ),
    }),
  },
  fc.record({
    type: is('change'),
    segment,
    values: fc.oneof(
      fc.record({ dials: fc.constantFrom({}, { stance: 0.06 }, { clearance: 10, crouch: 0.03 }) }),
      fc.record({ look }),
    ),
  }),
  { weight: 2, arbitrary: aTether },
  {
    weight: 2,
    arbitrary: fc.record({
      type: is('tether'),
      tether: fc.record({
        id: fc.constantFrom('t1', 't4'),
        child: is('d'),
        parent: is('c'),
        joint: fc.constantFrom(null, 'head'),
        start: fc.nat(60),
        end: fc.constantFrom(null, 80, 110),
        length: fc.constantFrom(0.5, 1.6),
        kind: is('lead'),
        name: is('lead'),
        muted: fc.boolean(),
        held: fc.constantFrom(null, 'spine'),
      }),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      type: is('meet'),
      segment,
      meeting: fc.option(
        fc.record({
          character,
          frame: fc.nat(60),
          distance: evenly(0.2, 2),
          angle: evenly(-180, 180),
          turn: fc.constantFrom(0, 30),
          joints: fc.constantFrom(null, { own: 'head', other: 'leftHand' }),
        }),
      ),
    }),
  },
  fc.record({ type: is('remove tether'), tether: fc.constantFrom('t1', 't2', 't3') }),
  fc.record({ type: is('foot-lock'), character, on: fc.boolean() }),
  fc.record({ type: is('start character'), character, start: fc.option(place) }),
  fc.record({
    type: is('steps'),
    clip: fc.constantFrom('walk', 'turn'),
    joint: is('leftFoot'),
    spans: fc.option(fc.constantFrom([[2, 9] as const], [[0, 20] as const, [24, 30] as const])),
  }),
  fc.record({
    type: is('change layer'),
    layer: is('y'),
    values: fc.oneof(
      fc.record({ blend: fc.constantFrom('override' as const, 'additive' as const) }),
      fc.record({ weight: fc.constantFrom([], [[10, 1] as const], [[0, 0] as const, [40, 0.7] as const]) }),
      fc.record({ mask: fc.constantFrom([], [{ bone: 'leftUpperArm*', weight: 1 }]) }),
      fc.record({ reference: fc.constantFrom('first' as const, 'rest' as const, 3) }),
      fc.record({ weightShape: fc.constantFrom('linear' as const, 'smooth' as const) }),
      fc.record({
        span: fc.constantFrom(
          null,
          { start: 5, end: 60, fadeIn: 4, fadeOut: 0 },
          { start: 20, end: null, fadeIn: 0, fadeOut: 3 },
        ),
      }),
      fc.record({ rootFeet: fc.constantFrom('slide' as const, 'hold' as const, 'step' as const) }),
      fc.record({ carriesOn: fc.boolean() }),
      fc.record({ look }),
      fc.record({
        contacts: fc.constantFrom(
          [],
          [{ hand: 'leftHand' as const, start: 20, end: 60, fadeIn: 2, fadeOut: 4 }],
          [{ hand: 'rightHand' as const, start: 5, end: 90, fadeIn: 0, fadeOut: 0 }],
        ),
      }),
    ),
  }),
  fc.record({
    type: is('dial key'),
    layer: is('y'),
    dial: fc.constantFrom(...(Object.keys(DIALS) as Dial[])),
    key: fc.record({
      frame: fc.nat(90),
      value: fc.constantFrom(0, 0.1, 1),
      curve: fc.constantFrom('flat' as const, 'linear' as const),
      tangent: fc.constant(null),
      into: fc.constant(null),
    }),
  }),
  fc.record({
    type: is('root key'),
    layer: is('y'),
    curve: fc.constantFrom(...ROOT_CURVES),
    key: fc.record({
      frame: fc.integer({ min: 0, max: 90 }),
      value: evenly(-1, 1),
      curve: fc.constantFrom('flat' as const, 'linear' as const),
      tangent: fc.constant(null),
      into: fc.constant(null),
    }),
  }),
  fc.record({
    type: is('layer keys'),
    layer: is('y'),
    label: is('keys'),
    keys: fc.dictionary(
      joint,
      fc
        .array(
          fc.record({
            frame: fc.nat(100),
            rotation: fc.constantFrom([0, 0, 0, 1] as const, [0, 0.6, 0, 0.8] as const),
            curve: fc.constantFrom('flat' as const, 'smooth' as const),
            tangent: fc.constant(null),
            into: fc.constant(null),
          }),
          { maxLength: 4 },
        )
        .map((keys) =>
          keys.sort((a, b) => a.frame - b.frame).filter((k, i, all) => k.frame !== all[i - 1]?.frame),
        ),
      { maxKeys: 2 },
    ),
  }),
  fc.record({
    type: is('key'),
    layer: is('y'),
    joint,
    key: fc.record({
      frame: fc.nat(100),
      rotation: fc.constantFrom([0, 0, 0, 1] as const, [0.6, 0, 0, 0.8] as const),
      curve: fc.constantFrom('hold' as const, 'linear' as const, 'smooth' as const),
      tangent: fc.constant(null),
      into: fc.constant(null),
    }),
  }),
  fc.record({
    type: is('seam'),
    segment,
    values: fc.oneof(
      fc.record({
        fit: fc.constantFrom('whole body', 'planted foot', 'hips', 'left foot', 'free', { joint: 'spine' }),
      }) as fc.Arbitrary<Partial<SeamPlacing>>,
      fc.record({ facing: fc.boolean(), height: fc.boolean() }),
      fc.record({ nudge: fc.record({ x: evenly(-1, 1), z: evenly(-1, 1), turn: evenly(-90, 90) }) }),
      fc.record({ gap: fc.constantFrom('hold' as const, 'rest' as const, 'ease' as const) }),
    ),
  }),
  fc.record({
    type: is('seam'),
    segment,
    values: fc.constant({}),
    join: fc.oneof(
      fc.constantFrom<Join>({ kind: 'cut' }, { kind: 'settle', frames: 6 }),
      fc.record({
        kind: is('crossfade'),
        curve: fc.constantFrom('smooth' as const, 'linear' as const),
        inStep: fc.boolean(),
      }),
      fc.record({
        kind: is('step'),
        footfalls: fc.constantFrom<Stepping['footfalls']>({}, { rightFoot: [1, 6] }),
        landings: fc.constantFrom<Stepping['landings']>({}, { leftFoot: { x: 0.1, z: 0.05 } }),
      }),
    ),
  }),
  fc.record({
    type: is('change'),
    segment,
    values: fc.oneof(
      fc.record({
        travel: fc.constantFrom('recorded', 'in place', 'restored', 'scaled', 'path'),
      }) as fc.Arbitrary<Partial<Segment>>,
      fc.record({ path: fc.constantFrom([], [[1, 1] as const, [2, 0] as const]) }),
      fc.record({ marks: fc.constantFrom([], [{ frame: 12, x: 1, z: 1, heading: 20 }]) }),
      fc.record({ straighten: fc.boolean(), holdFacing: fc.boolean() }),
      fc.record({ speedCurve: fc.constantFrom(null, [[0.4, 0.7] as const]) }),
      fc.record({ fade: fc.record({ in: fc.nat(9), out: fc.nat(9) }) }),
      fc.record({ phase: fc.nat(8), speed: fc.constantFrom(1, 0.7) }),
    ),
  }),
);
