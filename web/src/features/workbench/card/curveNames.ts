import type { KeyCurve } from '@warper/core';

/** What the curves of keys are called. */
export const CURVE_NAMES: Readonly<Record<KeyCurve, string>> = {
  hold: 'Hold',
  linear: 'Linear',
  smooth: 'Smooth',
  flat: 'Flat',
  free: 'Free',
};
