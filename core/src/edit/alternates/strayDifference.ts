import type { AlternateScope } from '../../scene/alternate';
import { differences, isEqual } from '../../scene/differences';
import type { Scene } from '../../scene/scene';
import type { ClipSource } from '../../timeline/lane';
import { PlaceFinder, isOnlyMoved, isWithin } from './places';

/** One of two versions of a scene, with what may differ in it; null the whole. */
export interface Side {
  readonly scene: Scene;
  readonly scope: AlternateScope | null;
}

/** Orders of what is there, which follow from it. */
const ORDERS: ReadonlySet<string> = new Set(['laneOrder', 'cameraOrder', 'soundLaneOrder', 'markers']);

/**
 * What two versions of a scene differ in outside of the scopes of both, by its name; null where there is nothing. When something begins
 * follows from what is before it, and the segments next to a scope are part of its seams.
 */
export function strayDifference(a: Side, b: Side, library: ClipSource): string | null {
  if (!a.scope || !b.scope) return null;
  const sides = [a, b].map((side) => ({ ...side, finder: new PlaceFinder(side.scene, library) }));
  const isPlaced = (id: string): boolean =>
    sides.some(({ finder, scope }) => scope && finder.placesOf(id, []).some((p) => isWithin(scope, p)));
  const isBeside = (id: string): boolean =>
    sides.some(({ finder }) => {
      const around = finder.laneOf(id)?.segments ?? [];
      const i = around.indexOf(id);
      return [around[i - 1], around[i + 1]].some((n) => n !== undefined && isPlaced(n));
    });
  const changed = new Set(differences(a.scene, b.scene).map(({ path }) => path.slice(0, 2).join(' ')));
  for (const entry of changed) {
    const [part = '', id = ''] = entry.split(' ');
    if (ORDERS.has(part)) continue;
    if (part === 'segments' && (isOnlyMoved(a.scene, b.scene, id) || isPlaced(id) || isBeside(id))) continue;
    if (part === 'lanes' && (isPlaced(id) || sameButMembers(a.scene, b.scene, id, isPlaced))) continue;
    if (!['segments', 'lanes'].includes(part) && id && isPlaced(id)) continue;
    return nameOf(a.scene, b.scene, part, id);
  }
  return strayMarker(a.scene, b.scene, isPlaced);
}

/** Whether a lane differs in nothing but the segments on it that are in a scope. */
function sameButMembers(a: Scene, b: Scene, id: string, isPlaced: (id: string) => boolean): boolean {
  const [one, other] = [a.lanes[id], b.lanes[id]];
  if (!one || !other || !isEqual({ ...one, segments: [] }, { ...other, segments: [] })) return false;
  const shared = (list: readonly string[]): string[] => list.filter((s) => !isPlaced(s));
  return isEqual(shared(one.segments), shared(other.segments));
}

function strayMarker(a: Scene, b: Scene, isPlaced: (id: string) => boolean): string | null {
  const differs = (m: Scene['markers'][number], others: Scene['markers']): boolean =>
    !isPlaced(m.id) &&
    !isEqual(
      m,
      others.find((o) => o.id === m.id),
    );
  const stray = a.markers.find((m) => differs(m, b.markers)) ?? b.markers.find((m) => differs(m, a.markers));
  return stray?.name ?? null;
}

/** What something is called, for messages. */
function nameOf(a: Scene, b: Scene, part: string, id: string): string {
  for (const scene of [a, b]) {
    const entry = (scene as unknown as Record<string, Record<string, unknown> | undefined>)[part]?.[id];
    if (typeof entry === 'object' && entry !== null) {
      const { name, character } = entry as { name?: unknown; character?: unknown };
      if (typeof name === 'string') return name;
      const owner = typeof character === 'string' ? scene.characters[character]?.name : undefined;
      if (owner) return `the lane of ${owner}`;
    }
  }
  return part.replace(/[A-Z]/g, (capital) => ` ${capital.toLowerCase()}`);
}
