import { describe, expect, it } from '@jest/globals';
import { figureClip, strideJoints } from '../testing/figure';
import { prepareCycle } from './cycle';
import { examineLoop } from './loop';

const TURN = 0.1;
/** A walk of `period` samples that turns a little each cycle, sampled `frames` times. */
const walk = (frames: number, period = 30, drift = 0) =>
  figureClip(frames, (f) => {
    const turn = (TURN * f) / period;
    const radius = 1.3 / TURN;
    return {
      x: radius * (1 - Math.cos(turn)),
      z: radius * Math.sin(turn),
      turn,
      joints: { ...strideJoints((2 * Math.PI * f) / period), head: [(drift * f) / period, 0, 0] },
    };
  });

describe('loops', () => {
  it('recognises a last sample that doubles the first', () => {
    // Practice: an N-frame loop is fitted to N+1 samples and the last one left out.
    expect(examineLoop(walk(31))).toMatchObject({ verdict: 'doubled', period: 30 });
  });

  it('recognises a loop that lacks the doubled sample', () => {
    expect(examineLoop(walk(30))).toMatchObject({ verdict: 'ordinary', period: 30 });
  });

  it('carries the turn and the travel of a cycle', () => {
    const doubled = examineLoop(walk(31)).cycle;
    expect(doubled.turn).toBeCloseTo(TURN, 5);
    expect(Math.hypot(doubled.x, doubled.z)).toBeCloseTo((2 * 1.3 * Math.sin(TURN / 2)) / TURN, 5);
    // Without the doubled sample the last step is carried on from those before it.
    const ordinary = examineLoop(walk(30)).cycle;
    expect((Math.abs(ordinary.turn - TURN) * 180) / Math.PI).toBeLessThan(0.5);
    expect(Math.hypot(ordinary.x, ordinary.z)).toBeCloseTo(1.3, 2);
  });

  it('carries an accelerated motion on through its last three samples, not in a straight line', () => {
    // No sample is there after the cycle: the joints' own bend decides how near the next one is guessed.
    const ordinary = examineLoop(walk(24, 24)).cycle;
    const known = examineLoop(walk(25, 24)).cycle;
    const error = Math.hypot(ordinary.x - known.x, ordinary.z - known.z);
    expect(error).toBeLessThan(0.0003);
    expect(Math.abs(ordinary.turn - known.turn)).toBeLessThan(0.02);
  });

  it('says which spans close with help and which are no loop', () => {
    expect(examineLoop(walk(31, 30, 0.25)).verdict).toBe('closes');
    expect(
      examineLoop(
        figureClip(20, (f) => ({ x: 0, z: 0, turn: 0, joints: { leftUpperLeg: [-f * 0.06, 0, 0] } })),
      ).verdict,
    ).toBe('none');
  });

  it('bends the end of a span onto its start and leaves the rest as it was', () => {
    const clip = walk(31, 30, 0.25);
    const cycle = prepareCycle(clip, 0, 31);
    const joint = clip.skeleton.names.indexOf('head');
    const at = (f: number): number => cycle.clip.rotations[(f * clip.skeleton.names.length + joint) * 4]!;
    expect(at(30)).toBeCloseTo(at(0), 5);
    expect(cycle.clip.rotations.slice(0, 16)).toEqual(clip.rotations.slice(0, 16));
    expect(Math.abs(at(27) - at(26))).toBeLessThan(0.06);
  });

  it('fades in what came before the start where the clip has it', () => {
    const clip = walk(60, 30, 0.25);
    const cycle = prepareCycle(clip, 20, 51);
    const joint = clip.skeleton.names.indexOf('head');
    const at = (c: typeof clip, f: number): number =>
      c.rotations[(f * clip.skeleton.names.length + joint) * 4]!;
    expect(at(cycle.clip, 50)).toBeCloseTo(at(clip, 20), 5);
    // The jump of an eighth (in quaternion terms) is gone from the step into the join.
    const step = (c: typeof clip, f: number): number => at(c, f) - at(c, f - 1);
    expect(at(clip, 50) - at(clip, 20)).toBeGreaterThan(0.1);
    expect(Math.abs(step(cycle.clip, 50) - step(clip, 20))).toBeLessThan(0.012);
  });

  it('takes a clip of one sample for a loop of one', () => {
    expect(examineLoop(walk(1))).toMatchObject({ verdict: 'doubled', period: 1 });
  });
});
