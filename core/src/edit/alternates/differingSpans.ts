import type { AlternateScope } from '../../scene/alternate';
import { differences } from '../../scene/differences';
import type { Scene } from '../../scene/scene';
import type { ClipSource } from '../../timeline/lane';
import { PlaceFinder, isOnlyMoved } from './places';

/** Frames [from, to) of one character. */
export interface CharacterSpan {
  readonly character: string;
  readonly from: number;
  readonly to: number;
}

/**
 * Where a scene differs from another version of it, character by character: frames of the scene, in order, those that touch as one. What is
 * only begun earlier or later differs in nothing else, and is left out.
 */
export function differingSpans(scene: Scene, version: Scene, library: ClipSource): CharacterSpan[] {
  const [here, there] = [new PlaceFinder(scene, library), new PlaceFinder(version, library)];
  const ids = new Set(
    differences(scene, version)
      .filter(({ path: [part] }) => part === 'segments' || part === 'lanes' || part === 'tethers')
      .map(({ path }) => String(path[1])),
  );
  const spans = [...ids].flatMap((id) => {
    if (isOnlyMoved(scene, version, id)) return [];
    const places = here.placesOf(id, []);
    return (places.length > 0 ? places : there.placesOf(id, [])).flatMap(({ characters, from, to }) =>
      (characters ?? []).map((character) => ({ character, from, to })),
    );
  });
  return scene.characterOrder.flatMap((c) => joined(spans.filter((s) => s.character === c)));
}

/** Spans in order, with those that touch made one. */
function joined(spans: readonly CharacterSpan[]): CharacterSpan[] {
  const all: CharacterSpan[] = [];
  for (const span of [...spans].sort((a, b) => a.from - b.from)) {
    const last = all.at(-1);
    if (last && span.from <= last.to) all[all.length - 1] = { ...last, to: Math.max(last.to, span.to) };
    else all.push(span);
  }
  return all;
}

/** The frames that are the own ones of some segments, of whoever plays them; null where none is on a lane. */
export function scopeOfSegments(
  scene: Scene,
  segments: readonly string[],
  library: ClipSource,
): AlternateScope | null {
  const finder = new PlaceFinder(scene, library);
  const places = segments.flatMap((id) => (scene.segments[id] ? finder.placesOf(id, []) : []));
  if (places.length === 0) return null;
  return {
    from: Math.min(...places.map((p) => p.from)),
    to: Math.max(...places.map((p) => p.to)),
    characters: [...new Set(places.flatMap((p) => p.characters ?? []))],
  };
}
