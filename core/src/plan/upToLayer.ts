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

/** What a performance is without its layers, without what its head follows, and as if nobody held it. */
export const onBodyLane = (plan: CharacterPlan): CharacterPlan =>
  plan.looks.length === 0 && !plan.staging
    ? upToLayer(plan, 0)
    : plan.memory.recall(alone, upToLayer(plan, 0));

const alone = derivation('body lane', 50, (_, plan: CharacterPlan): CharacterPlan => ({
  ...plan,
  looks: [],
  staging: null,
}));

const lowest = derivation('lowest layers', 50, (_, plan: CharacterPlan, count: number): CharacterPlan => {
  const layers = plan.layers.slice(0, count);
  return {
    ...plan,
    layers,
    // What is held when a tether begins depends on the layers.
    staging: plan.staging && { ...plan.staging, taken: [], reached: [], left: [] },
    holdsFeet: areFeetHeld(plan.character, plan.segments, layers),
    locks: new Array<undefined>(plan.segments.length),
    rootFrames: new Array<undefined>(layers.length),
    heldHands: layers.map(() => []),
  };
});
