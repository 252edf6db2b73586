import type { Fields, SegmentSettings } from '@warper/core';
import { SETTINGS } from '@warper/core';
import Joi from 'joi';
import { check, failAt, whole, word } from './checkKeys';

/** Settings of a segment that a sheet says otherwise than the scene does. */
type SaidOtherwise = 'hold' | 'travel' | 'look' | 'meet' | 'seam';

/** Which part of which clip, and how it is played: settings of a segment (see `SETTINGS`), all of which may be left out. */
export interface CuePart extends Partial<Omit<SegmentSettings, SaidOtherwise>> {
  readonly clip: string;
  readonly take?: string;
  readonly scale?: number;
  readonly hold?: { readonly start?: number; readonly end?: number };
  /** The user's own steps: spans of samples by joint. */
  readonly steps?: Readonly<Record<string, readonly (readonly [number, number])[]>>;
}

/** The rules of those fields of an entity that a sheet may set. */
export const rulesFor = (
  fields: Fields,
  ...where: readonly ('part' | 'beat')[]
): Record<string, Joi.Schema> =>
  Object.fromEntries(
    Object.entries(fields).flatMap(([name, field]) =>
      field.cue && where.includes(field.cue) ? [[name, field.cueSchema ?? field.schema]] : [],
    ),
  );

/** What beats and layers have in common. */
export const PART = {
  clip: word.required(),
  take: word,
  scale: Joi.number().greater(0).max(1e6),
  ...rulesFor(SETTINGS, 'part'),
  steps: Joi.object().pattern(
    Joi.string(),
    Joi.array()
      .items(Joi.array().ordered(whole.min(0).required(), whole.min(1).required()))
      .max(100_000),
  ),
} as const;

const HOLD = { start: whole.min(0).max(1e7), end: whole.min(0).max(1e7) };

/** What no schema of one key can say about a part of a clip. */
export function checkPart(cue: CuePart, path: string): void {
  const fail = failAt(path);
  if (cue.length !== undefined && cue.speed !== undefined) {
    fail('A cue has either a length or a speed, not both.', 'length', 'A length sets the speed.');
  }
  if (cue.hold) check(cue.hold, HOLD, `${path}.hold`);
  checkRising(cue.speedCurve, 'speedCurve', fail);
}

export function checkRising(
  points: readonly (readonly [number, number])[] | null | undefined,
  key: string,
  fail: ReturnType<typeof failAt>,
): void {
  points?.forEach(([x, y], i) => {
    const before = points[i - 1];
    if (before && (x <= before[0] || y < before[1])) {
      fail(
        `Point ${i + 1} of the curve lies before, or below, the one before it.`,
        key,
        'Places grow and values never fall.',
      );
    }
  });
}
