import { describe, expect, it } from '@jest/globals';
import { PLAIN_LAYER, defined } from '@warper/core';
import type { LayerLane, ValueKey } from '@warper/core';
import fc from 'fast-check';
import { makeEnvelope, rangeOf } from './drawing/envelope';
import { addKeys, breakChosen, curveChosen, removeChosen, scaleChosen, slopeKey } from './curveEdits';
import { handlesOf, hitCurves, keysInBox } from './hitCurves';
import { layerSource } from './layerSource';
import { fittedScale, valueOf, valueTicks, yOf, zoomedScale } from './scale';

const key = (frame: number, value: number): ValueKey => ({
  frame,
  value,
  curve: 'smooth',
  tangent: null,
  into: null,
});
const layer: LayerLane = {
  ...PLAIN_LAYER,
  id: 'y',
  character: 'c',
  name: 'Door',
  rootKeys: { forward: [key(10, 0), key(20, 0.4), key(30, 0)], turn: [key(10, 0), key(30, 45)] },
};
const source = layerSource(layer, new Map());
const tracks = source.tracks.filter((t) => t.curve.frames.length > 0);
const scale = { top: 50, bottom: -10, height: 300 };
const PPF = 4;
const FORWARD = 'root forward';

describe('the greatest and least of stretches', () => {
  it('are those of the numbers, for any stretch', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -99, max: 99 }), { minLength: 1, maxLength: 70 }),
        fc.nat(),
        fc.nat(),
        (list, a, b) => {
          const from = a % list.length;
          const to = from + 1 + (b % (list.length - from));
          const part = list.slice(from, to);
          const range = rangeOf(makeEnvelope(Float64Array.from(list)), from, to, new Float64Array(2));
          expect([...range]).toEqual([Math.min(...part), Math.max(...part)]);
        },
      ),
    );
  });
});

describe('a scale of values', () => {
  it('goes from values to pixels and back, and zooms about the pointer', () => {
    expect(yOf(scale, 50)).toBe(0);
    expect(valueOf(scale, 300)).toBe(-10);
    const near = zoomedScale(scale, 120, 0.5);
    expect(valueOf(near, 120)).toBeCloseTo(valueOf(scale, 120), 9);
    expect(near.top - near.bottom).toBe(30);
    expect(valueTicks(scale)).toEqual([-10, 0, 10, 20, 30, 40, 50]);
  });

  it('fits curves with room around, and has some height for a flat one', () => {
    const { top, bottom } = fittedScale(
      tracks.map((t) => t.curve),
      0,
      40,
    );
    expect(top).toBeGreaterThan(45);
    expect(bottom).toBeLessThan(0);
    const flat = { frames: Float64Array.of(0), values: Float64Array.of(3), valueAt: () => 3 };
    expect(fittedScale([flat], 0, 1).top).toBeGreaterThan(3);
  });
});

describe('curves of a layer', () => {
  it('are its weight, root and dials always, and joints where they are keyed', () => {
    expect(source.tracks.map((t) => t.name)).toEqual([
      'Weight',
      'Root left',
      'Root up',
      'Root forward',
      'Root turn',
      'Arm clearance',
      'Lean',
      'Crouch',
      'Stance width',
      'Arm amplitude',
      'Trunk amplitude',
    ]);
    const posed = {
      ...layer,
      keys: { head: [{ ...key(5, 0), rotation: [0, 0, 0, 1] as const, tangent: null, into: null }] },
    };
    expect(
      layerSource(posed, new Map())
        .tracks.slice(11)
        .map((t) => t.name),
    ).toEqual(['head X', 'head Y', 'head Z']);
  });

  it('are the very ones while nothing of them changes', () => {
    const kept = new Map();
    const [a, b] = [layerSource(layer, kept), layerSource({ ...layer, name: 'other' }, kept)];
    a.tracks.forEach((track, i) => expect(b.tracks[i]?.curve).toBe(track.curve));
    const moved = layerSource({ ...layer, rootKeys: { ...layer.rootKeys, turn: [key(9, 3)] } }, kept);
    expect(moved.tracks[4]?.curve).not.toBe(a.tracks[4]?.curve);
    expect(moved.tracks[3]?.curve).toBe(a.tracks[3]?.curve);
  });

  it('are taken by their keys before their lines, and by handles before both', () => {
    const chosen = new Map([[FORWARD, new Set([20])]]);
    const handles = handlesOf(tracks, chosen, source.keysAt, scale, PPF);
    expect(handles.map((h) => h.side)).toEqual(['into', 'out']);
    const [x, y] = [20 * PPF, yOf(scale, 40)];
    expect(hitCurves(tracks, [], scale, PPF, x + 3, y - 3)).toEqual({
      kind: 'key',
      track: FORWARD,
      frame: 20,
    });
    const out = defined(handles[1]);
    expect(hitCurves(tracks, handles, scale, PPF, out.x, out.y)).toMatchObject({ kind: 'handle' });
    const between = yOf(scale, defined(tracks[0]).curve.valueAt(15));
    expect(hitCurves(tracks, [], scale, PPF, 15 * PPF, between)).toEqual({ kind: 'curve', track: FORWARD });
    expect(hitCurves(tracks, [], scale, PPF, 15 * PPF, 290)).toBeNull();
    expect(keysInBox(tracks, scale, PPF, [15 * PPF, 0], [35 * PPF, yOf(scale, 30)])).toEqual(
      new Map([
        [FORWARD, new Set([20])],
        ['root turn', new Set([30])],
      ]),
    );
  });

  it('have keys that are added, removed, scaled and given other ways through', () => {
    const chosen = new Map([[FORWARD, new Set([10, 20])]]);
    const list = (edit: unknown): ValueKey[] =>
      (edit as { rootKeys: { forward: ValueKey[] } }).rootKeys.forward;
    expect(list(removeChosen(source, chosen)).map((k) => k.frame)).toEqual([30]);
    expect(list(addKeys(source, [FORWARD], 15)).map((k) => k.frame)).toEqual([10, 15, 20, 30]);
    const scaled = list(scaleChosen(source, chosen, { frames: 0.5, values: 2 }));
    expect(scaled.map((k) => [k.frame, Number(k.value.toFixed(6))])).toEqual([
      [10, -0.2],
      [15, 0.6],
      [30, 0],
    ]);
    expect(list(curveChosen(source, chosen, 'hold')).map((k) => k.curve)).toEqual(['hold', 'hold', 'smooth']);
    const handle = { track: FORWARD, frame: 20, side: 'out' } as const;
    expect(list(slopeKey(source, handle, 3, false))[1]).toMatchObject({
      curve: 'free',
      tangent: 0.03,
      into: null,
    });
    const apart = list(slopeKey(source, handle, 3, true))[1];
    expect(apart).toMatchObject({ curve: 'free', tangent: 0.03 });
    expect(apart?.into).toBeCloseTo(0, 9);
    expect(list(breakChosen(source, chosen, true))[0]?.curve).toBe('free');
    expect(source.move(chosen, 0, 0)).toBeNull();
  });
});
