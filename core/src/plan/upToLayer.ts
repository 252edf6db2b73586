import type { Character } from '../scene/character';
import { derivation } from '../memory/memory';
import type { CharacterPlan, LayerPlan, SegmentPlan } from './plan';

/** Whether any planted feet of a character are held: where it is asked for, and where its body is moved by hand. */
export const areFeetHeld = (
  character: Character,
  segments: readonly SegmentPlan[],
  layers: readonly LayerPlan[],
): boolean =>
  character.footLock ||
  segments.some((s) => s.route !== null) ||
  layers.some((l) => l.rootMove !== null && l.rootMove.feet !== 'slide');

/** A performance with its lowest `count` layers only. */
export const upToLayer = (plan: CharacterPlan, count: number): CharacterPlan =>
  count >= plan.layers.length ? plan : plan.memory.recall(lowest, plan, count);

/** What a performance is without its layers, and without what its head follows. */
export const onBodyLane = (plan: CharacterPlan): CharacterPlan =>
  plan.looks.length === 0 ? upToLayer(plan, 0) : plan.memory.recall(unlooked, upToLayer(plan, 0));

const unlooked = derivation('body lane', 50, (_, plan: CharacterPlan): CharacterPlan => ({
  ...plan,
  looks: [],
}));

const lowest = derivation('lowest layers', 50, (_, plan: CharacterPlan, count: number): CharacterPlan => {
  const layers = plan.layers.slice(0, count);
  return {
    ...plan,
    layers,
    holdsFeet: areFeetHeld(plan.character, plan.segments, layers),
    locks: new Array<undefined>(plan.segments.length),
    rootFrames: new Array<undefined>(layers.length),
    heldHands: layers.map(() => []),
  };
});
