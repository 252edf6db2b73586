import { InputError, bakeSteps, clipFacts, compile, restHeight } from '@warper/core';
import {
  MotionLibrary,
  filesBeside,
  packGltf,
  readMotionFile,
  sourcesOfScene,
  writeBvh,
  writeGlb,
} from '@warper/formats';
import { expose, transfer } from 'comlink';
import { db } from '../storage/db';
import type { Answer, BakeRequest, BakeResult, MotionWorker, ReadResult } from './protocol';
import { clipStrip } from './strip';

/** Shortest time between two reports of progress, milliseconds. */
const REPORT_EVERY = 50;

const library = new MotionLibrary();
const cancelled = new Set<string>();

async function answer<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    const e = error as Error;
    const known = error instanceof InputError ? error : null;
    return {
      ok: false,
      error: {
        name: e.name,
        code: known?.code ?? 'unexpected',
        message: e.message,
        place: { ...known?.place },
        hint: known?.hint ?? '',
      },
    };
  }
}

async function read(
  given: Uint8Array,
  file: string,
  scale?: number,
  beside: Readonly<Record<string, Uint8Array>> = {},
): Promise<ReadResult> {
  const bytes =
    filesBeside(given).length > 0 ? await packGltf(given, (uri) => beside[uri.replace(/^.*\//, '')]) : given;
  const imported = await readMotionFile(bytes, file, { scale });
  const source = imported.source;
  return {
    imported,
    file: { id: source, file, ...(scale === undefined ? {} : { scale }), bytes, addedAt: Date.now() },
    clips: imported.clips.map((clip, i) => ({
      id: clip.id,
      source,
      name: clip.name,
      order: Date.now() + i,
      facts: clipFacts(clip),
      strip: clipStrip(clip),
    })),
    bodies: imported.bodies.map((body) => ({
      id: body.id,
      source,
      name: body.name,
      joints: body.skeleton.names.length,
      skinned: body.skinned,
      heightMetres: restHeight(body.skeleton),
    })),
  };
}

async function bake(
  id: string,
  request: BakeRequest,
  progress: (share: number) => void,
): Promise<BakeResult> {
  for (const source of sourcesOfScene(request.scene)) {
    const stored = await db.files.get(source);
    if (stored) await library.add(stored.bytes, stored.file, stored.scale);
  }
  const plan = compile(request.scene, library);
  const character = plan.characters.find((c) => c.character.id === request.character);
  if (!character) throw new InputError('no-character', 'The scene no longer has this character.');
  const steps = bakeSteps(character, plan.rate, request.options);
  let reported = 0;
  let step = steps.next();
  for (; !step.done; step = steps.next()) {
    if (performance.now() - reported > REPORT_EVERY) {
      reported = performance.now();
      progress(step.value);
      // Gives a cancel that was sent meanwhile its turn.
      await new Promise((resolve) => setTimeout(resolve));
    }
    if (cancelled.delete(id)) throw new InputError('cancelled', 'The bake was cancelled.');
  }
  const clip = step.value;
  const { body, source } = library.bodyEntry(character.character.body)!;
  const bytes =
    request.format === 'bvh'
      ? new TextEncoder().encode(
          writeBvh(clip, { layout: body.layout.kind === 'bvh' ? body.layout : undefined }),
        )
      : await writeGlb(
          clip,
          body.layout.kind === 'gltf' ? { bytes: source.bytes, layout: body.layout } : undefined,
        );
  progress(1);
  return { bytes, frames: clip.frames, rate: clip.rate, joints: clip.skeleton.names.length };
}

const worker: MotionWorker = {
  read: (bytes, file, scale, beside) => answer(() => read(bytes, file, scale, beside)),
  bake: async (id, request, progress) => {
    const result = await answer(() => bake(id, request, progress));
    return result.ok ? transfer(result, [result.value.bytes.buffer as ArrayBuffer]) : result;
  },
  cancel: (id) => void cancelled.add(id),
};

expose(worker);
