import type { Sound } from '../scene/sound';
import { soundSeconds } from '../scene/sound';

/** Seconds that at least are heard. */
const LEAST = 0.02;

/** What an edge of a sound sets when it is dragged. */
export type Trimmed = Partial<Pick<Sound, 'start' | 'in' | 'out' | 'repeat'>>;

/**
 * What a sound becomes whose start or end is brought to a frame: more or less of its file is played, or, of one that is repeated, the
 * repeats become more or fewer. What is heard elsewhere stays where it is.
 */
export function trimmedSound(sound: Sound, edge: 'start' | 'end', frame: number, fps: number): Trimmed {
  const { start, in: from, out, repeat, seconds } = sound;
  const each = out - from;
  if (edge === 'end') {
    const length = Math.max(LEAST, (Math.round(frame) - start) / fps);
    if (repeat !== 1) return { repeat: Math.max(0.01, length / each) };
    return { out: Math.min(seconds, from + length) };
  }
  const most = Math.floor(start + (soundSeconds(sound) - LEAST) * fps);
  if (repeat !== 1) {
    // Whole repeats come or go at the start, so that what is heard after it stays.
    const whole = Math.round((frame - start) / (each * fps));
    const left = Math.min(whole, Math.ceil(repeat) - 1);
    return { start: Math.round(start + left * each * fps), repeat: repeat - left };
  }
  const least = Math.ceil(start - from * fps);
  const next = Math.min(Math.max(Math.round(frame), least), most);
  return { start: next, in: Math.max(0, from + (next - start) / fps) };
}
