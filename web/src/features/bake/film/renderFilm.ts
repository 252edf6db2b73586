import type { CharacterPlan, Plan } from '@warper/core';
import { InputError, bakedFrames, framesPerSecond, timecodeOf } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import { ZipStream } from '@warper/formats';
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
import type { FilmAngle } from '../../../parts/stage/filmStage';
import { openFilmStage } from '../../../parts/stage/filmStage';

/** What a film is. */
export interface FilmSettings {
  readonly format: 'mp4' | 'webm' | 'png' | 'sheet';
  readonly width: number;
  readonly height: number;
  /** Pictures a second; null for the scene's. */
  readonly rate: number | null;
  readonly angle: FilmAngle;
  readonly follow: string | null;
  readonly theme: 'day' | 'night';
  /** What is written into the pictures. */
  readonly timecode: boolean;
  readonly names: boolean;
  /** Of a sheet: frames from one picture to the next. */
  readonly every: number;
}

export const USUAL_FILM: FilmSettings = {
  format: 'mp4',
  width: 1280,
  height: 720,
  rate: null,
  angle: 'three-quarter',
  follow: null,
  theme: 'day',
  timecode: true,
  names: false,
  every: 2,
};

/** Endings and media types. */
export const FILM_TYPES = {
  mp4: 'video/mp4',
  webm: 'video/webm',
  png: 'application/zip',
  sheet: 'application/zip',
} as const satisfies Record<FilmSettings['format'], string>;

/** Pictures that a span makes. */
export const filmFrames = ({ from, to }: BakeSpan, rate: number | null, plan: Plan): number =>
  bakedFrames(from, to, rate ?? framesPerSecond(plan.rate), framesPerSecond(plan.rate));

/** A film on its way. */
export interface FilmWork {
  readonly plan: Plan;
  readonly cast: readonly CharacterPlan[];
  readonly span: BakeSpan;
  readonly settings: FilmSettings;
  readonly progress: (share: number) => void;
  readonly signal: AbortSignal;
}

/**
 * Draws a performance picture by picture, as evaluated at its times, and gives the film, or the pictures as a zip.
 *
 * @throws InputError `cancelled` once the signal is aborted, `no-encoder` where the browser cannot make the film
 */
export async function renderFilm(work: FilmWork): Promise<Blob> {
  const { plan, cast, span, settings, progress, signal } = work;
  const fps = framesPerSecond(plan.rate);
  const rate = settings.rate ?? fps;
  const count = filmFrames(span, settings.rate, plan);
  const stage = await openFilmStage(cast, span, settings);
  const picture = document.createElement('canvas');
  picture.width = settings.width;
  picture.height = settings.height;
  const ctx = picture.getContext('2d');
  if (!ctx) throw new Error('The browser gives no canvas.');
  try {
    const sink = await openSink(picture, rate, settings.format);
    try {
      for (let j = 0; j < count; j++) {
        if (signal.aborted) throw new InputError('cancelled', 'The film was cancelled.');
        const frame = span.from + (j * fps) / rate;
        stage.draw(frame);
        ctx.drawImage(stage.canvas, 0, 0);
        drawWords(ctx, frame, work);
        await sink.add(j);
        progress((j + 1) / count);
        // The page gets its turn, and a cancel with it.
        await new Promise((resolve) => setTimeout(resolve));
      }
      return await sink.finish();
    } catch (error) {
      await sink.cancel();
      throw error;
    }
  } finally {
    stage.dispose();
  }
}

/** Takes pictures one by one. */
interface Sink {
  readonly add: (picture: number) => Promise<void>;
  readonly finish: () => Promise<Blob>;
  readonly cancel: () => Promise<void>;
}

function openSink(picture: HTMLCanvasElement, rate: number, format: FilmSettings['format']): Promise<Sink> {
  return format === 'png' || format === 'sheet'
    ? Promise.resolve(pictureSink(picture))
    : filmSink(picture, rate, format);
}

const CODECS: Readonly<Record<'mp4' | 'webm', readonly VideoCodec[]>> = {
  mp4: ['avc'],
  webm: ['vp9', 'av1', 'vp8'],
};

async function filmSink(picture: HTMLCanvasElement, rate: number, format: 'mp4' | 'webm'): Promise<Sink> {
  const size = { width: picture.width, height: picture.height };
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
  const source = new CanvasSource(picture, { codec, bitrate: QUALITY_HIGH });
  output.addVideoTrack(source, { frameRate: rate });
  await output.start();
  return {
    add: (i) => source.add(i / rate, 1 / rate),
    finish: async () => {
      await output.finalize();
      return new Blob([target.buffer ?? new ArrayBuffer(0)], { type: FILM_TYPES[format] });
    },
    cancel: () => output.cancel(),
  };
}

function pictureSink(picture: HTMLCanvasElement): Sink {
  const parts: BlobPart[] = [];
  const zip = new ZipStream((part) => parts.push(part as Uint8Array<ArrayBuffer>));
  return {
    add: async (i) => {
      const blob = await new Promise<Blob | null>((resolve) => picture.toBlob(resolve, 'image/png'));
      if (!blob) throw new Error('A picture could not be made: the browser is out of memory.');
      zip.begin(`frame-${String(i).padStart(5, '0')}.png`);
      zip.push(new Uint8Array(await blob.arrayBuffer()));
      zip.end();
    },
    finish: () => {
      zip.finish();
      return Promise.resolve(new Blob(parts, { type: FILM_TYPES.png }));
    },
    cancel: () => Promise.resolve(),
  };
}

/** Writes time, frame and names over a picture. */
function drawWords(ctx: CanvasRenderingContext2D, frame: number, { plan, cast, settings }: FilmWork): void {
  const unit = Math.max(12, Math.round(settings.height / 30));
  const lines = [
    ...(settings.timecode ? [`${timecodeOf(Math.floor(frame), plan.rate)}   ${Math.floor(frame)}`] : []),
    ...(settings.names ? [cast.map((c) => c.character.name).join(', ')] : []),
  ];
  ctx.font = `600 ${unit}px "Source Sans 3 Variable", "Source Sans 3", sans-serif`;
  ctx.fillStyle = settings.theme === 'night' ? '#f4f1ea' : '#22252b';
  ctx.textBaseline = 'alphabetic';
  lines.forEach((line, i) =>
    ctx.fillText(line, unit, settings.height - unit * (1 + (lines.length - 1 - i) * 1.4)),
  );
}
