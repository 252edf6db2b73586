import type { Grade } from '@warper/core';

/** Distances in centimetres up to which two moments are alike, or worth a try, and from which on no match exists; measured on capture. */
export const ALIKE = { good: 6, watch: 12, none: 30 };

/** How alike two moments are. */
export const gradeOfDistance = (centimetres: number): Grade =>
  centimetres < ALIKE.good ? 'good' : centimetres < ALIKE.watch ? 'watch' : 'bad';
