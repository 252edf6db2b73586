import { readFileSync, readdirSync } from 'node:fs';
import validator from 'gltf-validator';
import { describe, expect, it } from '@jest/globals';
import type { Span } from '@warper/core';
import { clipFacts, findSteps, jointOfRole, stepsBySpeed, withSteps } from '@warper/core';
import { jointTracks, rootTrack, unite } from '@warper/core/kernels';
import { readMotionFile } from '@warper/formats';
import { KEEPER, keeperClips, makeDemonstration } from './demonstration';
import { skeletonOf } from './build';

/** Height tells nothing of feet on a stair. */
const ON_STAIR = 'Climb two steps';

const files = await makeDemonstration();
const clips = keeperClips();
const clip = (name: string) => clips.find((c) => c.clip.name === name)!;

describe('the demonstration’s files', () => {
  it('are those in demo/made, to the byte', () => {
    const folder = new URL('../made/', import.meta.url);
    expect(readdirSync(folder).sort()).toEqual([...files.keys()].sort());
    for (const [name, bytes] of files)
      expect(Buffer.compare(readFileSync(new URL(encodeURIComponent(name), folder)), bytes)).toBe(0);
  });

  // The Khronos validator.
  it('leave the Khronos validator nothing to say', async () => {
    for (const [name, bytes] of files) {
      if (name.endsWith('.glb')) expect((await validator.validateBytes(bytes)).issues.messages).toEqual([]);
    }
  });

  it('are read without remarks, but for the unit of none', async () => {
    for (const [name, bytes] of files) {
      if (!/\.(glb|bvh)$/.test(name)) continue;
      expect((await readMotionFile(bytes, name)).remarks).toEqual([]);
    }
  });

  // The generator turns them by just these angles; hips swing by nine degrees and more about them.
  it('turn by what they are called', () => {
    const turns = clips.filter((c) => /^Turn (left|right) \d+$/.test(c.clip.name));
    expect(turns).toHaveLength(8);
    for (const { clip: turned } of turns) {
      const [, way, degrees] = /(left|right) (\d+)/.exec(turned.name)!;
      const asked = (way === 'left' ? 1 : -1) * Number(degrees);
      expect(Math.abs(clipFacts(turned).turnDegrees - asked)).toBeLessThan(1);
    }
  });

  it('are at 30 samples a second, one at 24, one as BVH', () => {
    expect(clips.filter((c) => c.clip.rate === 24).map((c) => c.clip.name)).toEqual(['Wave']);
    expect(clips.filter((c) => c.clip.rate === 30)).toHaveLength(clips.length - 1);
    expect([...files.keys()].filter((n) => n.endsWith('.bvh'))).toHaveLength(1);
  });
});

describe('the Keeper', () => {
  // Drillis & Contini 1966, in Winter, Biomechanics and Motor Control of Human Movement (from memory).
  it('has legs of the handbook’s ratios', () => {
    expect(KEEPER.thigh / KEEPER.height).toBeCloseTo(0.245, 3);
    expect(KEEPER.shank / KEEPER.height).toBeCloseTo(0.246, 3);
    expect(KEEPER.ankleHeight / KEEPER.height).toBeCloseTo(0.039, 3);
  });

  it('has every joint that measuring and joining ask for', () => {
    const s = skeletonOf(KEEPER);
    for (const role of [
      'hips',
      'leftUpperLeg',
      'rightFoot',
      'leftToes',
      'leftUpperArm',
      'rightHand',
      'head',
    ] as const)
      expect(jointOfRole(s, role)).toBeGreaterThanOrEqual(0);
  });

  it('walks like a person: speed, cadence, stance', () => {
    const { clip: walk, truth } = clip('Walk');
    const facts = clipFacts(walk);
    // Perry & Burnfield, Gait Analysis; Winter (from memory): 1.2 to 1.4 m/s, 100 to 120 steps a minute, stance 60 to 62 %.
    expect(facts.travelMetres / facts.seconds).toBeGreaterThanOrEqual(1.2);
    expect(facts.travelMetres / facts.seconds).toBeLessThanOrEqual(1.4);
    expect((2 * 60) / facts.seconds).toBeGreaterThanOrEqual(100);
    expect((2 * 60) / facts.seconds).toBeLessThanOrEqual(120);
    expect(facts.loop).toMatchObject({ verdict: 'doubled', period: 30 });
    // The toes stand from the landing of the foot, 0.085 s after its strike, to the lift.
    const [start, end] = truth.leftToes[0]!;
    expect((end - 1 - start) / 30 + 0.085).toBeGreaterThan(0.57);
    expect((end - 1 - start) / 30 + 0.085).toBeLessThan(0.63);
  });

  it('never stretches a leg, and keeps its feet exactly where they stand', () => {
    for (const { clip: c, truth, reach } of clips) {
      expect(reach).toBeLessThan(1);
      if (c.name === 'Walk in place') continue;
      for (const role of ['leftFoot', 'leftToes', 'rightFoot', 'rightToes'] as const) {
        const track = jointTracks(c, [jointOfRole(c.skeleton, role)]);
        for (const [a, b] of truth[role]) {
          for (let f = a; f < b; f++)
            expect(Math.hypot(...[0, 1, 2].map((k) => track[f * 3 + k]! - track[a * 3 + k]!))).toBeLessThan(
              2e-4,
            );
        }
      }
    }
  });

  it('turns half round and walks back the way it came', () => {
    const { clip: turn } = clip('Turn round');
    const root = rootTrack(turn);
    // Eight frames of handle at either end: between them it goes from the left foot's strike to the same strike.
    const turned = root[(turn.frames - 9) * 3 + 2]! - root[8 * 3 + 2]!;
    expect(Math.abs((turned * 180) / Math.PI - 180)).toBeLessThan(1.5);
  });

  it('moves without jerks: no joint’s step differs from its neighbours by over 2.5 cm', () => {
    for (const { clip: c } of clips) {
      const joints = c.skeleton.names.map((_, i) => i);
      const tracks = jointTracks(c, joints);
      let most = 0;
      for (let f = 2; f + 1 < c.frames; f++)
        for (let j = 0; j < joints.length; j++) {
          const v = [0, 1, 2].map((k) => {
            const at = (g: number): number => tracks[(g * joints.length + j) * 3 + k]!;
            return at(f) - at(f - 1) - (at(f - 1) - at(f - 2) + at(f + 1) - at(f)) / 2;
          });
          most = Math.max(most, Math.hypot(...v));
        }
      // A jogging foot is thrown forward twice as hard as a walking one.
      expect(most).toBeLessThan(c.name === 'Jog' ? 0.05 : 0.025);
    }
  });
});

describe('steps found in the demonstration', () => {
  it('agree with the truth: recall at least 0.97, precision at least 0.9, one frame at each edge not counted', () => {
    const tally = { found: 0, right: 0, true: 0, met: 0 };
    for (const { clip: c, truth } of clips.filter((m) => m.clip.name !== ON_STAIR)) {
      const steps = findSteps(c);
      for (const side of ['left', 'right'] as const) {
        const real = unite(
          [...truth[`${side}Foot`], ...truth[`${side}Toes`]].map(([start, end]) => ({ start, end })),
        );
        const seen = steps[`${side}Foot`];
        count(real, seen, c.frames, tally);
      }
    }
    expect(tally.met / tally.true).toBeGreaterThanOrEqual(0.97);
    expect(tally.right / tally.found).toBeGreaterThanOrEqual(0.9);
  });
});

describe('a climb', () => {
  it('has its steps on the stair by speed alone: all the frames of the truth but those at its edges', () => {
    const { clip: c, truth } = clip(ON_STAIR);
    const steps = findSteps(withSteps(c, stepsBySpeed(c)));
    const tally = { found: 0, right: 0, true: 0, met: 0 };
    for (const side of ['left', 'right'] as const) {
      const spans = [...truth[`${side}Foot`], ...truth[`${side}Toes`]];
      const real = unite(spans.map(([start, end]) => ({ start, end })));
      count(real, steps[`${side}Foot`], c.frames, tally);
    }
    expect(tally.met / tally.true).toBeGreaterThanOrEqual(0.97);
    expect(tally.right / tally.found).toBeGreaterThanOrEqual(0.9);
    // By height, only those on the floor are found.
    expect(findSteps(c).leftFoot).toHaveLength(1);
  });
});

/** Counts frames of true and found spans; frames next to an edge of the truth are left out. */
function count(
  real: readonly Span[],
  seen: readonly Span[],
  frames: number,
  tally: { found: number; right: number; true: number; met: number },
): void {
  const inside = (spans: readonly Span[], f: number): boolean => spans.some((s) => f >= s.start && f < s.end);
  for (let f = 0; f < frames; f++) {
    const nearEdge = real.some((s) => [s.start, s.end].some((edge) => Math.abs(f - edge + 0.5) < 1.6));
    if (nearEdge) continue;
    const [is, was] = [inside(real, f), inside(seen, f)];
    tally.true += Number(is);
    tally.found += Number(was);
    tally.met += Number(is && was);
    tally.right += Number(is && was);
  }
}
