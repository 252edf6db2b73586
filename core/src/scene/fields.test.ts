import { describe, expect, it } from '@jest/globals';
import Joi from 'joi';
import type { Entity } from './fields';
import { given, latestVersion, plainOf, scaledFields, schemaOf, setting, withLaterFields } from './fields';
import { LANE_KINDS, PLAIN_LAYER } from './lane';
import { SCENE_VERSION, emptyScene } from './scene';
import { JOIN_KINDS, PLAIN_SEAM, SEAM_FIELDS, joinOf, seamSchema, withSeam } from './seam';
import { PLAIN_SEGMENT, SEGMENT_FIELDS, segmentSchema } from './segment';

/** A made-up entity: a lamp that came into documents as a number of oil, and learned to flicker later. */
const LAMP = {
  id: given<string>(Joi.string()),
  oil: setting<number>(1, Joi.number().min(0)),
  flicker: setting<number>(12, Joi.number().integer(), {
    since: 3,
    scaled: (frames, factor) => Math.round(frames * factor),
  }),
};
const lamp: Entity<typeof LAMP> = { id: 'a', oil: 0.5, flicker: 12 };

describe('a table of fields', () => {
  it('gives plain values, which nobody can change for all', () => {
    expect(plainOf(LAMP)).toEqual({ oil: 1, flicker: 12 });
    expect(Object.isFrozen(PLAIN_LAYER.segments) && Object.isFrozen(PLAIN_SEGMENT.hold)).toBe(true);
  });

  it('gives the rule: every field, and no other', () => {
    const problem = (value: object): string | undefined =>
      schemaOf(LAMP).validate(value, { convert: false }).error?.message;
    expect(problem(lamp)).toBeUndefined();
    expect(problem({ ...lamp, oil: -1 })).toMatch(/oil/);
    expect(problem({ ...lamp, shade: 'green' })).toMatch(/shade/);
    expect(problem({ id: 'a', oil: 1 })).toMatch(/flicker/);
  });

  it('brings older documents up to date, and leaves fields that are there', () => {
    expect(latestVersion(LAMP)).toBe(3);
    expect(withLaterFields({ id: 'a', oil: 2 }, LAMP, 2)).toEqual({ id: 'a', oil: 2, flicker: 12 });
    expect(withLaterFields({ id: 'a', flicker: 4 }, LAMP, 2)).toEqual({ id: 'a', flicker: 4 });
    // What a document of its own version leaves out is damage, not age.
    expect(withLaterFields({ id: 'a' }, LAMP, 3)).toEqual({ id: 'a' });
  });

  it('brings what is in frames to another rate', () => {
    expect(scaledFields(lamp, LAMP, 2)).toEqual({ id: 'a', oil: 0.5, flicker: 24 });
    expect(scaledFields(lamp, LAMP, 1)).toBe(lamp);
  });
});

describe('the tables of the document', () => {
  it('have plain values that their own rules take', () => {
    const segment = { ...PLAIN_SEGMENT, id: 's', name: 'Walk', clip: 'w#0', out: 1 };
    expect(segmentSchema.validate(segment, { convert: false }).error).toBeUndefined();
    expect(emptyScene('x').version).toBe(SCENE_VERSION);
    for (const field of [...Object.values(SEGMENT_FIELDS), ...Object.values(LANE_KINDS.layer)])
      expect(field.since ?? 1).toBeLessThanOrEqual(SCENE_VERSION);
  });
});

describe('a seam', () => {
  it.each([
    [{ kind: 'cut' }, undefined],
    [{ kind: 'settle', frames: 9 }, undefined],
    [{ kind: 'crossfade', curve: 'linear', inStep: true }, undefined],
    [{ kind: 'cut', frames: 9 }, /frames/],
    [{ kind: 'settle' }, /frames/],
    [{ kind: 'settle', frames: 9, curve: 'smooth' }, /curve/],
    [{ kind: 'melt' }, /kind/],
  ])('is one of its kinds with their own fields: %j', (join, problem) => {
    const {
      kind: _,
      curve: __,
      inStep: ___,
      ...placing
    } = PLAIN_SEAM as typeof PLAIN_SEAM & {
      curve: unknown;
      inStep: unknown;
    };
    const { error } = seamSchema.validate({ ...placing, ...join }, { convert: false });
    if (problem) expect(error?.message).toMatch(problem);
    else expect(error).toBeUndefined();
  });

  it('joins what shares frames by a crossfade, and what shares none by a cut or by settling', () => {
    const cut = withSeam(PLAIN_SEAM, {}, { kind: 'cut' });
    const settles = withSeam(PLAIN_SEAM, {}, { kind: 'settle', frames: 9 });
    expect([PLAIN_SEAM, cut, settles].map((s) => joinOf(s, 8).kind)).toEqual(Array(3).fill('crossfade'));
    expect([PLAIN_SEAM, cut, settles].map((s) => joinOf(s, 0).kind)).toEqual(['cut', 'cut', 'settle']);
  });

  it('keeps its placing when it is joined otherwise, and its join when it is placed otherwise', () => {
    const nudged = withSeam(PLAIN_SEAM, { nudge: { x: 1, z: 0, turn: 5 }, fit: 'hips' });
    const settles = withSeam(nudged, {}, { kind: 'settle', frames: 4 });
    expect(settles).toEqual({
      ...Object.fromEntries(Object.keys(SEAM_FIELDS).map((k) => [k, nudged[k as keyof typeof nudged]])),
      kind: 'settle',
      frames: 4,
    });
    expect(withSeam(settles, { fit: 'free' })).toEqual({ ...settles, fit: 'free' });
    expect(Object.keys(JOIN_KINDS)).toEqual(['cut', 'crossfade', 'settle', 'step']);
  });
});
