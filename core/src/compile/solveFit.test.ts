import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { jointTracks } from '../clip/jointTracks';
import { composeMoves, shortestTurn } from '../math/floorMove';
import type { FitMode } from '../scene/seam';
import { PLAIN_SEAM } from '../scene/seam';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { compile } from './compile';
import { evenly } from '../testing/evenly';
import type { SeamPlacing } from '../scene/seam';
import { seamOf } from '../testing/scenes';

/** Stands, then raises its left arm; the feet stay where they are. */
const stand = figureClip(
  60,
  (f) => ({ x: 0, z: 0, turn: 0, joints: { leftUpperArm: [0, 0, -1 + 0.01 * f], chest: [0, 0.004 * f, 0] } }),
  { id: 'stand' },
);
const walk = figureClip(
  61,
  (f) => ({ x: 0, z: 0.04 * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
/** A clip seen from elsewhere: the whole of it moved and turned on the floor. */
const moved = (clip: typeof walk, x: number, z: number, turn: number, y = 0) =>
  figureClip(
    clip.frames,
    (f) => {
      const place = composeMoves(
        { x, z, turn },
        { x: clip.translations[f * 3]!, z: clip.translations[f * 3 + 2]!, turn: 0 },
      );
      const joints =
        clip === walk
          ? strideJoints((2 * Math.PI * f) / 30)
          : { leftUpperArm: [0, 0, -1 + 0.01 * f] as const, chest: [0, 0.004 * f, 0] as const };
      return { x: place.x, z: place.z, y: 0.95 + y, turn, joints };
    },
    { id: 'moved' },
  );

const solved = (a: typeof walk, b: typeof walk, values: Partial<SeamPlacing>, overlap = 0) => {
  const scene = sceneOf([
    segmentOf(a, { id: 'a', out: 40 }),
    segmentOf(b, { id: 'b', in: 40 - overlap, start: 40 - overlap, seam: seamOf(values) }),
  ]);
  return compile(scene, libraryOf(a, b)).characters[0]!.segments[1]!;
};
const MODES: readonly FitMode[] = [
  'planted foot',
  'whole body',
  'hips',
  'left foot',
  'right foot',
  'left hand',
  'right hand',
  { joint: 'head' },
];

describe('every fit', () => {
  // Hands of the small person end at the lower arm: its hands are unknown and fall back to the hips.
  it.each(MODES.map((m) => [JSON.stringify(m), m] as const))('by %s finds a known move again', (_, fit) => {
    fc.assert(
      fc.property(
        evenly(-4, 4),
        evenly(-4, 4),
        evenly(-3, 3),
        fc.constantFrom(0, 8),
        fc.boolean(),
        (x, z, turn, overlap, walks) => {
          const clip = walks ? walk : stand;
          const s = solved(clip, moved(clip, x, z, turn), { fit }, overlap);
          const back = composeMoves({ x: s.move[0]!, z: s.move[1]!, turn: s.move[2]! }, { x, z, turn });
          expect(Math.hypot(back.x, back.z)).toBeLessThan(1e-4);
          expect(Math.abs(shortestTurn(back.turn))).toBeLessThan(1e-4);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('says where it fell back', () => {
    expect(solved(walk, moved(walk, 1, 0, 0), { fit: 'left hand' }).fitRemark).toMatch(
      /no left hand: fitted by the hips/,
    );
    expect(solved(walk, moved(walk, 1, 0, 0), { fit: { joint: 'tail' } }).fitRemark).toMatch(/no tail/);
    expect(solved(walk, moved(walk, 1, 0, 0), { fit: 'left foot' }).fitRemark).toBeNull();
    const half = figureClip(
      61,
      (f) => ({ x: 0, z: 0.04 * f, turn: 0, joints: strideJoints((2 * Math.PI * (f + 15)) / 30) }),
      { id: 'half' },
    );
    expect(solved(walk, half, { fit: 'whole body' }).fitRemark).toMatch(/unlike/);
  });

  it('of one point has no direction, and takes the hips', () => {
    const dot = makeSkeleton({ names: ['hips'], parents: [-1], restTranslations: [0, 1, 0] });
    const make = (id: string, x: number) =>
      figureClip(60, (f) => ({ x, z: 0.1 * f, turn: 0.3 }), { skeleton: dot, id });
    const s = solved(make('one', 0), make('two', 5), { fit: 'whole body' });
    expect(s.fitRemark).toMatch(/no direction/);
    expect(s.move[0]).toBeCloseTo(-5, 6);
  });
});

describe('the planted foot', () => {
  it('stays exactly where it stood, whatever the body above it does', () => {
    const leaning = figureClip(
      60,
      () => ({ x: 3, z: 1, turn: 0.5, joints: { spine: [0.5, 0, 0], leftUpperArm: [-1, 0, 0] } }),
      { id: 'leaning' },
    );
    const s = solved(stand, leaning, { fit: 'planted foot' }, 8);
    const joint = stand.skeleton.names.indexOf('leftToes');
    const [a, b] = [jointTracks(stand, [joint]), jointTracks(leaning, [joint])];
    const placed = composeMoves(
      { x: s.move[0]!, z: s.move[1]!, turn: s.move[2]! },
      { x: b[0]!, z: b[2]!, turn: 0 },
    );
    const foot = ['leftToes', 'rightToes'].map((name) => stand.skeleton.names.indexOf(name));
    expect(foot).toContain(joint);
    const away = Math.hypot(placed.x - a[0]!, placed.z - a[2]!);
    const other = stand.skeleton.names.indexOf('rightToes');
    const [c, d] = [jointTracks(stand, [other]), jointTracks(leaning, [other])];
    const placedOther = composeMoves(
      { x: s.move[0]!, z: s.move[1]!, turn: s.move[2]! },
      { x: d[0]!, z: d[2]!, turn: 0 },
    );
    expect(Math.min(away, Math.hypot(placedOther.x - c[0]!, placedOther.z - c[2]!))).toBeLessThan(1e-5);
  });
});

describe('heights', () => {
  it('are left alone unless they are to be matched', () => {
    expect(solved(walk, moved(walk, 0, 0, 0, 0.3), {}).lift).toBe(0);
    expect(solved(walk, moved(walk, 0, 0, 0, 0.3), { height: true }).lift).toBeCloseTo(-0.3, 5);
  });

  it('are carried on along the lane', () => {
    const up = moved(walk, 0, 0, 0, 0.2);
    const scene = sceneOf([
      segmentOf(up, { id: 'a', out: 30 }),
      segmentOf(walk, { id: 'b', in: 30, start: 30, out: 45, seam: { ...PLAIN_SEAM, height: true } }),
      segmentOf(walk, { id: 'c', in: 45, start: 45, seam: { ...PLAIN_SEAM, height: true } }),
    ]);
    const { segments } = compile(scene, libraryOf(up, walk)).characters[0]!;
    expect(segments.map((s) => Number(s.lift.toFixed(5)))).toEqual([0, 0.2, 0.2]);
  });
});
