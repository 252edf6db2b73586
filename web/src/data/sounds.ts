import { InputError } from '@warper/core';
import { LISTENING_RATE, MADE_RATE, madeSound, readSoundFile } from '@warper/formats/sound';
import type { Remote } from 'comlink';
import { transfer, wrap } from 'comlink';
import type { StoredSound } from './db';
import { db } from './db';
import type { Listening } from './listening.worker';

/** Samples a second at which sounds are played and mixed. */
export const MIX_RATE = 48_000;

const decoded = new Map<string, AudioBuffer>();
const decoding = new Map<string, Promise<AudioBuffer>>();

/** How many sounds have been decoded so far: changes when another can be heard. */
let count = 0;
export const decodedSounds = (): number => count;

/** A sound that is decoded already. */
export const decodedSound = (source: string): AudioBuffer | undefined => decoded.get(source);

/**
 * Decodes a sound of the library, or makes one that is made up; once for each.
 *
 * @throws InputError `sound` where the library has it no more, or the browser cannot decode it
 */
export function soundBuffer(source: string): Promise<AudioBuffer> {
  const kept = decoded.get(source);
  if (kept) return Promise.resolve(kept);
  let work = decoding.get(source);
  if (!work) {
    work = decodeSound(source);
    decoding.set(source, work);
    void work
      .then((buffer) => {
        decoded.set(source, buffer);
        count++;
      })
      .catch(() => undefined)
      .finally(() => decoding.delete(source));
  }
  return work;
}

/** Lets go of all decoded sounds but some: those of the scene that is open. */
export function dropSoundsBut(sources: ReadonlySet<string>): void {
  for (const source of decoded.keys()) if (!sources.has(source)) decoded.delete(source);
}

async function decodeSound(source: string): Promise<AudioBuffer> {
  const made = madeSound(source);
  if (made) {
    const buffer = new AudioBuffer({ length: made.length, sampleRate: MADE_RATE });
    buffer.copyToChannel(made, 0);
    return buffer;
  }
  const asset = await db.assets.get(source);
  if (!asset)
    throw new InputError('sound', 'A sound of the scene is not in the library of this browser.', {
      hint: 'Import its file again.',
    });
  return decodeFile(asset.bytes, asset.file);
}

/** Bytes that a decoded sound may take, and the lowest rate that browsers decode to. */
const MOST_BYTES = 400_000_000;
const LOWEST_RATE = 8000;

/** The rate to which a sound is decoded: that of the mix, less for one so long that it would fill the memory. */
const decodingRate = (seconds: number): number =>
  Math.min(MIX_RATE, Math.max(LOWEST_RATE, Math.floor(MOST_BYTES / (seconds * BYTES_OF_SAMPLE))));

/** Of two channels, as floats. */
const BYTES_OF_SAMPLE = 8;

/**
 * Decodes a sound file by the browser.
 *
 * @throws InputError `sound` where it cannot, or the sound is longer than a scene may be
 */
async function decodeFile(bytes: Uint8Array, file: string): Promise<AudioBuffer> {
  const { seconds } = await readSoundFile(bytes, file);
  try {
    const context = new OfflineAudioContext(1, 1, decodingRate(seconds));
    return await context.decodeAudioData(bytes.slice().buffer);
  } catch (cause) {
    throw new InputError('sound', `This browser cannot decode ${file}.`, {
      place: { file },
      hint: 'Convert it to WAV, MP3, Ogg or FLAC, or take it from another copy.',
      cause,
    });
  }
}

/** One channel of a sound, at the rate at which it is listened to. */
async function listened(buffer: AudioBuffer): Promise<Float32Array<ArrayBuffer>> {
  const length = Math.max(1, Math.round(buffer.duration * LISTENING_RATE));
  const context = new OfflineAudioContext(1, length, LISTENING_RATE);
  const node = new AudioBufferSourceNode(context, { buffer });
  node.connect(context.destination);
  node.start();
  return (await context.startRendering()).getChannelData(0).slice();
}

const studying = new Map<string, Promise<StoredSound>>();

/** The waveform, the onsets and the beats of a sound: made once in a worker, and kept. */
export function studiedSound(source: string): Promise<StoredSound> {
  let work = studying.get(source);
  if (!work) {
    work = studySound(source);
    studying.set(source, work);
    work.catch(() => studying.delete(source));
  }
  return work;
}

async function studySound(source: string): Promise<StoredSound> {
  return (await db.sounds.get(source)) ?? inTurn(() => hearSound(source));
}

/** Sounds are studied one after the other: a library may have many, and each takes the memory of its samples. */
let turn: Promise<unknown> = Promise.resolve();

function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const result = turn.then(work);
  turn = result.catch(() => undefined);
  return result;
}

async function hearSound(source: string): Promise<StoredSound> {
  const buffer = decodedSound(source) ?? (await decodeSound(source));
  const samples = await listened(buffer);
  const worker = new Worker(new URL('./listening.worker.ts', import.meta.url), { type: 'module' });
  try {
    const listening: Remote<Listening> = wrap(worker);
    const heard = await listening.hear(transfer(samples, [samples.buffer]));
    const sound = { id: source, seconds: buffer.duration, ...heard };
    await db.sounds.put(sound);
    return sound;
  } finally {
    worker.terminate();
  }
}
