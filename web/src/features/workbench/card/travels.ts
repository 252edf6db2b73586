import type { Travel } from '@warper/core';

/** What can be done with root motion, and what it is called. */
export const TRAVELS: readonly (readonly [Travel, string])[] = [
  ['recorded', 'As recorded'],
  ['in place', 'In place'],
  ['restored', 'Rebuilt from the feet'],
  ['scaled', 'Scaled to the feet'],
  ['path', 'Along a path'],
];
