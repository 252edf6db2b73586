import { expect } from '@jest/globals';
import { defined } from '@warper/core';
import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import type { Application } from './application';

/** Makes a film with so many cuts of some frames of the open scene; the frames at which its picture is cut, and at which its sound begins, as the browser plays it. */
export async function filmed(
  app: Application,
  from: number,
  to: number,
  format: '.mp4' | '.webm',
  count: number,
) {
  await app.choose('Format', format === '.mp4' ? 'MP4' : 'WebM');
  for (const [field, value] of [
    ['Width', 192],
    ['Height', 108],
    ['Start frame', from],
    ['End frame', to],
  ] as const)
    await app.fill(field, String(value));
  const timecode = await app.find('checkbox', 'Timecode and frame');
  if ((await timecode.evaluate((e) => e.getAttribute('aria-checked'))) === 'true') await timecode.click();
  const earlier = await app.page.$$eval('video', (all) => all.map((v) => v.src));
  await app.press('button', 'Make film');
  const film = await app.downloaded(format);
  // It is shown a moment after it was saved.
  await app.page.waitForFunction(
    (known) => [...document.querySelectorAll('video')].some((v) => v.src && !known.includes(v.src)),
    {},
    earlier,
  );
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(film) });
  const track = defined((await input.getPrimaryAudioTrack()) ?? undefined);
  const seconds = await track.computeDuration();
  const { changes, onsets } = await app.page.evaluate(readFilm, to - from);
  // The pictures that differ most from the one before, well apart from all others.
  const sorted = changes.map((change, i) => ({ change, i })).sort((a, b) => b.change - a.change);
  expect(defined(sorted[count - 1]).change).toBeGreaterThan(1.5 * defined(sorted[count]).change);
  const cuts = sorted
    .slice(0, count)
    .map((s) => s.i)
    .sort((a, b) => a - b);
  return { cuts, onsets, seconds };
}

/** Plays the film on the page picture by picture, and decodes its sound. */
async function readFilm(count: number): Promise<{ changes: number[]; onsets: number[] }> {
  const video = [...document.querySelectorAll('video')].at(-1)!;
  const pixels = (): Uint8ClampedArray => {
    const ctx = new OffscreenCanvas(64, 36).getContext('2d')!;
    ctx.drawImage(video, 0, 0, 64, 36);
    return ctx.getImageData(0, 0, 64, 36).data;
  };
  const changes: number[] = [];
  let before: Uint8ClampedArray | null = null;
  for (let i = 0; i < count; i++) {
    const sought = new Promise((resolve) => video.addEventListener('seeked', resolve, { once: true }));
    video.currentTime = (i + 0.5) / 30;
    await sought;
    const now = pixels();
    const last = before;
    changes.push(last ? now.reduce((sum, v, k) => sum + Math.abs(v - last[k]!), 0) / now.length : 0);
    before = now;
  }
  const bytes = await (await fetch(video.src)).arrayBuffer();
  const sound = await new OfflineAudioContext(1, 1, 48_000).decodeAudioData(bytes);
  const samples = sound.getChannelData(0);
  const onsets: number[] = [];
  // Where it is loud after a tenth of a second of quiet.
  let quiet = Infinity;
  for (let i = 0; i < samples.length; i++) {
    if (Math.abs(samples[i]!) > 0.08) {
      if (quiet > 4800) onsets.push((i / 48_000) * 30);
      quiet = 0;
    } else quiet++;
  }
  return { changes, onsets };
}
