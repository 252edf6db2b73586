import type { Clip, Memory, Rate } from '@warper/core';
import { InputError, framesPerSecond, matchClips, defined } from '@warper/core';
import type { Cue } from './sheet';

/**
 * The cues with both sides of every join that asks for it trimmed to the best pair of samples within so many frames of
 * the end before and of its own start. What a loop plays stays; only what is played once is trimmed.
 *
 * @throws InputError `match` where there is no pair, or both sides are loops
 */
export function matchCues(
  cues: readonly Cue[],
  clips: readonly Clip[],
  rate: Rate,
  path: string,
  memory: Memory,
): Cue[] {
  const out = [...cues];
  const fps = framesPerSecond(rate);
  cues.forEach((cue, j) => {
    if (!cue.match || j === 0) return;
    const [a, b] = [defined(clips[j - 1]), defined(clips[j])];
    const before = defined(out[j - 1]);
    const own = defined(out[j]);
    const fail = (message: string, hint: string): never => {
      throw new InputError('match', message, { place: { path: `${path}.cues[${j}].match` }, hint });
    };
    const plays = (c: Cue): boolean => !(c.loop ?? (c.repeat ?? 1) !== 1);
    const [trimsBefore, trimsOwn] = [plays(before), plays(own)];
    if (!trimsBefore && !trimsOwn)
      fail('Both sides are loops, and nothing can be trimmed.', 'Leave "match" out.');
    const perFrame = (clip: Clip, c: Cue): number => (clip.rate * (c.speed ?? 1)) / fps;
    // The pair meets in the middle of the overlap, so that each side needs half of it beyond.
    const half = overlapOf(own, fps) / 2;
    const [past, lead] = [half * perFrame(a, before), half * perFrame(b, own)];
    const near = (at: number, by: number, least: number, most: number): { start: number; end: number } => ({
      start: Math.max(Math.ceil(least), Math.floor(at - by)),
      end: Math.max(Math.ceil(least), Math.min(Math.floor(most), Math.floor(at + by))) + 1,
    });
    const { within } = cue.match;
    const [end, start] = [(before.out ?? a.frames) - past, (own.in ?? 0) + lead];
    // What is not trimmed is compared where it is: a loop ends, and begins, with its first sample.
    const outgoing = trimsBefore
      ? near(end, within * perFrame(a, before), (before.in ?? 0) + 1, a.frames - Math.max(1, past))
      : near(before.in ?? 0, 0, 0, a.frames - 1);
    const incoming = trimsOwn
      ? near(start, within * perFrame(b, own), lead, (own.out ?? b.frames) - 2)
      : near(start, 0, 0, b.frames - 1);
    const pair =
      matchClips(a, b, { outgoing, incoming, top: 1 }, memory)[0] ??
      fail('No two samples are there to be matched.', 'Give a larger "within".');
    if (trimsBefore) out[j - 1] = { ...before, out: Math.min(a.frames, Math.round(pair.out + past)) };
    if (trimsOwn) out[j] = { ...own, in: Math.max(0, Math.round(pair.in - lead)) };
  });
  return out;
}

/** Frames by which a cue will overlap the one before, as far as that is known before it is laid out. */
function overlapOf(cue: Cue, fps: number): number {
  const { kind, overlap } = cue.seam ?? {};
  if (kind === 'cut' || kind === 'settle' || (cue.gap ?? 0) > 0) return 0;
  return typeof overlap === 'number' ? overlap : Math.round((8 * fps) / 30);
}
