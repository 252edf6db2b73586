import type { Thresholds } from '@warper/core';
import { SEAM_MEASURES, cm } from './grade';

/** A measure in words: "glide 2.1 cm". */
export function writeMeasure(measure: keyof Thresholds, value: number): string {
  if (measure === 'floatCm') return `${value < 0 ? 'sink' : 'float'} ${cm(Math.abs(value))}`;
  if (measure === 'overlapCm') return `overlap ${cm(value)}`;
  if (measure === 'reachCm') return `off by ${cm(value)}`;
  const [name, , write] = SEAM_MEASURES.find(([, key]) => key === measure) ?? SEAM_MEASURES[0];
  return `${name.toLowerCase()} ${write(value)}`;
}
