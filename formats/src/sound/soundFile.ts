import { InputError, MOST_SOUND_SECONDS } from '@warper/core';
import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import { detectFile } from '../detectFile';
import { contentHash } from '../hash';

/** A sound file as it came. */
export interface SoundFile {
  /** Content hash. */
  readonly id: string;
  readonly file: string;
  /** Media type, such as `audio/wav`. */
  readonly type: string;
  readonly seconds: number;
  readonly bytes: Uint8Array;
}

/**
 * Looks at a sound file: WAV, MP3, Ogg or FLAC, told by its content.
 *
 * @throws InputError `sound` where it is none, cannot be read, or is longer than a scene may be
 */
export async function readSoundFile(bytes: Uint8Array, file: string): Promise<SoundFile> {
  const { kind, mediaType } = await detectFile(bytes);
  if (kind !== 'sound' || !mediaType)
    throw new InputError('sound', `${file} is no sound that can be read.`, {
      place: { file },
      hint: 'Sounds are WAV, MP3, Ogg or FLAC files.',
    });
  const seconds = await lengthOf(bytes, file);
  if (!(seconds > 0))
    throw new InputError('sound', `${file} has nothing in it.`, {
      place: { file },
      hint: 'The file is empty or cut short; export it again.',
    });
  if (seconds > MOST_SOUND_SECONDS)
    throw new InputError('sound', `${file} is ${Math.round(seconds / 60)} minutes long.`, {
      place: { file },
      hint: `Cut it: sounds may last ${MOST_SOUND_SECONDS / 60} minutes.`,
    });
  return { id: await contentHash(bytes), file, type: mediaType, seconds, bytes };
}

async function lengthOf(bytes: Uint8Array, file: string): Promise<number> {
  try {
    const input = new Input({ source: new BufferSource(bytes), formats: ALL_FORMATS });
    const track = await input.getPrimaryAudioTrack();
    return track ? await track.computeDuration() : 0;
  } catch (cause) {
    throw new InputError('sound', `${file} cannot be read: ${(cause as Error).message}`, {
      place: { file },
      hint: 'The file is damaged or cut short; export it again.',
      cause,
    });
  }
}
