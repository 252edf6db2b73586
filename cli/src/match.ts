import type { Clip, MatchedPair, RoleMap } from '@warper/core';
import { InputError, matchClips, defined } from '@warper/core';
import { readMotionFile } from '@warper/formats';
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

/** The motion of a file that has just one. */
async function onlyMotion(path: string, roles?: RoleMap): Promise<Clip> {
  const { clips } = await readMotionFile(await readInput(path), path, { beside: besideFile(path), roles });
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
