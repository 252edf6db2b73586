import { InputError } from '@warper/core';
import { ZipStream } from '@warper/formats';
import { GIFEncoder, applyPalette, quantize } from 'gifenc';
import type { VideoCodec } from 'mediabunny';
import {
  BufferTarget,
  CanvasSource,
  Mp4OutputFormat,
  Output,
  QUALITY_HIGH,
  WebMOutputFormat,
  canEncodeVideo,
} from 'mediabunny';
import type { FilmPictures } from '../../../data/filmPictures';
import type { FilmSettings } from '../../../data/keptFilm';
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
 * @throws InputError `no-encoder` where the browser cannot make the film
 */
export async function openSink(
  canvas: HTMLCanvasElement,
  rate: number,
  format: FilmSettings['format'],
  pictures: FilmPictures | null,
): Promise<Sink> {
  switch (format) {
    case 'mp4':
    case 'webm':
      return filmSink(canvas, rate, format);
    case 'gif':
      return gifSink(canvas, rate);
    default:
      return pictureSink(canvas, pictures, pictures ? await pictures.kept() : 0);
  }
}

const CODECS: Readonly<Record<'mp4' | 'webm', readonly VideoCodec[]>> = {
  mp4: ['avc'],
  webm: ['vp9', 'av1', 'vp8'],
};

async function filmSink(canvas: HTMLCanvasElement, rate: number, format: 'mp4' | 'webm'): Promise<Sink> {
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
  await output.start();
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
function pictureSink(canvas: HTMLCanvasElement, pictures: FilmPictures | null, kept: number): Sink {
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
