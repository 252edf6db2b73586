import { createSelector } from '@reduxjs/toolkit';
import type { HeardSound } from '@warper/core';
import { framesPerSecond, heardSounds, heardSteps } from '@warper/core';
import { selectPreviewPlan, selectPreviewScene } from './selectors';

const SILENCE: readonly HeardSound[] = [];

/** All that is heard of the scene as it is shown, sounds and steps. */
export const selectHeard = createSelector(
  [selectPreviewScene, selectPreviewPlan],
  (scene, { plan }): readonly HeardSound[] =>
    scene.soundLaneOrder.length === 0
      ? SILENCE
      : [...heardSounds(scene, framesPerSecond(plan.rate)), ...heardSteps(scene, plan)],
);
