import { InputError } from './errors';

/** A frame rate as a fraction of whole numbers, frames a second. */
export interface Rate {
  readonly num: number;
  readonly den: number;
}

/** Highest rate that is taken: motion capture goes to about 1000 a second. */
const HIGHEST_RATE = 10_000;

/** Frames a second as a number. */
export const framesPerSecond = (rate: Rate): number => rate.num / rate.den;

/**
 * Reads `30`, `"25"`, `"30000/1001"`. Numbers close to 24000/1001, 30000/1001 and 60000/1001 become those.
 *
 * @throws InputError `rate` where it is not a positive rate up to 10,000
 */
export function parseRate(value: number | string): Rate {
  const match = /^\s*(\d+(?:\.\d+)?)\s*(?:\/\s*(\d+))?\s*$/.exec(String(value));
  const top = match ? Number(match[1]) : NaN;
  const den = match?.[2] === undefined ? 1 : Number(match[2]);
  if (!(top > 0) || !(den > 0) || !(top / den <= HIGHEST_RATE)) {
    throw new InputError('rate', `${JSON.stringify(value)} is not a frame rate.`, {
      hint: 'Give frames a second as a number or a fraction, such as 30 or "30000/1001".',
    });
  }
  if (Number.isInteger(top)) return { num: top, den };
  for (const whole of [24, 30, 48, 60, 120]) {
    if (den === 1 && Math.abs(top - whole / 1.001) < 0.005) return { num: whole * 1000, den: 1001 };
  }
  return { num: Math.round(top * 1000), den: den * 1000 };
}

/** `30` or `30000/1001`: what parseRate reads back. */
export const formatRate = (rate: Rate): number | string =>
  rate.num % rate.den === 0 ? rate.num / rate.den : `${rate.num}/${rate.den}`;
