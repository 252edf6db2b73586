import type { Grade } from '@warper/core';

/** Distances in centimetres up to which two moments are alike, or worth a try, and from which on no match exists; measured on capture. */
export const DISTANCE_LIMITS = { good: 6, watch: 12, none: 30 };

/** How alike two moments are. */
export const gradeOfDistance = (centimetres: number): Grade =>
  centimetres < DISTANCE_LIMITS.good ? 'good' : centimetres < DISTANCE_LIMITS.watch ? 'watch' : 'bad';
