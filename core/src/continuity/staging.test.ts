import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compile } from '../compile/compile';
import type { Tether } from '../scene/tether';
import type { Scene } from '../scene/scene';
import { holdOf, reachOf, jointAt, stagedLibrary, stagedScene } from '../testing/staged';
import { segmentsApart } from './bodiesMeet';
import type { ContinuityItem } from './report';
import { continuityReport } from './report';
import { measureSeams } from './seamMeasures';
import { PLAIN_LAYER } from '../scene/lane';
import { segmentOf } from '../testing/scenes';

const STAGED: readonly ContinuityItem['kind'][] = ['tether', 'reach', 'sunk', 'meeting'];
const found = (scene: Scene): ContinuityItem[] =>
  continuityReport(compile(scene, stagedLibrary)).filter((item) => STAGED.includes(item.kind));
/** The Visitor far away from everybody. */
function apart(...tethers: Tether[]): Scene {
  const scene = stagedScene(...tethers);
  const v = { ...scene.characters.v!, start: { x: 30, z: 0, heading: 0 } };
  return { ...scene, characters: { ...scene.characters, v } };
}
describe('the continuity of staging', () => {
  it('has nothing to say of a hold that keeps its offset, but of one that snaps at once how far it jumps', () => {
    expect(found(apart(holdOf()))).toEqual([]);
    const snapping = apart(holdOf({ grip: { place: [0, 0, 0], turn: null } }));
    const [item] = found(snapping);
    const [crate, keeper] = ['p', 'c'].map((id) =>
      compile(snapping, stagedLibrary).characters.find((c) => c.character.id === id),
    );
    const jump = [0, 1, 2].map(
      (k) => jointAt(keeper!, 'leftHand', 20)[k]! - jointAt(crate!, 'crate', 19)[k]!,
    );
    expect(item).toMatchObject({ kind: 'tether', id: 'tether:t', frame: 20, grade: 'bad' });
    // Less what it moves in the next frame anyway.
    const share = item!.value / (100 * Math.hypot(...jump));
    expect(share).toBeGreaterThan(0.8);
    expect(share).toBeLessThanOrEqual(1);
    expect(found(apart(holdOf({ grip: { place: [0, 0, 0], turn: null }, fadeIn: 20 })))).toEqual([]);
  });

  it('says how far a hand is off what it cannot reach', () => {
    const reach = (x: number): Tether =>
      reachOf({ limb: 'leftHand', start: 0, end: 5, grip: { place: [x, 0, 0], turn: null } });
    const [far] = found(apart(reach(2)));
    expect(far).toMatchObject({ kind: 'reach', id: 'reach:r', grade: 'bad' });
    expect(far!.value).toBeGreaterThan(100);
    const near = [-0.8, -0.6, -0.4, -0.2, 0].map((x) => found(apart(reach(x))).length);
    expect(near).toContain(0);
  });

  it('finds a prop in the floor, and bodies in each other', () => {
    const scene = apart();
    const p = { ...scene.characters.p!, prop: { ...scene.characters.p!.prop!, raised: -0.1 } };
    expect(found({ ...scene, characters: { ...scene.characters, p } })).toEqual([
      expect.objectContaining({ kind: 'sunk', character: 'p', grade: 'bad', value: expect.closeTo(10, 3) }),
    ]);
    // Tilted by 30 degrees about Z, a corner of the crate (0.4 m wide) is 10 cm below its middle.
    const half = Math.PI / 12;
    const tilt = {
      frame: 0,
      rotation: [0, 0, Math.sin(half), Math.cos(half)],
      curve: 'flat',
      tangent: null,
      into: null,
    } as const;
    const layer = {
      ...PLAIN_LAYER,
      id: 'tilted',
      name: 'tilted',
      character: 'p',
      segments: [],
      keys: { crate: [tilt] },
    };
    const lying = { ...p, prop: { ...p.prop, raised: 0 } };
    expect(
      found({
        ...scene,
        characters: { ...scene.characters, p: lying },
        lanes: { ...scene.lanes, tilted: layer },
        laneOrder: [...scene.laneOrder, 'tilted'],
      }),
    ).toEqual([expect.objectContaining({ kind: 'sunk', character: 'p', value: expect.closeTo(10, 3) })]);
    // Two who do the same in the same place are in each other all the time.
    const c = { ...scene.characters.c!, start: { x: 0, z: 0, heading: 0 } };
    const v = { ...scene.characters.v!, start: c.start };
    const both = { ...scene, characters: { ...scene.characters, c, v } };
    expect(found(both)).toEqual([
      expect.objectContaining({
        kind: 'meeting',
        frame: 0,
        end: 90,
        grade: 'bad',
        name: 'Keeper and Visitor',
      }),
    ]);
    // Whoever is held touches who holds.
    expect(found({ ...both, tethers: { t: holdOf({ child: 'v', start: 0, end: null }) } })).toEqual([]);
  });
});

describe('the seams of somebody who is held', () => {
  it('are measured as if nobody held them', () => {
    const scene = stagedScene();
    const own = segmentOf(stagedLibrary.clip('stroll')!, { id: 'vb', start: 82 });
    const longer: Scene = {
      ...scene,
      lanes: { ...scene.lanes, vl: { ...scene.lanes.vl!, segments: ['va', 'vb'] } },
      segments: { ...scene.segments, vb: own },
    };
    const seamsOf = (tethers: Scene['tethers']): unknown => {
      const plan = compile({ ...longer, tethers }, stagedLibrary).characters.find(
        (c) => c.character.id === 'v',
      );
      return measureSeams(plan!, 30);
    };
    const jumping = holdOf({ child: 'v', start: 85, end: 120, grip: { place: [0, 0, 0], turn: null } });
    expect(seamsOf({ t: jumping })).toEqual(seamsOf({}));
  });
});

describe('the distance of two segments', () => {
  it('is the least of those between their points', () => {
    const point = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -8, max: 8 })));
    fc.assert(
      fc.property(point, point, point, point, (a, b, c, d) => {
        const p = Float32Array.from([...a, ...b]);
        const q = Float32Array.from([...c, ...d]);
        let least = Infinity;
        const at = (s: Float32Array, t: number, k: number): number => s[k]! + t * (s[3 + k]! - s[k]!);
        for (let s = 0; s <= 40; s++)
          for (let t = 0; t <= 40; t++)
            least = Math.min(least, Math.hypot(...[0, 1, 2].map((k) => at(p, s / 40, k) - at(q, t / 40, k))));
        const exact = segmentsApart(p, 0, 3, q, 0, 3);
        expect(exact).toBeLessThanOrEqual(least + 1e-6);
        expect(exact).toBeGreaterThan(least - 0.75);
      }),
      // One of them, or both, may be but points.
      {
        examples: [
          [
            [0, 0, 0],
            [0, 0, -1],
            [1, -2, -7],
            [1, -2, -7],
          ],
          [
            [1, -2, -7],
            [1, -2, -7],
            [0, 0, 0],
            [0, 0, -1],
          ],
          [
            [1, 2, 3],
            [1, 2, 3],
            [4, 5, 6],
            [4, 5, 6],
          ],
        ],
      },
    );
  });
});
