import type { Scene } from '@warper/core';
import { defined, parseScene } from '@warper/core';
import type { ListedClip } from '@warper/formats';
import { contentHash, streamZip } from '@warper/formats';
import type { StoredBody, StoredPreview } from './db';
import { db } from './db';
import { motion } from './motion';
import { keepRead, library } from './pageLibrary';

/** Id and address of the demonstration scene. */
export const DEMONSTRATION = 'lamp-round';

/**
 * Ids of the scenes that come with the rest of the library: one with props and characters who act together, one with two alternates, and one
 * with somebody who is carried.
 */
const FURTHER = ['before-dark', 'look-out', 'way-home'];

/** All scenes of the demonstration. */
export const DEMONSTRATION_SCENES: readonly string[] = [DEMONSTRATION, ...FURTHER];

/** What going back to its first state is called in its history. */
export const START_OVER = 'start over';

/** The scene with the files that it is made of, and the rest of the library. */
const PACK = '/demonstration.zip';
const REST = '/demonstration-rest.zip';
const SCENE = 'scene.json';
const INDEX = 'index.json';
const LISTINGS = 'listings.json';
/** Milliseconds that the scene has for being shown before the rest is fetched. */
const REST_AFTER = 2500;
const MOTION = /\.(glb|bvh)$/;
const SOUND = /\.wav$/;
/** Kept once all of the demonstration's clips are: a visit that ends before takes the rest up again. */
const WHOLE = 'warper-demonstration';
/** What is kept there; another value than those of earlier versions, which had fewer scenes. */
const ALL_SCENES = 'four scenes and sounds';
let pending: { readonly scene: Promise<void>; readonly whole: Promise<void> } | null = null;

/**
 * Fetches the demonstration and lays out its scene, unless this browser has it already. The scene is there as soon as what it
 * is made of has come; further clips for the library follow.
 */
export const ensureDemonstration = (): Promise<void> => begin().scene;

/** The same, with every clip of the library. */
export const ensureWholeDemonstration = (): Promise<void> => begin().whole;

function begin() {
  if (!pending) {
    let ready: () => void = () => undefined;
    const scene = new Promise<void>((resolve) => (ready = resolve));
    const whole = prepare(ready);
    whole.catch(() => (pending = null));
    // What fails before the scene is there is told to those who wait for it.
    pending = { scene: Promise.race([scene, whole]), whole };
  }
  return pending;
}

async function prepare(ready: () => void): Promise<void> {
  const there = (await db.scenes.get(DEMONSTRATION)) !== undefined;
  if (there) ready();
  if (there && localStorage.getItem(WHOLE) === ALL_SCENES) return;
  const documents = await keepPack(PACK);
  if (!there) {
    await keepScene(DEMONSTRATION, parseScene(json(documents, SCENE)));
    ready();
    // First the scene is shown; the rest of the library is not in it.
    await new Promise((resolve) => setTimeout(resolve, REST_AFTER));
  }
  const rest = await keepPack(REST);
  for (const [i, id] of FURTHER.entries()) await keepFurther(id, parseScene(json(rest, `${id}.json`)), i + 1);
  localStorage.setItem(WHOLE, ALL_SCENES);
}

/** Takes in the files of a pack as they come, the worker reading each while the next is on its way; gives its documents. */
async function keepPack(address: string): Promise<ReadonlyMap<string, Uint8Array>> {
  const documents = new Map<string, Uint8Array>();
  const reading: Promise<void>[] = [];
  for await (const { name, content } of streamZip(await fetchPack(address))) {
    if (MOTION.test(name)) reading.push(keepFile(documents, name, content));
    else if (SOUND.test(name)) reading.push(keepSound(name, content));
    else documents.set(name, content);
  }
  await Promise.all(reading);
  return documents;
}

/** Documents of the packs, parsed once. */
const parsed = new WeakMap<Uint8Array, unknown>();

function json<T>(documents: ReadonlyMap<string, Uint8Array>, name: string): T {
  const content = defined(documents.get(name));
  if (!parsed.has(content)) parsed.set(content, JSON.parse(new TextDecoder().decode(content)));
  return parsed.get(content) as T;
}

/** When the page was opened, milliseconds. */
const BEGAN = Date.now();

interface Index {
  readonly files: readonly string[];
  readonly tags: Readonly<Record<string, readonly string[] | undefined>>;
}

/** What the library lists of a file, measured when the demonstration was packed. */
interface Listing {
  readonly clips: readonly ListedClip[];
  readonly previews: readonly (Omit<StoredPreview, 'places'> & { readonly places: readonly number[] })[];
  readonly bodies: readonly StoredBody[];
}

async function keepFile(
  documents: ReadonlyMap<string, Uint8Array>,
  name: string,
  content: Uint8Array,
): Promise<void> {
  const { tags, files } = json<Index>(documents, INDEX);
  const { clips, previews, bodies } = defined(json<Record<string, Listing>>(documents, LISTINGS)[name]);
  const read = await motion.read(content.slice(), name, { known: true });
  if (await db.files.get(read.file.id)) {
    library.keep({ ...read.file, imported: read.imported });
    return;
  }
  await keepRead({
    ...read,
    // In the library they stand in the order of the index, whenever they come.
    clips: clips.map((clip, i) => ({
      ...clip,
      order: BEGAN + files.indexOf(name) + i / 100,
      tags: tags[name] ?? [],
      collections: [],
    })),
    previews: previews.map((p) => ({ ...p, places: Int16Array.from(p.places) })),
    bodies,
  });
}

async function keepSound(file: string, content: Uint8Array): Promise<void> {
  const bytes = content.slice();
  const id = await contentHash(bytes);
  if (!(await db.assets.get(id)))
    await db.assets.put({ id, file, type: 'audio/wav', bytes, addedAt: Date.now() });
}

/** The scene of the demonstration as it was made, whatever became of it since. */
export async function freshDemonstration(): Promise<Scene> {
  const documents = new Map<string, Uint8Array>();
  for await (const { name, content } of streamZip(await fetchPack(PACK))) {
    documents.set(name, content);
    if (name === SCENE) break;
  }
  return parseScene(json(documents, SCENE));
}

/** Keeps a further scene, with the bodies of its props, which no file has; it is listed after those before it. */
async function keepFurther(id: string, document: Scene, place: number): Promise<void> {
  if (await db.scenes.get(id)) return;
  // What makes props is not needed before.
  const { keepProp } = await import('./props');
  for (const { prop } of Object.values(document.characters))
    if (prop && prop.shape !== 'own file') await keepProp(prop);
  await keepScene(id, document, BEGAN - place * 1000);
}

const keepScene = async (id: string, document: Scene, updatedAt = Date.now()): Promise<void> =>
  void (await db.scenes.add({
    id,
    document,
    past: [],
    future: [],
    updatedAt,
    changes: 0,
  }));

async function fetchPack(address: string): Promise<ReadableStream<Uint8Array>> {
  const response = await fetch(address);
  if (!response.ok || !response.body)
    throw new Error(`The demonstration could not be fetched (${response.status}). Reload the page.`);
  return response.body;
}
