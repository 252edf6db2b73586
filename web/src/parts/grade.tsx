import type { Grade, SeamMeasures } from '@warper/core';

const MARKS: Record<Grade, { shape: string; word: string; colour: string }> = {
  good: { shape: '●', word: 'good', colour: 'text-good' },
  watch: { shape: '▲', word: 'look at it', colour: 'text-watch' },
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

export const gradeColour = (grade: Grade): string => MARKS[grade].colour;
export const gradeShape = (grade: Grade): string => MARKS[grade].shape;
export const gradeWord = (grade: Grade): string => MARKS[grade].word;

/** A length in centimetres with as many digits as help. */
export const cm = (value: number): string => `${value < 10 ? value.toFixed(1) : Math.round(value)} cm`;
export const degrees = (value: number): string =>
  `${Math.abs(value) < 10 ? value.toFixed(1) : Math.round(value)}°`;

/** The measure that a seam's tag shows: the one furthest towards its threshold. */
export function worstMeasure(seam: SeamMeasures): string {
  if (seam.worst === 'turn') return degrees(seam.turnDegrees);
  return cm(seam.worst === 'pop' ? seam.popCm : seam.surgeCm);
}
