import type { CharacterPlan } from '../plan/plan';
import type { Holder } from '../plan/tethers';
import type { Scene } from '../scene/scene';
import type { Hold, Reach } from '../scene/tether';
import { inHoldingOrder } from '../scene/tether';
import type { Staged } from './linkTethers';
import { linkHolds, linkReaches, makeHolder } from './linkTethers';

/** Gives the performances of a scene their tethers. */
type Stage = (scene: Scene, plans: readonly CharacterPlan[], start: number, end: number) => CharacterPlan[];

/** A prop that plays nothing, for as long as it is there. */
interface Present {
  readonly start: number;
  readonly end: number;
  readonly plan: CharacterPlan;
}

/**
 * Makes what gives performances their tethers, one scene after the other; what an edit did not touch is taken over. Props that play nothing
 * are there from the scene's start to its end.
 */
export function createStaging(): Stage {
  let present = new Map<CharacterPlan, Present>();
  let held = new Map<string, Staged<Hold>>();
  let reaching = new Map<string, Staged<Reach>>();
  let holders = new Map<CharacterPlan, Holder>();
  return (scene, alone, start, end) => {
    present = presentAll(alone, start, end, present);
    const plans = new Map(alone.map((c) => [c.character.id, present.get(c)?.plan ?? c]));
    const tethers = Object.values(scene.tethers).filter((t) => !t.muted);
    const used = new Map<CharacterPlan, Holder>();
    const holderOf = (id: string): Holder => {
      const plan = nextHeld.get(id)?.plan ?? plans.get(id)!;
      const holder = used.get(plan) ?? holders.get(plan) ?? makeHolder(plan);
      used.set(plan, holder);
      return holder;
    };
    const nextHeld = new Map<string, Staged<Hold>>();
    // Whoever holds comes before what is held.
    for (const id of inHoldingOrder(scene.tethers, scene.characterOrder)) {
      const own = tethers.filter((t): t is Hold => t.kind === 'hold' && t.child === id);
      if (own.length === 0) continue;
      const by = own.map((t) => holderOf(t.parent));
      nextHeld.set(id, linkHolds(plans.get(id)!, own, by, held.get(id)));
    }
    const nextReaching = new Map<string, Staged<Reach>>();
    for (const id of scene.characterOrder) {
      const own = tethers.filter((t): t is Reach => t.kind === 'reach' && t.child === id);
      if (own.length === 0) continue;
      const by = own.map((t) => holderOf(t.parent));
      const from = nextHeld.get(id)?.plan ?? plans.get(id)!;
      nextReaching.set(id, linkReaches(from, own, by, reaching.get(id)));
    }
    [held, reaching, holders] = [nextHeld, nextReaching, used];
    return scene.characterOrder.map(
      (id) => (nextReaching.get(id) ?? nextHeld.get(id))?.plan ?? plans.get(id)!,
    );
  };
}

function presentAll(
  plans: readonly CharacterPlan[],
  start: number,
  end: number,
  before: ReadonlyMap<CharacterPlan, Present>,
): Map<CharacterPlan, Present> {
  const next = new Map<CharacterPlan, Present>();
  for (const plan of plans) {
    if (!plan.character.prop || plan.segments.length > 0) continue;
    const last = before.get(plan);
    const same = last?.start === start && last.end === end;
    next.set(plan, same ? last : { start, end, plan: { ...plan, start, end } });
  }
  return next;
}
