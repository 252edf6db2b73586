import { defined } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { db } from './db';
import { motion } from './motion';
import { keepRead, library } from './pageLibrary';

/** Id and address of the demonstration scene. */
export const DEMONSTRATION = 'lamp-round';

const SHEET = 'lamp-round.cues.json';
let pending: Promise<void> | null = null;

/** Fetches the demonstration and lays out its scene, unless this browser has it already. */
export function ensureDemonstration(): Promise<void> {
  pending ??= prepare().catch((error) => {
    pending = null;
    throw error;
  });
  return pending;
}

async function prepare(): Promise<void> {
  if (await db.scenes.get(DEMONSTRATION)) return;
  const index = (await (await fetchFile('index.json')).json()) as {
    files: string[];
    tags: Record<string, string[] | undefined>;
  };
  const names = index.files.filter((name) => /\.(glb|bvh)$/.test(name));
  const bytes = new Map<string, Uint8Array>();
  for (const name of names) {
    const content = new Uint8Array(await (await fetchFile(name)).arrayBuffer());
    const read = await motion.read(content, name);
    bytes.set(name, read.file.bytes);
    const tags = index.tags[name] ?? [];
    await keepRead({ ...read, clips: read.clips.map((clip) => ({ ...clip, tags })) });
  }
  const sheet = parseCueSheet(await (await fetchFile(SHEET)).json());
  const { scene } = await assembleCues(sheet, (path) => Promise.resolve(defined(bytes.get(path))), library);
  await db.scenes.add({
    id: DEMONSTRATION,
    document: scene,
    past: [],
    future: [],
    updatedAt: Date.now(),
    changes: 0,
  });
}

async function fetchFile(name: string): Promise<Response> {
  const response = await fetch(`/demonstration/${name}`);
  if (!response.ok)
    throw new Error(
      `The demonstration's ${name} could not be fetched (${response.status}). Reload the page.`,
    );
  return response;
}
