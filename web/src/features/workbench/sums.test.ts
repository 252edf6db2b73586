import { describe, expect, it } from '@jest/globals';
import { applyEdit, compile, framesPerSecond, measureSeams, createCompiler } from '@warper/core';
import { library, two } from '../../../../core/src/testing/arranging';
import { countSeams } from './useSeamSum';
import { ratesOf } from './useRateRemark';

const runThrough = (plan: ReturnType<typeof compile>) => {
  const counting = countSeams(plan);
  for (let steps = 0; ; steps++) {
    const step = counting.next();
    if (step.done) return { ...step.value, steps };
  }
};

describe('seams, counted bit by bit', () => {
  it('are as many, and as many of them to be looked at, as measured at once', () => {
    const plan = compile(two, library);
    const all = plan.characters.flatMap((c) => measureSeams(c, framesPerSecond(plan.rate)));
    const open = all.filter((m) => m.grade !== 'good').length;
    expect(open).toBeGreaterThan(0);
    expect(runThrough(plan)).toEqual({ count: all.length, open, steps: all.length });
  });

  it('are measured again of the characters alone that an edit has touched', () => {
    const compiler = createCompiler(library);
    const plan = compiler.compile(two);
    runThrough(plan);
    expect(runThrough(plan).steps).toBe(0);
    const moved = applyEdit(
      two,
      { type: 'start character', character: 'c', start: { x: 1, z: 2, heading: 30 } },
      library,
    );
    const own = plan.characters.find((c) => c.character.id === 'c')!;
    expect(runThrough(compiler.compile(moved)).steps).toBe(own.segments.length - 1);
  });
});

it('the rates of a scene are its own and those of its clips, each once', () => {
  const plan = compile(two, library);
  const wanted = new Set([framesPerSecond(plan.rate), ...clipRates(plan)]);
  expect(new Set(ratesOf(plan))).toEqual(wanted);
  const slower = compile({ ...two, rate: 24 }, library);
  expect(ratesOf(slower)).toContain(24);
  expect(ratesOf(slower).length).toBeGreaterThan(1);
});

const clipRates = (plan: ReturnType<typeof compile>): number[] =>
  plan.characters.flatMap((c) => c.segments.map((s) => s.clip.rate));
