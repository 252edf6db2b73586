import type { Plan, Scene } from '@warper/core';
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
import { bytesOf, db } from '../storage/db';
import type { SeamMatch } from './matchSeam';
import { matchSeam } from './matchSeam';
import type { Answer, BakeRequest, BakeResult, MatchRequest, MotionWorker, ReadResult } from './protocol';
import { clipPreview } from './preview';

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
      file,
      name: clip.name,
      order: Date.now() + i,
      facts: clipFacts(clip),
      tags: [],
      collections: [],
    })),
    previews: imported.clips.map((clip) => ({ id: clip.id, ...clipPreview(clip) })),
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

/** The big arrays of what was read: they are handed over, not copied. */
function buffersOf({ imported, file, previews }: ReadResult): ArrayBuffer[] {
  const arrays = [
    file.bytes,
    ...imported.clips.flatMap((c) => [c.rotations, c.translations]),
    ...previews.map((p) => p.places),
  ];
  return [...new Set(arrays.map((a) => a.buffer as ArrayBuffer))];
}

/** Carries out long work, reporting its finished share; a cancel that comes meanwhile gets its turn and ends it. */
async function finish<T>(
  id: string,
  steps: Generator<number, T>,
  progress: (share: number) => void,
  what: string,
): Promise<T> {
  let reported = performance.now();
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    if (performance.now() - reported < REPORT_EVERY) continue;
    reported = performance.now();
    progress(step.value);
    await new Promise((resolve) => setTimeout(resolve));
    if (cancelled.delete(id)) throw new InputError('cancelled', `The ${what} was cancelled.`);
  }
}

/** The plan of a scene, from the files kept in this browser. */
async function planOf(scene: Scene): Promise<Plan> {
  for (const source of sourcesOfScene(scene)) {
    const stored = await db.files.get(source);
    if (stored) await library.add(await bytesOf(stored), stored.file, stored.scale);
  }
  return compile(scene, library);
}

async function match(
  id: string,
  { scene, segment, top }: MatchRequest,
  progress: (share: number) => void,
): Promise<SeamMatch> {
  return finish(id, matchSeam(await planOf(scene), segment, top), progress, 'comparison');
}

async function bake(
  id: string,
  request: BakeRequest,
  progress: (share: number) => void,
): Promise<BakeResult> {
  const plan = await planOf(request.scene);
  const character = plan.characters.find((c) => c.character.id === request.character);
  if (!character) throw new InputError('no-character', 'The scene no longer has this character.');
  const clip = await finish(id, bakeSteps(character, plan.rate, request.options), progress, 'bake');
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
  read: async (bytes, file, scale, beside) => {
    const result = await answer(() => read(bytes, file, scale, beside));
    return result.ok ? transfer(result, buffersOf(result.value)) : result;
  },
  bake: async (id, request, progress) => {
    const result = await answer(() => bake(id, request, progress));
    return result.ok ? transfer(result, [result.value.bytes.buffer as ArrayBuffer]) : result;
  },
  match: (id, request, progress) => answer(() => match(id, request, progress)),
  cancel: (id) => void cancelled.add(id),
};

expose(worker);
