import type { Rate } from '@warper/core';
import { framesPerSecond, timecodeOf } from '@warper/core';

/** `1:02.07`: minutes, seconds and hundredths of a frame's time. */
export function clock(frame: number, perSecond: number): string {
  const hundredths = Math.floor((Math.max(0, frame) / perSecond) * 100 + 1e-6);
  const minutes = Math.floor(hundredths / 6000);
  const seconds = Math.floor((hundredths % 6000) / 100);
  return `${minutes}:${String(seconds).padStart(2, '0')}.${String(hundredths % 100).padStart(2, '0')}`;
}

/** A length in seconds for a label. */
export const seconds = (value: number): string =>
  value < 60 ? `${value.toFixed(1)} s` : clock(value * 100, 100).slice(0, -3);

/** What times are shown in. */
export type TimeUnit = 'seconds' | 'timecode' | 'frames';

/** A frame's time in a unit. */
export function showTime(frame: number, rate: Rate, unit: TimeUnit): string {
  if (unit === 'frames') return String(frame);
  return unit === 'timecode' ? timecodeOf(frame, rate) : clock(frame, framesPerSecond(rate));
}
