import { existsSync, statSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import type { CharacterPlan, Clip, MotionPieces } from '@warper/core';
import { InputError, bakePieces, defined } from '@warper/core';
import type { Performer } from '@warper/formats';
import { glbOfSeveral, motionParts } from '@warper/formats';
import type { Opened } from './open';
import { makeFolder, writeWhole } from './paths';

type Format = 'glb' | 'bvh';

/** Options of `bake`. */
export interface BakeArguments {
  /** Names of those who are baked; all who perform without. */
  readonly character?: readonly string[];
  /** A file, or a folder for one file each. */
  readonly output: string;
  /** Format of the files of a folder. */
  readonly format?: Format;
  readonly from?: number;
  readonly to?: number;
  readonly rate?: number;
  readonly travel?: 'recorded' | 'in-place';
  readonly scale?: number;
}

/** Whether a path is meant as a folder: it is one, or ends like one. */
export const isFolder = (path: string): boolean =>
  path.endsWith('/') || (existsSync(path) && statSync(path).isDirectory());

/** Formats that can be written. */
export const FORMATS: readonly Format[] = ['glb', 'bvh'];

/** One performance on its way into a file. */
interface Taken {
  readonly plan: CharacterPlan;
  readonly motion: MotionPieces;
}

/**
 * Bakes the performances of a scene to a file, or to one each; says what was written.
 *
 * @param guard refuses a file that must not be written
 */
export async function bakeToFiles(
  opened: Opened,
  args: BakeArguments,
  progress: (share: number) => void,
  guard: (file: string) => Promise<void>,
): Promise<object> {
  const plans = askedFor(opened, args.character);
  const format = isFolder(args.output)
    ? (args.format ?? 'glb')
    : (extname(args.output).slice(1).toLowerCase() as Format);
  if (args.scale !== undefined && format !== 'bvh') {
    throw new InputError('scale', 'GLB is always in metres.', { hint: 'Leave --scale out, or bake to BVH.' });
  }
  const range = commonRange(plans, args);
  const taken = plans.map((plan): Taken => {
    const travel = args.travel === 'in-place' ? 'in place' : 'recorded';
    return { plan, motion: bakePieces(plan, opened.plan.rate, { ...range, rate: args.rate, travel }) };
  });
  const [first] = taken;
  if (isFolder(args.output)) return toFolder(opened, args, format, taken, progress, guard);
  await guard(args.output);
  if (taken.length === 1 && first) {
    await writeOne(opened, args.output, format, first, args.scale, progress);
    return told(args.output, first);
  }
  if (format === 'bvh') {
    throw new InputError('one-character', `A BVH holds one character, and ${taken.length} are to be baked.`, {
      hint: 'Name one with --character, or give a folder: -o bakes/ --format bvh.',
    });
  }
  const performers = taken.map(({ plan, motion }, i): Performer => {
    const { body, source } = defined(opened.library.bodyEntry(plan.character.body));
    const { layout } = body;
    return {
      name: plan.character.name,
      motion: withProgress(motion, (share) => progress((i + share) / taken.length)),
      source: layout.kind === 'gltf' ? { bytes: source.bytes, layout } : undefined,
    };
  });
  await writeWhole(args.output, eachOf(await glbOfSeveral(performers, opened.scene.name)));
  const all = taken.map((t) => told(args.output, t));
  return { file: args.output, ...range, characters: all.map(({ file: _, ...rest }) => rest) };
}

/** The performances that are asked for by name; all of them without. */
function askedFor({ plan }: Opened, names: readonly string[] | undefined): CharacterPlan[] {
  const performing = plan.characters.filter((c) => c.end > c.start);
  if (names === undefined && performing.length > 0) return performing;
  return [...new Set(names ?? [''])].map((name) => {
    const found = plan.characters.find((c) => c.character.name === name);
    if (found) return found;
    const message =
      names === undefined ? 'Nobody performs in the scene.' : `The scene has no character "${name}".`;
    throw new InputError('no-character', message, {
      hint: `It has ${plan.characters.map((c) => `"${c.character.name}"`).join(', ')}.`,
    });
  });
}

/** The frames that all files of one bake share, so that they line up; those of a single character are its own. */
function commonRange(
  plans: readonly CharacterPlan[],
  { from, to }: BakeArguments,
): { readonly from: number; readonly to: number } {
  return {
    from: from ?? Math.min(...plans.map((p) => p.start)),
    to: to ?? Math.max(...plans.map((p) => p.end)),
  };
}

async function toFolder(
  opened: Opened,
  { output, scale }: BakeArguments,
  format: Format,
  taken: readonly Taken[],
  progress: (share: number) => void,
  guard: (file: string) => Promise<void>,
): Promise<object> {
  await makeFolder(output);
  const written: string[] = [];
  try {
    for (const [i, one] of taken.entries()) {
      const file = join(
        output,
        `${freeName(`${opened.scene.name} ${one.plan.character.name}`, format, written)}`,
      );
      await guard(file);
      await writeOne(opened, file, format, one, scale, (share) => progress((i + share) / taken.length));
      written.push(file);
    }
  } catch (error) {
    // All of them or none.
    await Promise.all(written.map((file) => rm(file, { force: true })));
    throw error;
  }
  return { files: taken.map((one, i) => told(defined(written[i]), one)) };
}

/** A file's name that is allowed everywhere and not taken yet. */
function freeName(words: string, format: Format, taken: readonly string[]): string {
  // eslint-disable-next-line no-control-regex
  const plain = words.replace(/[\\/:*?"<>|\u0000-\u001f]+/g, '-').trim() || 'Bake';
  for (let n = 1; ; n++) {
    const name = `${plain}${n > 1 ? ` ${n}` : ''}.${format}`;
    if (!taken.some((path) => path.endsWith(`/${name}`))) return name;
  }
}

async function writeOne(
  opened: Opened,
  file: string,
  format: Format,
  { plan, motion }: Taken,
  unitsPerMetre: number | undefined,
  progress: (share: number) => void,
): Promise<void> {
  const { body, source } = defined(opened.library.bodyEntry(plan.character.body));
  await writeWhole(
    file,
    motionParts(withProgress(motion, progress), { format, body, bytes: source.bytes, unitsPerMetre }),
  );
}

const told = (file: string, { plan, motion: { frames, rate, skeleton } }: Taken) => ({
  file,
  character: plan.character.name,
  frames,
  rate,
  joints: skeleton.names.length,
});

async function* eachOf(parts: readonly Uint8Array[]): AsyncGenerator<Uint8Array> {
  yield* parts;
}

/** A motion that reports how much of it has been computed. */
function withProgress(motion: MotionPieces, progress: (share: number) => void): MotionPieces {
  async function* pieces(): AsyncGenerator<Clip> {
    let done = 0;
    for await (const piece of motion.pieces()) {
      yield piece;
      done += piece.frames;
      progress(done / motion.frames);
    }
  }
  return { ...motion, pieces };
}
