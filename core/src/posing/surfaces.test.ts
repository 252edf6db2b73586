import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compile, fixedLibrary } from '../compile/compile';
import { applyEdit } from '../edit/edit';
import type { Plan } from '../plan/plan';
import { PLAIN_CHARACTER } from '../scene/character';
import type { FloorPlace } from '../scene/floor';
import { PLAIN_LANE } from '../scene/lane';
import type { Prop, PropShape } from '../scene/prop';
import type { Scene } from '../scene/scene';
import { emptyScene } from '../scene/scene';
import { makeSkeleton } from '../skeleton/skeleton';
import { evenly } from '../testing/evenly';
import { movedProp } from './movedProp';
import { surfaceAlong, supportsAt } from './surfaces';

const thing = makeSkeleton({ names: ['thing'], parents: [-1], restTranslations: [0, 0, 0] });
const library = fixedLibrary({ clip: () => undefined, body: () => thing });

type Thing = readonly [shape: PropShape, size: Prop['size'], raised: number, start: FloorPlace];

/** Props by their names. */
function sceneWith(things: Readonly<Record<string, Thing>>): Scene {
  const scene = emptyScene('props');
  const entries = Object.entries(things).map(([id, [shape, size, raised, start]]) => {
    const prop: Prop = { shape, size, raised, colour: '#8a6b4a' };
    return [id, { ...PLAIN_CHARACTER, id, name: id, body: 'thing', prop, start }] as const;
  });
  const ids = entries.map(([id]) => id);
  return {
    ...scene,
    characters: Object.fromEntries(entries),
    characterOrder: ids,
    lanes: Object.fromEntries(
      ids.map((id) => [`${id}l`, { ...PLAIN_LANE, id: `${id}l`, kind: 'body', character: id, segments: [] }]),
    ),
    laneOrder: ids.map((id) => `${id}l`),
  };
}

const AT = (x: number, z: number, heading = 0): FloorPlace => ({ x, z, heading });
const TABLE: Thing = ['box', [1, 0.7, 0.6], 0, AT(2, 1, 30)];
const BENCH: Thing = ['bench', [1.4, 0.45, 0.4], 0, AT(-1, 0)];
const lantern = (raised: number, start: FloorPlace): Thing => ['lantern', [0.16, 0.3, 0.16], raised, start];

/** Where the lantern stands after it was moved, and how high. */
function moved(scene: Scene, start: FloorPlace, free = false): [Scene, FloorPlace | null, number] {
  const plan = compile(scene, library);
  const own = plan.characters.find((c) => c.character.id === 'lantern')!;
  const next = applyEdit(scene, movedProp(plan, own, start, 0, free), library);
  const { start: place, prop } = next.characters.lantern!;
  return [next, place, prop!.raised];
}

describe('a prop that is moved', () => {
  it('from the floor onto a table and a bench, and off again, stands on what is there', () => {
    const onFloor = sceneWith({ table: TABLE, bench: BENCH, lantern: lantern(0, AT(0, 3)) });
    const [onTable, place, raised] = moved(onFloor, AT(2.1, 1.1, 12));
    expect([place, raised]).toEqual([AT(2.1, 1.1, 12), 0.7]);
    const [onBench, , height] = moved(onTable, AT(-1.3, 0.1));
    expect(height).toBeCloseTo(0.45, 9);
    expect(moved(onBench, AT(0, -3))[2]).toBe(0);
    // Beside a corner of the table that is turned.
    expect(moved(onFloor, AT(2.5, 1.31))[2]).toBe(0);
  });

  it('keeps its height where it hangs in the air, or is free', () => {
    const hanging = sceneWith({ table: TABLE, lantern: lantern(1.2, AT(0, 3)) });
    expect(moved(hanging, AT(2, 1))[2]).toBe(1.2);
    const onFloor = sceneWith({ table: TABLE, lantern: lantern(0, AT(0, 3)) });
    expect(moved(onFloor, AT(2, 1), true)[2]).toBe(0);
  });

  it('is not lifted onto a shelf above it, nor onto what stands on it', () => {
    const shelf: Thing = ['plane', [1, 0.03, 1], 1.5, AT(2, 1)];
    const below = sceneWith({ shelf, lantern: lantern(0, AT(0, 3)) });
    expect(moved(below, AT(2, 1))[2]).toBe(0);
    const stack = sceneWith({ lantern: ['box', [0.5, 0.5, 0.5], 0, AT(0, 0)], top: lantern(0.5, AT(0, 0)) });
    expect(moved(stack, AT(0.02, 0))[2]).toBe(0);
  });
});

describe('what is under a place', () => {
  it('is the floor, and the top of each prop there, lowest first', () => {
    const scene = sceneWith({
      shelf: ['plane', [3, 0.03, 3], 1.5, AT(2, 1)],
      table: TABLE,
      bench: BENCH,
      lantern: lantern(0, AT(2, 1)),
    });
    const names = (x: number, z: number): [string | undefined, number][] =>
      supportsAt(compile(scene, library), 'lantern', { x, z }, 0).map((s) => [
        s.prop?.character.name,
        Number(s.height.toFixed(6)),
      ]);
    expect(names(2, 1)).toEqual([
      [undefined, 0],
      ['table', 0.7],
      ['shelf', 1.53],
    ]);
    expect(names(-5, 1)).toEqual([[undefined, 0]]);
  });

  it('is met by a ray that looks down on it, before what is further away', () => {
    const scene = sceneWith({ table: TABLE, stair: ['stair', [1, 0.72, 1.12], 0, AT(-2, 2, 70)] });
    const plan: Plan = compile(scene, library);
    fc.assert(
      fc.property(evenly(-3, 3), evenly(-1, 3), evenly(-2, 2), evenly(-2, 2), (x, z, dx, dz) => {
        const found = surfaceAlong(plan, 0, [x, 3, z], [dx, -3, dz])!;
        // Nothing on the way is above the ray, but for what it met.
        const at = (share: number): [number, number, number] => [
          x + dx * share,
          3 - 3 * share,
          z + dz * share,
        ];
        const share = 1 - found.height / 3;
        expect(found.x).toBeCloseTo(at(share)[0], 9);
        expect(found.z).toBeCloseTo(at(share)[2], 9);
        const own = supportsAt(plan, '', found, 0).map((s) => s.height);
        expect(own.some((h) => Math.abs(h - found.height) < 1e-9)).toBe(true);
        for (let i = 1; i < 40; i++) {
          const [px, py, pz] = at((share * i) / 40);
          const tops = supportsAt(plan, '', { x: px, z: pz }, 0).filter((s) => s.prop);
          // Boxes are met through their sides as well: only tops count.
          for (const { height } of tops) expect(py > height - 1e-9 || found.height <= height).toBe(true);
        }
      }),
      { numRuns: 150 },
    );
    expect(surfaceAlong(plan, 0, [0, 1, 0], [1, 0.2, 0])).toBeNull();
  });

  it('is met in the order of the ray, not of the scene', () => {
    const high: Thing = ['box', [1, 0.7, 1], 0, AT(0, 1)];
    const low: Thing = ['bench', [1.4, 0.45, 0.4], 0, AT(0, 1)];
    for (const things of [
      { high, low },
      { low, high },
    ]) {
      // Through the top of the box, and further down through the seat inside of it.
      const found = surfaceAlong(compile(sceneWith(things), library), 0, [0, 2, -1], [0, -1.3, 1.6])!;
      expect([found.prop?.character.name, found.height]).toEqual(['high', 0.7]);
    }
  });
});
