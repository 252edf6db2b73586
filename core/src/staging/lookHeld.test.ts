import { describe, expect, it } from '@jest/globals';
import { compile, createCompiler } from '../compile/compile';
import { quatRotate } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import type { Look } from '../scene/look';
import type { Scene } from '../scene/scene';
import type { Tether } from '../scene/tether';
import { holdOf, jointAt, stagedLibrary, stagedScene } from '../testing/staged';

const at = (character: string): Look => ({ at: { character }, lag: 0, turn: 170, tilt: 80, chest: 0.2 });

/** The staged scene with looks of some. */
function looking(looks: Readonly<Record<string, Look>>, ...tethers: readonly Tether[]): Scene {
  const scene = stagedScene(...tethers);
  const { c, v } = scene.characters;
  return {
    ...scene,
    characters: {
      ...scene.characters,
      c: { ...c!, look: looks.c ?? null },
      v: { ...v!, start: { x: 0.4, z: 4, heading: 180 }, look: looks.v ?? null },
    },
  };
}

/** By how much the face of one is turned away from a joint of another at a frame, degrees. */
function off(one: CharacterPlan, other: CharacterPlan, joint: string, frame: number): number {
  const [x, y, z, ...q] = jointAt(one, 'head', frame);
  const face = quatRotate(Float64Array.from(q), 0, Float64Array.of(0, 0, 1), 0, new Float64Array(3), 0);
  const way = jointAt(other, joint, frame)
    .slice(0, 3)
    .map((v, k) => v - [x!, y!, z!][k]!);
  const dot = way.reduce((sum, v, k) => sum + v * face[k]!, 0) / Math.hypot(...way);
  return (Math.acos(Math.min(1, dot)) * 180) / Math.PI;
}

const planOf = (scene: Scene): Record<string, CharacterPlan> =>
  Object.fromEntries(compile(scene, stagedLibrary).characters.map((c) => [c.character.id, c]));

describe('a head that follows something', () => {
  it('follows it to where somebody holds it, and to where it is left', () => {
    const { v, p } = planOf(looking({ v: at('p') }, holdOf()));
    const moved = Math.hypot(...jointAt(p!, 'crate', 50).map((n, k) => n - jointAt(p!, 'crate', 10)[k]!));
    expect(moved).toBeGreaterThan(0.3);
    for (const frame of [10, 30, 45, 58, 75]) expect(off(v!, p!, 'crate', frame)).toBeLessThan(0.1);
  });

  it('follows somebody who is carried, though the carrier looks back', () => {
    const carried = holdOf({ child: 'v', joint: null, start: 0, end: null });
    const { c, v } = planOf(looking({ c: at('v'), v: at('c') }, carried));
    const { v: free } = planOf(looking({}));
    expect(
      Math.hypot(...jointAt(v!, 'hips', 60).map((n, k) => n - jointAt(free!, 'hips', 60)[k]!)),
    ).toBeGreaterThan(0.3);
    // The looks of both leave each other's out, so that their heads are where they are but for the turn of a chest.
    for (const frame of [20, 50, 80]) expect(off(c!, v!, 'head', frame)).toBeLessThan(3);
  });

  it('is the same whether the scene is compiled anew or taken over', () => {
    const compiler = createCompiler(stagedLibrary);
    compiler.compile(looking({ v: at('p') }));
    for (const start of [20, 26, 20]) {
      const scene = looking({ v: at('p') }, holdOf({ start }));
      const [kept, fresh] = [compiler.compile(scene), compile(scene, stagedLibrary)].map(
        (p) => p.characters[1]!,
      );
      for (const frame of [22.5, 40, 70])
        expect(jointAt(kept!, 'head', frame)).toEqual(jointAt(fresh!, 'head', frame));
    }
  });
});
