import { defined } from '@warper/core';
import type { Grade, SeamMeasures, SeamValues } from '@warper/core';

const MARKS: Record<Grade, { shape: string; word: string; colour: string }> = {
  good: { shape: '●', word: 'good', colour: 'text-good' },
  watch: { shape: '▲', word: 'needs a look', colour: 'text-watch' },
  bad: { shape: '■', word: 'bad', colour: 'text-bad' },
};

/** A grade as shape, colour and word; the word is for screen readers unless asked for. */
export function GradeMark({ grade, word = false }: { grade: Grade; word?: boolean }) {
  const mark = MARKS[grade];
  return (
    <span className={mark.colour}>
      <span aria-hidden>{mark.shape}</span>
      <span className={word ? 'ml-1' : 'sr-only'}>{mark.word}</span>
    </span>
  );
}

export const gradeShape = (grade: Grade): string => MARKS[grade].shape;
export const gradeWord = (grade: Grade): string => MARKS[grade].word;

/** A length in centimetres with as many digits as help. */
export const cm = (value: number): string => `${value < 10 ? value.toFixed(1) : Math.round(value)} cm`;
export const degrees = (value: number): string =>
  `${Math.abs(value) < 10 ? value.toFixed(1) : Math.round(value)}°`;

/** A ratio as "1.2 ×". */
const times = (value: number): string => `${value.toFixed(value < 10 ? 1 : 0)} ×`;

/** What the measures of a seam are called, and how they are written. */
export const SEAM_MEASURES = [
  ['Pop', 'popCm', cm],
  ['Glide', 'surgeCm', cm],
  ['Turn', 'turnDegrees', degrees],
  ['Slide', 'slideCm', cm],
  ['Hitch', 'hitch', times],
] as const satisfies readonly (readonly [string, keyof SeamValues, (value: number) => string])[];

/**
 * The measure that a seam's tag shows: the one furthest towards its threshold. A good seam shows a length: that it is no
 * harder than its sources ("1.0 ×") would tell nothing.
 */
export function worstMeasure(seam: SeamMeasures): string {
  if (seam.grade === 'good') return cm(Math.max(seam.popCm, seam.surgeCm, seam.slideCm));
  const [, key, write] = defined(SEAM_MEASURES.find(([, k]) => k === seam.worst));
  return write(seam[key]);
}
