import type { Rate } from './rate';

/**
 * How frames are numbered in timecode: so many to a second, and so many numbers left out at the start of each minute but
 * every tenth (SMPTE ST 12-1: two at 30000/1001, four at 60000/1001).
 */
interface Numbering {
  readonly perSecond: number;
  readonly dropped: number;
}

function numberingOf({ num, den }: Rate, drop: boolean): Numbering {
  const perSecond = Math.round(num / den);
  const drops = den === 1001 && perSecond % 30 === 0 && drop;
  return { perSecond, dropped: drops ? perSecond / 15 : 0 };
}

/** Whether a rate has a drop-frame timecode: 30000/1001 and its multiples. */
export const hasDropFrames = (rate: Rate): boolean => numberingOf(rate, true).dropped > 0;

/**
 * The timecode of a frame: `01:00:00:00`, with a semicolon before the frames where numbers are dropped, as they are by
 * default at rates that have them, so that the clock on the wall is met.
 *
 * @param frame whole, from 0
 */
export function timecodeOf(frame: number, rate: Rate, drop = true): string {
  const { perSecond, dropped } = numberingOf(rate, drop);
  let number = Math.max(0, Math.floor(frame));
  if (dropped > 0) {
    const minute = perSecond * 60 - dropped;
    const tens = minute * 10 + dropped;
    const rest = number % tens;
    const minutes = rest < perSecond * 60 ? 0 : 1 + Math.floor((rest - perSecond * 60) / minute);
    number += dropped * (Math.floor(number / tens) * 9 + minutes);
  }
  const two = (v: number): string => String(v).padStart(2, '0');
  const seconds = Math.floor(number / perSecond);
  const sign = dropped > 0 ? ';' : ':';
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${sign}${two(number % perSecond)}`;
}

/**
 * The frame that a timecode names: `hh:mm:ss:ff`, shorter from the left (`ss:ff`), with a semicolon or a full stop before
 * the frames where numbers are dropped. Null where it is none, or names a number that is dropped or does not exist.
 */
export function frameOfTimecode(text: string, rate: Rate): number | null {
  const match = /^(?:(?:(\d{1,3}):)?(\d{1,3}):)?(\d{1,3})([:;])(\d{1,3})$/.exec(text.trim());
  if (!match) return null;
  const [hours, minutes, seconds] = [match[1], match[2], match[3]].map((v) => Number(v ?? 0)) as [
    number,
    number,
    number,
  ];
  const frames = Number(match[5]);
  const { perSecond, dropped } = numberingOf(rate, match[4] === ';');
  if (frames >= perSecond || seconds > 59 || minutes > 59) return null;
  const allMinutes = hours * 60 + minutes;
  if (dropped > 0 && seconds === 0 && frames < dropped && allMinutes % 10 !== 0) return null;
  const number = (allMinutes * 60 + seconds) * perSecond + frames;
  return number - dropped * (allMinutes - Math.floor(allMinutes / 10));
}
