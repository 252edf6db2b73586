import { createHash } from 'node:crypto';
import { open, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { InputError, compile } from '@warper/core';
import type { BakeJobFile, BakeOrder, BakeSource, BakedFacts, PlannedFile } from '@warper/formats';
import { BAKE_FORMATS, bakeFile, plannedFiles, readSceneFile } from '@warper/formats';
import type { BakeAsk } from './asks';

/** A scene file that is to be baked, and where to. */
export interface BakeTask {
  /** Path of the scene file. */
  readonly scene: string;
  readonly ask: BakeAsk;
  /** Folder that the files are written into; whoever gave it removes it where the bake fails. */
  readonly folder: string;
  /** Bytes that all files together may have. */
  readonly mostBytes: number;
}

/**
 * Bakes a scene file into a folder, in the very bytes that the page and the command line write.
 *
 * @param progress gets the finished share
 * @throws InputError where the scene cannot be read, what is asked for is not in it, or the files would be too large
 */
export async function bakeSceneFile(
  { scene: path, ask, folder, mostBytes }: BakeTask,
  progress: (share: number) => void,
): Promise<BakeJobFile[]> {
  const { scene, library } = await readSceneFile(new Uint8Array(await readFile(path)), 'scene.warper');
  const source: BakeSource = { plan: compile(scene, library), library };
  const order = orderOf(source, ask, scene.name);
  const files = plannedFiles(source.plan, order, library);
  requireSize(
    files.reduce((sum, f) => sum + f.estimatedBytes, 0),
    mostBytes,
  );
  const baked: BakeJobFile[] = [];
  let left = mostBytes;
  for (const [i, file] of files.entries()) {
    const share = (s: number): void => progress((i + s) / files.length);
    const made = await writeFile(source, file, order, join(folder, file.name), left, share);
    left -= made.bytes;
    baked.push({
      ...made,
      name: file.name,
      type: BAKE_FORMATS[order.settings.format].type,
      characters: file.characters.map((c) => c.character.name),
    });
  }
  return baked;
}

/** What is asked for, in the scene that it is asked of. */
function orderOf({ plan }: BakeSource, ask: BakeAsk, sceneName: string): BakeOrder {
  const performing = plan.characters.filter((c) => c.end > c.start);
  const chosen =
    ask.characters.length === 0
      ? performing
      : ask.characters.map((name) => {
          const found = plan.characters.find((c) => c.character.name === name);
          if (found) return found;
          throw new InputError('no-character', `The scene has no character "${name}".`, {
            hint: `It has ${plan.characters.map((c) => `"${c.character.name}"`).join(', ')}.`,
          });
        });
  const whole = {
    name: '',
    from: Math.min(...chosen.map((p) => p.start)),
    to: Math.max(...chosen.map((p) => p.end)),
  };
  return {
    name: ask.name ?? sceneName,
    characters: chosen.map((c) => c.character.id),
    spans: ask.parts.length > 0 ? ask.parts : [whole],
    settings: ask.settings,
  };
}

function requireSize(bytes: number, most: number): void {
  if (bytes <= most) return;
  const megabytes = (n: number): string => `${Math.ceil(n / 1e6).toLocaleString('en')} MB`;
  throw new InputError('too-large', `It would come to ${megabytes(bytes)}; ${megabytes(most)} are allowed.`, {
    hint: 'Bake a shorter part, fewer characters, or reduced keys.',
  });
}

/** Writes a file part by part, and hashes it on the way. */
async function writeFile(
  source: BakeSource,
  file: PlannedFile,
  order: BakeOrder,
  path: string,
  mostBytes: number,
  progress: (share: number) => void,
): Promise<BakedFacts & { readonly sha256: string }> {
  const sum = createHash('sha256');
  const content = bakeFile(source, file, order, progress);
  const handle = await open(path, 'wx');
  let bytes = 0;
  try {
    for (;;) {
      const step = await content.next();
      if (step.done) return { ...step.value, sha256: sum.digest('hex') };
      bytes += step.value.length;
      requireSize(bytes, mostBytes);
      sum.update(step.value);
      await handle.writeFile(step.value);
    }
  } finally {
    await handle.close();
  }
}
