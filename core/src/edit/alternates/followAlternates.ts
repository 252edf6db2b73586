import { InputError } from '../../math/errors';
import type { Alternate, AlternateScope } from '../../scene/alternate';
import { differences } from '../../scene/differences';
import type { Scene } from '../../scene/scene';
import { alternateInHand, alternatesOf, versionOf, withoutAlternates } from '../../scene/versions';
import type { ClipSource } from '../../timeline/lane';
import type { Edit } from '../edit';
import { followScope } from './followScope';
import { EditReach } from './reach';

/** What the alternates of a scene are followed with. */
export interface Following {
  readonly library: ClipSource;
  /** Carries out an edit of a scene without alternates. */
  readonly carryOut: (scene: Scene, change: Edit) => Scene;
  /** Whether it is carried out in all of them, wherever it is. */
  readonly everywhere: boolean;
}

/** A version of the scene, with what may differ in it. */
interface Version {
  readonly scene: Scene;
  readonly scope: AlternateScope | null;
}

/**
 * The alternates of a scene after an edit of the one in hand. The edit is carried out in each of the others that it reaches; where it
 * cannot be, that one stays as it was.
 */
export function followAlternates(
  before: Scene,
  after: Scene,
  change: Edit,
  following: Following,
): Scene['alternates'] {
  const inHand = alternateInHand(before);
  if (!inHand) return before.alternates;
  const end = withoutAlternates(after);
  const parts = partsOf(change);
  let hand: Version = { scene: withoutAlternates(before), scope: inHand.scope };
  const others = alternatesOf(before).filter((a) => a.differences);
  let versions = others.map((a): Version => ({ scene: versionOf(before, a), scope: a.scope }));
  parts.forEach((part, i) => {
    const next = i === parts.length - 1 ? end : tried(hand.scene, part, following);
    const reach = new EditReach(hand.scene, next, hand.scope, following.library);
    const reached = versions.map((v) => following.everywhere || reach.reaches(part, v, v.scene));
    versions = versions.map((v, k) =>
      reached[k] ? moved(v, tried(v.scene, part, following), false, following.library) : v,
    );
    hand = moved(hand, next, reached.includes(false), following.library);
  });
  const followed = others.map((alternate, k): Alternate => {
    const { scene = end, scope = null } = versions[k] ?? {};
    return { ...alternate, scope, differences: differences(end, scene) };
  });
  return Object.fromEntries([{ ...inHand, scope: hand.scope }, ...followed].map((a) => [a.id, a]));
}

const moved = ({ scene, scope }: Version, next: Scene, own: boolean, library: ClipSource): Version => ({
  scene: next,
  scope: scope && followScope(scope, { before: scene, after: next }, own, library),
});

const partsOf = (change: Edit): readonly Edit[] =>
  change.type === 'several' ? change.edits.flatMap(partsOf) : [change];

function tried(scene: Scene, part: Edit, { carryOut }: Following): Scene {
  try {
    return carryOut(scene, part);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return scene;
  }
}
