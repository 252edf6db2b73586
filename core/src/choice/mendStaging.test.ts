import { describe, expect, it } from '@jest/globals';
import { compile } from '../compile/compile';
import type { ContinuityItem } from '../continuity/report';
import { continuityReport } from '../continuity/report';
import { applyEdit } from '../edit/edit';
import type { Scene } from '../scene/scene';
import type { Tether } from '../scene/tether';
import { holdOf, jointAt, reachOf, stagedLibrary, stagedScene } from '../testing/staged';
import type { Mend } from './mends';
import { mendSteps } from './mends';

/** The Visitor far away from everybody. */
function apart(...tethers: Tether[]): Scene {
  const scene = stagedScene(...tethers);
  const v = { ...scene.characters.v!, start: { x: 30, z: 0, heading: 0 } };
  return { ...scene, characters: { ...scene.characters, v } };
}

const itemsOf = (scene: Scene, kind: ContinuityItem['kind']): ContinuityItem[] =>
  continuityReport(compile(scene, stagedLibrary)).filter((i) => i.kind === kind);

/** What mends the only item of a kind, and what is left of it when each mend is taken. */
function mended(scene: Scene, kind: ContinuityItem['kind']): { mend: Mend; after: Scene; left: number }[] {
  const [item] = itemsOf(scene, kind);
  const steps = mendSteps(scene, item!, [], stagedLibrary, () => 'x');
  for (;;) {
    const step = steps.next();
    if (!step.done) continue;
    return step.value.map((mend) => {
      const after = applyEdit(scene, mend.edit, stagedLibrary);
      const left = Math.max(0, ...itemsOf(after, kind).map((i) => Math.abs(i.value)));
      return { mend, after, left };
    });
  }
}

describe('a mend', () => {
  it('of a tether that jumps lets it come and go, or keep its offset', () => {
    const found = mended(apart(holdOf({ grip: { place: [0.1, 0, 0], turn: null } })), 'tether');
    expect(found.map(({ mend }) => mend.what)).toContain('keep its offset');
    expect(found.some(({ mend }) => /come and go over \d+ frames/.test(mend.what))).toBe(true);
    for (const { mend, left } of found) expect(left).toBeCloseTo(mend.grade === 'good' ? 0 : mend.value, 9);
    expect(found[0]!.mend.grade).toBe('good');
  });

  it('of a hand off its grip lets it reach while it can', () => {
    // The Keeper strolls away from the crate.
    const reach = reachOf({
      limb: 'rightHand',
      start: 0,
      end: 80,
      grip: { place: [0.1, 0.05, 0], turn: null },
    });
    const scene = apart(reach);
    const near = {
      ...scene,
      characters: {
        ...scene.characters,
        p: { ...scene.characters.p!, start: { x: -0.3, z: 0.3, heading: 0 } },
      },
    };
    expect(itemsOf(near, 'reach')).toHaveLength(1);
    const [first] = mended(near, 'reach');
    expect(first!.mend).toMatchObject({
      grade: 'good',
      what: expect.stringMatching(/^reach from frame \d+ to \d+ only$/),
    });
    expect(first!.left).toBe(0);
    const { start, end } = first!.after.tethers.r as { start: number; end: number };
    expect(end - start).toBeGreaterThan(4);
    expect(end - start).toBeLessThan(80);
  });

  it('of a prop in the floor raises it', () => {
    const scene = apart();
    const p = { ...scene.characters.p!, prop: { ...scene.characters.p!.prop!, raised: -0.1 } };
    const [first] = mended({ ...scene, characters: { ...scene.characters, p } }, 'sunk');
    expect(first!.mend.what).toBe('raise it by 10.0 cm');
    expect(first!.after.characters.p!.prop!.raised).toBeCloseTo(0, 3);
    expect(first!.left).toBe(0);
  });

  it('of bodies in each other moves either aside, away from the other', () => {
    const scene = stagedScene();
    const c = { ...scene.characters.c!, start: { x: 0, z: 0, heading: 0 } };
    const v = { ...scene.characters.v!, start: { x: 0.2, z: 0.1, heading: 0 } };
    const both = { ...scene, characters: { ...scene.characters, c, v } };
    const found = mended(both, 'meeting');
    expect(found.length).toBeGreaterThan(0);
    const before = itemsOf(both, 'meeting')[0]!.value;
    for (const { mend, after, left } of found) {
      expect(mend.what).toMatch(/^move (Keeper|Visitor) \d+ cm aside from /);
      expect(left).toBeLessThan(before);
      const [keeper, visitor] = compile(after, stagedLibrary).characters;
      const way = [0, 2].map((k) => jointAt(visitor!, 'hips', 0)[k]! - jointAt(keeper!, 'hips', 0)[k]!);
      expect(Math.hypot(...way)).toBeGreaterThan(Math.hypot(0.2, 0.1));
    }
  });
});
