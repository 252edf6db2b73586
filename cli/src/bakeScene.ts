import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { defined } from '@warper/core';
import type { BakeOrder, BakedFacts, PlannedFile } from '@warper/formats';
import { bakeFile, plannedFiles } from '@warper/formats';
import type { BakeArguments } from './bakeCommand';
import { namedPerformers, orderOf } from './bakeCommand';
import type { ManifestEntry, ManifestFiles } from './manifest';
import { hashFile } from './manifest';
import type { OpenOptions, Opened } from './open';
import { inputsOf, openScene } from './open';
import { requireOther, writeAllWhole } from './paths';

/** One scene of several that are baked into a folder. */
export interface SceneJob {
  readonly scene: string;
  /** What its files are called by. */
  readonly name: string;
  readonly args: BakeArguments & OpenOptions;
  /** Files of the folder that need not be made again where they are as they would be. */
  readonly known: ManifestFiles;
}

/** What has become of a file: whether it was made, or kept as it was. */
export interface SceneFile {
  readonly file: string;
  readonly kept: boolean;
  readonly entry: ManifestEntry;
}

/** Changes with every change of what is written for the same inputs. */
const WRITER = 1;

/** Bakes a scene into a folder, all of its files or none; files that are there already as they would be made stay. */
export async function bakeScene({ scene, name, args, known }: SceneJob): Promise<SceneFile[]> {
  const opened = await openScene(scene, args);
  const order = orderOf({ ...opened.scene, name }, namedPerformers(opened, args.character), args);
  const files = plannedFiles(opened.plan, order, opened.library);
  const inputs = inputsOf(opened, scene, args.map);
  const hash = hashOrder(opened, order);
  const made = new Map<PlannedFile, { facts: BakedFacts | null; sha256: string }>();
  const kept = new Set<PlannedFile>();
  const writes = [];
  for (const file of files) {
    const path = join(args.output, file.name);
    await requireOther(path, inputs);
    const entry = known[file.name];
    if (entry?.inputs === hash && (await hashFile(path)) === entry.sha256) kept.add(file);
    else writes.push({ path, content: hashed(opened, file, order, made) });
  }
  await writeAllWhole(writes);
  return files.map((file): SceneFile => {
    const result = made.get(file);
    const entry = result?.facts
      ? {
          scene,
          characters: file.characters.map((c) => c.character.name),
          frames: result.facts.frames,
          rate: result.facts.rate,
          bytes: result.facts.bytes,
          sha256: result.sha256,
          inputs: hash,
        }
      : defined(known[file.name]);
    return { file: join(args.output, file.name), kept: kept.has(file), entry };
  });
}

/** What decides the content of a scene's files. */
function hashOrder({ scene, library }: Opened, order: BakeOrder): string {
  const sources = library.sources().map((s) => s.imported.source);
  const text = JSON.stringify({ writer: WRITER, scene, sources: sources.sort(), order });
  return createHash('sha256').update(text).digest('hex');
}

/** A file's content as it is made, and its hash once it is. */
async function* hashed(
  opened: Opened,
  file: PlannedFile,
  order: BakeOrder,
  made: Map<PlannedFile, { facts: BakedFacts | null; sha256: string }>,
): AsyncGenerator<Uint8Array> {
  const sum = createHash('sha256');
  const content = bakeFile(opened, file, order, () => undefined);
  for (;;) {
    const step = await content.next();
    if (step.done) return void made.set(file, { facts: step.value, sha256: sum.digest('hex') });
    sum.update(step.value);
    yield step.value;
  }
}
