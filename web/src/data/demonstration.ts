import type { Scene } from '@warper/core';
import { defined } from '@warper/core';
import type { ListedClip } from '@warper/formats';
import { assembleCues, parseCueSheet, streamZip } from '@warper/formats';
import type { StoredBody, StoredPreview } from './db';
import { db } from './db';
import { motion } from './motion';
import { keepRead, library } from './pageLibrary';

/** Id and address of the demonstration scene. */
export const DEMONSTRATION = 'lamp-round';

/** What going back to its first state is called in its history. */
export const START_OVER = 'start over';

const PACK = '/demonstration.zip';
const SHEET = 'lamp-round.cues.json';
const INDEX = 'index.json';
const LISTINGS = 'listings.json';
/** Kept once all of the demonstration's clips are: a visit that ends before takes the rest up again. */
const WHOLE = 'warper-demonstration';
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
  if (there && localStorage.getItem(WHOLE) !== null) return;
  const bytes = new Map<string, Uint8Array>();
  // Files come in the order in which the scene wants them; the worker reads each while the next is on its way.
  let reading: Promise<unknown> = Promise.resolve();
  let scene: Promise<void> | null = null;
  for await (const { name, content } of streamZip(await fetchPack())) {
    bytes.set(name, content);
    if (!/\.(glb|bvh)$/.test(name)) continue;
    reading = Promise.all([reading, keepFile(bytes, name, content)]);
    if (there || scene || !sceneFiles(bytes).every((file) => bytes.has(file))) continue;
    scene = reading.then(() => keepScene(bytes)).then(ready);
  }
  await Promise.all([scene, reading]);
  localStorage.setItem(WHOLE, 'whole');
}

/** Documents of the pack, parsed once. */
const parsed = new WeakMap<Uint8Array, unknown>();

function json<T>(bytes: ReadonlyMap<string, Uint8Array>, name: string): T {
  const content = defined(bytes.get(name));
  if (!parsed.has(content)) parsed.set(content, JSON.parse(new TextDecoder().decode(content)));
  return parsed.get(content) as T;
}

/** The files that the scene is made of. */
function sceneFiles(bytes: ReadonlyMap<string, Uint8Array>): string[] {
  const { characters } = json<{ characters: { body?: string; cues: { clip: string }[] }[] }>(bytes, SHEET);
  return characters.flatMap((c) => [...(c.body ? [c.body] : []), ...c.cues.map((cue) => cue.clip)]);
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
  bytes: ReadonlyMap<string, Uint8Array>,
  name: string,
  content: Uint8Array,
): Promise<void> {
  const { tags, files } = json<Index>(bytes, INDEX);
  const { clips, previews, bodies } = defined(json<Record<string, Listing>>(bytes, LISTINGS)[name]);
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

/** The scene of the demonstration as it was made, whatever became of it since. */
export async function freshDemonstration(): Promise<Scene> {
  const bytes = new Map<string, Uint8Array>();
  for await (const { name, content } of streamZip(await fetchPack())) {
    bytes.set(name, content);
    if (bytes.has(SHEET) && sceneFiles(bytes).every((file) => bytes.has(file))) break;
  }
  return layOut(bytes);
}

async function layOut(bytes: ReadonlyMap<string, Uint8Array>): Promise<Scene> {
  const sheet = parseCueSheet(json(bytes, SHEET));
  const { scene } = await assembleCues(sheet, (path) => Promise.resolve(defined(bytes.get(path))), library);
  return scene;
}

async function keepScene(bytes: ReadonlyMap<string, Uint8Array>): Promise<void> {
  await db.scenes.add({
    id: DEMONSTRATION,
    document: await layOut(bytes),
    past: [],
    future: [],
    updatedAt: Date.now(),
    changes: 0,
  });
}

async function fetchPack(): Promise<ReadableStream<Uint8Array>> {
  const response = await fetch(PACK);
  if (!response.ok || !response.body)
    throw new Error(`The demonstration could not be fetched (${response.status}). Reload the page.`);
  return response.body;
}
