import type { StoredClip } from './db';
import { db } from './db';

/** The clips of this browser, and what is kept in their place that cannot be read. */
export interface KeptClips {
  /** In the order in which they came. */
  readonly clips: readonly StoredClip[];
  readonly damaged: readonly { readonly id: string }[];
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;

/** Whether a record has what every page takes for granted of a clip; thousands are looked at, so by hand. */
function isClip(value: unknown): value is StoredClip {
  if (!isObject(value) || !isObject(value.facts)) return false;
  const { facts } = value;
  const texts = [value.id, value.name, value.source, value.file];
  const lists = [value.tags, value.collections, facts.leftFoot, facts.rightFoot];
  const numbers = [
    value.order,
    facts.frames,
    facts.rate,
    facts.seconds,
    facts.travelMetres,
    facts.turnDegrees,
  ];
  return (
    texts.every((text) => typeof text === 'string') &&
    lists.every(Array.isArray) &&
    numbers.every(Number.isFinite) &&
    isObject(facts.loop)
  );
}

/** Reads the clips of this browser. */
export async function readClips(): Promise<KeptClips> {
  const all: readonly unknown[] = await db.clips.toArray();
  const clips = all.filter(isClip).sort((a, b) => a.order - b.order);
  const damaged = all.filter((c): c is { id: string } => !isClip(c));
  return { clips, damaged };
}

/**
 * The clips of this browser, in the order in which they came. Where one is named by typing it is asked for then: a list that
 * is drawn may still be on its way when somebody types fast.
 */
export const keptClips = async (): Promise<readonly StoredClip[]> => (await readClips()).clips;

/** Removes records that cannot be read. */
export const removeDamaged = (damaged: KeptClips['damaged']): Promise<void> =>
  db.clips.bulkDelete(damaged.map((d) => d.id));
