import type { HeardSound } from '@warper/core';
import { gainAt, sourceTimeAt } from '@warper/core';

/** What of the scene is to be heard, seconds, and when that begins on the clock of the context. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly at: number;
  /** How fast; 2 is twice the speed, an octave higher. */
  readonly pace: number;
}

/**
 * Has the sounds of a stretch of the scene played in time, added up into a node. Playback, scrubbing and films all go this way, so that what is
 * heard is what a film has.
 *
 * @param bufferOf the sounds that are decoded; others are silent
 * @returns ends them before their time
 */
export function scheduleSounds(
  out: AudioNode,
  sounds: readonly HeardSound[],
  bufferOf: (source: string) => AudioBuffer | undefined,
  { from, to, at, pace }: Stretch,
): () => void {
  const { context } = out;
  const nodes = sounds.flatMap((sound) => {
    const start = Math.max(sound.start, from);
    const end = Math.min(sound.end, to);
    const buffer = bufferOf(sound.source);
    if (!buffer || end <= start) return [];
    const clock = (time: number): number => Math.max(context.currentTime, at + (time - from) / pace);
    const gain = new GainNode(context, { gain: 0 });
    shapeGain(gain.gain, sound, start, end, clock);
    const node = new AudioBufferSourceNode(context, {
      buffer,
      playbackRate: pace,
      loop: sound.end - sound.start > sound.to - sound.from + 1e-6,
      loopStart: sound.from,
      loopEnd: Math.min(sound.to, buffer.duration),
    });
    node.connect(gain).connect(out);
    node.onended = () => gain.disconnect();
    node.start(clock(start), sourceTimeAt(sound, start));
    node.stop(clock(end));
    return [node];
  });
  return () => {
    for (const node of nodes) {
      node.onended = null;
      node.stop();
      node.disconnect();
    }
  };
}

/** Has the gain go up and down as it does in its fades. */
function shapeGain(
  gain: AudioParam,
  sound: HeardSound,
  start: number,
  end: number,
  clock: (time: number) => number,
): void {
  gain.setValueAtTime(gainAt(sound, start), clock(start));
  const turns = [sound.start + sound.fadeIn, sound.end - sound.fadeOut].filter((t) => t > start && t < end);
  // Fades that overlap make a curve that is no line: told at many places.
  const crossed = sound.fadeIn + sound.fadeOut > sound.end - sound.start;
  const steps = crossed
    ? Array.from({ length: 32 }, (_, i) => start + ((i + 1) * (end - start)) / 33)
    : turns;
  for (const time of [...steps.sort((a, b) => a - b), end])
    gain.linearRampToValueAtTime(gainAt(sound, time), clock(time));
}
