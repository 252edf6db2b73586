import { defined } from '@warper/core';
import type { ListedBody, ListedClip } from '@warper/formats';
import { foldersOf } from '@warper/formats';
import { motion } from '../motion';
import { keepRead } from '../pageLibrary';
import { fileName } from '@warper/formats';
import { db } from '../db';
import { fetchFromServer } from './fetchFromServer';
import type { TakenAs } from './serverApi';
import { characterAddress, motionAddress } from './serverApi';

/** Takes a clip from the server into this browser, as it is asked for; gives its id, and whether it was there already. */
export async function takeClip(
  clip: ListedClip,
  as: TakenAs,
  name: string,
): Promise<{ readonly id: string; readonly known: boolean }> {
  const response = await fetchFromServer(motionAddress(clip.id, as));
  const bytes = new Uint8Array(await response.arrayBuffer());
  const result = await motion.read(bytes, `${fileName(name)}.glb`);
  const [taken] = result.clips;
  if (await db.clips.get(defined(taken).id)) return { id: defined(taken).id, known: true };
  const tags = foldersOf(clip.file);
  await keepRead({ ...result, clips: [{ ...defined(taken), name, tags, taken: clip.id }] });
  return { id: defined(taken).id, known: false };
}

/** Takes a character from the server into this browser: its body alone, the clips of its file stay there. */
export async function takeCharacter(body: ListedBody): Promise<void> {
  const response = await fetchFromServer(characterAddress(body.id));
  const bytes = new Uint8Array(await response.arrayBuffer());
  const result = await motion.read(bytes, `${fileName(body.name)}.glb`);
  const stored = new Set(await db.clips.where('source').equals(result.file.id).primaryKeys());
  await keepRead({ ...result, clips: result.clips.filter((c) => stored.has(c.id)) });
}
