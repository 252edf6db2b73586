import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from '@jest/globals';
import type { Clip, Library, SeamMeasures } from '@warper/core';
import {
  clipOnSkeleton,
  compile,
  legsOf,
  samplePose,
  evaluate,
  findSteps,
  isPlanted,
  makePoseBuffer,
  makeWorldPose,
  matchClips,
  measureSeam,
  parseRate,
  poseDistance,
  poseToWorld,
  segmentTiming,
  typicalAcceleration,
} from '@warper/core';
import { overlapFor } from '@warper/core/kernels';
import { readMotionFile } from '@warper/formats';
import { KEEPER } from './demonstration';
import { skeletonOf } from './build';
import { libraryOf, percentile, sceneOf, seeded, segmentOf } from './testing';

// CMU Graphics Lab Motion Capture Database, subject 1, trial 1, at 120 samples a second; see formats/fixtures/README.md.
const file = new URL('../../formats/fixtures/cmu-01-01-excerpt.bvh', import.meta.url);
const SEAMS = 100;
const SAMPLES_A_FRAME = 4;
let clip: Clip;
let library: Library;

/** The seam of two parts of the capture that meet at a pair of samples, with the overlap that the pair asks for. */
function seamAt(out: number, into: number, footLock: boolean) {
  const overlap = overlapFor(
    poseDistance(clip, out, clip, into),
    typicalAcceleration(clip, library.memory),
    30,
  );
  const half = (overlap / 2) * SAMPLES_A_FRAME;
  const a = segmentOf(clip, 'a', { in: Math.max(1, out - 160), out: Math.min(clip.frames, out + half) });
  const { frames } = segmentTiming(a, clip, parseRate(30), library.memory);
  const b = segmentOf(clip, 'b', {
    in: into - half,
    out: Math.min(clip.frames, into + 160),
    start: frames - overlap,
  });
  return compile(sceneOf([a, b], footLock), library).characters[0]!;
}

beforeAll(async () => {
  clip = (await readMotionFile(new Uint8Array(readFileSync(file)), 'capture.bvh')).clips[0]!;
  library = libraryOf([clip], clip.skeleton);
});

describe('a hundred seams of the capture at good matches', () => {
  const measured: SeamMeasures[] = [];
  const locked: SeamMeasures[] = [];
  const slides: number[] = [];

  beforeAll(() => {
    const room = 24 * SAMPLES_A_FRAME;
    const inside = { start: room, end: clip.frames - room };
    const pairs = matchClips(
      clip,
      clip,
      { outgoing: inside, incoming: inside, top: 2000 },
      library.memory,
    ).filter((p) => p.distanceCm < 6 && Math.abs(p.out - p.in) > 60);
    expect(pairs.length).toBeGreaterThan(30);
    const random = seeded(12345);
    for (let i = 0; i < SEAMS; i++) {
      const pair = pairs[Math.floor(random() * pairs.length)]!;
      measured.push(measureSeam(seamAt(pair.out, pair.in, false), 0, 30));
      const c = seamAt(pair.out, pair.in, true);
      locked.push(measureSeam(c, 0, 30));
      slides.push(...plantedSlides(c));
    }
  }, 240_000);

  it('surge by no more than 0.6 cm a frame in the middle, 1.4 in nine of ten', () => {
    const surge = measured.map((m) => m.surgeCm);
    expect(percentile(surge, 0.5)).toBeLessThanOrEqual(0.6);
    expect(percentile(surge, 0.9)).toBeLessThanOrEqual(1.4);
  });

  it('ask hardly more acceleration than the sources, also with the feet held', () => {
    expect(
      percentile(
        measured.map((m) => m.hitch),
        0.9,
      ),
    ).toBeLessThanOrEqual(1.1);
    expect(
      percentile(
        locked.map((m) => m.hitch),
        0.9,
      ),
    ).toBeLessThanOrEqual(1.2);
  });

  it('slide by less than half a millimetre a frame where feet are held', () => {
    expect(slides.length).toBeGreaterThan(1000);
    // Feet that would have to be moved by more than 4 cm are let go.
    expect(percentile(slides, 0.95)).toBeLessThanOrEqual(0.5);
  });
});

/** Floor steps in millimetres, frame by frame, of the toes while their side says that they are planted. */
function plantedSlides(c: ReturnType<typeof seamAt>): number[] {
  const [a, b] = c.segments;
  const middle = b!.start + b!.overlap / 2;
  const pose = makePoseBuffer(c.skeleton);
  const world = makeWorldPose(c.skeleton);
  const out: number[] = [];
  const tips = findSteps(clip, library.memory).joints.filter((j) => j.tip);
  const last = new Map<number, [number, number]>();
  for (let f = c.start; f < c.end; f++) {
    poseToWorld(c.skeleton, evaluate(c, f, pose), world);
    for (const { joint } of tips) {
      const place: [number, number] = [world.positions[joint * 3]!, world.positions[joint * 3 + 2]!];
      const before = last.get(joint);
      last.delete(joint);
      if (!isPlanted(f < middle ? a! : b!, joint, f)) continue;
      if (before) out.push(Math.hypot(place[0] - before[0], place[1] - before[1]) * 1000);
      last.set(joint, place);
    }
  }
  return out;
}

describe('random seams of the capture', () => {
  it('with the best match within a second surge by less than 2.5 cm a frame in the middle', () => {
    const random = seeded(777);
    const room = 24 * SAMPLES_A_FRAME;
    const surge: number[] = [];
    while (surge.length < SEAMS) {
      const spot = (): number => room + Math.floor(random() * (clip.frames - 2 * room));
      const [i, j] = [spot(), spot()];
      // Moments that are a second apart are other moments of the motion.
      if (Math.abs(i - j) < 360) continue;
      const near = (at: number) => ({
        start: Math.max(room, at - 120),
        end: Math.min(clip.frames - room, at + 121),
      });
      const pair = matchClips(
        clip,
        clip,
        { outgoing: near(i), incoming: near(j), top: 1 },
        library.memory,
      )[0]!;
      surge.push(measureSeam(seamAt(pair.out, pair.in, false), 0, 30).surgeCm);
    }
    expect(percentile(surge, 0.5)).toBeLessThanOrEqual(2.5);
  }, 240_000);
});

describe('the capture on another body', () => {
  it('stands on its legs as it does on its own', () => {
    const onKeeper = clipOnSkeleton(clip, skeletonOf(KEEPER), library.memory);
    const [own, carried] = [clip, onKeeper].map(legPoses);
    const median = (angles: readonly number[]): number => percentile(angles, 0.5);
    expect(Math.abs(median(carried!.knees) - median(own!.knees))).toBeLessThan(1);
    const off = own!.directions.map((d, i) => {
      const dot = d.reduce((sum, v, k) => sum + v * carried!.directions[i]![k]!, 0);
      return (Math.acos(Math.min(1, dot)) * 180) / Math.PI;
    });
    expect(percentile(off, 0.5)).toBeLessThan(0.6);
    expect(percentile(off, 0.99)).toBeLessThan(3);
  });
});

/** The angle of every knee, degrees, and the direction from every hip joint to its ankle, at every fourth sample. */
function legPoses(of: Clip): { knees: number[]; directions: number[][] } {
  const { skeleton } = of;
  const pose = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const [knees, directions]: [number[], number[][]] = [[], []];
  const between = (a: number, b: number): number[] => {
    const v = [0, 1, 2].map((k) => world.positions[b * 3 + k]! - world.positions[a * 3 + k]!);
    const length = Math.hypot(...v);
    return v.map((c) => c / length);
  };
  for (let f = 0; f < of.frames; f += SAMPLES_A_FRAME) {
    poseToWorld(skeleton, samplePose(of, f, pose), world);
    for (const { upper, lower, ankle } of legsOf(skeleton)) {
      const [up, down] = [between(lower, upper), between(lower, ankle)];
      const dot = up.reduce((sum, v, k) => sum + v * down[k]!, 0);
      knees.push((Math.acos(Math.max(-1, Math.min(1, dot))) * 180) / Math.PI);
      directions.push(between(upper, ankle));
    }
  }
  return { knees, directions };
}
