import type { Plan } from '@warper/core';
import { bakedFrames, framesPerSecond } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import type { FilmSettings } from '../../../data/keptFilm';

/** Media types. */
export const FILM_TYPES = {
  mp4: 'video/mp4',
  webm: 'video/webm',
  gif: 'image/gif',
  png: 'application/zip',
  sheet: 'application/zip',
} as const satisfies Record<FilmSettings['format'], string>;

/** Directions of a look all round, and the degrees from one to the next: from ahead, to the left of who is looked at. */
const DIRECTIONS = 8;
const DIRECTION_DEGREES = 360 / DIRECTIONS;
/** Pictures beside each other in a film that looks all round. */
export const COLUMNS = 4;

/** The degrees of the directions that a film or sheet shows. */
export const directionsOf = ({ angle }: Pick<FilmSettings, 'angle'>): readonly number[] =>
  angle === 'all round' ? Array.from({ length: DIRECTIONS }, (_, i) => i * DIRECTION_DEGREES) : [0];

/** Pictures that a span makes. */
export const filmFrames = ({ from, to }: BakeSpan, rate: number | null, plan: Plan): number =>
  bakedFrames(from, to, rate ?? framesPerSecond(plan.rate), framesPerSecond(plan.rate));
