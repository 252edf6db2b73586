import type { StoredBody, StoredFile } from './db';

/** A body that a character can have: one with a skin, or a skeleton that clips came with. */
export interface CastBody {
  readonly body: StoredBody;
  /** What it is called: its own name, or its file's where only clips have it. */
  readonly name: string;
  /** Where it came from: its file, and how many others have the same skeleton. */
  readonly from: string;
}

/**
 * The bodies to choose from, those with a skin first. The skeleton of many clips is one of them; one that a body with a skin has
 * as well is left out.
 */
export function castBodies(
  bodies: readonly StoredBody[],
  files: readonly Pick<StoredFile, 'id' | 'file'>[],
): CastBody[] {
  const fileOf = new Map(files.map((f) => [f.id, f.file]));
  const skinned = bodies.filter((b) => b.skinned);
  const covered = new Set(skinned.map(skeletonKey));
  const bare = new Map<string, StoredBody[]>();
  for (const body of bodies) {
    const key = skeletonKey(body);
    if (!body.skinned && !covered.has(key)) bare.set(key, [...(bare.get(key) ?? []), body]);
  }
  const sourceOf = (body: StoredBody): string => fileOf.get(body.source) ?? 'a file';
  const byName = (a: CastBody, b: CastBody): number => a.name.localeCompare(b.name);
  return [
    ...skinned.map((body) => ({ body, name: body.name, from: sourceOf(body) })).sort(byName),
    ...[...bare.values()]
      .flatMap((same): CastBody[] => {
        const [body] = same;
        if (!body) return [];
        const others = same.length > 1 ? ` and ${same.length - 1} more` : '';
        return [{ body, name: sourceOf(body).replace(/\.[^.]*$/, ''), from: `${sourceOf(body)}${others}` }];
      })
      .sort(byName),
  ];
}

/** The body that clips of a body are best performed on: one of the same skeleton with a skin, else the first of the same skeleton. */
export function bodyToPerform(bodies: readonly StoredBody[], id: string): string {
  const own = bodies.find((b) => b.id === id);
  if (!own) return id;
  const same = bodies.filter((b) => skeletonKey(b) === skeletonKey(own));
  return (same.find((b) => b.skinned) ?? same[0] ?? own).id;
}

/** Equal for bodies with the same skeleton, of the same size. */
const skeletonKey = (body: StoredBody): string =>
  `${body.signature ?? body.id} ${body.joints} ${body.heightMetres.toFixed(3)}`;
