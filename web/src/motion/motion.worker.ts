import type { Plan, RoleMap, Scene } from '@warper/core';
import { InputError, bakeSteps, compile } from '@warper/core';
import {
  MotionLibrary,
  clipPreview,
  listBody,
  listClip,
  filesBeside,
  packGltf,
  readMotionFile,
  sourcesOfScene,
  writeMotion,
} from '@warper/formats';
import { expose, transfer } from 'comlink';
import { bytesOf, db, storedBytes } from '../storage/db';
import type { SeamMatch } from './matchSeam';
import { applySteps } from './ownSteps';
import { matchSeam } from './matchSeam';
import type {
  Answer,
  BakeRequest,
  BakeResult,
  MatchRequest,
  MotionWorker,
  ReadHow,
  ReadResult,
} from './protocol';

/** Shortest time between two reports of progress, milliseconds. */
const REPORT_EVERY = 50;

let library = new MotionLibrary();
/** Which mappings the library was read with. */
let readWith = '';
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
  content: Uint8Array | Blob,
  file: string,
  { scale, roles, beside = {}, trial }: ReadHow,
): Promise<ReadResult> {
  const given = await bytesOf({ bytes: content });
  const bytes =
    filesBeside(given).length > 0 ? await packGltf(given, (uri) => beside[uri.replace(/^.*\//, '')]) : given;
  const { mapped } = await keptMappings();
  const imported = await readMotionFile(bytes, file, {
    scale,
    roles,
    mapped: (signature) => (signature === trial?.signature ? trial.roles : mapped(signature)),
  });
  const source = imported.source;
  return {
    imported,
    file: {
      id: source,
      file,
      ...(scale === undefined ? {} : { scale }),
      ...(roles === undefined ? {} : { roles }),
      bytes,
      ...blobOf(content, bytes, given),
      addedAt: Date.now(),
    },
    clips: imported.clips.map((clip, i) => ({
      ...listClip(clip, source, file),
      order: Date.now() + i,
      tags: [],
      collections: [],
    })),
    previews: imported.clips.map((clip) => ({ id: clip.id, ...clipPreview(clip) })),
    bodies: imported.bodies.map((body) => listBody(body, source)),
  };
}

/** A large file as a blob: the one that was given, unless it was packed with the files beside it. */
function blobOf(content: Uint8Array | Blob, bytes: Uint8Array, given: Uint8Array): { blob?: Blob } {
  if (content instanceof Blob && bytes === given) return { blob: content };
  const kept = storedBytes(bytes);
  return kept instanceof Blob ? { blob: kept } : {};
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

/** What the user has mapped by hand, and a word that changes with it. */
async function keptMappings(): Promise<{
  mapped: (signature: string) => RoleMap | undefined;
  state: string;
}> {
  const all = new Map((await db.mappings.toArray()).map((m) => [m.id, m]));
  const state = [...all.values()].map((m) => `${m.id} ${m.changedAt}`).join();
  return { mapped: (signature) => all.get(signature)?.roles, state };
}

/** The plan of a scene, from the files kept in this browser. */
async function planOf(scene: Scene): Promise<Plan> {
  const { mapped, state } = await keptMappings();
  if (state !== readWith) library = new MotionLibrary();
  readWith = state;
  for (const source of sourcesOfScene(scene)) {
    const stored = await db.files.get(source);
    if (stored) {
      const { file, scale, roles } = stored;
      await library.add(await bytesOf(stored), file, scale, undefined, roles, mapped);
      await applySteps(library, source);
    }
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
  const bytes = await writeMotion(clip, { format: request.format, body, bytes: source.bytes });
  progress(1);
  return { bytes, frames: clip.frames, rate: clip.rate, joints: clip.skeleton.names.length };
}

const worker: MotionWorker = {
  read: async (content, file, how) => {
    const result = await answer(() => read(content, file, how));
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
