import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { basename, extname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { InputError, defined } from '@warper/core';
import { fileName } from '@warper/formats';
import { Piscina } from 'piscina';
import type { BakeArguments } from './bakeCommand';
import type { SceneFile, SceneJob } from './bakeScene';
import type { SceneAnswer } from './bakeWorker';
import bake from './bakeWorker';
import type { ManifestEntry } from './manifest';
import { MANIFEST, manifestText, readManifest } from './manifest';
import type { OpenOptions } from './open';
import { makeFolder, writeWhole } from './paths';

/** Options of a bake of several scenes. */
export interface ManyArguments extends BakeArguments, OpenOptions {
  /** Scenes that are baked at a time; 0 for as many as there are cores. */
  readonly jobs?: number;
}

/** What is told of it. */
export interface ManyReport {
  readonly manifest: string;
  readonly files: readonly ({ readonly file: string; readonly kept: boolean } & ManifestEntry)[];
  readonly errors: readonly {
    readonly scene: string;
    readonly code: string;
    readonly message: string;
    readonly hint: string;
  }[];
}

/**
 * Bakes scenes into a folder, each all or not at all, beside each other in threads. A manifest says what is there; scenes that are done
 * are in it even where the work ends early, and what is there as it would be made is kept when it is begun again.
 *
 * @param progress gets the share of scenes that are done
 * @param worker the built thread; the scenes are baked one after the other without one
 */
export async function bakeScenes(
  scenes: readonly string[],
  args: ManyArguments,
  progress: (share: number) => void,
  worker = builtWorker(),
): Promise<ManyReport> {
  const names = sceneNames(scenes);
  await makeFolder(args.output);
  const known = await readManifest(args.output);
  const all: Record<string, ManifestEntry> = { ...known };
  const manifest = join(args.output, MANIFEST);
  const files: SceneFile[][] = scenes.map(() => []);
  const errors: { index: number; code: string; message: string; hint: string }[] = [];
  let done = 0;
  // One at a time: each writes what the one before knew as well.
  let written = Promise.resolve();
  const finish = async (index: number, answer: SceneAnswer): Promise<void> => {
    if (answer.ok) {
      files[index] = [...answer.files];
      for (const { file, entry } of answer.files) all[basename(file)] = entry;
      written = written.then(() => writeWhole(manifest, manifestText(all)));
      await written;
    } else errors.push({ index, code: answer.code, message: placed(answer), hint: answer.hint });
    progress(++done / scenes.length);
  };
  const jobs = scenes.map((scene, i): SceneJob => ({
    scene,
    name: defined(names[i]),
    args: plain(args),
    known,
  }));
  const threads = Math.min(args.jobs === 0 ? availableParallelism() : (args.jobs ?? 1), scenes.length);
  if (threads > 1 && worker) {
    const pool = new Piscina({ filename: worker, maxThreads: threads });
    try {
      await Promise.all(jobs.map(async (job, i) => finish(i, (await pool.run(job)) as SceneAnswer)));
    } finally {
      await pool.destroy();
    }
  } else for (const [i, job] of jobs.entries()) await finish(i, await bake(job));
  return {
    manifest,
    files: files.flat().map(({ file, kept, entry }) => ({ file, kept, ...entry })),
    errors: errors
      .sort((a, b) => a.index - b.index)
      .map(({ index, ...error }) => ({ scene: defined(scenes[index]), ...error })),
  };
}

/** What is wrong, and where in the scene; its file is named beside it. */
const placed = ({
  message,
  place,
}: {
  message: string;
  place: Readonly<Record<string, unknown>>;
}): string => {
  const where = Object.entries(place)
    .filter(([key]) => key !== 'file')
    .map(([key, value]) => (key === 'path' ? String(value) : `${key} ${String(value)}`))
    .join(', ');
  return where ? `${where}: ${message}` : message;
};

/** What a thread is told: values, no functions. */
const plain = (args: ManyArguments): SceneJob['args'] => JSON.parse(JSON.stringify(args)) as SceneJob['args'];

/** What the files of each scene are called by: its file's own name. */
function sceneNames(scenes: readonly string[]): string[] {
  const names = scenes.map((scene) => fileName(basename(scene, extname(scene)).replace(/\.cues$/, '')));
  const twice = names.find((name, i) => names.indexOf(name) !== i);
  if (twice === undefined) return names;
  throw new InputError('same-name', `Two scenes are called ${twice}, and so would their files be.`, {
    hint: 'Bake them into folders of their own.',
  });
}

/** The thread beside the built command; null where the command runs from its source. */
function builtWorker(): string | null {
  const file = fileURLToPath(new URL('./bakeWorker.mjs', import.meta.url));
  return existsSync(file) ? file : null;
}
