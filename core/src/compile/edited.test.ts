import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer } from '../clip/pose';
import type { Scene } from '../scene/scene';
import { after, anyEdit, carryOut, library, one, turn, two, walk } from '../testing/arranging';
import { sceneOf, segmentOf } from '../testing/scenes';
import { layOut } from '../timeline/lane';
import { compile } from './compile';
import { evaluate } from '../footlock/evaluate';
import { evenly } from '../testing/evenly';

const poses = (scene: Scene, character = 0) => {
  const plan = compile(scene, library).characters[character]!;
  const pose = makePoseBuffer(plan.skeleton);
  return (frame: number): number[] => {
    evaluate(plan, frame, pose);
    return [...pose.root, ...pose.translations, ...pose.rotations];
  };
};
const furthest = (a: readonly number[], b: readonly number[]): number =>
  Math.max(...a.map((v, i) => Math.abs(v - b[i]!)));

describe('a performance that was edited', () => {
  it('shows after a cut what it showed before, for any segment and any frame', () => {
    const values = fc.record({
      reverse: fc.boolean(),
      hold: fc.record({ start: fc.nat(6), end: fc.nat(6) }),
      speed: fc.constantFrom(1, 0.5, 1.7),
      loop: fc.boolean(),
      repeat: fc.constantFrom(1, 2.4),
      // Half samples before the first and behind the last one are not in the clip.
      in: fc.integer({ min: 1, max: 5 }),
      clip: fc.constantFrom('walk', 'turn'),
    });
    fc.assert(
      fc.property(values, evenly(0, 1), ({ loop, repeat, clip, ...v }, at) => {
        const source = clip === 'walk' ? walk : turn;
        const scene = sceneOf([
          segmentOf(source, {
            id: 'a',
            out: source.frames - 1,
            ...v,
            ...(loop && clip === 'walk' ? { loop, repeat } : {}),
          }),
        ]);
        const frames = layOut(scene, scene.lanes.l!, library)[0]!.timing.frames;
        const frame = Math.round(at * frames);
        const cut = after({ type: 'cut', segment: 'a', frame, id: 'n' }, scene);
        const [before, now] = [poses(scene), poses(cut)];
        for (let f = 0; f < frames; f++) expect(furthest(before(f), now(f))).toBeLessThan(2e-4);
        expect(layOut(cut, cut.lanes.l!, library).at(-1)!.end).toBe(frames);
      }),
      { numRuns: 24 },
    );
  });

  it('trimming the start of a loop leaves what is shown', () => {
    const trimmed = after({ type: 'trim', segment: 'c', edge: 'start', frame: 118 });
    const [before, now] = [poses(one), poses(trimmed)];
    const joints = (p: number[]): number[] => p.slice(3 + 3);
    for (let f = 123; f < 174; f++) expect(furthest(joints(before(f)), joints(now(f)))).toBeLessThan(0.2);
    expect(trimmed.segments.c!.phase).toBeCloseTo(4, 9);
  });

  it('leaves out muted groups, and begins with the lead-in', () => {
    const grouped = after({ type: 'group', id: 'G', name: 'pair', segments: ['b', 'c', 'e'] }, two);
    const muted = after({ type: 'change group', group: 'G', values: { muted: true } }, grouped);
    const led = after({ type: 'lead-in', character: 'c', frames: 50 }, muted);
    const { characters } = compile(led, library);
    expect(characters.map((c) => c.segments.map((s) => s.id))).toEqual([['a'], ['f']]);
    expect(characters[0]!.start).toBe(0);
  });

  it('after any edits the performance is continuous inside segments', () => {
    const quiet = (segments: readonly { start: number; end: number }[], f: number): boolean =>
      segments.every((s) => Math.abs(f - s.start) > 1 && Math.abs(f - s.end) > 1);
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 30 }), (edits) => {
        const { scene } = carryOut(edits);
        for (const plan of compile(scene, library).characters) {
          const pose = makePoseBuffer(plan.skeleton);
          let before: Float64Array | null = null;
          for (let f = plan.start; f < Math.min(plan.end, 600); f += 0.5) {
            evaluate(plan, f, pose);
            expect(pose.root.every(Number.isFinite)).toBe(true);
            const step = before ? Math.hypot(pose.root[0]! - before[0]!, pose.root[1]! - before[1]!) : 0;
            // The fastest clip goes 1.3 m a second; stretched to one frame it may show all of it at once.
            const fastest = Math.max(1, ...plan.segments.map((s) => s.time.samplesPerFrame));
            if (quiet(plan.segments, f)) expect(step).toBeLessThan(0.5 * fastest);
            before = pose.root.slice();
          }
        }
      }),
      { numRuns: 24 },
    );
  });
});
