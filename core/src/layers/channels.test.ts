import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { EulerOrder } from '../math/euler';
import { quatFromEuler } from '../math/euler';
import { defined } from '../math/defined';
import { quatAngle } from '../math/quaternion';
import type { PoseKey, ValueKey } from '../scene/keys';
import { KEY_CURVES } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';
import { evenly } from '../testing/evenly';
import type { Channel } from './channels';
import { channelCurve, channelId, channelKeys, channelKeysAt, channelsOf } from './channels';
import { withChannelKeys } from './changedChannel';
import { keyTrack, keyedRotation } from './keys';
import { moveChannelKeys } from './moveChannelKeys';
import { scaleKeys, shiftKeys, smoothKeys } from './keyShapes';
import { reducePoseKeys, reduceValueKeys } from './reduceKeys';
import { valueCurve, valueOn } from './valueCurve';

const ORDER: EulerOrder = [0, 1, 2];
const RADIANS = Math.PI / 180;
const slopes = fc.tuple(evenly(-0.05, 0.05), evenly(-0.05, 0.05), evenly(-0.05, 0.05));
const curve = fc.constantFrom(...KEY_CURVES);

/** Sorted by frame, one key a frame. */
const inOrder = <K extends { readonly frame: number }>(keys: readonly K[]): K[] =>
  [...new Map(keys.map((k) => [k.frame, k])).values()].sort((a, b) => a.frame - b.frame);

/** Keys of an arm: middle angles up to 70 degrees, where all three can be told apart. */
const poseKeys = fc
  .array(
    fc.record({
      frame: fc.nat(120),
      angles: fc.tuple(evenly(-170, 170), evenly(-70, 70), evenly(-170, 170)),
      curve,
      out: slopes,
      into: fc.option(slopes),
    }),
    { minLength: 1, maxLength: 8 },
  )
  .map((keys) =>
    inOrder(keys).map(({ frame, angles, curve, out, into }): PoseKey => {
      const [x, y, z] = angles.map((a) => a * RADIANS) as [number, number, number];
      const rotation = [...quatFromEuler(x, y, z, ORDER, new Float64Array(4), 0)];
      const free = curve === 'free';
      return {
        frame,
        rotation: rotation as unknown as PoseKey['rotation'],
        curve,
        tangent: free ? out : null,
        into: free ? into : null,
      };
    }),
  );
const valueKeys = fc
  .array(
    fc.record({
      frame: fc.nat(120),
      value: evenly(-2, 2),
      curve,
      out: evenly(-0.2, 0.2),
      into: fc.option(evenly(-0.2, 0.2)),
    }),
    { minLength: 1, maxLength: 8 },
  )
  .map((keys) =>
    inOrder(keys).map(({ frame, value, curve, out, into }): ValueKey => ({
      frame,
      value,
      curve,
      tangent: curve === 'free' ? out : null,
      into: curve === 'free' ? into : null,
    })),
  );
const layers = fc
  .record({ arm: poseKeys, forward: valueKeys, turn: valueKeys })
  .map(({ arm, forward, turn }): LayerLane => ({
    ...PLAIN_LAYER,
    id: 'y',
    character: 'c',
    name: 'wave',
    keys: { arm },
    rootKeys: { forward, turn },
    weight: [
      [3, 0.2],
      [40, 0.9],
    ],
  }));

describe('channels', () => {
  it('are those that have keys, each with a name of its own', () => {
    fc.assert(
      fc.property(layers, (layer) => {
        const ids = channelsOf(layer).map(channelId);
        expect(ids).toEqual([
          'weight',
          'root forward',
          'root turn',
          'joint 0 arm',
          'joint 1 arm',
          'joint 2 arm',
        ]);
        expect(channelsOf(PLAIN_LAYER)).toEqual([]);
      }),
      { numRuns: 5 },
    );
  });

  it('show what is evaluated: three angles come to the very rotation, at keys and between', () => {
    fc.assert(
      fc.property(layers, evenly(-5, 130), (layer, frame) => {
        const arm = defined(layer.keys.arm);
        const angles = ([0, 1, 2] as const).map(
          (axis) => channelCurve(layer, { kind: 'joint', joint: 'arm', axis }).valueAt(frame) * RADIANS,
        ) as [number, number, number];
        const shown = quatFromEuler(...angles, ORDER, new Float64Array(4), 0);
        const evaluated = keyedRotation(keyTrack(0, arm), frame, new Float64Array(4), 0);
        expect(quatAngle(shown, 0, evaluated, 0)).toBeLessThan(1e-6);
        const forward = channelCurve(layer, { kind: 'root', curve: 'forward' }).valueAt(frame);
        const curve = valueCurve(defined(layer.rootKeys.forward));
        expect(forward).toBeCloseTo(valueOn(curve, frame, 0) * 100, 9);
      }),
    );
  });

  it('go on past half a turn: the angles of a key are next to those of the one before', () => {
    const about = (frame: number, degrees: number): PoseKey => {
      const half = (degrees * RADIANS) / 2;
      const rotation = [Math.sin(half), 0, 0, Math.cos(half)] as const;
      return { frame, rotation, curve: 'linear', tangent: null, into: null };
    };
    const arm = [about(0, 120), about(10, 170), about(20, 230), about(30, 290)];
    const layer = { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'n', keys: { arm } };
    const { values, valueAt } = channelCurve(layer, { kind: 'joint', joint: 'arm', axis: 0 });
    [120, 170, 230, 290].forEach((degrees, i) => expect(values[i]).toBeCloseTo(degrees, 6));
    expect(valueAt(15)).toBeCloseTo(200, 6);
  });

  it('have a weight in per cent, straight or smooth from point to point', () => {
    const layer = {
      ...PLAIN_LAYER,
      id: 'y',
      character: 'c',
      name: 'n',
      weight: [
        [0, 0],
        [10, 1],
      ] as const,
    };
    const at = (frame: number, weightShape: 'linear' | 'smooth'): number =>
      channelCurve({ ...layer, weightShape }, { kind: 'weight' }).valueAt(frame);
    expect(at(2.5, 'linear')).toBeCloseTo(25, 9);
    // t^2 (3 - 2t) at a quarter.
    expect(at(2.5, 'smooth')).toBeCloseTo(15.625, 9);
    expect(at(99, 'smooth')).toBe(100);
  });

  it('have the slopes of their curves at keys that are gone through smoothly', () => {
    const step = 1e-6;
    fc.assert(
      fc.property(layers, fc.constantFrom('arm' as const, 'forward' as const), (layer, which) => {
        const channels: Channel[] =
          which === 'arm'
            ? ([0, 1, 2] as const).map((axis) => ({ kind: 'joint', joint: 'arm', axis }))
            : [{ kind: 'root', curve: 'forward' }];
        for (const channel of channels) {
          const { valueAt } = channelCurve(layer, channel);
          channelKeys(layer, channel).forEach((key, i, all) => {
            expect(valueAt(key.frame)).toBeCloseTo(key.value, 6);
            if (i === all.length - 1 || key.curve === 'hold' || key.curve === 'linear') return;
            const slope = (valueAt(key.frame + step) - key.value) / step;
            expect(Math.abs(slope - key.out)).toBeLessThan(0.02 + Math.abs(key.out) * 0.01);
          });
        }
      }),
    );
  });

  const channel = fc.constantFrom<Channel>(
    { kind: 'weight' },
    { kind: 'root', curve: 'forward' },
    { kind: 'root', curve: 'turn' },
    { kind: 'joint', joint: 'arm', axis: 0 },
    { kind: 'joint', joint: 'arm', axis: 2 },
  );

  it('are the same asked for at a few frames', () => {
    fc.assert(
      fc.property(layers, channel, fc.array(fc.nat(100), { maxLength: 8 }), (layer, which, others) => {
        const all = channelKeys(layer, which);
        const wanted = new Set([...others, ...all.filter((_, i) => i % 2 === 0).map((key) => key.frame)]);
        expect(channelKeysAt(layer, which, wanted)).toEqual(all.filter((key) => wanted.has(key.frame)));
      }),
    );
  });

  it('given back as they are change nothing', () => {
    fc.assert(
      fc.property(layers, channel, (layer, which) => {
        const after = withChannelKeys(layer, which, channelKeys(layer, which));
        if (which.kind === 'joint') expect(after).toEqual(layer);
        else {
          // Through another unit and back numbers may differ in their last digits.
          const [a, b] = [channelKeys(layer, which), channelKeys(after, which)];
          a.forEach((key, i) => expect(b[i]!.value).toBeCloseTo(key.value, 9));
          expect(b.map((k) => [k.frame, k.curve, k.broken])).toEqual(
            a.map((k) => [k.frame, k.curve, k.broken]),
          );
        }
      }),
    );
  });

  it('changed at a key leave the other angles of the joint, and every other key, as they were', () => {
    fc.assert(
      fc.property(layers, fc.nat(7), evenly(-20, 20), (layer, at, by) => {
        const which: Channel = { kind: 'joint', joint: 'arm', axis: 0 };
        const keys = channelKeys(layer, which);
        const chosen = new Set([at % keys.length]);
        const after = withChannelKeys(layer, which, shiftKeys(keys, chosen, 0, by));
        const angles = ([0, 1, 2] as const).map((axis) => channelKeys(layer, { ...which, axis }));
        defined(after.keys.arm).forEach((key, i) => {
          const [x, y, z] = angles.map((list) => defined(list[i]).value * RADIANS) as [
            number,
            number,
            number,
          ];
          const turned = x + (chosen.has(i) ? by * RADIANS : 0);
          const wanted = quatFromEuler(turned, y, z, ORDER, new Float64Array(4), 0);
          expect(quatAngle(Float64Array.from(key.rotation), 0, wanted, 0)).toBeLessThan(1e-6);
        });
        expect(defined(after.keys.arm).filter((_, i) => !chosen.has(i))).toEqual(
          defined(layer.keys.arm).filter((_, i) => !chosen.has(i)),
        );
      }),
    );
  });

  it('take a new key where the curve is, without a change there', () => {
    fc.assert(
      fc.property(layers, fc.nat(120), channel, (layer, frame, which) => {
        const keys = channelKeys(layer, which);
        fc.pre(keys.every((k) => k.frame !== frame));
        const { valueAt } = channelCurve(layer, which);
        const value = valueAt(frame);
        const key = { frame, value, curve: 'smooth', into: 0, out: 0, broken: false, source: null } as const;
        const after = withChannelKeys(layer, which, [...keys, key]);
        expect(channelKeys(after, which)).toHaveLength(keys.length + 1);
        if (which.kind !== 'joint') expect(channelCurve(after, which).valueAt(frame)).toBeCloseTo(value, 6);
        // One rotation has angles of two kinds; with a key more the others may be the nearer ones.
        const turns = [layer, after].map((l) =>
          keyedRotation(keyTrack(0, defined(l.keys.arm)), frame, new Float64Array(4), 0),
        );
        expect(quatAngle(defined(turns[0]), 0, defined(turns[1]), 0)).toBeLessThan(1e-6);
      }),
    );
  });
});

it('keys that are moved are what their channels say, and those of a joint go together in time', () => {
  fc.assert(
    fc.property(
      layers,
      fc.nat(7),
      fc.nat(7),
      evenly(-30, 30),
      fc.integer({ min: -9, max: 9 }),
      (layer, a, b, by, later) => {
        const chosen = ([0, 2] as const).map((axis, i) => {
          const channel: Channel = { kind: 'joint', joint: 'arm', axis };
          const keys = channelKeys(layer, channel);
          return { channel, frames: new Set([defined(keys[[a, b][i]! % keys.length]).frame]) };
        });
        let wanted = layer;
        for (const { channel, frames } of chosen) {
          const keys = channelKeys(wanted, channel);
          const at = new Set(keys.flatMap((k, i) => (frames.has(k.frame) ? [i] : [])));
          wanted = withChannelKeys(wanted, channel, shiftKeys(keys, at, 0, by));
        }
        const all = new Set(chosen.flatMap(({ frames }) => [...frames]));
        const arm = defined(wanted.keys.arm);
        const moved = arm.map((k) => (all.has(k.frame) ? { ...k, frame: k.frame + later } : k));
        const still = moved.filter(
          (k, i) => k !== arm[i] || !moved.some((m, j) => m !== arm[j] && m.frame === k.frame),
        );
        const { arm: got = [] } = moveChannelKeys(layer, chosen, later, by).keys;
        expect(got.map((k) => k.frame)).toEqual(inOrder(still).map((k) => k.frame));
        inOrder(still).forEach(({ rotation }, i) => {
          const other = Float64Array.from(defined(got[i]).rotation);
          expect(quatAngle(Float64Array.from(rotation), 0, other, 0)).toBeLessThan(1e-6);
        });
      },
    ),
  );
  const base = {
    ...PLAIN_LAYER,
    id: 'y',
    character: 'c',
    name: 'n',
    weight: [
      [3, 0.2],
      [9, 0.5],
    ] as const,
  };
  const weight = [{ channel: { kind: 'weight' } as const, frames: new Set([3]) }];
  expect(moveChannelKeys(base, weight, 6, 90).weight).toEqual([[9, 1]]);
});

describe('shapes of keys', () => {
  const key = (frame: number, value: number) =>
    ({ frame, value, curve: 'free', into: 1, out: 2, broken: true, source: null }) as const;
  const keys = [key(0, 0), key(10, 4), key(20, 0), key(30, 8)];

  it('are shifted, and scaled about a moment and a value with their slopes', () => {
    const chosen = new Set([1, 2]);
    expect(shiftKeys(keys, chosen, 2, -1).map((k) => [k.frame, k.value])).toEqual([
      [0, 0],
      [12, 3],
      [22, -1],
      [30, 8],
    ]);
    const scaled = scaleKeys(keys, chosen, { frame: 10, value: 1 }, { frames: 0.5, values: 3 });
    expect(scaled.map((k) => [k.frame, k.value])).toEqual([
      [0, 0],
      [10, 10],
      [15, -2],
      [30, 8],
    ]);
    expect(scaled[1]).toMatchObject({ into: 6, out: 12 });
  });

  it('are smoothed by the binomial filter: what alternates goes, a straight line stays', () => {
    const all = new Set([0, 1, 2, 3]);
    expect(smoothKeys(keys, all).map((k) => k.value)).toEqual([0, 2, 3, 8]);
    const line = keys.map((k, i) => ({ ...k, value: i * 3 }));
    expect(smoothKeys(line, all)).toEqual(line);
  });
});

describe('fewer keys', () => {
  it('go through the curve within the error at every frame, and keep what holds', () => {
    fc.assert(
      fc.property(valueKeys, evenly(0.001, 0.2), (keys, error) => {
        const fewer = reduceValueKeys(keys, error);
        expect(fewer.length).toBeLessThanOrEqual(keys.length);
        const holds = (list: readonly ValueKey[]): number[][] =>
          list.filter((k) => k.curve === 'hold').map((k) => [k.frame, k.value]);
        expect(holds(fewer)).toEqual(holds(keys));
        const [a, b] = [valueCurve(keys), valueCurve(fewer)];
        for (let f = 0; f <= 120; f++)
          expect(Math.abs(valueOn(a, f, 0) - valueOn(b, f, 0))).toBeLessThan(error + 1e-9);
      }),
    );
    fc.assert(
      fc.property(poseKeys, evenly(0.005, 0.1), (keys, error) => {
        const [a, b] = [keyTrack(0, keys), keyTrack(0, reducePoseKeys(keys, error))];
        const [p, q] = [new Float64Array(4), new Float64Array(4)];
        for (let f = 0; f <= 120; f++)
          expect(quatAngle(keyedRotation(a, f, p, 0), 0, keyedRotation(b, f, q, 0), 0)).toBeLessThan(
            error + 5e-3,
          );
      }),
      { numRuns: 60 },
    );
  });

  it('are few where a motion is smooth: a sway that is keyed at every frame needs a key for each half swing or so', () => {
    const keys = Array.from({ length: 121 }, (_, frame): ValueKey => {
      const value = Math.sin((2 * Math.PI * frame) / 40);
      return { frame, value, curve: 'linear', tangent: null, into: null };
    });
    const fewer = reduceValueKeys(keys, 0.01);
    expect(fewer.length).toBeLessThan(20);
    expect(fewer.length).toBeGreaterThan(5);
  });
});
