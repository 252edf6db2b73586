import type { CharacterPlan, Plan, Scene } from '@warper/core';
import { InputError, framesPerSecond, heardSounds, heardSteps, seamMeasures, timecodeOf } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import type { FilmPictures } from '../../../data/filmPictures';
import type { FilmStage, Framing } from '../../../parts/stage/filmStage';
import { openFilmStage } from '../../../parts/stage/filmStage';
import type { FilmSettings } from '../../../data/keptFilm';
import { COLUMNS, directionsOf, filmFrames } from './filmSettings';
import { mixSounds } from '../../../parts/sound/mixSounds';
import { drawLines } from './drawLines';
import { openSink } from './sinks';

/** A film on its way. */
export interface FilmWork {
  /** What is heard and said. */
  readonly scene: Scene;
  readonly plan: Plan;
  readonly cast: readonly CharacterPlan[];
  readonly span: BakeSpan;
  readonly settings: FilmSettings;
  readonly theme: 'day' | 'night';
  /** What the camera takes in, where that is not just what is filmed. */
  readonly framing?: Framing;
  /** Of a sequence of pictures: those that were made before, if any. */
  readonly pictures: FilmPictures | null;
  readonly progress: (share: number) => void;
  readonly signal: AbortSignal;
}

/**
 * Draws a performance picture by picture, as evaluated at its times, and gives the film, or the pictures as a zip.
 *
 * @throws InputError `cancelled` once the signal is aborted, `no-encoder` where the browser cannot make the film
 */
export async function renderFilm(work: FilmWork): Promise<Blob> {
  const { plan, cast, span, settings, theme, progress, signal } = work;
  const fps = framesPerSecond(plan.rate);
  const rate = settings.rate ?? fps;
  const count = filmFrames(span, settings.rate, plan);
  const picture = document.createElement('canvas');
  picture.width = settings.width;
  picture.height = settings.height;
  const ctx = picture.getContext('2d', { willReadFrequently: settings.format === 'gif' });
  if (!ctx) throw new Error('The browser gives no canvas.');
  const tile = tileOf(settings);
  const angle = settings.angle === 'all round' ? 'front' : settings.angle;
  const { through } = settings;
  const stage = await openFilmStage({ cast, rate: plan.rate }, span, {
    framing: work.framing,
    ...settings,
    ...tile,
    angle,
    theme,
    through: through ? { plan, camera: through === 'shots' ? null : through.camera } : undefined,
  });
  try {
    const sink = await openSink(picture, rate, settings.format, work.pictures, await soundOf(work));
    try {
      for (let j = 0; j < count; j++) {
        if (signal.aborted) throw new InputError('cancelled', 'The film was cancelled.');
        if (j >= sink.kept) {
          const frame = span.from + (j * fps) / rate;
          drawTiles(ctx, stage, frame, settings, tile);
          drawWords(ctx, frame, work);
          if (settings.lines) drawLines(ctx, frame, work);
        }
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

/** The sound of a film, as long as its pictures; null where it has none. */
async function soundOf({ scene, plan, span, settings }: FilmWork): Promise<AudioBuffer | null> {
  if (!settings.sound || settings.format === 'gif' || scene.soundLaneOrder.length === 0) return null;
  const fps = framesPerSecond(plan.rate);
  const seconds = filmFrames(span, settings.rate, plan) / (settings.rate ?? fps);
  const from = span.from / fps;
  return mixSounds([...heardSounds(scene, fps), ...heardSteps(scene, plan)], from, from + seconds);
}

interface Tile {
  readonly width: number;
  readonly height: number;
}

/** The size of one direction's picture. */
function tileOf(settings: FilmSettings): Tile {
  const { width, height } = settings;
  const directions = directionsOf(settings).length;
  if (directions === 1) return { width, height };
  return { width: Math.floor(width / COLUMNS), height: Math.floor(height / (directions / COLUMNS)) };
}

function drawTiles(
  ctx: CanvasRenderingContext2D,
  stage: FilmStage,
  frame: number,
  settings: FilmSettings,
  { width, height }: Tile,
): void {
  directionsOf(settings).forEach((degrees, i) => {
    stage.draw(frame, (degrees * Math.PI) / 180);
    ctx.drawImage(stage.canvas, (i % COLUMNS) * width, Math.floor(i / COLUMNS) * height);
  });
}

/** Writes time, frame, names and the seams that are being crossed over a picture. */
function drawWords(
  ctx: CanvasRenderingContext2D,
  frame: number,
  { plan, cast, settings, theme }: FilmWork,
): void {
  const unit = Math.max(12, Math.round(settings.height / 30));
  const lines = [
    ...(settings.seams ? cast.flatMap((c) => seamWords(c, frame, framesPerSecond(plan.rate))) : []),
    ...(settings.timecode ? [`${timecodeOf(Math.floor(frame), plan.rate)}   ${Math.floor(frame)}`] : []),
    ...(settings.names ? [cast.map((c) => c.character.name).join(', ')] : []),
  ];
  ctx.font = `600 ${unit}px "Source Sans 3 Variable", "Source Sans 3", sans-serif`;
  ctx.fillStyle = theme === 'night' ? '#f4f1ea' : '#22252b';
  ctx.textBaseline = 'alphabetic';
  lines.forEach((line, i) =>
    ctx.fillText(line, unit, settings.height - unit * (1 + (lines.length - 1 - i) * 1.4)),
  );
}

/** Seconds that a cut's words stay: it is over before they could be read. */
const READABLE = 0.5;

/** What is told of the seam that a character is crossing at a frame. */
function seamWords(performed: CharacterPlan, frame: number, fps: number): string[] {
  const { character, segments } = performed;
  return segments.slice(1).flatMap((segment, i) => {
    const end = segment.start + Math.max(segment.overlap, segment.settle?.frames ?? 0, READABLE * fps);
    if (frame < segment.start || frame >= end) return [];
    const { grade } = seamMeasures(performed, i, fps);
    return [`${character.name}: ${segments[i]?.clip.name ?? ''} → ${segment.clip.name}, ${grade}`];
  });
}
