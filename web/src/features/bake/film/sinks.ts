import { InputError } from '@warper/core';
import { ZipStream } from '@warper/formats';
import { writeWav } from '@warper/formats/sound';
import { GIFEncoder, applyPalette, quantize } from 'gifenc';
import type { AudioCodec, VideoCodec } from 'mediabunny';
import {
  AudioBufferSource,
  BufferTarget,
  CanvasSource,
  Mp4OutputFormat,
  Output,
  QUALITY_HIGH,
  WebMOutputFormat,
  canEncodeAudio,
  canEncodeVideo,
} from 'mediabunny';
import type { FilmPictures } from '../../../data/filmPictures';
import type { FilmSettings } from '../../../data/keptFilm';
import { MIX_RATE } from '../../../data/sounds';
import { FILM_TYPES } from './filmSettings';

/** Takes pictures one by one. */
export interface Sink {
  /** Pictures that are there already from a time before: they need not be drawn. */
  readonly kept: number;
  readonly add: (picture: number) => Promise<void>;
  readonly finish: () => Promise<Blob>;
  readonly cancel: () => Promise<void>;
}

/**
 * Opens what takes the pictures of a canvas.
 *
 * @param pictures of a sequence that may have been begun before
 * @param sound as long as the film; a film has it in it, a sequence of pictures beside it
 * @throws InputError `no-encoder` where the browser cannot make the film
 */
export async function openSink(
  canvas: HTMLCanvasElement,
  rate: number,
  format: FilmSettings['format'],
  pictures: FilmPictures | null,
  sound: AudioBuffer | null,
): Promise<Sink> {
  switch (format) {
    case 'mp4':
    case 'webm':
      return filmSink(canvas, rate, format, sound);
    case 'gif':
      return gifSink(canvas, rate);
    default:
      return pictureSink(canvas, pictures, pictures ? await pictures.kept() : 0, sound);
  }
}

const CODECS: Readonly<Record<'mp4' | 'webm', readonly VideoCodec[]>> = {
  mp4: ['avc'],
  webm: ['vp9', 'av1', 'vp8'],
};

/** How sound is written, in the order in which it is tried. */
const SOUND_CODECS: Readonly<Record<'mp4' | 'webm', readonly AudioCodec[]>> = {
  mp4: ['aac', 'opus', 'mp3'],
  webm: ['opus', 'vorbis'],
};

/** Bits a second of the sound. */
const SOUND_BITRATE = 192_000;

/** What takes the sound of a film. */
async function soundSource(format: 'mp4' | 'webm'): Promise<AudioBufferSource> {
  for (const codec of SOUND_CODECS[format])
    if (await canEncodeAudio(codec, { numberOfChannels: 2, sampleRate: MIX_RATE, bitrate: SOUND_BITRATE }))
      return new AudioBufferSource({ codec, bitrate: SOUND_BITRATE });
  throw new InputError('no-encoder', 'This browser cannot write the sound of a film.', {
    hint: 'Leave the sound out, or make pictures: the sound lies beside them.',
  });
}

async function filmSink(
  canvas: HTMLCanvasElement,
  rate: number,
  format: 'mp4' | 'webm',
  sound: AudioBuffer | null,
): Promise<Sink> {
  const size = { width: canvas.width, height: canvas.height };
  const able = await Promise.all(CODECS[format].map((codec) => canEncodeVideo(codec, size)));
  const codec = CODECS[format][able.indexOf(true)];
  if (!codec) {
    throw new InputError('no-encoder', `This browser makes no ${format.toUpperCase()} films of that size.`, {
      hint: 'Choose another format, or pictures.',
    });
  }
  const target = new BufferTarget();
  const output = new Output({
    format: format === 'mp4' ? new Mp4OutputFormat({ fastStart: 'in-memory' }) : new WebMOutputFormat(),
    target,
  });
  const source = new CanvasSource(canvas, { codec, bitrate: QUALITY_HIGH });
  output.addVideoTrack(source, { frameRate: rate });
  const heard = sound && (await soundSource(format));
  if (heard) output.addAudioTrack(heard);
  await output.start();
  if (heard && sound) {
    await heard.add(sound);
    heard.close();
  }
  return {
    kept: 0,
    add: (i) => source.add(i / rate, 1 / rate),
    finish: async () => {
      await output.finalize();
      return new Blob([target.buffer ?? new ArrayBuffer(0)], { type: FILM_TYPES[format] });
    },
    cancel: () => output.cancel(),
  };
}

/** Colours of a picture of a GIF. */
const COLOURS = 256;

/** A GIF (GIF89a): 256 colours a picture, times in hundredths of a second, so that over a film they come out right. */
function gifSink(canvas: HTMLCanvasElement, rate: number): Sink {
  const gif = GIFEncoder();
  const { width, height } = canvas;
  const at = (i: number): number => Math.round((i * 100) / rate) * 10;
  return {
    kept: 0,
    add: (i) => {
      const ctx = canvas.getContext('2d');
      if (!ctx) throw new Error('The browser gives no canvas.');
      const { data } = ctx.getImageData(0, 0, width, height);
      const palette = quantize(data, COLOURS);
      gif.writeFrame(applyPalette(data, palette), width, height, { palette, delay: at(i + 1) - at(i) });
      return Promise.resolve();
    },
    finish: () => {
      gif.finish();
      return Promise.resolve(new Blob([gif.bytes().slice()], { type: FILM_TYPES.gif }));
    },
    cancel: () => Promise.resolve(),
  };
}

/** Every picture as a file in a zip; each is kept on its way, so that a sequence that was stopped can be gone on with. */
function pictureSink(
  canvas: HTMLCanvasElement,
  pictures: FilmPictures | null,
  kept: number,
  sound: AudioBuffer | null,
): Sink {
  const parts: BlobPart[] = [];
  const zip = new ZipStream((part) => parts.push(part as Uint8Array<ArrayBuffer>));
  return {
    kept,
    add: async (i) => {
      const own = i < kept ? await pictures?.picture(i) : undefined;
      const blob = own ?? (await pngOf(canvas));
      if (!own) await pictures?.keep(i, blob);
      zip.begin(`frame-${String(i).padStart(5, '0')}.png`);
      zip.push(new Uint8Array(await blob.arrayBuffer()));
      zip.end();
    },
    finish: async () => {
      if (sound) {
        zip.begin('sound.wav');
        zip.push(writeWav([sound.getChannelData(0), sound.getChannelData(1)], sound.sampleRate));
        zip.end();
      }
      zip.finish();
      await pictures?.drop();
      return new Blob(parts, { type: FILM_TYPES.png });
    },
    cancel: () => Promise.resolve(),
  };
}

/** A canvas as PNG. */
export async function pngOf(canvas: HTMLCanvasElement): Promise<Blob> {
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('A picture could not be made: the browser is out of memory.');
  return blob;
}
