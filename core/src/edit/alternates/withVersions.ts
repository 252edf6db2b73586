import type { Alternate, AlternateScope } from '../../scene/alternate';
import { PLAIN_ALTERNATE } from '../../scene/alternate';
import { differences } from '../../scene/differences';
import type { Scene } from '../../scene/scene';
import { withoutAlternates } from '../../scene/versions';
import type { ClipSource } from '../../timeline/lane';
import { differingSpans } from './differingSpans';

/** What a version of a scene is called as an alternate. */
type Named = Pick<Alternate, 'id' | 'name' | 'comment'>;

/**
 * A scene with other versions of it as its alternates; it is the one in hand. What may differ in each is where it does.
 *
 * @param others must share the rate of the scene and what is known of its clips
 */
export function withVersions(
  scene: Scene,
  inHand: Named,
  others: readonly (Named & { readonly scene: Scene })[],
  library: ClipSource,
): Scene {
  const own = withoutAlternates(scene);
  const kept = others.map(({ scene: other, ...named }): Alternate => {
    const version = withoutAlternates({ ...other, name: own.name });
    return {
      ...PLAIN_ALTERNATE,
      ...named,
      scope: scopeOf([[version, own]], library),
      differences: differences(own, version),
    };
  });
  const scope = scopeOf(
    others.map((o): [Scene, Scene] => [own, withoutAlternates(o.scene)]),
    library,
  );
  const all = [{ ...PLAIN_ALTERNATE, ...inHand, scope }, ...kept];
  return {
    ...own,
    alternates: Object.fromEntries(all.map((a) => [a.id, a])),
    alternateOrder: all.map((a) => a.id),
  };
}

/** All frames and characters in which scenes differ from others; null where that is nothing of anybody, or has no bounds. */
function scopeOf(pairs: readonly (readonly [Scene, Scene])[], library: ClipSource): AlternateScope | null {
  const spans = pairs.flatMap(([scene, other]) => differingSpans(scene, other, library));
  const [from, to] = [Math.min(...spans.map((s) => s.from)), Math.max(...spans.map((s) => s.to))];
  if (!Number.isFinite(from) || !Number.isFinite(to)) return null;
  return { from, to, characters: [...new Set(spans.map((s) => s.character))] };
}
