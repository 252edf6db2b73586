import { InputError } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import { ZipStream, fileName } from '@warper/formats';
import { openFilmStage } from '../../../parts/stage/filmStage';
import { directionsOf } from './filmSettings';
import type { FilmWork } from './renderFilm';
import { byOwnNames, sheetLayout, sheetScale } from './sheetLayout';
import { pngOf } from './sinks';

/** Share of a picture's height that is left free around a figure. */
const MARGIN = 0.04;

/**
 * A sheet of poses cut out on one floor line, all of one scale, and where each is: a PNG and a JSON in a zip. With frame numbers it is a
 * page to look poses through; without them it is for games.
 *
 * @param name of both files
 * @returns the zip, and the picture to be shown
 * @throws InputError `cancelled`, and `sheet-size`
 */
export async function renderSheet(
  { plan: whole, cast, settings, theme, progress, signal }: Omit<FilmWork, 'span' | 'pictures'>,
  spans: readonly BakeSpan[],
  name: string,
): Promise<{ readonly film: Blob; readonly picture: Blob }> {
  const { width, height, every, timecode } = settings;
  const named = byOwnNames(cast);
  const layout = sheetLayout([...named.keys()], spans, every, settings, directionsOf(settings));
  const anchor = sheetScale(named, layout.cells, Math.round(height * MARGIN));
  const span = { from: Math.min(...spans.map((s) => s.from)), to: Math.max(...spans.map((s) => s.to)) };
  const sheet = document.createElement('canvas');
  sheet.width = layout.width;
  sheet.height = layout.height;
  const ctx = sheet.getContext('2d');
  if (!ctx) throw new Error('The browser gives no canvas.');
  ctx.font = `${Math.max(10, Math.round(height / 12))}px "Source Sans 3 Variable", sans-serif`;
  ctx.textBaseline = 'top';
  let done = 0;
  for (const [own, plan] of named) {
    const filmed = { cast: [plan], rate: whole.rate };
    const angle = settings.angle === 'all round' ? 'front' : settings.angle;
    const stage = await openFilmStage(filmed, span, {
      ...settings,
      through: undefined,
      footprints: false,
      angle,
      theme,
      anchor,
    });
    try {
      for (const { frame, direction, x, y } of layout.cells.filter((c) => c.character === own)) {
        if (signal.aborted) throw new InputError('cancelled', 'The sheet was cancelled.');
        stage.draw(frame, (direction * Math.PI) / 180);
        ctx.drawImage(stage.canvas, x, y);
        if (timecode) ctx.fillText(String(frame), x + 3, y + 2);
        progress(++done / layout.cells.length);
        await new Promise((resolve) => setTimeout(resolve));
      }
    } finally {
      stage.dispose();
    }
  }
  const blob = await pngOf(sheet);
  const file = fileName(name);
  const frames = Object.fromEntries(layout.cells.map(({ name: cell, ...rectangle }) => [cell, rectangle]));
  const anchored = { x: width / 2, y: height - anchor.floor, pixelsPerMetre: anchor.pixelsPerMetre };
  const rectangles = {
    image: `${file}.png`,
    width: layout.width,
    height: layout.height,
    anchor: anchored,
    frames,
  };
  const film = zipOf([
    [`${file}.png`, new Uint8Array(await blob.arrayBuffer())],
    [`${file}.json`, new TextEncoder().encode(`${JSON.stringify(rectangles, null, 2)}\n`)],
  ]);
  return { film, picture: blob };
}

function zipOf(files: readonly (readonly [string, Uint8Array])[]): Blob {
  const parts: BlobPart[] = [];
  const zip = new ZipStream((part) => parts.push(part as Uint8Array<ArrayBuffer>));
  for (const [name, content] of files) {
    zip.begin(name);
    zip.push(content);
    zip.end();
  }
  zip.finish();
  return new Blob(parts, { type: 'application/zip' });
}
