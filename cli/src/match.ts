import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Clip, Edit, MatchedPair, RoleMap, Segment } from '@warper/core';
import {
  InputError,
  PLAIN_CHARACTER,
  PLAIN_LIMITS,
  PLAIN_SEAM,
  PLAIN_SEGMENT,
  applyEdit,
  chooseJoin,
  clipThatSuits,
  defined,
  emptyScene,
  followersOf,
  joinCost,
  matchClips,
} from '@warper/core';
import { MotionLibrary } from '@warper/formats';
import { besideFile } from './open';
import { readInput } from './paths';

/** Options of `match`. */
export interface MatchArguments {
  /** Compares only so many samples, a whole number from 1 on, at the end of the first and at the start of the second clip. */
  readonly within?: number;
  readonly top?: number;
}

/** The best pairs of samples at which one file's motion can go over into the other's. */
export async function match(
  a: string,
  b: string,
  { within, top }: MatchArguments,
  roles?: RoleMap,
): Promise<{ pairs: readonly MatchedPair[] }> {
  const [outgoing, incoming] = [await onlyMotion(a, roles), await onlyMotion(b, roles)];
  const near = within ?? Infinity;
  const pairs = matchClips(outgoing, incoming, {
    outgoing: { start: Math.max(0, outgoing.frames - near), end: outgoing.frames },
    incoming: { start: 0, end: Math.min(incoming.frames, near) },
    top,
  });
  return { pairs };
}

/** A clip that may follow, as `match --next` prints it. */
export interface Next {
  readonly file: string;
  readonly clip: string;
  readonly out: number;
  readonly in: number;
  readonly distanceCm: number;
  /** What the join costs that would be chosen: 1 is a measure at its threshold. */
  readonly cost: number;
}

/** Clips of files, or of all files in folders, ranked by how well they follow the end of one; best first. */
export async function matchNext(
  a: string,
  places: readonly string[],
  top: number,
  roles?: RoleMap,
): Promise<{ next: readonly Next[] }> {
  const library = new MotionLibrary(roles);
  const open = async (path: string): Promise<readonly Clip[]> => {
    const { imported } = await library.add(await readInput(path), path, undefined, besideFile(path));
    return imported.clips.filter((c) => c.frames > 1);
  };
  const before = await onlyMotion(a, roles, library);
  const candidates: { file: string; clip: Clip }[] = [];
  for (const file of await motionFiles(places))
    for (const clip of await open(file)) {
      const fitting = clipThatSuits(clip, before.skeleton, library.memory);
      if (fitting && clip.id !== before.id) candidates.push({ file, clip: fitting });
    }
  const fileOf = new Map(candidates.map(({ file, clip }) => [clip.id, file]));
  const clips = candidates.map((c) => c.clip);
  const next = followersOf(before, before.frames - 1, clips, Math.max(top, 1), library.memory)
    .map(({ clip, pair }): Next => ({
      file: fileOf.get(clip.id) ?? '',
      clip: clip.name,
      out: pair.out,
      in: pair.in,
      distanceCm: pair.distanceCm,
      cost: joinCostOf(before, clip, library),
    }))
    .sort((p, q) => p.cost - q.cost);
  return { next };
}

/** What the join of two clips costs when it is chosen. */
function joinCostOf(before: Clip, clip: Clip, { memory }: MotionLibrary): number {
  const library = {
    memory,
    version: 0,
    clip: (id: string) => [before, clip].find((c) => c.id === id),
    body: () => before.skeleton,
  };
  const segment = (c: Clip, id: string): Segment => ({
    ...PLAIN_SEGMENT,
    id,
    name: c.name,
    clip: c.id,
    out: c.frames,
    seam: { ...PLAIN_SEAM, fit: 'planted foot' },
  });
  const edits: Edit[] = [
    { type: 'add character', character: { ...PLAIN_CHARACTER, id: 'c', name: 'c', body: 'body' }, lane: 'l' },
    { type: 'place', lane: 'l', segment: segment(before, 'a'), at: 'end' },
    { type: 'place', lane: 'l', segment: segment(clip, 'b'), at: 'end' },
  ];
  const scene = edits.reduce((s, e) => applyEdit(s, e, library), emptyScene('', before.rate));
  const choice = chooseJoin(scene, 'b', library, PLAIN_LIMITS);
  return choice ? joinCost(choice.measures) : 0;
}

/** The motion files of a list of files and folders. */
async function motionFiles(places: readonly string[]): Promise<string[]> {
  const files: string[] = [];
  for (const place of places) {
    if (!(await isFolder(place))) files.push(place);
    else
      for (const name of (await readdir(place)).sort())
        if (/\.(bvh|glb|gltf)$/i.test(name)) files.push(join(place, name));
  }
  return files;
}

async function isFolder(path: string): Promise<boolean> {
  try {
    return (await stat(path)).isDirectory();
  } catch (cause) {
    throw new InputError('no-file', 'There is no such file or folder.', { place: { file: path }, cause });
  }
}

/** The same for people. */
export const describeNext = (next: readonly Next[]): string =>
  next
    .map(
      (n) =>
        `${n.cost.toFixed(2).padStart(6)}  ${n.clip} (${n.file}), ${n.out} -> ${n.in}, ${n.distanceCm.toFixed(1)} cm`,
    )
    .join('\n');

/** The motion of a file that has just one. */
async function onlyMotion(path: string, roles?: RoleMap, library = new MotionLibrary(roles)): Promise<Clip> {
  const { imported } = await library.add(await readInput(path), path, undefined, besideFile(path));
  const { clips } = imported;
  const motions = clips.filter((c) => c.frames > 1);
  if (motions.length !== 1) {
    throw new InputError(
      'take',
      `The file has ${motions.length} takes that are motion; one can be compared.`,
      {
        place: { file: path },
        hint: 'Give a file with one animation.',
      },
    );
  }
  return defined(motions[0]);
}

/** The same for people. */
export const describeMatch = (pairs: readonly MatchedPair[]): string =>
  pairs
    .map(
      (p) =>
        `${String(p.out).padStart(6)} -> ${String(p.in).padEnd(6)} ${p.distanceCm.toFixed(1)} cm${p.sameFeet ? '' : ', other feet planted'}`,
    )
    .join('\n');
